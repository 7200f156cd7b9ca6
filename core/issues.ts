/** What is wrong with a document that was given, told from what its schema says of it. */
import type { z } from 'zod';
import { fault } from './fault.ts';
import type { Fault } from './fault.ts';

/** What is wrong with a document, and where. */
export type Issue = Fault & { readonly path: string };

/** The issues of a failed validation; what concerns the kind and version of the document comes first. */
export function issuesOf(error: z.ZodError): Issue[] {
  const rank = (i: z.core.$ZodIssue): number =>
    i.path[0] === 'format' ? 0 : i.path[0] === 'version' ? 1 : 2;
  return [...error.issues]
    .sort((a, b) => rank(a) - rank(b))
    .map((i) => ({ path: i.path.join('.') || '(document)', ...faultOf(i) }));
}

/** The first issue of a failed validation, which has one at least. */
export const firstIssue = (error: z.ZodError): Issue => issuesOf(error)[0] as Issue;

/** Rules of our schemas say their code where the library has a sentence. */
const OURS = /^[a-z]\w*$/i;

/** An issue of a schema as a fault. */
export function faultOf(i: z.core.$ZodIssue): Fault {
  if (OURS.test(i.message)) return fault(i.message);
  switch (i.code) {
    case 'invalid_type':
      return fault(/received undefined$/.test(i.message) ? 'fieldMissing' : 'notKind', { kind: i.expected });
    case 'invalid_union':
      return fault('noneOfThese');
    case 'invalid_value':
      return fault(i.path[0] === 'version' ? 'otherVersion' : 'notKnown', { values: i.values.map(String) });
    case 'unrecognized_keys':
      return fault('unknownFields', { fields: i.keys.map((k) => `"${k}"`) });
    case 'too_small':
      return fault('under', { minimum: Number(i.minimum) });
    case 'too_big':
      return fault('over', { maximum: Number(i.maximum) });
    default:
      return fault('cannotStand', { said: i.message });
  }
}
