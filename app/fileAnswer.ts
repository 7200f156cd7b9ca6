/** Answers that the browser saves as files. */
import { savedAs } from '../server/files/names.ts';

const TYPES: Readonly<Record<string, string>> = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  pdf: 'application/pdf',
  json: 'application/json; charset=utf-8',
};

/** An answer that the browser saves under a name. */
export function fileAnswer(name: string, body: string | Buffer): Response {
  return new Response(typeof body === 'string' ? body : new Uint8Array(body), {
    headers: {
      'content-type': TYPES[name.split('.').pop() ?? ''] ?? 'application/octet-stream',
      ...savedAs(name),
      'cache-control': 'no-store',
    },
  });
}
