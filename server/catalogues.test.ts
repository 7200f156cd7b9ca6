/** Shops' catalogues read through the feed into lists: whole, again, with faults of the shop, by workers that stop. */
import { appendFileSync, readFileSync } from 'node:fs';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { CatalogueChoice } from '../core/shops/schema.ts';
import { sql } from 'drizzle-orm';
import { inWorkspace } from './db/client.ts';
import { storePath } from './files/store.ts';
import { workOnList } from './jobs/readList.ts';
import { Refusal } from './refusal.ts';
import { alone, listTests } from './testing/lists.ts';
import { startStandIn } from './testing/outside.ts';
import type { StandIn } from './testing/outside.ts';
import { makeWorkspace } from './testing/workspaces.ts';
import { loadShops, readShop, readShopAgain } from './use/catalogues.ts';
import { keepFeed } from './use/feeds.ts';
import { loadList, startList } from './use/lists.ts';
import type { ListPage } from './use/lists.ts';
import { loadSuppliers } from './use/suppliers.ts';
import { cancelTask } from './use/tasks.ts';

const made = listTests();
let standIn: StandIn;
beforeAll(async () => {
  standIn = await startStandIn();
  await keepFeed(made.w.id, { address: '', secret: null }, made.w.personId);
});
afterEach(async () => {
  await standIn.behave({});
});
afterAll(() => standIn.stop());

type Over = { shop?: string; categories?: number; choice?: Partial<CatalogueChoice> };
/** Begins to read some categories of a shop; returns the list. */
async function begun({ shop = 'haldern', categories = 2, choice = {} }: Over = {}): Promise<string> {
  const page = await loadShops(made.w.id);
  const s = page.shops.find((x) => x.key === shop);
  if (s === undefined) throw new Error('no such shop');
  const { name, country, currency, tax } = s;
  const market = page.markets.find((m) => m.key === 'Alderway/DE');
  const filters = { priceFrom: null, priceTo: null, reviewsFrom: null, inStock: true, promotedOnly: false };
  return readShop(
    made.w.id,
    {
      choice: {
        shop,
        name,
        country,
        currency,
        tax,
        categories: s.categories.slice(0, categories),
        market: 'Alderway/DE',
        filters,
        ...choice,
      },
      settings: { ...s.begins, country: 'DE', marketplaceCardId: market?.id ?? null },
    },
    made.w.personId,
  );
}
async function pageOf(id: string): Promise<ListPage> {
  const page = await loadList(made.w.id, id);
  if (page === null) throw new Error('the list is gone');
  return page;
}
/** Works on the newest task of a list until there is no more to do. */
async function work(id: string): Promise<ListPage> {
  const [newest] = (await pageOf(id)).work;
  while (await workOnList(made.w.id, newest?.id ?? '', alone));
  return pageOf(id);
}
const sourceOf = (id: string): string => readFileSync(storePath(made.w.id, id, 'source'), 'utf8');

