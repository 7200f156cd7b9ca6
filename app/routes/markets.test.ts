/** The routes of evidence and of searching a market as a browser uses them, on a real database and the stand-in. */
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { closeDatabase } from '../../server/db/client.ts';
import { closeQueue } from '../../server/jobs/boss.ts';
import { startStandIn } from '../../server/testing/outside.ts';
import type { StandIn } from '../../server/testing/outside.ts';
import { saidBy, signedIn } from '../../server/testing/people.ts';
import type { Said } from '../../server/testing/people.ts';
import { makeWorkspace, someCandidate } from '../../server/testing/workspaces.ts';
import type { TestWorkspace } from '../../server/testing/workspaces.ts';
import { createCandidates, loadSheet } from '../../server/use/candidates.ts';
import { loadComparison, removeLanes } from '../../server/use/lanes.ts';
import { loadMarkets } from '../../server/use/keptMarkets.ts';
import { marksOfMarket } from '../../server/use/listingMarks.ts';
import { loadWeighed } from '../../server/use/weigh.ts';
import type { FileLook } from '../features/market/fileLook.ts';
import { loader as listing } from './findListing.tsx';
import { action as found, loader as find } from './findMarket.tsx';
import { loader as market } from './market.tsx';
import { action as act } from './marketAct.ts';
import { action as ask, loader as asked } from './marketAsk.ts';
import { loader as marketData } from './marketData.ts';
import { loader as earlier } from './marketEarlier.ts';
import { action as file } from './marketFile.ts';
import { action as feed } from './settingsFeed.ts';

const MARKET = 'Alderway/DE';
let standIn: StandIn;
let mine: TestWorkspace;
let id: string;
let owner: string;
let editor: string;
let viewer: string;
let stranger: string;
beforeAll(async () => {
  standIn = await startStandIn();
  mine = await makeWorkspace();
  [id = ''] = await createCandidates(mine.id, [someCandidate(mine)], mine.personId);
  [owner, editor, viewer, stranger] = (
    await Promise.all([
      signedIn(mine.id, 'owner'),
      signedIn(mine.id, 'editor'),
      signedIn(mine.id, 'viewer'),
      signedIn(null),
    ])
  ).map((p) => p.cookie) as [string, string, string, string];
});
beforeEach(() => standIn.behave({}));
afterAll(async () => {
  standIn.stop();
  await Promise.all([closeDatabase(), closeQueue()]);
});

type Route = (args: never) => unknown;
type Sending = { cookie: string; body?: BodyInit | object; search?: string; candidate?: string };
function send(route: Route, { cookie, body, search = '', candidate = id }: Sending): Promise<Said> {
  const plain = body instanceof FormData || typeof body === 'string' || body === undefined;
  const request = new Request(`http://127.0.0.1:4300/w/${mine.slug}/x${search}`, {
    ...(body === undefined
      ? {}
      : { method: 'POST', body: plain ? (body as BodyInit) : JSON.stringify(body) }),
    headers: { cookie, ...(plain ? {} : { 'content-type': 'application/json' }) },
  });
  return saidBy(() => route({ request, params: { workspace: mine.slug, candidate } } as never));
}
const status = async (route: Route, sending: Sending): Promise<number> => (await send(route, sending)).status;

