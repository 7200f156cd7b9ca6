/** Lanes on sale on the real database: fees claimed, drift told, books after each report. */
import { and, eq } from 'drizzle-orm';
import { afterAll, describe, expect, it } from 'vitest';
import type { MarketplaceCard } from '../core/cards/rates.ts';
import { SummingUp } from '../core/actuals/sums.ts';
import { Draw } from '../core/testing/draw.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { feeClaim, notice, settledLine, settledMonth, task } from './db/schema.ts';
import { closeQueue } from './jobs/boss.ts';
import { reportsWork } from './jobs/readReport.ts';
import { MAP, month, PLACE, refusalOf, row, seller } from './testing/selling.ts';
import { putInForce, withdraw } from './use/cards.ts';
import { findClaims, stateClaim } from './use/claims.ts';
import { unlaunchLane } from './use/launched.ts';
import { keepBooks } from './use/laneBooks.ts';
import { loadSelling } from './use/selling.ts';
import { readSettlement, takeBackSettlement } from './use/settlements.ts';
import { loadTask } from './use/tasks.ts';

const s = seller();
afterAll(() => Promise.all([closeDatabase(), closeQueue()]));

describe('fees above the card', () => {
  it('are found by month and reason with their orders; what is claimed stays when its report goes', async () => {
    await s.launch();
    const twice = [
      row('2026-10-20', 'T1', 'sold', 29.9, 1),
      row('2026-10-20', 'T1', 'pack', -4),
      row('2026-10-21', 'T1', 'pack', -4),
    ];
    await s.bring([...month('2026-09', 10, 4), ...month('2026-10', 10, 4.6)]);
    const { id } = await s.bring(twice);
    const found = await s.claims();
    expect(found.map((c) => [c.kind, c.month, c.why, c.found.count, c.found.of, c.state])).toEqual([
      ['fulfilment', '2026-10', 'aboveCard', 10, 11, 'open'],
      ['fulfilment', '2026-10', 'twice', 1, 11, 'open'],
    ]);
    expect((found[0]?.found.charged ?? 0) - (found[0]?.found.due ?? 0)).toBeCloseTo(6, 9);
    expect(found[1]?.found.orders).toEqual([
      { order: 'T1', day: '2026-10-20', units: 1, due: 4, charged: 8 },
    ]);
    const page = await loadSelling(s.w.id);
    expect(page.lanes[0]?.decisions[0]).toMatchObject({ what: 'claim', count: 11 });

    const key = {
      place: 'Alderway/DE',
      code: 'BB',
      kind: 'fulfilment',
      month: '2026-10',
      why: 'twice',
    } as const;
    await stateClaim(s.w.id, key, { state: 'claimed', note: '' }, s.w.personId);
    expect((await loadSelling(s.w.id)).lanes[0]?.decisions[0]).toMatchObject({ what: 'claim', count: 10 });
    await takeBackSettlement(s.w.id, id);
    const left = await s.claims();
    expect(left.map((c) => [c.why, c.state, c.claimed, c.found.count])).toEqual([
      ['aboveCard', 'open', null, 10],
      ['twice', 'claimed', 4, 0],
    ]);
    await stateClaim(s.w.id, key, { state: 'granted', note: '' }, s.w.personId);
    expect((await s.claims())[1]).toMatchObject({ state: 'granted', claimed: 4 });
    // Nothing is left of it once nobody claims what no report shows.
    await stateClaim(s.w.id, key, { state: 'open', note: '' }, s.w.personId);
    expect((await s.claims()).map((c) => c.why)).toEqual(['aboveCard']);
    expect(await refusalOf(stateClaim(s.w.id, key, { state: 'claimed', note: '' }, s.w.personId))).toBe(
      'gone',
    );
  });
  it('are found anew once another card was in force, by a job; not where nothing is on sale', async () => {
    await s.patch(['typed', 'fulfilmentFee'], null);
    const fee = (await s.lane())?.result?.lines.fulfilment as number;
    await s.launch();
    await s.bring(month('2026-11', 3, fee + 0.6));
    expect((await s.claims()).map((c) => c.found.count)).toEqual([3]);
    const sheet = await s.sheet();
    const card = sheet?.cards[(await s.lane())?.data.marketplaceCardId ?? ''] as MarketplaceCard;
    const dearer = JSON.parse(JSON.stringify(card), (key, x) => (key === 'fee' && x !== null ? x + 1 : x));
    const put = await putInForce(
      s.w.id,
      'marketplace',
      { ...dearer, inForceFrom: '2026-10-15' },
      null,
      s.w.personId,
    );
    const tasks = () =>
      inWorkspace(s.w.id, (tx) =>
        tx.select({ id: task.id }).from(task).where(eq(task.kind, 'holdAgainstCards')),
      );
    const [asked] = await tasks();
    const taskId = asked?.id ?? '';
    expect(await reportsWork.work({ workspaceId: s.w.id, taskId }, async () => false)).toBe(false);
    expect(await loadTask(s.w.id, taskId)).toMatchObject({ state: 'done' });
    expect(await s.claims()).toEqual([]);
    await unlaunchLane(s.w.id, s.laneId);
    await withdraw(s.w.id, put.ok ? put.id : '', false);
    expect(await tasks()).toHaveLength(1);
  });
  it('are found when a lane is put on sale after its reports, and go with it unless claimed', async () => {
    await s.bring(month('2026-09', 5, 5));
    expect(await inWorkspace(s.w.id, (tx) => tx.select().from(feeClaim))).toEqual([]);
    await s.launch();
    expect(await s.claims()).toHaveLength(1);
    await unlaunchLane(s.w.id, s.laneId);
    expect(await inWorkspace(s.w.id, (tx) => tx.select().from(feeClaim))).toEqual([]);
  });
});

