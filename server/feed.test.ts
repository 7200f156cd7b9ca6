import { createServer } from 'node:http';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { ANSWERS } from '../between/feed.ts';
import type { Question } from '../between/feed.ts';
import { freePort } from '../scripts/lib/system.mjs';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { feed as feedTable, notice, task, watched } from './db/schema.ts';
import { env, today } from './env.ts';
import { startDue } from './jobs/rounds.ts';
import { watchMarkets } from './jobs/watchMarkets.ts';
import { closeQueue } from './jobs/boss.ts';
import { addressFault, askFeed } from './outside/feed.ts';
import { startStandIn } from './testing/outside.ts';
import type { StandIn } from './testing/outside.ts';
import { makeWorkspace, someCandidate } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { marketsIn } from './use/keptMarkets.ts';
import { createCandidates, loadSheet } from './use/candidates.ts';
import { loadComparison } from './use/lanes.ts';
import { savePatches } from './use/savePatches.ts';
import { decide, observe } from './use/evidence.ts';
import { feedOf, feedShown, keepFeed, opened, sealed } from './use/feeds.ts';
import { askedTask, storeTask } from './use/tasks.ts';
import { gatesOf } from '../core/workspace/summary.ts';
import type { CandidateData } from '../core/workspace/records.ts';
import { loadWeighed } from './use/weigh.ts';
import { saveSettings } from './use/workspaces.ts';

let standIn: StandIn;
let url: string;
let w: TestWorkspace;
const MARKET = 'Alderway/DE';
const behave = (how: object) => standIn.behave(how);
const world = () => ({ base: `${url}/feed`, secret: null, ours: true });

beforeAll(async () => {
  standIn = await startStandIn();
  url = standIn.url;
  w = await makeWorkspace();
});
beforeEach(() => behave({}));
afterAll(async () => {
  standIn.stop();
  await Promise.all([closeDatabase(), closeQueue()]);
});

