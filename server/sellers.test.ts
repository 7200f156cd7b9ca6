/** Other sellers' shops through the feed: looked at, followed, looked at again, held against one's own lists. */
import { eq, sql } from 'drizzle-orm';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { evidenceSettings } from '../core/evidence/settings.ts';
import { inWorkspace } from './db/client.ts';
import { notice, task, watchedSeller } from './db/schema.ts';
import { startDue } from './jobs/rounds.ts';
import { feedsWork } from './jobs/serveFeeds.ts';
import { askFeed } from './outside/feed.ts';
import type { Feed } from './outside/feed.ts';
import { Refusal } from './refusal.ts';
import { listTests } from './testing/lists.ts';
import { startStandIn } from './testing/outside.ts';
import { screeningForTests } from './testing/screening.ts';
import type { StandIn } from './testing/outside.ts';
import { makeWorkspace } from './testing/workspaces.ts';
import { feedOf, keepFeed } from './use/feeds.ts';
import { ourGoods } from './use/ourGoods.ts';
import { loadSeller, unwatchSeller, watchedSellers, watchSeller } from './use/sellers.ts';

const made = listTests();
const MARKET = 'Alderway/DE';
const S = evidenceSettings.parse({});
let standIn: StandIn;
let feed: Feed;
let seller: string;
let screening: Awaited<ReturnType<typeof screeningForTests>>;
beforeAll(async () => {
  standIn = await startStandIn();
  await keepFeed(made.w.id, { address: '', secret: null }, made.w.personId);
  screening = await screeningForTests();
  feed = (await feedOf(made.w.id)) as Feed;
  const said = await askFeed(feed, 'search', { market: MARKET, words: 'Bienenhaus', limit: 1 });
  seller = said.ok ? (said.value.listings[0]?.seller ?? '') : '';
});
afterEach(async () => {
  await standIn.behave({});
});
afterAll(() => {
  standIn.stop();
  screening.stop();
});

const codeOf = (working: Promise<unknown>): Promise<string | undefined> =>
  working.then(
    () => undefined,
    (e: unknown) => (e instanceof Refusal ? (e.fault?.code ?? e.reason) : String(e)),
  );
const shop = () => loadSeller(made.w.id, feed, S, MARKET, seller);
/** Has what is followed be due, and worked on as a round does. */
async function oneDay(): Promise<void> {
  await inWorkspace(made.w.id, (tx) =>
    tx.update(watchedSeller).set({ askedAt: sql`now() - interval '21 hours'` }),
  );
  await startDue(made.w.id);
  const [newest] = await inWorkspace(made.w.id, (tx) =>
    tx.select().from(task).where(eq(task.kind, 'watchSellers')).orderBy(sql`created_at desc`).limit(1),
  );
  const piece = { workspaceId: made.w.id, taskId: newest?.id ?? '' };
  while (await feedsWork.work(piece, async () => false));
}
const notices = () =>
  inWorkspace(made.w.id, (tx) => tx.select().from(notice).where(eq(notice.kind, 'sellerChanged')));

