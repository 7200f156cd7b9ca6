import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dueByMail, groupOf, NOTICE_GROUPS, noticeChoice, noticeGroups } from './notices.ts';
import type { MailedSince, NoticeKind } from './notices.ts';

const NOW = new Date('2026-11-30T12:00:00Z');
/** A notice of so many minutes ago. */
const ago = (minutes: number, kind: NoticeKind = 'listRead') => ({
  kind,
  at: new Date(NOW.getTime() - minutes * 60_000),
});
const DAY_AGO = new Date('2026-11-29T12:00:00Z');
const ALL: MailedSince = Object.fromEntries(noticeGroups.options.map((g) => [g, DAY_AGO.toISOString()]));
const minutesOf = (due: { at: Date }[]): number[] =>
  due.map(({ at }) => (NOW.getTime() - at.getTime()) / 60_000);

describe('groups of notices', () => {
  it('each kind stands in one group; that mail did not go is in none', () => {
    const all = Object.values(NOTICE_GROUPS).flat();
    expect(new Set(all).size).toBe(all.length);
    expect(groupOf('rivalLeft')).toBe('markets');
    expect([groupOf('mailFailed'), groupOf('mailUnsure')]).toEqual([null, null]);
  });
  it('a choice holds groups there are, each once', () => {
    expect(noticeChoice.parse(['work', 'work', 'sellers'])).toEqual(['work', 'sellers']);
    expect(noticeChoice.safeParse(['everything']).success).toBe(false);
    expect(noticeChoice.safeParse(Array(21).fill('work')).success).toBe(false);
  });
});

describe('what is due by mail', () => {
  const due = (notices: ReturnType<typeof ago>[], since = ALL, after = DAY_AGO) =>
    minutesOf(dueByMail(notices, since, after, NOW));
  it('goes together once two minutes have brought nothing more', () => {
    expect(due([ago(3), ago(5)])).toEqual([5, 3]);
    expect(due([ago(1), ago(5)])).toEqual([]);
    expect(due([ago(1)])).toEqual([]);
  });
  it('waits a quarter of an hour at most, without what is still fresh', () => {
    expect(due([ago(1), ago(14)])).toEqual([]);
    expect(due([ago(1), ago(4), ago(15)])).toEqual([15, 4]);
  });
  it('holds nothing that was mailed, was not chosen, or came before it was chosen', () => {
    const after = ago(10).at;
    expect(due([ago(10), ago(11), ago(9)], ALL, after)).toEqual([9]);
    expect(due([ago(5, 'sellerChanged'), ago(4, 'mailFailed')], { work: DAY_AGO.toISOString() })).toEqual([]);
    expect(due([ago(8), ago(6)], { work: ago(7).at.toISOString() })).toEqual([6]);
  });
  it('what others do not choose keeps nobody waiting', () => {
    expect(due([ago(1, 'underHurdle'), ago(5)], { work: DAY_AGO.toISOString() })).toEqual([5]);
  });
  it('minute after minute each wanted notice goes once and none is lost', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: 0, max: 60, noNaN: true }), fc.boolean()), { maxLength: 40 }),
        (drawn) => {
          const start = NOW.getTime();
          const all = drawn.map(([minute, wanted]) => ({
            kind: wanted ? ('listRead' as const) : ('mailFailed' as const),
            at: new Date(start + Math.floor(minute * 60_000) + 1),
          }));
          let after = NOW;
          const mailed: object[] = [];
          for (let minute = 0; minute <= 80; minute++) {
            const now = new Date(start + minute * 60_000);
            const there = all.filter(({ at }) => at <= now);
            const due = dueByMail(there, { work: NOW.toISOString() }, after, now);
            after = due.at(-1)?.at ?? after;
            for (const { at } of due) {
              const waited = (now.getTime() - at.getTime()) / 60_000;
              expect(waited).toBeGreaterThanOrEqual(2);
              expect(waited).toBeLessThan(16);
            }
            mailed.push(...due);
          }
          expect(mailed).toHaveLength(all.filter((n) => n.kind === 'listRead').length);
          expect(new Set(mailed).size).toBe(mailed.length);
        },
      ),
    );
  });
});
