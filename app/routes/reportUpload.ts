import { Readable } from 'node:stream';
import { data } from 'react-router';
import { fault } from '../../core/fault.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { receiveSettlement } from '../../server/use/settlements.ts';
import { answering, unfit } from '../answers.ts';
import { fileName, isBrokenOff } from '../fileSent.ts';
import type { Route } from './+types/reportUpload.ts';

/** Takes a settlement report in as the raw body of the request. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  if (request.body === null) return unfit(fault('fileEmpty'));
  const name = fileName(request, 'Report');
  try {
    const body = Readable.fromWeb(request.body as never);
    return data(await receiveSettlement(entry.workspaceId, name, body, entry.person.id));
  } catch (e) {
    if (isBrokenOff(e, request)) return unfit(fault('fileBroken'));
    throw e;
  }
});