describe('another seller’s shop', () => {
  it('is all its goods, the best selling first, with who else sells them', async () => {
    const { seen, said, others, watch, fault } = await shop();
    expect(fault).toBeNull();
    expect(watch).toBeNull();
    expect(seen?.goods.length).toBeGreaterThan(100);
    expect(new Set(seen?.goods.map((g) => g.seller))).toEqual(new Set([seller]));
    expect(new Set(seen?.goods.map((g) => g.listing)).size).toBe(seen?.goods.length);
    const units = (seen?.goods ?? []).map((g) => g.units ?? 0);
    expect(units).toEqual([...units].sort((a, b) => b - a));
    expect(said?.listings).toBe(seen?.goods.length);
    expect(others.every((o) => o.seller !== seller && o.shared >= 1 && o.shared <= 6)).toBe(true);
    expect(others.length).toBeGreaterThan(0);
  });

  it('is held against what stands in one’s own lists: the lowest cost of each', async () => {
    const { seen } = await shop();
    const gtin = seen?.goods.find((g) => g.gtin !== null)?.gtin ?? '';
    await made.tools.read(await made.tools.bring(`EAN,Title,Net price\n${gtin},Dear,9.50`));
    const cheap = await made.tools.bring(`EAN,Title,Net price\n${gtin},Cheap,4.25`);
    await made.tools.read(cheap);
    const { ours } = await shop();
    expect(ours.map((o) => [o.goods.gtin, o.cost, o.currency, o.listId])).toEqual([
      [gtin, 4.25, 'EUR', cheap],
    ]);
    // As the list itself weighs it.
    expect(ours[0]?.row).toMatchObject({ code: gtin, figures: { cost: 4.25 } });
    const goods = seen?.goods ?? [];
    const w = await makeWorkspace();
    expect(await ourGoods(w.id, MARKET, goods)).toEqual([]);
    expect(await ourGoods(made.w.id, MARKET, [])).toEqual([]);
    // Of a list for another market only what it costs is known.
    expect((await ourGoods(made.w.id, 'Nordkai/PL', goods))[0]).toMatchObject({ cost: 4.25, row: null });
  });

  it('a feed that is away leaves what is followed; without one that is said', async () => {
    await standIn.behave({ failNext: 1000 });
    expect(await shop()).toMatchObject({ seen: null, said: null, fault: { code: 'feedAway' } });
    const none = await loadSeller(made.w.id, null, S, MARKET, seller);
    expect(none.fault?.code).toBe('feedNone');
  });
});

describe('a seller that is followed', () => {
  it('is looked at once a day; what changed is told once, and stands until somebody has seen it', async () => {
    await watchSeller(made.w.id, MARKET, seller, made.w.personId);
    expect((await shop()).watch?.changes).toEqual({ fresh: [], gone: [], cheaper: [], dearer: [] });
    await oneDay();
    expect(await notices()).toEqual([]);
    // As if it had been another shop yesterday: a listing that is gone, one that is new, one dearer.
    await inWorkspace(made.w.id, async (tx) => {
      const [kept] = await tx.select().from(watchedSeller);
      if (kept === undefined) throw new Error('nothing is followed');
      const [first, second, ...rest] = kept.data.goods;
      if (first === undefined || second === undefined) throw new Error('an empty shop');
      const goods = [
        { ...first, price: (first.price ?? 1) * 2 },
        { listing: 'LT999999', title: 'Gone', price: 1 },
        ...rest,
      ];
      await tx.update(watchedSeller).set({ data: { ...kept.data, goods } });
    });
    await oneDay();
    await oneDay();
    const told = await notices();
    expect(told.map((n) => n.data)).toEqual([
      { seller, market: MARKET, fresh: 1, gone: 1, cheaper: 1, dearer: 0 },
    ]);
    expect(told[0]?.link).toContain('/find/seller?');
    expect((await shop()).watch?.changes.gone).toEqual(['LT999999']);
    await watchSeller(made.w.id, MARKET, seller, made.w.personId);
    expect((await shop()).watch?.changes.gone).toEqual([]);
  });

  it('a day on which the feed is away changes nothing, and is no news', async () => {
    const before = await watchedSellers(made.w.id);
    await standIn.behave({ failNext: 1000 });
    await oneDay();
    expect(await watchedSellers(made.w.id)).toEqual(before);
    expect(await notices()).toHaveLength(1);
  });

  it('of nobody, or without a feed, is refused; and one can stop', async () => {
    expect(await codeOf(watchSeller(made.w.id, MARKET, 'Nobody Ltd', made.w.personId))).toBe('sellerNothing');
    const w = await makeWorkspace();
    expect(await codeOf(watchSeller(w.id, MARKET, seller, w.personId))).toBe('feedNone');
    expect(await watchedSellers(w.id)).toEqual([]);
    await unwatchSeller(w.id, MARKET, seller);
    expect(await watchedSellers(made.w.id)).toHaveLength(1);
    await unwatchSeller(made.w.id, MARKET, seller);
    expect(await watchedSellers(made.w.id)).toEqual([]);
  });
});