describe('a shop’s catalogue', () => {
  it('is read as a list is: every good a row, left out with its reason, or to mend', async () => {
    const id = await begun();
    const { list, shown, work: all } = await work(id);
    const data = shown?.data;
    expect(shown?.state).toBe('done');
    const c = data?.catalogue;
    const left = Object.values(c?.left ?? {}).reduce((a, b) => a + b, 0);
    expect((data?.valid ?? 0) + (data?.invalid ?? 0) + left).toBe(c?.goods);
    expect(c).toMatchObject({ category: 2, changed: false, short: 0, repeated: 0 });
    expect(c?.goods).toBe(list.catalogue?.categories.reduce((n, x) => n + x.goods, 0));
    expect(c?.left.notInStock).toBeGreaterThan(5);
    expect(data?.completed).toBeGreaterThan((data?.valid ?? 0) * 0.8);
    expect(Object.keys(data?.troubles ?? {})).toEqual(expect.arrayContaining(['barcode']));
    // Its files count for the quota, and its rows are those of the file.
    expect(list.file.bytes).toBe(c?.sourceBytes);
    expect(sourceOf(id).trim().split('\r\n')).toHaveLength((data?.valid ?? 0) + (data?.invalid ?? 0) + 1);
    expect(list.reference?.file.bytes).toBe(c?.referenceBytes);
    const rows = await made.tools.rowsOf(shown?.id ?? '');
    expect(rows).toHaveLength(data?.valid ?? -1);
    expect(all).toHaveLength(1);
    expect((await loadSuppliers(made.w.id)).find((s) => s.name === 'Haldern Gartenlager')).toMatchObject({
      mail: 'bestellung@haldern.example',
      currency: 'EUR',
    });
  });

  it('goods without a barcode bring the listings of their words along, for matching', async () => {
    const id = await begun({ categories: 1 });
    const { shown } = await work(id);
    expect(shown?.data.catalogue?.searches).toBeGreaterThan(5);
    // Of a market that the feed does not know no listings are asked for either.
    const without = await begun({ categories: 1, choice: { market: 'Mine/DE' } });
    const page = await work(without);
    expect(page.shown?.data.catalogue).toMatchObject({ searches: 0, listings: 0 });
    expect(page.list.reference).toBeNull();
  });

  it('limits hold before anything is worked out', async () => {
    const limits = { priceFrom: 10, priceTo: 20, reviewsFrom: 50, inStock: true, promotedOnly: true };
    const { shown } = await work(await begun({ categories: 3, choice: { filters: limits } }));
    expect(shown?.data.catalogue?.left).toMatchObject({
      tooCheap: expect.any(Number),
      tooDear: expect.any(Number),
      notPromoted: expect.any(Number),
      fewReviews: expect.any(Number),
    });
    for (const r of await made.tools.rowsOf(shown?.id ?? '')) {
      expect(r.cost).toBeGreaterThanOrEqual(10);
      expect(r.cost).toBeLessThanOrEqual(20);
    }
  });

  it('read again finds what changed, as the next edition; its settings come back', async () => {
    const first = await begun({ shop: 'zielonka', categories: 1 });
    await work(first);
    const again = await readShopAgain(made.w.id, first, made.w.personId);
    const { list, shown } = await work(again);
    expect(list.previousId).toBe(first);
    expect(shown?.data.changes).toEqual({ same: shown?.data.valid });
    const other = await begun({ shop: 'zielonka', categories: 2 });
    expect((await pageOf(other)).list.previousId).toBeNull();
    const { shops } = await loadShops(made.w.id);
    const last = shops.find((s) => s.key === 'zielonka')?.last;
    expect(last?.choice.categories).toHaveLength(2);
    // Polish VAT does not come back to who is not registered there; German VAT as one's standing says.
    expect(last?.settings.assumptions.purchase).toMatchObject({
      currency: 'PLN',
      vat: 'added',
      vatRate: 0.23,
      recoverable: false,
    });
    const german = shops.find((s) => s.key === 'haldern')?.last;
    expect(german?.settings.assumptions.purchase).toMatchObject({ vat: 'included', recoverable: null });
    await cancelTask(made.w.id, (await pageOf(other)).work[0]?.id ?? '');
  });

  it('a list that was read is read again from its own file, so that matches count and nothing is fetched', async () => {
    const id = await begun({ categories: 1 });
    const before = await work(id);
    await standIn.behave({ failNext: 1000 });
    await startList(made.w.id, id, 'readList', made.w.personId);
    const after = await work(id);
    expect(after.shown?.state).toBe('done');
    expect(after.shown?.id).not.toBe(before.shown?.id);
    expect(after.shown?.data.valid).toBe(before.shown?.data.valid);
  });
});