describe('the world behind the stand-in', () => {
  const params: Readonly<Record<Question, Record<string, string>>> = {
    markets: {},
    categories: { market: MARKET },
    search: { market: MARKET, words: 'Bienenhaus' },
    listing: { market: MARKET, code: 'LT000001' },
    history: { market: MARKET, code: 'LT000001' },
    offers: { market: MARKET, code: 'LT000001' },
    permission: { market: MARKET, code: 'LT000009' },
    complaints: { market: MARKET, code: 'LT000001' },
    'listing-terms': { market: MARKET, code: 'LT000001' },
    terms: { market: 'Sundra/AE', words: 'بيت النحل' },
    bids: { market: MARKET, terms: 'bienenhaus|bienenhaus set' },
    barcode: { market: MARKET, gtin: '9520000010010' },
    barcodes: { market: MARKET, gtins: '9520000010010|9520000010027' },
    shops: {},
    catalogue: { shop: 'haldern', category: 'c1' },
    picks: { market: MARKET, what: 'rising' },
    picture: { market: MARKET, code: 'LT000001' },
  };
  it.each(Object.keys(ANSWERS) as Question[])(
    'answers %s as the contract says, the same each time',
    async (q) => {
      const first = await askFeed(world(), q, params[q]);
      if (!first.ok) throw new Error(JSON.stringify(first.fault));
      expect(first.value.asOf).toBe(today());
      expect(await askFeed(world(), q, params[q])).toEqual(first);
    },
  );
  const ask = async <Q extends Question>(q: Q, more: Record<string, string | number>) => {
    const said = await askFeed(world(), q, { market: MARKET, ...more });
    if (!said.ok) throw new Error(JSON.stringify(said.fault));
    return said.value;
  };
  it('has 40,000 listings in each large market, in pages that do not repeat', async () => {
    const { markets } = await ask('markets', {});
    expect(markets.filter((m) => m.listings >= 40_000).length).toBeGreaterThan(10);
    const page = await ask('search', { words: 'Bienenhaus', sort: 'price', limit: 20 });
    const next = await ask('search', {
      words: 'Bienenhaus',
      sort: 'price',
      limit: 20,
      cursor: page.next ?? '',
    });
    expect(page.total).toBeGreaterThan(1000);
    expect(new Set([...page.listings, ...next.listings].map((l) => l.listing)).size).toBe(40);
    const prices = page.listings.map((l) => l.price ?? 0);
    expect(Math.max(...prices.slice(0, 5))).toBeLessThan(
      Math.min(...next.listings.map((l) => l.price ?? 0)) * 1.6,
    );
  });
  it('is coherent: limits hold, units follow rank, paid places stand among free ones', async () => {
    const found = await ask('search', { reviewsTo: 50, unitsFrom: 100, sort: 'units', limit: 50 });
    expect(found.listings.length).toBeGreaterThan(0);
    expect(found.listings.every((l) => (l.reviews ?? 99) <= 50 && (l.units ?? 0) >= 100)).toBe(true);
    const byRank = [...found.listings].sort((a, b) => (a.rank ?? 0) - (b.rank ?? 0)).map((l) => l.units ?? 0);
    expect(byRank).toEqual([...byRank].sort((a, b) => b - a));
    expect((await ask('search', { words: 'Bienenhaus' })).listings.some((l) => l.paid)).toBe(true);
  });
  it('has gaps, promotions, a shop that comes and goes, and young markets', async () => {
    const days = (await ask('history', { code: 'LT000008' })).days;
    expect(days.length).toBeGreaterThan(730);
    expect(
      days.some((d) => d.ownShop) && days.some((d) => d.ownShop === false) && days.some((d) => d.promotion),
    ).toBe(true);
    expect((await ask('history', { code: 'LT000006' })).days.length).toBeLessThan(30);
    const part = await ask('history', { code: 'LT000008', from: days.at(-3)?.day ?? '' });
    expect(part.days).toEqual(days.slice(-3));
  });
  it('a barcode of nobody may have several listings, or none', async () => {
    const counts = await Promise.all(
      ['9520001234567', '9520009999999', '9520007777770', '9520003333333'].map(
        async (gtin) => (await ask('barcode', { gtin })).listings.length,
      ),
    );
    expect(new Set(counts).size).toBeGreaterThan(1);
    expect((await ask('barcode', { gtin: '9520000010010' })).listings).toMatchObject([
      { listing: 'LT000000', gtin: '9520000010010' },
    ]);
  });
});

