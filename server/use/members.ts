/** Who belongs to a workspace, who is invited to it, and who may be helped to a new password. */
import { and, desc, eq, ne } from 'drizzle-orm';
import { makeResetLink } from '../auth/auth.ts';
import { invitation, member, organization, user } from '../db/authSchema.ts';
import { authDb, reachable } from '../db/client.ts';
import { env } from '../env.ts';

export type Member = { id: string; userId: string; role: string; name: string; email: string };
/** The members, those who have been there longest first. */
export function membersOf(workspaceId: string): Promise<Member[]> {
  return reachable(() =>
    authDb()
      .select({ id: member.id, userId: member.userId, role: member.role, name: user.name, email: user.email })
      .from(member)
      .innerJoin(user, eq(member.userId, user.id))
      .where(eq(member.organizationId, workspaceId))
      .orderBy(member.createdAt),
  );
}

export type OpenInvitation = { id: string; email: string; role: string | null; link: string };
/** Invitations that nobody has answered yet, newest first, each with the link that leads to it. */
export async function openInvitations(workspaceId: string): Promise<OpenInvitation[]> {
  const rows = await reachable(() =>
    authDb()
      .select({ id: invitation.id, email: invitation.email, role: invitation.role })
      .from(invitation)
      .where(and(eq(invitation.organizationId, workspaceId), eq(invitation.status, 'pending')))
      .orderBy(desc(invitation.createdAt)),
  );
  return rows.map((i) => ({ ...i, link: `${env().BM_ORIGIN}/invitation/${i.id}` }));
}

/** An invitation with the workspace it leads to; null: there is none of that id. */
export async function invitationAt(id: string) {
  const [row] = await authDb()
    .select({
      email: invitation.email,
      role: invitation.role,
      status: invitation.status,
      expiresAt: invitation.expiresAt,
      name: organization.name,
      slug: organization.slug,
    })
    .from(invitation)
    .innerJoin(organization, eq(invitation.organizationId, organization.id))
    .where(eq(invitation.id, id));
  return row ?? null;
}

/**
 * A link by which a member sets a new password. An owner is the administrator of people who belong to this workspace
 * alone; for others the server's terminal is: null.
 */
export async function resetLinkFor(workspaceId: string, memberId: string): Promise<string | null> {
  const [who] = await authDb()
    .select({ userId: member.userId, email: user.email })
    .from(member)
    .innerJoin(user, eq(member.userId, user.id))
    .where(and(eq(member.id, memberId), eq(member.organizationId, workspaceId)));
  if (who === undefined) return null;
  const elsewhere = await authDb()
    .select({ id: member.id })
    .from(member)
    .where(and(eq(member.userId, who.userId), ne(member.organizationId, workspaceId)))
    .limit(1);
  return elsewhere.length > 0 ? null : makeResetLink(who.email);
}

/** Names of a workspace's people by their ids. */
export async function membersByName(workspaceId: string): Promise<Record<string, string>> {
  return Object.fromEntries((await membersOf(workspaceId)).map((m) => [m.userId, m.name]));
}
