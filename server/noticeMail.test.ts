/** Notices by mail: to whom chose so, once, in one mail; to nobody who did not, is elsewhere, or has left. */
import { and, eq } from 'drizzle-orm';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { NoticeKind } from '../core/workspace/notices.ts';
import { member, user } from './db/authSchema.ts';
import { authDb, closeDatabase, inWorkspace } from './db/client.ts';
import { notice, noticeMail, outgoingMail, task } from './db/schema.ts';
import { env } from './env.ts';
import { closeQueue, queue } from './jobs/boss.ts';
import { keepNoticeMail, mailNotices, mailNoticesOf } from './jobs/mailNotices.ts';
import type { LetterWords, NoticeLetter } from './jobs/mailNotices.ts';
import { makeWorkspace } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { chooseNoticesByMail, noticesByMail } from './use/noticeMail.ts';
import { newId, setWorkspaceDeleted } from './use/workspaces.ts';

let w: TestWorkspace;
let other: TestWorkspace;
const NOW = new Date();
/** Words that let one see what was to be said. */
const words: LetterWords = (letter) => ({ subject: letter.workspace, text: JSON.stringify(letter) });
const minutesAgo = (n: number): Date => new Date(NOW.getTime() - n * 60_000);

beforeAll(async () => {
  [w, other] = await Promise.all([makeWorkspace(), makeWorkspace()]);
});
beforeEach(async () => {
  for (const of of [w, other])
    await inWorkspace(of.id, async (tx) => {
      for (const table of [notice, noticeMail, outgoingMail, task])
        await tx.delete(table).where(eq(table.workspaceId, of.id));
    });
});
afterAll(() => Promise.all([closeDatabase(), closeQueue()]));

const place = (of: TestWorkspace) => ({ id: of.id, name: 'Test', slug: of.slug });
const round = (of = w) => mailNoticesOf(place(of), words, NOW);
const mails = (of = w) =>
  inWorkspace(of.id, async (tx) =>
    (
      await tx
        .select({ data: outgoingMail.data })
        .from(outgoingMail)
        .where(eq(outgoingMail.workspaceId, of.id))
        .orderBy(outgoingMail.createdAt)
    ).map((m) => m.data),
  );
const toldIn = (mail: { text: string } | undefined): NoticeLetter => JSON.parse(mail?.text ?? '');
/** Notices of a workspace, with the minutes ago that each came. */
const came = (of: TestWorkspace, ...notices: [NoticeKind, number, Record<string, string | number>][]) =>
  inWorkspace(of.id, (tx) =>
    tx
      .insert(notice)
      .values(
        notices.map(([kind, ago, data]) => ({
          workspaceId: of.id,
          id: newId(),
          kind,
          data,
          link: '/lists',
          at: minutesAgo(ago),
        })),
      ),
  );
/** Chosen two hours ago. */
async function chose(of: TestWorkspace, groups: Parameters<typeof chooseNoticesByMail>[2], locale = 'en-GB') {
  await chooseNoticesByMail(of.id, of.personId, groups, locale);
  const since = Object.fromEntries(groups.map((g) => [g, minutesAgo(120).toISOString()]));
  await inWorkspace(of.id, (tx) =>
    tx
      .update(noticeMail)
      .set({ since, mailedUpTo: minutesAgo(120) })
      .where(eq(noticeMail.workspaceId, of.id)),
  );
}
const read = (list: string, count = 3) => ({ list, count, invalid: 0 });

