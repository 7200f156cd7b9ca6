import { createAccessControl } from 'better-auth/plugins/access';
import { defaultStatements, memberAc, ownerAc } from 'better-auth/plugins/organization/access';

import type { ROLES } from '../../core/workspace/people.ts';
export type Role = (typeof ROLES)[number];

/** An owner may do all; editors and viewers have no say over members and invitations. What they may do to business data
 *  is decided where a workspace is entered (`enterWorkspace`). */
const control = createAccessControl({ ...defaultStatements });
export const accessControl = control;
export const roles = {
  owner: control.newRole({ ...ownerAc.statements }),
  editor: control.newRole({ ...memberAc.statements }),
  viewer: control.newRole({ ...memberAc.statements }),
};
