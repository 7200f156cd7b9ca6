/** The one way from the browser to our own server, and the one way to read its answers. */

/** Why something did not come about. Only `offline` is worth trying again by itself; all others need the person. */
export type Why =
  | 'signedOut'
  | 'notAllowed'
  | 'gone'
  | 'conflict'
  | 'invalid'
  | 'tooLarge'
  | 'refused'
  | 'offline';

/** An answer: what was asked for, or why not, with what the server says of it. */
export type Told<T> =
  | { readonly ok: true; readonly data: T }
  | { readonly ok: false; readonly why: Why; readonly error: string | null; readonly data: unknown };

const BY_STATUS: Readonly<Record<number, Why>> = {
  401: 'signedOut',
  403: 'notAllowed',
  404: 'gone',
  409: 'conflict',
  413: 'tooLarge',
  422: 'invalid',
};

/** Why an answer is not what was asked for; null where it is. No answer (null) stands for a server that is away. */
export function whyNot(answer: Pick<Response, 'ok' | 'status' | 'type'> | null): Why | null {
  if (answer === null) return 'offline';
  if (answer.ok) return null;
  if (answer.type === 'opaqueredirect') return 'signedOut';
  const { status } = answer;
  // A server that is busy or down takes it a moment later; any other refusal would be refused again.
  const later = status === 429 || status === 408 || status >= 500 || status === 0;
  return BY_STATUS[status] ?? (later ? 'offline' : 'refused');
}

/** The sentence that an answer carries about itself. */
function errorOf(data: unknown): string | null {
  const error = (data as { error?: unknown } | null)?.error;
  return typeof error === 'string' ? error : null;
}

/**
 * Sends something to a place of ours and reads the answer, of type `T` where it is the one asked for. Without
 * `body` it only asks. `signal` says when nobody waits any more (told as `offline`); `leaving` lets it arrive
 * though the page is left. Never throws.
 */
export async function tell<T>(
  url: string,
  body?: object | FormData,
  { signal, leaving = false }: { signal?: AbortSignal; leaving?: boolean } = {},
): Promise<Told<T>> {
  const form = body instanceof FormData;
  const answer = await fetch(url, {
    ...(body === undefined ? {} : { method: 'POST', body: form ? body : JSON.stringify(body) }),
    // Of a form with a file the browser says the type itself.
    headers: { accept: 'application/json', ...(form ? {} : { 'content-type': 'application/json' }) },
    redirect: 'manual',
    keepalive: leaving,
    ...(signal === undefined ? {} : { signal }),
  }).catch(() => null);
  let whole = true;
  const data: unknown =
    (await answer?.json().catch(() => {
      whole = false;
      return null;
    })) ?? null;
  // An answer that breaks off, since the line went or nobody waits any more, is none.
  const why = whyNot(answer) ?? (whole ? null : 'offline');
  if (why === null) return { ok: true, data: data as T };
  return { ok: false, why, error: errorOf(data), data };
}