describe('the client', () => {
  it('tries again after failures and after being told to wait', async () => {
    await behave({ failNext: 2 });
    expect((await askFeed(world(), 'markets', {})).ok).toBe(true);
    await behave({ perMinute: 0 });
    expect(await askFeed(world(), 'markets', {})).toMatchObject({ ok: false, fault: { code: 'feedBusy' } });
  });
  it('refuses what breaks the contract, and names the field', async () => {
    await behave({ odd: true });
    expect(await askFeed(world(), 'offers', { market: MARKET, code: 'LT000001' })).toMatchObject({
      fault: { code: 'feedBroke', detail: { question: 'offers', field: 'asOf' } },
    });
  });
  it('says what the feed does not know or understand, and does not ask again', async () => {
    expect(await askFeed(world(), 'offers', { market: 'Nowhere/DE', code: 'x' })).toMatchObject({
      fault: { code: 'feedUnknown' },
    });
    expect(await askFeed(world(), 'picks', { market: MARKET, what: 'odd' })).toMatchObject({
      fault: { code: 'feedNotUnderstood' },
    });
  });
  it('stops when nobody waits any more, and says a feed that is away', async () => {
    await behave({ slowMs: 3000 });
    const stop = new AbortController();
    setTimeout(() => stop.abort(), 100);
    const began = Date.now();
    expect(await askFeed(world(), 'markets', {}, stop.signal)).toMatchObject({
      fault: { code: 'feedStopped' },
    });
    expect(Date.now() - began).toBeLessThan(1500);
    const away = { base: `http://127.0.0.1:${await freePort()}`, secret: null, ours: true };
    expect(await askFeed(away, 'markets', {})).toMatchObject({ fault: { code: 'feedAway' } });
  });

  describe('with a feed that is hostile', () => {
    let server: Server;
    let base: string;
    let answer: (path: string) => { status?: number; headers?: Record<string, string>; body: string } =
      () => ({ body: '{}' });
    const heard: (string | undefined)[] = [];
    beforeAll(async () => {
      server = createServer((req, res) => {
        heard.push(req.headers.authorization);
        const { status = 200, headers = {}, body } = answer(req.url ?? '');
        res.writeHead(status, headers);
        res.end(body);
      });
      await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
      base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    });
    afterAll(() => void server.close());
    const asked = () => askFeed({ base, secret: 'hush', ours: true }, 'markets', {});
    it.each([
      ['half an answer', '{"asOf":"2026-11-', 'feedBroke'],
      ['no JSON', '<html>', 'feedBroke'],
      ['another shape', '[]', 'feedBroke'],
      ['a day to come', '{"asOf":"2999-01-01","coverage":1,"markets":[]}', 'feedBroke'],
      [
        'numbers beyond bounds',
        JSON.stringify({ asOf: '2026-01-01', coverage: 1, markets: [{ market: 'a', listings: 1e300 }] }),
        'feedBroke',
      ],
      ['more than is read', `"${'x'.repeat(9 * 1024 * 1024)}"`, 'feedTooLarge'],
    ])('%s is refused', async (_, body, code) => {
      answer = () => ({ body });
      expect(await asked()).toMatchObject({ ok: false, fault: { code } });
    });
    it('letters that no database takes are left out of what it says', async () => {
      const market = {
        market: 'Al\0derway/DE',
        marketplace: 'Alder\ud800way',
        country: 'DE',
        currency: 'EUR',
        languages: [],
        listings: 1,
        historyDays: 1,
      };
      answer = () => ({ body: JSON.stringify({ asOf: '2026-01-01', coverage: 1, markets: [market] }) });
      const said = await asked();
      expect(said.ok && said.value.markets[0]).toMatchObject({
        market: 'Alderway/DE',
        marketplace: 'Alder\ufffdway',
      });
    });
    const hit = {
      listing: 'A',
      title: 'Bee house',
      brand: '',
      seller: 'Moss & Mill',
      category: 'garden',
      price: 20,
      units: 30,
      rank: 4,
      reviews: 9,
      rating: 4,
      daysListed: 10,
      offers: 1,
      kg: null,
      gtin: null,
      paid: false,
    };
    it.each([
      ['as the contract has it', {}, null],
      ['units of 1e12, the most there is', { units: 1e12 }, null],
      ['rank 0', { rank: 0 }, 'rank'],
      ['a negative price', { price: -1 }, 'price'],
      ['units of 1e300', { units: 1e300 }, 'units'],
      ['a figure as a word', { reviews: 'many' }, 'reviews'],
      ['stars above five', { rating: 6 }, 'rating'],
      ['a listing without a code', { listing: '' }, 'listing'],
      ['a barcode of letters', { gtin: 'ABC' }, 'gtin'],
    ])('a row with %s', async (_, own, field) => {
      const page = {
        asOf: '2026-01-01',
        coverage: 1,
        currency: 'EUR',
        tax: 'included',
        total: 1,
        next: null,
      };
      answer = () => ({ body: JSON.stringify({ ...page, listings: [hit, { ...hit, ...own }] }) });
      const said = await askFeed({ base, secret: null, ours: true }, 'search', { market: MARKET });
      if (field === null) expect(said).toMatchObject({ ok: true });
      else {
        expect(said).toMatchObject({ ok: false, fault: { code: 'feedBroke' } });
        // The field is named, and nothing of the answer is kept, its good row neither.
        expect(JSON.stringify(said)).toContain(field);
        expect(JSON.stringify(said)).not.toContain('Bee house');
      }
    });
    it('is not followed elsewhere, so that the secret goes nowhere else', async () => {
      heard.length = 0;
      answer = () => ({ status: 302, headers: { location: `${url}/feed/markets` }, body: '' });
      expect(await asked()).toMatchObject({ ok: false });
      expect(heard[0]).toBe('Bearer hush');
      answer = () => ({ status: 401, body: '' });
      expect(await asked()).toMatchObject({ fault: { code: 'feedRefused' } });
    });
  });
  it.each([
    ['http://127.0.0.1:5432', 'feedNotSecure'],
    ['https://127.0.0.1', 'feedPrivate'],
    ['https://[::1]/x', 'feedPrivate'],
    ['https://10.1.2.3', 'feedPrivate'],
    ['https://169.254.169.254/latest', 'feedPrivate'],
    ['https://192.168.0.1', 'feedPrivate'],
    ['https://[::ffff:127.0.0.1]/', 'feedPrivate'],
    ['file:///etc/passwd', 'feedAddress'],
    ['https://a:b@example.com', 'feedAddress'],
    ['words', 'feedAddress'],
  ])('%s cannot be asked: %s', async (address, code) => {
    expect((await addressFault(address))?.code).toBe(code);
  });
});

