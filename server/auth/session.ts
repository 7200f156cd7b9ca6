import { and, eq } from 'drizzle-orm';
import { authDb, reachable } from '../db/client.ts';
import { member, organization } from '../db/authSchema.ts';
import { gone, Refusal } from '../refusal.ts';
import { countRequest } from '../use/quotas.ts';
import { auth } from './auth.ts';
import type { Role } from './roles.ts';

export type Person = { readonly id: string; readonly name: string; readonly email: string };

/** Who is signed in; null where nobody is. */
export async function personOf(request: Request): Promise<Person | null> {
  if (!/(^|; )[^;=]*session_token=/.test(request.headers.get('cookie') ?? '')) return null;
  const session = await auth()
    .api.getSession({ headers: request.headers })
    // The sign-in service hides why it failed; with a cookie in hand only the database can be the reason.
    .catch(() => {
      throw new Refusal('away');
    });
  return session === null
    ? null
    : { id: session.user.id, name: session.user.name, email: session.user.email };
}

/** Who is signed in. @throws Refusal `signedOut` where nobody is */
export async function needPerson(request: Request): Promise<Person> {
  const person = await personOf(request);
  if (person === null) throw new Refusal('signedOut');
  return person;
}

export type Entry = {
  readonly person: Person;
  readonly workspaceId: string;
  readonly slug: string;
  readonly name: string;
  readonly role: Role;
};
export type Need = 'view' | 'edit' | 'own';
const RANK: Readonly<Record<Role, number>> = { viewer: 0, editor: 1, owner: 2 };
const NEEDS: Readonly<Record<Need, number>> = { view: 0, edit: 1, own: 2 };

/**
 * Lets a signed-in member into the workspace of the URL. Who is no member is told the same as of a
 * workspace that is not there.
 * @throws Refusal `gone`; `notAllowed` where the role does not suffice
 */
export async function enterWorkspace(
  request: Request,
  slug: string | undefined,
  need: Need = 'view',
): Promise<Entry> {
  const person = await needPerson(request);
  await countRequest(person.id);
  const [row] = await reachable(() =>
    authDb()
      .select({
        workspaceId: organization.id,
        slug: organization.slug,
        name: organization.name,
        role: member.role,
      })
      .from(member)
      .innerJoin(organization, eq(member.organizationId, organization.id))
      .where(and(eq(member.userId, person.id), eq(organization.slug, slug ?? '')))
      .limit(1),
  );
  if (row === undefined) throw gone();
  const role = (row.role in RANK ? row.role : 'viewer') as Role;
  if (RANK[role] < NEEDS[need]) throw new Refusal('notAllowed');
  return { person, workspaceId: row.workspaceId, slug: row.slug, name: row.name, role };
}

/** The workspaces somebody belongs to, by name. */
export async function workspacesOf(
  personId: string,
): Promise<{ slug: string; name: string; role: string; id: string }[]> {
  return reachable(() =>
    authDb()
      .select({ id: organization.id, slug: organization.slug, name: organization.name, role: member.role })
      .from(member)
      .innerJoin(organization, eq(member.organizationId, organization.id))
      .where(eq(member.userId, personId))
      .orderBy(organization.name),
  );
}