describe('who may come through these doors', () => {
  const form = (): FormData => {
    const body = new FormData();
    for (const [k, v] of Object.entries({
      kind: 'offers',
      market: MARKET,
      currency: 'EUR',
      text: 'Price\n9',
    }))
      body.set(k, v);
    return body;
  };
  const doors = (): [string, Route, Omit<Sending, 'cookie'>][] => [
    ['market', market, {}],
    ['data', marketData, {}],
    ['earlier', earlier, { search: `?market=${MARKET}&kind=offers` }],
    ['find', find, {}],
    ['listing', listing, { search: `?market=${MARKET}&code=LT000001` }],
    ['asked', asked, { search: '?task=none' }],
    ['act', act, { body: { intent: 'decide', market: MARKET, change: { match: 'broad' } } }],
    ['file', file, { body: form() }],
    ['ask', ask, { body: { market: MARKET } }],
    ['found', found, { body: {} }],
    ['feed', feed, { body: { feed: null } }],
  ];
  const looks = ['market', 'data', 'earlier', 'find', 'listing', 'asked'];
  it('a stranger is let in nowhere, and somebody who is not signed in is sent to sign in', async () => {
    for (const [name, route, sending] of doors()) {
      expect([name, await status(route, { cookie: stranger, ...sending })]).toEqual([name, 404]);
      expect([302, 401]).toContain(await status(route, { cookie: '', ...sending }));
    }
  });
  it('whoever may only look looks, and changes nothing; the feed is the owner’s', async () => {
    for (const [name, route, sending] of doors())
      expect([name, await status(route, { cookie: viewer, ...sending })]).toEqual([
        name,
        looks.includes(name) ? 200 : 403,
      ]);
    expect(await status(feed, { cookie: editor, body: { feed: null } })).toBe(403);
  });
  it('a candidate that is not there is not there', async () => {
    expect(await status(market, { cookie: editor, candidate: 'nowhere' })).toBe(404);
    const change = { intent: 'decide', market: MARKET, change: { match: 'broad' } };
    expect(await status(act, { cookie: editor, candidate: 'nowhere', body: change })).toBe(404);
    expect((await send(marketData, { cookie: editor, candidate: 'nowhere' })).status).toBe(200);
  });
});

describe('a candidate without any country', () => {
  it('has no market, and says so without failing', async () => {
    const [bare = ''] = await createCandidates(
      mine.id,
      [someCandidate(mine, { name: 'Bare' })],
      mine.personId,
    );
    const sheet = await loadSheet(mine.id, bare);
    await removeLanes(
      mine.id,
      bare,
      (sheet?.lanes ?? []).map((l) => l.id),
    );
    const said = await send(market, { cookie: editor, candidate: bare });
    expect([said.status, said.body]).toMatchObject([200, { markets: [], state: { lanes: [] } }]);
    const line = (await loadWeighed(mine.id))?.candidates.find((c) => c.row.id === bare);
    expect(line).toMatchObject({ best: null, market: null, newer: [], laneCount: 0 });
    expect((await loadComparison(mine.id, bare))?.markets).toEqual({});
  });
});

describe('what is said and decided about a market', () => {
  const kept = async () =>
    (await loadMarkets(mine.id, id, MARKET)).markets[0] ?? { observations: [], watch: null };
  const observed = (over: object) => ({
    intent: 'observe',
    market: MARKET,
    kind: 'permission',
    asOf: '2026-01-05',
    stated: true,
    value: { state: 'approval', by: 'documents' },
    ...over,
  });
  it('is kept, told among the earlier ones, taken back and put back', async () => {
    expect(await status(act, { cookie: editor, body: observed({}) })).toBe(200);
    expect((await kept()).observations[0]).toMatchObject({
      kind: 'permission',
      asOf: '2026-01-05',
      source: 'typed',
    });
    const said = await send(earlier, { cookie: viewer, search: `?market=${MARKET}&kind=permission` });
    const { earlier: list } = (await (said.body as Response).json()) as { earlier: { id: string }[] };
    expect(list).toMatchObject([{ gist: { state: 'approval' }, takenBack: false }]);
    const own = list[0]?.id ?? '';
    await send(act, { cookie: editor, body: { intent: 'takeBack', id: own, back: true } });
    expect((await kept()).observations).toEqual([]);
    await send(act, { cookie: editor, body: { intent: 'takeBack', id: own, back: false } });
    expect((await kept()).observations).toHaveLength(1);
  });
  it('what does not fit is refused with its field, and nothing of it is kept', async () => {
    const before = await kept();
    const wrong: [object | string, RegExp][] = [
      ['not json', /./],
      [{ intent: 'fly' }, /intent/],
      [observed({ asOf: 'soon' }), /asOf/],
      [observed({ asOf: '2199-01-01' }), /2199|future/i],
      [observed({ value: { state: 'perhaps' } }), /state/],
      [observed({ kind: 'weather' }), /kind/],
      [{ intent: 'decide', market: '', change: {} }, /market/],
      [{ intent: 'decide', market: MARKET, change: { band: 7 } }, /band/],
      [{ intent: 'decide', market: MARKET, change: { variations: { S: { cost: -1 } } } }, /cost/],
    ];
    for (const [body, names] of wrong) {
      const said = await send(act, { cookie: editor, body });
      expect([JSON.stringify(body), said.status]).toEqual([JSON.stringify(body), 422]);
      expect((said.body as { error: string }).error).toMatch(names);
    }
    expect(await kept()).toEqual(before);
  });
  it('own cost and stock of variations are kept one by one', async () => {
    const decide = (variations: object) =>
      send(act, { cookie: editor, body: { intent: 'decide', market: MARKET, change: { variations } } });
    await Promise.all([decide({ S: { cost: 4, stock: 10 } }), decide({ L: { cost: null, stock: 3 } })]);
    await decide({ S: { cost: 5, stock: 10 } });
    expect((await kept()).watch?.variations).toEqual({
      S: { cost: 5, stock: 10 },
      L: { cost: null, stock: 3 },
    });
  });
});

