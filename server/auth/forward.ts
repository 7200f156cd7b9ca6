import { env } from '../env.ts';
import { SOCKET_ADDRESS_HEADER } from './address.ts';
import { auth } from './auth.ts';
import { counted } from './tries.ts';

export type Forwarded = {
  readonly ok: boolean;
  readonly code: string;
  readonly cookies: Headers;
  readonly body: Record<string, unknown>;
};

/**
 * Sends a form of ours to the sign-in service the way a browser would, so that its checks apply. `uncounted`:
 * the password is our own.
 */
export async function forwardToAuth(
  request: Request,
  path: string,
  body: object,
  uncounted = false,
): Promise<Forwarded> {
  const headers = new Headers({ 'content-type': 'application/json', origin: env().BM_ORIGIN });
  for (const name of ['cookie', 'user-agent', SOCKET_ADDRESS_HEADER]) {
    const value = request.headers.get(name);
    if (value !== null) headers.set(name, value);
  }
  const send = (): Promise<Response> =>
    auth().handler(
      new Request(`${env().BM_ORIGIN}/api/auth${path}`, {
        method: 'POST',
        headers,
        body: JSON.stringify(body),
      }),
    );
  const answer = uncounted
    ? await send()
    : await counted(path, headers, body as Record<string, unknown>, send);
  const said = (await answer.json().catch(() => ({}))) as Record<string, unknown>;
  const cookies = new Headers();
  for (const cookie of answer.headers.getSetCookie()) cookies.append('set-cookie', cookie);
  const code =
    answer.status === 429
      ? 'TOO_MANY'
      : answer.status >= 500
        ? 'UNAVAILABLE'
        : typeof said?.code === 'string'
          ? said.code
          : answer.ok
            ? ''
            : 'FAILED';
  return { ok: answer.ok, code, cookies, body: said ?? {} };
}

/** A path within this site to go on to; anything else, read as a browser reads it, becomes the start page. */
export function safeTarget(to: string | null): string {
  const { origin } = new URL(env().BM_ORIGIN);
  if (to === null || !URL.canParse(to, origin)) return '/';
  const url = new URL(to, origin);
  return url.origin === origin ? `${url.pathname}${url.search}${url.hash}` : '/';
}
