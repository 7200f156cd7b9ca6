/** The one place where what the server refuses becomes an answer that the browser knows, in words. */
import { data, redirect } from 'react-router';
import type { z } from 'zod';
import type { Fault } from '../core/fault.ts';
import { firstIssue } from '../core/issues.ts';
import { type Reason, Refusal } from '../server/refusal.ts';
import { inWords } from '../words/index.ts';

const STATUS: Readonly<Record<Reason, number>> = {
  signedOut: 401,
  notAllowed: 403,
  gone: 404,
  tooLarge: 413,
  invalid: 422,
  tooMany: 429,
  away: 503,
  noRoom: 507,
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
  return data({ error: e.fault === null ? e.reason : inWords(e.fault) }, STATUS[e.reason]);
}

/** The answer to something that cannot be kept: what is wrong with it, or with the first field that is. */
export const unfit = (what: Fault | z.ZodError) =>
  data({ error: inWords('issues' in what ? firstIssue(what) : what) }, STATUS.invalid);

/** What a person can put right comes back to the form that sent it; for anything else the page makes way. */
const toTheForm = (e: unknown, request: Request): boolean =>
  e instanceof Refusal && e.fault !== null && e.reason !== 'tooMany' && request.method !== 'GET';

/** A loader or action whose use cases may refuse. */
export function answering<A extends { request: Request }, T>(
  work: (args: A) => Promise<T>,
): (args: A) => Promise<T> {
  return async (args) => {
    try {
      return await work(args);
    } catch (e) {
      const answer = told(e, args.request);
      // Screens read `error` beside whatever else an action may answer.
      if (toTheForm(e, args.request)) return answer as T;
      throw answer;
    }
  };
}