describe('files of evidence', () => {
  const form = (over: Record<string, string | Blob>): FormData => {
    const body = new FormData();
    const all = { kind: 'units', market: MARKET, currency: 'EUR', asOf: '2026-11-01', ...over };
    for (const [k, v] of Object.entries(all)) {
      if (typeof v === 'string') body.set(k, v);
      else body.set(k, v, 'units.csv');
    }
    return body;
  };
  const rows = 'Month,Units,Name,Ratings\n2026-08,120,,\n,,Small,30\n,,Large,many\n';
  it('are looked at first, row by row with the remedy, and kept on demand with their name', async () => {
    const look = (await send(file, { cookie: editor, body: form({ text: rows }) })).body as FileLook;
    expect(look).toMatchObject({ kept: false, good: 2, faultCount: 1, stops: [] });
    expect(look.faults[0]).toMatchObject({ row: 4, column: 'ratings' });
    const given = new Blob([rows], { type: 'text/csv' });
    const kept = await send(file, { cookie: editor, body: form({ file: given, take: 'keep' }) });
    expect(kept.body).toMatchObject({ kept: true, good: 2 });
    const [own] = (await loadMarkets(mine.id, id, MARKET)).markets;
    expect(own?.observations.find((o) => o.kind === 'units')).toMatchObject({
      source: 'file:units.csv',
      value: {
        unitsByMonth: [{ month: '2026-08', value: 120 }],
        variations: [{ name: 'Small', ratings: 30 }],
      },
    });
  });
  it('that say nothing, or that nobody can read, are refused and change nothing', async () => {
    const before = await loadMarkets(mine.id, id, MARKET);
    const refused: [Record<string, string | Blob>, RegExp][] = [
      [{ text: '', take: 'keep' }, /./],
      [{ text: 'Colour\nred', take: 'keep' }, /./],
      [{ kind: 'weather', text: rows }, /kind/],
      [{ currency: 'euro', text: rows }, /currency/],
      [{ asOf: 'today', text: rows }, /asOf/],
      [{ map: '{"columns":5}', text: rows }, /map/],
    ];
    for (const [over, names] of refused) {
      const said = await send(file, { cookie: editor, body: form(over) });
      expect([JSON.stringify(over), said.status]).toEqual([JSON.stringify(over), 422]);
      expect((said.body as { error: string }).error).toMatch(names);
    }
    expect(await loadMarkets(mine.id, id, MARKET)).toEqual(before);
  });
});

