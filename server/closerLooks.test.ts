/** The second look at goods of a list: asked of the feed, kept as observations, shown beside the fast figures. */
import { and, eq } from 'drizzle-orm';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { inWorkspace } from './db/client.ts';
import { observation, supplierList, task } from './db/schema.ts';
import { lookCloser } from './jobs/lookCloser.ts';
import { Refusal } from './refusal.ts';
import { listTests } from './testing/lists.ts';
import { startStandIn } from './testing/outside.ts';
import { screeningForTests } from './testing/screening.ts';
import type { StandIn } from './testing/outside.ts';
import { makeWorkspace } from './testing/workspaces.ts';
import { askCloser, countLooks, dropLooks, loadCloser } from './use/closerLooks.ts';
import type { CloserPage } from './use/closerLooks.ts';
import { keepFeed } from './use/feeds.ts';
import { loadRow } from './use/goods.ts';
import { loadList } from './use/lists.ts';
import type { ListPage } from './use/lists.ts';
import { cancelTask } from './use/tasks.ts';

const made = listTests();
let standIn: StandIn;
let page: ListPage;
/** Goods of the world: a bee house, one whose price is a spike, one that may not be sold, and a barcode of nobody. */
const ROWS = ['9520000010010', '9520000010027', '9520000010034', '9520000010041', '9520000010058'];
let screening: Awaited<ReturnType<typeof screeningForTests>>;
beforeAll(async () => {
  standIn = await startStandIn();
  screening = await screeningForTests();
  await keepFeed(made.w.id, { address: '', secret: null }, made.w.personId);
  const rows = ROWS.map(
    (code, i) => `${code},${i === 0 ? 'Bienenhaus Lärche' : 'Umbrella stand chrome'},${4 + i}.50`,
  );
  const id = await made.tools.bring(
    ['EAN,Title,Net price', ...rows, '4006381333931,Nobody has it,3.00'].join('\n'),
  );
  page = await made.tools.read(id);
});
afterEach(async () => {
  await standIn.behave({});
});
afterAll(() => {
  standIn.stop();
  screening.stop();
});

async function rowsOf(lines: readonly number[]) {
  return Promise.all(
    lines.map(async (line) => {
      const opened = await loadRow(made.w.id, page, line);
      if (opened === null) throw new Error(`no row ${line}`);
      const { key, code, title } = opened.row;
      return { key, line, code, title };
    }),
  );
}
async function newestTask(): Promise<string> {
  const { work } = await loadCloser(made.w.id, page);
  return work?.id ?? '';
}
async function looked(lines: readonly number[]): Promise<CloserPage> {
  await askCloser(made.w.id, page, await rowsOf(lines), made.w.personId);
  const taskId = await newestTask();
  while (await lookCloser({ workspaceId: made.w.id, taskId }));
  return loadCloser(made.w.id, page);
}
const codeOf = (working: Promise<unknown>): Promise<string | undefined> =>
  working.then(
    () => undefined,
    (e: unknown) => (e instanceof Refusal ? (e.fault?.code ?? e.reason) : String(e)),
  );

