/**
 * Notices by mail: what people of a workspace chose to be told of goes to them in one mail, once nothing more comes.
 * How it is said is no matter of the server: whoever starts the worker gives the words.
 */
import { and, asc, eq, gte, inArray } from 'drizzle-orm';
import { dueByMail, NOTICE_GROUPS } from '../../core/workspace/notices.ts';
import type { Notice, NoticeGroup } from '../../core/workspace/notices.ts';
import { member, organization, user } from '../db/authSchema.ts';
import { authDb, inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { notice, noticeMail } from '../db/schema.ts';
import { env } from '../env.ts';
import { log } from '../log.ts';
import { storeMail } from '../use/mails.ts';
import { wake } from '../use/tasks.ts';
import { settingsIn } from '../use/workspaces.ts';
import { queue } from './boss.ts';

/** A mail of notices, to be put into words; `base`: the address of the workspace, under which links stand. */
export type NoticeLetter = {
  readonly workspace: string;
  readonly base: string;
  readonly locale: string;
  readonly notices: readonly Notice[];
  /** How many more there are than stand here. */
  readonly more: number;
};
export type LetterWords = (letter: NoticeLetter) => { readonly subject: string; readonly text: string };

/** Notices that one mail tells; of more it says how many. */
const IN_ONE_MAIL = 50;
/** Notices read for one round of a workspace; whatever is beyond goes with a later one. */
const AT_ONCE = 2000;

type Place = { readonly id: string; readonly name: string; readonly slug: string };

/** Mails what is due in one workspace. Returns how many mails were stored. */
export async function mailNoticesOf(place: Place, words: LetterWords, now: Date): Promise<number> {
  const stored = await inWorkspace(place.id, async (tx) => {
    const choices = await tx
      .select()
      .from(noticeMail)
      .where(eq(noticeMail.workspaceId, place.id))
      .for('update', { skipLocked: true });
    // Of a workspace that is deleted nobody is told anything.
    if (choices.length === 0 || (await settingsIn(tx, place.id)) === null) return [];
    const emails = await emailsOf(place.id);
    const tasks: string[] = [];
    for (const choice of choices) {
      const to = emails.get(choice.userId);
      const task =
        to === undefined ? await forget(tx, choice) : await mailTo(tx, place, choice, to, words, now);
      if (task !== null) tasks.push(task);
    }
    return tasks;
  });
  for (const id of stored) await wake('sendMail', place.id, id);
  return stored.length;
}

/** Addresses of a workspace's members by who they are. */
async function emailsOf(workspaceId: string): Promise<Map<string, string>> {
  const rows = await authDb()
    .select({ id: user.id, email: user.email })
    .from(member)
    .innerJoin(user, eq(member.userId, user.id))
    .where(eq(member.organizationId, workspaceId));
  return new Map(rows.map(({ id, email }) => [id, email]));
}

type Choice = typeof noticeMail.$inferSelect;
const its = (c: Choice) => and(eq(noticeMail.workspaceId, c.workspaceId), eq(noticeMail.userId, c.userId));

/** Who has left a workspace is told nothing more of it. */
async function forget(tx: Tx, choice: Choice): Promise<null> {
  await tx.delete(noticeMail).where(its(choice));
  return null;
}

/** Stores the mail of what is due to one person; returns the task that sends it, null where nothing is due. */
async function mailTo(
  tx: Tx,
  { id, name, slug }: Place,
  choice: Choice,
  to: string,
  words: LetterWords,
  now: Date,
): Promise<string | null> {
  const { since, mailedUpTo, locale, userId } = choice;
  const kinds = (Object.keys(since) as NoticeGroup[]).flatMap((group) => [...NOTICE_GROUPS[group]]);
  const newer = await tx
    .select()
    .from(notice)
    .where(and(eq(notice.workspaceId, id), gte(notice.at, mailedUpTo), inArray(notice.kind, kinds)))
    .orderBy(asc(notice.at))
    .limit(AT_ONCE);
  const due = dueByMail(newer, since, mailedUpTo, now);
  const last = due.at(-1);
  if (last === undefined) return null;
  const letter = words({
    workspace: name,
    base: `${env().BM_ORIGIN}/w/${slug}`,
    locale,
    notices: due.slice(0, IN_ONE_MAIL),
    more: Math.max(0, due.length - IN_ONE_MAIL),
  });
  await tx.update(noticeMail).set({ mailedUpTo: last.at }).where(its(choice));
  return storeMail(tx, id, `notices/${userId}/${last.at.toISOString()}`, { to, ...letter }, [], userId);
}

const QUEUE = 'notices';
const EVERY_MINUTE = '* * * * *';

/** One round over all workspaces. Returns how many mails were stored. */
export async function mailNotices(words: LetterWords, now = new Date()): Promise<number> {
  let stored = 0;
  for (const place of await authDb()
    .select({ id: organization.id, name: organization.name, slug: organization.slug })
    .from(organization))
    try {
      stored += await mailNoticesOf(place, words, now);
    } catch (e) {
      // One workspace that cannot be mailed keeps no other from being told.
      log.warn(
        { message: e instanceof Error ? e.message : String(e) },
        'notices of a workspace were not mailed',
      );
    }
  return stored;
}

/** Has a round every minute, in whichever worker is free. */
export async function keepNoticeMail(words: LetterWords): Promise<void> {
  const boss = await queue(true);
  await boss.work(QUEUE, { batchSize: 1 }, async () => {
    const stored = await mailNotices(words);
    if (stored > 0) log.info({ stored }, 'notices go out by mail');
  });
  await boss.schedule(QUEUE, EVERY_MINUTE);
}
