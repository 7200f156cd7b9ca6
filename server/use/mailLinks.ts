/** Links that let people in, mailed to them where this installation can send mail. */
import { and, eq, sql } from 'drizzle-orm';
import { member, user } from '../db/authSchema.ts';
import { authDb, inWorkspace } from '../db/client.ts';
import { outgoingMail } from '../db/schema.ts';
import { canMail } from '../mail.ts';
import { storeMail } from './mails.ts';
import { openInvitations } from './members.ts';
import { wake } from './tasks.ts';

/** What a mail with a link says; `text` puts the link into words. */
export type LinkWords = { readonly subject: string; readonly text: (link: string) => string };

/** Mails the open invitation of an address, anew each time one invites. False: no mail server, or no invitation. */
export async function mailInvitation(
  workspaceId: string,
  email: string,
  words: LinkWords,
  by: string,
): Promise<boolean> {
  const open = (await openInvitations(workspaceId)).find(
    (i) => i.email.toLowerCase() === email.toLowerCase(),
  );
  return open === undefined
    ? false
    : mailLink(workspaceId, `invitation/${open.id}`, { to: open.email, link: open.link, words }, by);
}

/** Mails a member the link by which to set a new password. False: no mail server, or no such member. */
export async function mailResetLink(
  workspaceId: string,
  memberId: string,
  link: string,
  words: LinkWords,
  by: string,
): Promise<boolean> {
  const [who] = await authDb()
    .select({ email: user.email })
    .from(member)
    .innerJoin(user, eq(member.userId, user.id))
    .where(and(eq(member.id, memberId), eq(member.organizationId, workspaceId)));
  return who === undefined
    ? false
    : mailLink(workspaceId, `reset/${memberId}`, { to: who.email, link, words }, by);
}

async function mailLink(
  workspaceId: string,
  about: string,
  { to, link, words }: { to: string; link: string; words: LinkWords },
  by: string,
): Promise<boolean> {
  if (!canMail()) return false;
  const begun = await inWorkspace(workspaceId, async (tx) => {
    const [earlier] = await tx
      .select({ n: sql<number>`count(*)::int` })
      .from(outgoingMail)
      .where(
        and(
          eq(outgoingMail.workspaceId, workspaceId),
          sql`starts_with(${outgoingMail.about}, ${`${about}/`})`,
        ),
      );
    const mail = { to, subject: words.subject, text: words.text(link) };
    return storeMail(tx, workspaceId, `${about}/${(earlier?.n ?? 0) + 1}`, mail, [], by);
  });
  if (begun !== null) await wake('sendMail', workspaceId, begun);
  return begun !== null;
}