describe('the feed of a workspace', () => {
  it('keeps its secret encrypted, bound to the workspace and the installation, and never shows it', async () => {
    (env() as { BM_FEED_PRIVATE: string }).BM_FEED_PRIVATE = '1';
    await keepFeed(w.id, { address: 'http://127.0.0.1:9', secret: 'very hush' }, 'x');
    const [row] = await inWorkspace(w.id, (tx) =>
      tx.select().from(feedTable).where(eq(feedTable.workspaceId, w.id)),
    );
    expect(row?.secret).not.toContain('hush');
    expect(await feedOf(w.id)).toMatchObject({ secret: 'very hush', ours: false });
    expect(await feedShown(w.id)).toEqual({ address: 'http://127.0.0.1:9', hasSecret: true });
    expect(opened(row?.secret ?? '', 'another workspace')).toBe(null);
    const text = sealed('a', w.id);
    expect(opened(`${text.slice(0, -4)}AAA=`, w.id)).toBe(null);
    expect(sealed('a', w.id)).not.toBe(text);
    // The secret stays with its address, and goes to no other.
    await keepFeed(w.id, { address: 'http://127.0.0.1:9', secret: null }, 'x');
    expect((await feedOf(w.id))?.secret).toBe('very hush');
    await keepFeed(w.id, { address: 'http://127.0.0.1:10', secret: null }, 'x');
    expect((await feedOf(w.id))?.secret).toBe(null);
    await keepFeed(w.id, null, 'x');
    expect(await feedOf(w.id)).toBe(null);
    (env() as { BM_FEED_PRIVATE: string }).BM_FEED_PRIVATE = '0';
    await expect(keepFeed(w.id, { address: 'http://127.0.0.1:9', secret: null }, 'x')).rejects.toMatchObject({
      reason: 'invalid',
    });
  });
});