describe('a second look', () => {
  it('brings history, offers and permission of the listing beside the fast figures', async () => {
    const { rows, work } = await looked([2, 7]);
    expect(work).toBeNull();
    const [bees, nobody] = [rows.find((r) => r.line === 2), rows.find((r) => r.line === 7)];
    expect(bees).toMatchObject({ state: 'looked', listing: 'LT000000', code: ROWS[0] });
    expect(bees?.row?.figures.cost).toBe(4.5);
    expect(bees?.look).toMatchObject({ currency: 'EUR', permission: 'open' });
    expect(bees?.look?.days).toBeGreaterThan(300);
    expect(bees?.look?.means['90']).toBeGreaterThan(20);
    expect(bees?.look?.keepsAtMean).not.toBeNull();
    expect(bees?.look?.warnings).not.toContain('otherGoods');
    expect(nobody).toMatchObject({ state: 'noListing', listing: '', look: null });
  });

  it('says of a barcode whose listing speaks of other goods that it may be wrong', async () => {
    const { rows } = await looked([3]);
    expect(rows.find((r) => r.line === 3)?.look?.warnings[0]).toBe('otherGoods');
  });

  it('words of a shop abroad tell nothing of that', async () => {
    const catalogue = { country: 'PL' } as never;
    await inWorkspace(made.w.id, (tx) => tx.update(supplierList).set({ catalogue }));
    const { rows } = await looked([6]);
    expect(rows.find((r) => r.line === 6)).toMatchObject({ state: 'looked' });
    expect(rows.find((r) => r.line === 6)?.look?.warnings).not.toContain('otherGoods');
    await inWorkspace(made.w.id, (tx) => tx.update(supplierList).set({ catalogue: null }));
  });

  it('keeps what it saw as observations of the listing, which whoever follows it has too', async () => {
    await looked([2]);
    const kinds = await inWorkspace(made.w.id, (tx) =>
      tx
        .select({ kind: observation.kind })
        .from(observation)
        .where(and(eq(observation.subject, 'listing/LT000000'), eq(observation.market, 'Alderway/DE'))),
    );
    // Looked at twice on one day, it was asked about once.
    expect(kinds.map((k) => k.kind).sort()).toEqual(['history', 'offers', 'permission', 'units']);
  });

  it('a feed that is away is said for each of the goods, and asking again looks again', async () => {
    await standIn.behave({ failNext: 1000 });
    const failed = await looked([4]);
    expect(failed.rows.find((r) => r.line === 4)).toMatchObject({
      state: 'failed',
      fault: { code: 'feedAway' },
      look: null,
    });
    await standIn.behave({});
    const again = await looked([4]);
    expect(again.rows.find((r) => r.line === 4)).toMatchObject({ state: 'looked', fault: null });
  });

  it('cancelled, what waits stays waiting', async () => {
    await askCloser(made.w.id, page, await rowsOf([5]), made.w.personId);
    const taskId = await newestTask();
    await cancelTask(made.w.id, taskId);
    expect(await lookCloser({ workspaceId: made.w.id, taskId })).toBe(false);
    expect((await loadCloser(made.w.id, page)).rows.find((r) => r.line === 5)?.state).toBe('waiting');
    await inWorkspace(made.w.id, (tx) => tx.delete(task).where(eq(task.id, taskId)));
  });

  it('has its limits: no feed, no marketplace, too many; and all can be taken off', async () => {
    const rows = await rowsOf([2]);
    const other = await makeWorkspace();
    expect(await codeOf(askCloser(other.id, page, rows, other.personId))).toBe('feedNone');
    const nowhere = { ...page, screen: null };
    expect(await codeOf(askCloser(made.w.id, nowhere, rows, made.w.personId))).toBe('closerNoMarket');
    const [one] = rows;
    const many = Array.from({ length: 300 }, (_, i) => ({ ...one, key: 1000 + i }) as (typeof rows)[number]);
    expect(await codeOf(askCloser(made.w.id, page, many, made.w.personId))).toBe('closerTooMany');
    expect(await countLooks(made.w.id, page.list.id)).toBeGreaterThan(0);
    expect(await countLooks(other.id, page.list.id)).toBe(0);
    await dropLooks(made.w.id, page.list.id);
    expect(await countLooks(made.w.id, page.list.id)).toBe(0);
  });

  it('a row that another reading no longer has is said to be gone', async () => {
    const [row] = await rowsOf([2]);
    if (row === undefined) throw new Error('no row');
    await askCloser(made.w.id, page, [{ ...row, key: 9520000099999 }], made.w.personId);
    const { rows } = await loadCloser(made.w.id, (await loadList(made.w.id, page.list.id)) as ListPage);
    expect(rows[0]).toMatchObject({ row: null, look: null });
  });
});
