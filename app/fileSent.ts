/** A file sent as the raw body of a request: its name, and a line that went dead. */
import { data } from 'react-router';
import { fault } from '../core/fault.ts';
import { inWords } from '../words/index.ts';

/** The name that the request gives its file, without what no name may have. */
export const fileName = (request: Request, otherwise: string): string =>
  (new URL(request.url).searchParams.get('name') ?? '')
    .replace(/[\\/\0]/g, ' ')
    .trim()
    .slice(0, 200) || otherwise;

/** The answer where the line went dead: nobody hears it, and nothing was kept. Null: something else is wrong. */
export function brokenOff(e: unknown, request: Request) {
  const isBroken =
    request.signal.aborted ||
    ['ECONNRESET', 'ERR_STREAM_PREMATURE_CLOSE', 'ABORT_ERR'].includes((e as { code?: string }).code ?? '');
  return isBroken ? data({ error: inWords(fault('fileBroken')) }, 400) : null;
}
