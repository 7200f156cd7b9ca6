/** A file sent as the raw body of a request: its name, and a line that went dead. */

/** The name that the request gives its file, without what no name may have. */
export const fileName = (request: Request, otherwise: string): string =>
  (new URL(request.url).searchParams.get('name') ?? '')
    .replace(/[\\/\0]/g, ' ')
    .trim()
    .slice(0, 200) || otherwise;

/** Whether the line went dead: nobody hears an answer, and nothing was kept. */
export const isBrokenOff = (e: unknown, request: Request): boolean =>
  request.signal.aborted ||
  ['ECONNRESET', 'ERR_STREAM_PREMATURE_CLOSE', 'ABORT_ERR'].includes((e as { code?: string }).code ?? '');
