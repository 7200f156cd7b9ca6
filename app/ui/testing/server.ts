/** Our server as tests of the browser's side have it: what was sent, and what is answered. */
import { afterEach, beforeEach, vi } from 'vitest';

export type Sent = { readonly url: string; readonly body: unknown; readonly init: RequestInit };

/**
 * Stands in for our server while the tests of a file run. `sent` is empty before each test; `answer` says what
 * comes back (an error thrown is a server that is away), and is `first` again before each test.
 */
export function stubServer(first: (sent: Sent) => Response | Promise<Response>) {
  const server = { sent: [] as Sent[], answer: first };
  beforeEach(() => {
    server.sent = [];
    server.answer = first;
    vi.stubGlobal('fetch', async (url: string, init: RequestInit = {}) => {
      const form = init.body instanceof FormData ? Object.fromEntries(init.body) : null;
      const json = init.body === undefined || form !== null ? null : JSON.parse(String(init.body));
      const sent = { url, init, body: form ?? json };
      server.sent.push(sent);
      return server.answer(sent);
    });
  });
  afterEach(() => {
    vi.unstubAllGlobals();
  });
  return server;
}
/** A server that is away. */
export const away = (): Response => {
  throw new TypeError('no network');
};