describe('notices by mail', () => {
  it('what was chosen goes to the address of the account, each once, in the reader’s locale', async () => {
    await chose(w, ['work', 'hurdles'], 'de-DE');
    const fell = { candidate: 'Bird bath', before: 3.5, after: -1.25 };
    await came(
      w,
      ['listRead', 9, read('November')],
      ['underHurdle', 5, fell],
      ['sellerChanged', 5, { seller: 'Brackwater' }],
    );
    expect(await round()).toBe(1);
    const [mail] = await mails();
    expect(mail?.to).toBe(`${w.personId}@test.example`);
    expect(toldIn(mail)).toMatchObject({
      workspace: 'Test',
      base: `${env().BM_ORIGIN}/w/${w.slug}`,
      locale: 'de-DE',
      notices: [
        { kind: 'listRead', data: read('November'), link: '/lists' },
        { kind: 'underHurdle', data: fell },
      ],
      more: 0,
    });
    expect(toldIn(mail).notices).toHaveLength(2);
    expect(await round()).toBe(0);
    expect(await mails()).toHaveLength(1);
  });
  it('of very many a mail says how many more there are, and none of them comes again', async () => {
    await chose(w, ['work']);
    await came(w, ...Array.from({ length: 60 }, (_, i) => ['listRead', 4, read(`List ${i}`)] as never));
    await round();
    const { notices, more } = toldIn((await mails())[0]);
    expect([notices.length, more]).toEqual([50, 10]);
    expect(await round()).toBe(0);
  });
  it('two workers at once send one mail', async () => {
    await chose(w, ['work']);
    await came(w, ['listRead', 5, read('November')]);
    const stored = await Promise.all([round(), round(), round()]);
    expect(stored.reduce((a, b) => a + b, 0)).toBe(1);
    expect(await mails()).toHaveLength(1);
  });
  it('nobody is told who chose nothing, of another workspace, or of one that is deleted', async () => {
    await came(w, ['listRead', 5, read('November')]);
    await chose(other, ['work']);
    expect([await round(w), await round(other)]).toEqual([0, 0]);
    await came(other, ['listRead', 5, read('Theirs')]);
    await setWorkspaceDeleted(other.id, true);
    expect(await round(other)).toBe(0);
    await setWorkspaceDeleted(other.id, false);
    expect(await round(other)).toBe(1);
    expect(await mails(w)).toEqual([]);
  });
  it('who has left the workspace is told nothing more, and is forgotten', async () => {
    const gone = { ...w, personId: newId() };
    await authDb()
      .insert(user)
      .values({
        id: gone.personId,
        name: 'Gone',
        email: `${gone.personId}@test.example`,
        emailVerified: false,
        createdAt: NOW,
        updatedAt: NOW,
      });
    await authDb()
      .insert(member)
      .values({ id: newId(), organizationId: w.id, userId: gone.personId, role: 'viewer' });
    await chose(gone, ['work']);
    await came(w, ['listRead', 5, read('November')]);
    expect(await round()).toBe(1);
    expect((await mails()).map((m) => m.to)).toEqual([`${gone.personId}@test.example`]);
    await authDb()
      .delete(member)
      .where(and(eq(member.organizationId, w.id), eq(member.userId, gone.personId)));
    await came(w, ['listRead', 4, read('December')]);
    expect(await round()).toBe(0);
    expect(await noticesByMail(w.id, gone.personId)).toEqual([]);
  });
  it('a round over all workspaces goes on where one cannot be mailed', async () => {
    await chose(w, ['work']);
    await chose(other, ['work']);
    await came(w, ['listRead', 5, read('Breaks')]);
    await came(other, ['listRead', 5, read('Holds')]);
    const breaking: LetterWords = (letter) => {
      if (letter.base.endsWith(w.slug)) throw new Error('no words');
      return words(letter);
    };
    await mailNotices(breaking, NOW);
    expect([(await mails(w)).length, (await mails(other)).length]).toEqual([0, 1]);
    // Nothing of the one that failed is lost.
    expect(await round(w)).toBe(1);
  });
});

describe('by the clock', () => {
  it('a round is due every minute, and comes where a process works', async () => {
    await chose(w, ['work']);
    await came(w, ['listRead', 5, read('November')]);
    // Only a process that works has the clock; what this one told the queue before, it told as a visitor.
    await closeQueue();
    await keepNoticeMail(words);
    const boss = await queue();
    const due = (await boss.getSchedules()).find((s) => s.name === 'notices');
    expect(due?.cron).toBe('* * * * *');
    // What the clock does each minute.
    await boss.send('notices', {});
    await expect.poll(async () => (await mails(w)).length, { timeout: 30_000, interval: 100 }).toBe(1);
  });
});

describe('the choice', () => {
  it('a group that goes on being chosen goes on from when it began; none is none', async () => {
    const since = () =>
      inWorkspace(w.id, async (tx) => (await tx.select().from(noticeMail))[0]?.since ?? null);
    await chooseNoticesByMail(w.id, w.personId, ['work'], 'en-GB');
    const first = await since();
    const then = Date.now();
    await expect.poll(() => Date.now(), { interval: 1 }).toBeGreaterThan(then);
    await chooseNoticesByMail(w.id, w.personId, ['work', 'sellers'], 'en-GB');
    const second = await since();
    expect(second?.work).toBe(first?.work);
    expect(Date.parse(second?.sellers ?? '')).toBeGreaterThan(Date.parse(first?.work ?? ''));
    expect(await noticesByMail(w.id, w.personId)).toEqual(['work', 'sellers']);
    await chooseNoticesByMail(w.id, w.personId, [], 'en-GB');
    expect([await since(), await noticesByMail(w.id, w.personId)]).toEqual([null, []]);
  });
  it('notices from before one chose are not mailed', async () => {
    await came(w, ['listRead', 5, read('November')]);
    await chooseNoticesByMail(w.id, w.personId, ['work'], 'en-GB');
    expect(await round()).toBe(0);
    expect(await mailNoticesOf(place(w), words, new Date(NOW.getTime() + 3_600_000))).toBe(0);
  });
});