describe('the feed and what is searched in it', () => {
  type Found = {
    hasFeed: boolean;
    found: { listings: { listing: string }[]; total: number } | null;
    wrong: string | null;
  };
  const search = async (query: string, cookie = editor): Promise<Found & { marks: object[] }> =>
    (await send(find, { cookie, search: `?${query}` })).body as never;
  it('without one there is nothing to ask, and asking says so', async () => {
    expect(await search('words=bee')).toMatchObject({ hasFeed: false, found: null, wrong: null });
    const said = await send(ask, { cookie: editor, body: { market: MARKET } });
    expect([said.status, (said.body as { error: string }).error]).toEqual([
      422,
      expect.stringMatching(/feed/i),
    ]);
    expect(
      (await send(listing, { cookie: editor, search: `?market=${MARKET}&code=LT000001` })).body,
    ).toMatchObject({ said: null, wrong: [] });
  });
  it('it is set by the owner and asked at once; an address of the own network is refused', async () => {
    const set = (own: object | null) => send(feed, { cookie: owner, body: { feed: own } });
    expect((await set({ address: 'http://127.0.0.1:1/feed', secret: null })).status).toBe(422);
    expect((await set({ address: 'not an address', secret: null })).status).toBe(422);
    expect((await set({ address: '', secret: null })).body).toMatchObject({ markets: 21, wrong: null });
    await standIn.behave({ failNext: 100 });
    expect((await set({ address: '', secret: null })).body).toMatchObject({
      markets: null,
      wrong: expect.any(String),
    });
  });
  it('finds by words and limits, page by page; what is no limit counts as none', async () => {
    const all = await search(`market=${MARKET}&words=bienenhaus`);
    // Forty to a page; some stand in a paid place besides.
    expect(all.found?.listings.length).toBeGreaterThanOrEqual(40);
    const some = await search(`market=${MARKET}&words=bienenhaus&priceTo=20&reviewsFrom=abc&brand=`);
    expect(some.found?.total).toBeLessThan(all.found?.total ?? 0);
    expect(some.found?.total).toBeGreaterThan(0);
    for (const l of some.found?.listings ?? [])
      expect((l as unknown as { price: number }).price).toBeLessThanOrEqual(20);
    const next = await search(`market=${MARKET}&words=bienenhaus&cursor=40`);
    expect(next.found?.listings[0]?.listing).not.toBe(all.found?.listings[0]?.listing);
    expect((await search(`market=${MARKET}&list=rising`)).found?.listings.length).toBe(40);
    expect((await search(`market=${MARKET}`)).found).toBe(null);
  });
  it('a feed that fails or breaks the contract is said, and nothing is shown of it', async () => {
    for (const how of [{ failNext: 100 }, { odd: true }]) {
      await standIn.behave(how);
      expect(await search(`market=${MARKET}&words=bienenhaus`)).toMatchObject({
        found: null,
        wrong: expect.any(String),
      });
      const said = (await send(listing, { cookie: editor, search: `?market=${MARKET}&code=LT000001` })).body;
      expect(said).toMatchObject({ said: null, wrong: [expect.any(String)] });
    }
  });
  it('a listing comes with offers, permission, barcode, neighbours and terms', async () => {
    const { said } = (await send(listing, { cookie: viewer, search: `?market=${MARKET}&code=LT000001` }))
      .body as {
      said: {
        listing: { category: string; rank: number };
        neighbours: { listing: string; category: string; rank: number }[];
        terms: object[];
      };
    };
    expect(said).toMatchObject({
      listing: { listing: 'LT000001' },
      row: { listing: 'LT000001', paid: false },
      offers: { offers: expect.any(Array) },
      permission: { state: expect.any(String) },
    });
    expect(said.terms.length).toBeGreaterThan(0);
    for (const n of said.neighbours) {
      expect([n.listing, n.category]).not.toContain('LT000001');
      expect(n.category).toBe(said.listing.category);
      expect(n.rank).toBeGreaterThanOrEqual(Math.ceil(said.listing.rank / 2));
      expect(n.rank).toBeLessThanOrEqual(2 * said.listing.rank);
    }
    const none = (await send(listing, { cookie: viewer, search: `?market=${MARKET}&code=NOWHERE` })).body;
    expect(none).toMatchObject({ said: null, wrong: [expect.any(String)] });
  });
  it('rows are shortlisted, dropped and taken back; what was decided is listed as it stood', async () => {
    const { found: page } = await search(`market=${MARKET}&words=bienenhaus`);
    const [a, b] = page?.listings ?? [];
    const mark = (rows: unknown[], state: string | null, reason = '') =>
      send(found, {
        cookie: editor,
        body: {
          what: 'mark',
          marks: { market: MARKET, currency: 'EUR', asOf: '2026-11-28', rows, state, reason },
        },
      });
    expect((await mark([a, b], 'shortlisted')).status).toBe(200);
    expect((await mark([b], 'dropped', ' too heavy ')).status).toBe(200);
    expect(await marksOfMarket(mine.id, MARKET)).toMatchObject([
      { state: 'dropped', reason: 'too heavy', row: { listing: b?.listing } },
      { state: 'shortlisted', reason: '', row: { listing: a?.listing } },
    ]);
    expect((await search(`market=${MARKET}&list=shortlisted`)).found?.listings).toEqual([a]);
    expect((await search(`market=${MARKET}&list=dropped`, viewer)).found?.listings).toEqual([b]);
    expect(await mark([a], null)).toMatchObject({ status: 200 });
    expect((await search(`market=${MARKET}&list=shortlisted`)).found).toBe(null);
    // Another workspace has decided nothing.
    const other = await makeWorkspace();
    expect(await marksOfMarket(other.id, MARKET)).toEqual([]);
    for (const bad of [
      mark([], 'dropped'),
      mark([{ listing: '' }], 'dropped'),
      mark([a], 'kept'),
      mark(
        Array.from({ length: 201 }, () => a),
        'dropped',
      ),
      mark([a], 'dropped', 'x'.repeat(501)),
    ])
      expect((await bad).status).toBe(422);
  });
  it('one is kept as a candidate that follows it, once, however often it is pressed', async () => {
    const { found: page } = await search(`market=${MARKET}&words=bienenhaus&sort=price`);
    const row = page?.listings[0];
    const { name: _, ...candidate } = someCandidate(mine);
    const keep = () =>
      send(found, {
        cookie: editor,
        body: {
          what: 'keep',
          kept: {
            market: MARKET,
            currency: 'EUR',
            asOf: '2026-11-28',
            row,
            search: 'bienenhaus',
            candidate: { ...candidate, name: 'Found' },
          },
        },
      });
    // Three hands at once, and one that comes later.
    const all3 = await Promise.all([keep(), keep(), keep()]);
    const where = all3[0]?.headers.get('location') ?? '';
    expect(where).toMatch(/\/weigh\/.+\/market$/);
    for (const said of [...all3, await keep()]) expect(said.headers.get('location')).toBe(where);
    const all = (await loadWeighed(mine.id))?.candidates.filter((c) => c.row.data.name === 'Found');
    expect(all).toHaveLength(1);
    const [followed] = (await loadMarkets(mine.id, all?.[0]?.row.id ?? '', MARKET)).markets;
    expect(followed?.watch).toMatchObject({ listing: row?.listing, search: 'bienenhaus' });
    expect((await search(`market=${MARKET}&words=bienenhaus`)).marks).toContainEqual(
      expect.objectContaining({ listing: row?.listing, state: 'kept', candidateId: all?.[0]?.row.id }),
    );
  });
  it('one market is asked about now; how far it is can be asked', async () => {
    const started = await send(ask, { cookie: editor, body: { market: MARKET } });
    const { task } = started.body as { task: string };
    const said = await send(asked, { cookie: viewer, search: `?task=${task}` });
    expect(await (said.body as Response).json()).toMatchObject({ over: false, seen: 0, wrong: [] });
    expect((await send(ask, { cookie: editor, body: { market: '' } })).status).toBe(422);
    const gone = await send(asked, { cookie: viewer, search: '?task=nowhere' });
    expect(await (gone.body as Response).json()).toMatchObject({ over: true });
  });
});
