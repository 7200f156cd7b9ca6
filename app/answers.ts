/** The one place where what the server refuses becomes an answer that the browser knows. */
import { data, redirect } from 'react-router';
import { type Reason, Refusal } from '../server/refusal.ts';

const STATUS: Readonly<Record<Reason, number>> = {
  signedOut: 401,
  notAllowed: 403,
  gone: 404,
  invalid: 422,
  tooMany: 429,
  away: 503,
};

/** The sign-in page, which leads back; a background request gets 401 instead. */
function signIn(request: Request) {
  if (request.headers.get('content-type')?.includes('application/json'))
    return data({ error: 'signedOut' }, STATUS.signedOut);
  const url = new URL(request.url);
  return redirect(`/sign-in?to=${encodeURIComponent(url.pathname.replace(/\.data$/, '') + url.search)}`);
}

/** A refusal as React Router's answer; anything else as it is. */
function told(e: unknown, request: Request): unknown {
  if (!(e instanceof Refusal)) return e;
  if (e.reason === 'signedOut') return signIn(request);
  const said = e.message === '' ? e.reason : e.message;
  return data({ error: said }, STATUS[e.reason]);
}

/** A loader or action whose use cases may refuse. */
export function answering<A extends { request: Request }, T>(
  work: (args: A) => Promise<T>,
): (args: A) => Promise<T> {
  return async (args) => {
    try {
      return await work(args);
    } catch (e) {
      throw told(e, args.request);
    }
  };
}