describe('bringing watched markets up to date', () => {
  const followed = async (listing: string, search: string) => {
    const [id = ''] = await createCandidates(w.id, [someCandidate(w)], w.personId);
    await decide(w.id, id, { market: MARKET, change: { listing, search } }, w.personId);
    return id;
  };
  const run = async (asked: { candidateId?: string } = {}) => {
    const taskId = await inWorkspace(w.id, (tx) => storeTask(tx, w.id, 'watchMarkets', asked, 1, w.personId));
    while (await watchMarkets({ workspaceId: w.id, taskId }));
    return askedTask(w.id, taskId);
  };
  const kinds = async (id: string) =>
    (await inWorkspace(w.id, (tx) => marketsIn(tx, w.id, id))).markets[0]?.observations
      .map((o) => o.kind)
      .sort();
  beforeAll(() => keepFeed(w.id, { address: '', secret: null }, 'x'));
  it('asks for everything that is not known, and again only for what is due', async () => {
    const id = await followed('LT000008', 'Meisenknödel');
    expect(await run()).toMatchObject({ state: 'done', seen: 8, faults: [] });
    expect(await kinds(id)).toEqual([
      'bids',
      'complaints',
      'history',
      'offers',
      'permission',
      'rivals',
      'terms',
      'units',
    ]);
    expect(await run()).toMatchObject({ state: 'done', seen: 0 });
    // Asked for by hand, all is asked.
    expect((await run({ candidateId: id }))?.seen).toBe(8);
  });
  it('tells the gates of a candidate in its list, as of what was observed last', async () => {
    await saveSettings(w.id, (s) => ({
      ...s,
      evidenceHurdles: [{ figure: 'ownShopShare', bound: 'atMost', level: 0.01, near: 0 }],
    }));
    const id = await followed('LT000008', 'Meisenknödel');
    const gates = async () => (await loadWeighed(w.id))?.candidates.find((c) => c.row.id === id);
    // Of the listing another candidate follows already; of its own terms and rivals nothing is known yet.
    await run({ candidateId: id });
    const own = await gates();
    expect(own?.market?.gates.enterable).toMatchObject({ verdict: 'failed', figure: 'ownShopShare' });
    expect(own?.market?.gates.demanded).toEqual({ verdict: 'notLooked', figure: null, value: null });
    expect(gatesOf(own?.row.data as CandidateData, own?.best ?? null, own?.market ?? null).enterable).toBe(
      'failed',
    );
    const byHand = {
      ...own?.row.data,
      gates: { enterable: { passed: true, note: '' }, demanded: null, permitted: null },
    };
    expect(gatesOf(byHand as CandidateData, null, own?.market ?? null).enterable).toBe('passed');
    // Nothing moved: what stands is given again. Something is observed: it is worked out anew.
    const key = async () =>
      (
        await inWorkspace(w.id, (tx) =>
          tx.select({ s: watched.stored }).from(watched).where(eq(watched.candidateId, id)),
        )
      )[0]?.s?.key;
    const before = await key();
    await gates();
    expect(await key()).toBe(before);
    const closed = {
      market: MARKET,
      kind: 'permission' as const,
      value: { state: 'closed' },
      asOf: today(),
      source: 'typed',
      stated: true,
    };
    await observe(w.id, { candidateId: id, market: MARKET }, [closed], null);
    expect((await gates())?.market?.gates.permitted.verdict).toBe('failed');
    expect(await key()).not.toBe(before);
  });
  it('tells in the list what newer evidence than the lane holds would change, once it is there', async () => {
    const id = await followed('LT000009', 'Bienenhaus');
    await run({ candidateId: id });
    const line = async () => (await loadWeighed(w.id))?.candidates.find((c) => c.row.id === id);
    expect((await line())?.newer).toEqual([]);
    const sheet = await loadSheet(w.id, id);
    const [own] = sheet?.lanes ?? [];
    const put = (path: string[], from: unknown, to: unknown) => ({
      entity: 'lane' as const,
      id: own?.id ?? '',
      path,
      from,
      to,
    });
    const held = { source: 'evidence', date: '2026-01-02', note: 'now' };
    const saved = await savePatches(
      w.id,
      id,
      [put(['price'], own?.data.price ?? null, 1), put(['provenance', 'price'], null, held)] as never,
      w.personId,
      true,
    );
    expect(saved.ok).toBe(true);
    const first = await line();
    expect(first?.newer).toMatchObject([{ use: 'price', before: first?.best?.bar.figures.unitProfit }]);
    expect(first?.newer[0]?.after).toBeGreaterThan(first?.newer[0]?.before ?? 0);
    // It is stored, and worked out anew where the lane moves.
    expect((await line())?.newer).toEqual(first?.newer);
    const back = { ...held, date: today() };
    await savePatches(w.id, id, [put(['provenance', 'price'], held, back)] as never, w.personId, true);
    expect((await line())?.newer).toEqual([]);
    // The comparison of its lanes has the facts of the market.
    const compared = await loadComparison(w.id, id);
    expect(compared?.markets[MARKET]).toMatchObject({ rivals: expect.any(Number), permission: 'approval' });
    expect(await loadComparison((await makeWorkspace()).id, id)).toBe(null);
  });
  it('a feed that breaks the contract leaves what was known, and is told', async () => {
    const id = await followed('LT000007', 'Weidenbogen');
    await run({ candidateId: id });
    const before = await inWorkspace(w.id, (tx) => marketsIn(tx, w.id, id));
    await behave({ odd: true });
    const said = await run({ candidateId: id });
    expect(said).toMatchObject({ state: 'failed', seen: 0 });
    expect(said?.faults.map((f) => f.code)).toContain('feedBroke');
    expect(await inWorkspace(w.id, (tx) => marketsIn(tx, w.id, id))).toEqual(before);
  });
  it('says what has changed: a rival left, permission is another', async () => {
    const id = await followed('LT000010', '');
    const at = (kind: 'offers' | 'permission' | 'history', value: unknown) => ({
      market: MARKET,
      kind,
      value,
      asOf: '2026-01-02',
      source: 'feed',
      stated: true,
    });
    await observe(
      w.id,
      { candidateId: id, market: MARKET },
      [
        at('offers', { currency: 'EUR', list: [{ seller: 'Gone Ltd', price: 5 }] }),
        at('permission', { state: 'open' }),
        at('history', { currency: 'EUR', from: '2026-01-02', prices: '99999' }),
      ],
      null,
    );
    await run();
    const told = await inWorkspace(w.id, (tx) =>
      tx
        .select({ kind: notice.kind, data: notice.data, link: notice.link })
        .from(notice)
        .where(eq(notice.workspaceId, w.id)),
    );
    const own = told.filter((n) => n.link.includes(id));
    expect(own.map((n) => n.kind)).toEqual(expect.arrayContaining(['rivalLeft', 'permissionChanged']));
    expect(own.find((n) => n.kind === 'rivalLeft')?.data).toMatchObject({ seller: 'Gone Ltd', count: 1 });
    expect(own.find((n) => n.kind === 'permissionChanged')?.data).toMatchObject({
      before: 'open',
      after: 'closed',
    });
  });
  it('is cancelled between two chunks, and keeps what is done', async () => {
    const taskId = await inWorkspace(w.id, (tx) => storeTask(tx, w.id, 'watchMarkets', {}, 1, w.personId));
    await inWorkspace(w.id, (tx) => tx.update(task).set({ state: 'cancelled' }).where(eq(task.id, taskId)));
    expect(await watchMarkets({ workspaceId: w.id, taskId })).toBe(false);
    expect((await askedTask(w.id, taskId))?.state).toBe('cancelled');
  });
  it('is started by the clock once a day, where there is a feed, and once at a time', async () => {
    expect(await startDue(w.id)).toBe(null);
    await inWorkspace(w.id, (tx) =>
      tx
        .update(watched)
        .set({ askedAt: new Date(Date.now() - 25 * 3_600_000) })
        .where(eq(watched.workspaceId, w.id)),
    );
    const id = await startDue(w.id);
    expect(id).not.toBe(null);
    expect(await startDue(w.id)).toBe(null);
    const other = await makeWorkspace();
    expect(await startDue(other.id)).toBe(null);
  });
  it('without a feed it ends, and says so', async () => {
    await keepFeed(w.id, null, 'x');
    expect(await run()).toMatchObject({
      state: 'failed',
      faults: [{ code: 'feedNone' }, { code: 'feedNone' }],
    });
  });
});