describe('a shop that is odd', () => {
  it.each([
    ['changes', { changed: true, short: 0 }],
    ['ends', { changed: false, repeated: 0 }],
    ['repeats', { changed: false, repeated: 1 }],
  ])('%s while it is read: all that it gave is kept once, and what is odd is said', async (shop, says) => {
    await standIn.behave({ shop });
    const { shown } = await work(await begun({ categories: 1 }));
    expect(shown?.state).toBe('done');
    expect(shown?.data.catalogue).toMatchObject(says);
    if (shop !== 'changes') expect(shown?.data.catalogue?.short).toBeGreaterThan(0);
    expect(shown?.data.valid).toBeGreaterThan(50);
    expect(shown?.data.troubles?.duplicate ?? 0).toBeLessThan(20);
  });

  it('breaks the contract: the work fails with the field, and what was read before is kept', async () => {
    const id = await begun();
    await standIn.behave({ odd: true });
    const page = await work(id);
    expect(page.work[0]).toMatchObject({ state: 'failed', error: { code: 'feedBroke' } });
  });

  it('is away for a while: what was read stands, others come in meanwhile, and it goes on', async () => {
    const id = await begun({ categories: 1 });
    const task = (await pageOf(id)).work[0]?.id ?? '';
    const giving = { turnMs: 0, othersWait: async () => true };
    expect(await workOnList(made.w.id, task, giving)).toBe(true);
    const before = (await pageOf(id)).work[0]?.data;
    await standIn.behave({ failNext: 1000 });
    expect(await workOnList(made.w.id, task, giving)).toBe(true);
    const away = (await pageOf(id)).work[0];
    expect(away?.state).toBe('running');
    expect(away?.data.catalogue).toEqual({ ...before?.catalogue, awaySince: expect.any(String) });
    expect(away?.data.valid).toBe(before?.valid);
    await standIn.behave({});
    const whole = await work(id);
    const same = await work(await begun({ categories: 1 }));
    expect(whole.shown?.data.catalogue).toEqual(same.shown?.data.catalogue);
    expect(sourceOf(id)).toBe(sourceOf(same.list.id));
  });

  it('is away for too long: the work fails, and what was read is shown', async () => {
    const id = await begun({ categories: 3 });
    const task = (await pageOf(id)).work[0]?.id ?? '';
    const giving = { turnMs: 0, othersWait: async () => true };
    await workOnList(made.w.id, task, giving);
    await standIn.behave({ failNext: 1000 });
    await workOnList(made.w.id, task, giving);
    await inWorkspace(made.w.id, (tx) =>
      tx.execute(
        sql`update bm.task set data = jsonb_set(data, '{catalogue,awaySince}', ${'"2026-01-01T00:00:00Z"'}::jsonb)
          where id = ${task}`,
      ),
    );
    expect(await workOnList(made.w.id, task, giving)).toBe(false);
    const { shown } = await pageOf(id);
    expect(shown).toMatchObject({ state: 'failed', error: { code: 'feedAway' } });
    expect(shown?.data.valid).toBeGreaterThan(0);
  });

  it('is not there, or there is no feed: nothing is begun', async () => {
    const code = (working: Promise<unknown>) =>
      working.then(
        () => null,
        (e: unknown) => (e instanceof Refusal ? (e.fault?.code ?? e.reason) : String(e)),
      );
    const page = await loadShops(made.w.id);
    const setup = page.shops.find((s) => s.key === 'haldern')?.last;
    if (setup == null) throw new Error('nothing was read before');
    const moved = { ...setup, choice: { ...setup.choice, shop: 'closed' } };
    expect(await code(readShop(made.w.id, moved, made.w.personId))).toBe('shopUnknown');
    const w = await makeWorkspace();
    expect((await loadShops(w.id)).wrong?.code).toBe('feedNone');
    expect(await code(readShop(w.id, setup, w.personId))).toBe('feedNone');
    expect(await code(readShopAgain(w.id, 'not-mine', w.personId))).toBe('gone');
  });

  it('asks in other money than was chosen: nothing is taken at a wrong price', async () => {
    const page = await work(await begun({ categories: 1, choice: { currency: 'GBP' } }));
    expect(page.work[0]).toMatchObject({ state: 'failed', error: { code: 'catalogueOther' } });
  });
});

describe('a worker that stops', () => {
  it('loses nothing: what counts is taken up, what did not count is cut off, and no row stands twice', async () => {
    const id = await begun({ categories: 1 });
    const task = (await pageOf(id)).work[0]?.id ?? '';
    // Somebody waits after each round, so that the work is done in turns.
    const turn = { turnMs: 0, othersWait: async () => true };
    let turns = 0;
    for (; await workOnList(made.w.id, task, turn); turns++)
      // As a worker would leave them that was killed between writing and storing.
      appendFileSync(storePath(made.w.id, id, 'source'), 'x,y,z\r\n"broken');
    expect(turns).toBeGreaterThan(0);
    const { shown } = await pageOf(id);
    const whole = await work(await begun({ categories: 1 }));
    expect(shown?.data).toMatchObject({
      valid: whole.shown?.data.valid,
      invalid: whole.shown?.data.invalid,
      completed: whole.shown?.data.completed,
    });
    expect(shown?.data.catalogue).toEqual({ ...whole.shown?.data.catalogue });
    expect(sourceOf(id)).toBe(sourceOf(whole.list.id));
  });

  it('cancelled half way keeps what was read', async () => {
    const id = await begun({ categories: 3 });
    const task = (await pageOf(id)).work[0]?.id ?? '';
    await workOnList(made.w.id, task, { turnMs: 0, othersWait: async () => true });
    await cancelTask(made.w.id, task);
    expect(await workOnList(made.w.id, task, alone)).toBe(false);
    const { shown } = await pageOf(id);
    expect(shown?.state).toBe('cancelled');
    expect(shown?.data.valid).toBeGreaterThan(0);
  });
});
