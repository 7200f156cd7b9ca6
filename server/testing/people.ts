/** People who are signed in, for tests of routes. */
import { auth } from '../auth/auth.ts';
import type { Role } from '../auth/roles.ts';
import { member } from '../db/authSchema.ts';
import { authDb } from '../db/client.ts';
import { Refusal, type Reason } from '../refusal.ts';
import { newId } from '../use/workspaces.ts';

let people = 0;
/** A new account; with a role in a workspace where one is named. Returns the cookie of its session. */
export async function signedIn(
  workspaceId: string | null,
  role: Role = 'owner',
): Promise<{ cookie: string; personId: string }> {
  const email = `person${++people}.${newId()}@test.example`;
  const answer = await auth().api.signUpEmail({
    body: { name: 'Test', email, password: 'a long enough one' },
    asResponse: true,
  });
  const { user } = (await answer.json()) as { user: { id: string } };
  if (workspaceId !== null)
    await authDb().insert(member).values({ id: newId(), organizationId: workspaceId, userId: user.id, role });
  return {
    cookie: answer.headers
      .getSetCookie()
      .map((c) => c.split(';')[0])
      .join('; '),
    personId: user.id,
  };
}

export type Said = { readonly status: number; readonly body: unknown; readonly headers: Headers };
/** What a loader or action answers, returned or thrown, as a browser would get it. */
export async function saidBy(work: () => unknown): Promise<Said> {
  let got: unknown;
  try {
    got = await work();
  } catch (e) {
    got = e;
  }
  if (got instanceof Response) return { status: got.status, body: got, headers: got.headers };
  if (typeof got === 'object' && got !== null && 'type' in got && got.type === 'DataWithResponseInit') {
    const { data, init } = got as unknown as { data: unknown; init: ResponseInit | null };
    return { status: init?.status ?? 200, body: data, headers: new Headers(init?.headers) };
  }
  if (got instanceof Error) throw got;
  return { status: 200, body: got, headers: new Headers() };
}

/** Why a use case refuses; null where it does what was asked. */
export async function refusalOf(work: () => Promise<unknown>): Promise<Reason | null> {
  try {
    await work();
    return null;
  } catch (e) {
    if (e instanceof Refusal) return e.reason;
    throw e;
  }
}