describe('drift', () => {
  const told = () =>
    keepBooks(s.w.id).then(() =>
      inWorkspace(s.w.id, (tx) =>
        tx
          .select({ data: notice.data, link: notice.link })
          .from(notice)
          .where(and(eq(notice.workspaceId, s.w.id), eq(notice.kind, 'drift'))),
      ),
    );
  it('is told once, and again only where other lines drift', async () => {
    await s.launch();
    await s.bring(month('2026-09', 20, 4));
    expect(await told()).toEqual([]);
    await s.bring(month('2026-10', 20, 5));
    expect(await told()).toEqual([]);
    await s.bring(month('2026-11', 20, 5));
    const [first] = await told();
    expect(first).toMatchObject({
      link: `/selling/${s.laneId}`,
      data: { name: 'Bird bath', lines: 'fulfilment' },
    });
    expect(first?.data.each).toBeCloseTo(-1, 9);
    await s.bring(month('2026-11', 3, 5));
    expect(await told()).toHaveLength(1);
    const page = await s.page();
    expect(page.lately).toMatchObject({
      from: '2026-10-01',
      stands: { standing: 'paysLess', because: 'fulfilment' },
    });
    expect(page.hurdles.map((h) => h.hurdle.figure)).toContain('unitProfit');
  });
});

describe('books after each report', () => {
  /** What stands in the books, and what they come to worked out from all lines at once. */
  async function booksAreWhole(): Promise<void> {
    await inWorkspace(s.w.id, async (tx) => {
      const summing = new SummingUp();
      const lines = await tx
        .select()
        .from(settledLine)
        .where(and(eq(settledLine.workspaceId, s.w.id), eq(settledLine.counts, true)));
      for (const l of lines) summing.add(l);
      const kept = await tx.select().from(settledMonth).where(eq(settledMonth.workspaceId, s.w.id));
      const key = (code: string, month: string) => `${code} ${month}`;
      expect(Object.fromEntries(kept.map((k) => [key(k.code, k.month), k.sums]))).toEqual(
        Object.fromEntries(
          [...summing.sums()].flatMap(([code, by]) => [...by].map(([m, sums]) => [key(code, m), sums])),
        ),
      );
      const found = () =>
        tx
          .select({
            code: feeClaim.code,
            kind: feeClaim.kind,
            month: feeClaim.month,
            why: feeClaim.why,
            found: feeClaim.found,
          })
          .from(feeClaim)
          .orderBy(feeClaim.kind, feeClaim.month, feeClaim.why);
      const before = await found();
      await findClaims(tx, s.w.id, 'Alderway/DE');
      expect(before).toEqual(await found());
    });
  }
  it('are what all lines come to, whatever is brought in, corrected, read again and taken back', async () => {
    await s.launch();
    const draw = new Draw(77);
    const pick = <T>(of: readonly T[]): T => of[Math.floor(draw.next() * of.length)] as T;
    const reports: string[] = [];
    const file = (): string[] =>
      Array.from({ length: 30 }, () => {
        const order = `P${Math.floor(draw.next() * 25)}`;
        const day = `2026-${pick(['08', '09', '10'])}-${pick(['03', '14', '27'])}`;
        const what = pick(['sold', 'sold', 'fee', 'pack', 'pack', 'back']);
        const amount =
          { sold: 29.9, fee: pick([-2.99, 2.99, -4]), pack: pick([-4, -4.6]), back: -29.9 }[what] ?? 0;
        const no = `N${Math.floor(draw.next() * 60)}`;
        return [
          no,
          day,
          pick([order, order, '']),
          pick(['BB', 'BB', 'CC']),
          what,
          amount,
          what === 'sold' ? 1 : '',
        ].join(',');
      });
    const how = { place: PLACE, map: MAP, sheet: null };
    const did = new Set<string>();
    for (let step = 0; step < 14; step++) {
      const what = reports.length < 2 ? 'bring' : pick(['bring', 'again', 'back']);
      did.add(what);
      if (what === 'bring') reports.push((await s.bring(file())).id);
      else if (what === 'again') await readSettlement(s.w.id, pick(reports), how);
      else
        await takeBackSettlement(
          s.w.id,
          reports.splice(Math.floor(draw.next() * reports.length), 1)[0] ?? '',
        );
      await booksAreWhole();
    }
    expect(did.size).toBe(3);
  });
});
