import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { CheckSession, ShelfCheck } from '../core/check/schema.ts';
import { checkSaid, laneOfCheck } from '../core/check/check.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { closeQueue } from './jobs/boss.ts';
import { startStandIn } from './testing/outside.ts';
import type { StandIn } from './testing/outside.ts';
import { makeWorkspace } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { loadSheet } from './use/candidates.ts';
import {
  candidatesOfChecks,
  checkKit,
  decideChecks,
  keepChecks,
  listOfSession,
  sessionOf,
  sessionsOf,
} from './use/checks.ts';
import { loadSetup } from './use/listSetup.ts';
import { needRoomForChecks } from './use/quotas.ts';
import { shelfSaid } from './use/shelf.ts';
import { settingsOf } from './use/workspaces.ts';

let w: TestWorkspace;
let other: TestWorkspace;
let standIn: StandIn;
const MARKET = 'Alderway/DE';
const GTIN = '9520000010010';
beforeAll(async () => {
  [standIn, w, other] = await Promise.all([startStandIn(), makeWorkspace(), makeWorkspace()]);
});
beforeEach(() => standIn.behave({}));
afterAll(async () => {
  standIn.stop();
  await Promise.all([closeDatabase(), closeQueue()]);
});

const sessionId = crypto.randomUUID();
const at = (minute: number): string => new Date(Date.UTC(2026, 10, 24, 9, minute)).toISOString();
const session = (over: Partial<CheckSession> = {}): CheckSession => ({
  id: sessionId,
  name: '',
  stretches: [{ from: at(0), to: null }],
  ended: false,
  changedAt: at(0),
  ...over,
});
async function check(over: Partial<ShelfCheck> = {}): Promise<ShelfCheck> {
  const kit = await checkKit(w.id);
  const market = kit?.markets.find((m) => m.key === MARKET);
  if (market === undefined) throw new Error('the market is there');
  return {
    id: crypto.randomUUID(),
    session: sessionId,
    at: at(1),
    changedAt: at(1),
    gtin: GTIN,
    name: 'Bee house',
    market: MARKET,
    cards: market.cards,
    listing: null,
    typed: { sides: [20, 10, 10], kg: 0.5, category: null },
    basis: 'typed',
    typedPrice: 39,
    shelf: 12,
    till: { currency: 'EUR', off: 0, coupon: 0, cashback: 0, salesTax: 0, vatRate: 0 },
    take: 2,
    boughtPack: 1,
    state: 'kept',
    reason: '',
    ...over,
  };
}
const send = (checks: readonly unknown[], sessions: readonly unknown[] = [session()]) =>
  keepChecks(w.id, { sessions, checks }, w.personId);
const kept = async () => (await sessionOf(w.id, sessionId))?.checks ?? [];

describe('keeping what a device sends', () => {
  it('once, however often and from however many hands it comes', async () => {
    const c = await check();
    const answers = await Promise.all([send([c]), send([c]), send([c])]);
    for (const a of answers) expect(a).toEqual({ sessions: [sessionId], checks: [c.id], refused: [] });
    expect((await kept()).filter((k) => k.id === c.id)).toHaveLength(1);
  });
  it('what came of it is reckoned here, by the very lane', async () => {
    const c = await check();
    await send([c]);
    const kit = await checkKit(w.id);
    if (kit === null) throw new Error('it is there');
    const doc = laneOfCheck(c, kit);
    if (doc === null) throw new Error('it is there');
    const said = checkSaid(doc, kit.settings.hurdles.retail ?? []);
    const own = (await kept()).find((k) => k.id === c.id);
    expect(own?.said.unitProfit).toBe(said.result.figures.unitProfit);
    expect(own?.said.verdict).toBe(said.verdict);
  });
  it('a later decision counts, an earlier one that comes late does not', async () => {
    const c = await check();
    await send([c]);
    await send([{ ...c, state: 'left', reason: 'Damaged', changedAt: at(5) }]);
    await send([{ ...c, reason: 'Too late', changedAt: at(3) }]);
    const own = (await kept()).find((k) => k.id === c.id);
    expect([own?.data.state, own?.data.reason]).toEqual(['left', 'Damaged']);
  });
  it('of two changes of one check in one sending the later counts', async () => {
    const c = await check();
    await send([
      { ...c, changedAt: at(9), reason: 'second' },
      { ...c, reason: 'first' },
    ]);
    expect((await kept()).find((k) => k.id === c.id)?.data.reason).toBe('second');
  });
  it('what cannot be kept is told with its reason, and the rest is kept', async () => {
    const [good, bad, lost] = [await check(), await check(), await check()];
    const { checks: taken, refused } = await send([
      good,
      { ...bad, take: 0 },
      { ...lost, cards: { ...lost.cards, marketplace: 'of nobody' } },
      'nonsense',
    ]);
    expect(taken).toContain(good.id);
    expect(refused.map((r) => [r.id, r.fault.code])).toEqual([
      [bad.id, 'checkUnfit'],
      ['', 'checkUnfit'],
      [lost.id, 'checkNoCard'],
    ]);
    expect((await kept()).some((k) => k.id === bad.id || k.id === lost.id)).toBe(false);
  });
  it('cards of another workspace are not taken', async () => {
    const theirs = (await checkKit(other.id))?.markets.find((m) => m.key === MARKET);
    if (theirs === undefined) throw new Error('it is there');
    const { refused } = await send([await check({ cards: theirs.cards })]);
    expect(refused[0]?.fault.code).toBe('checkNoCard');
  });
  it('a session changes with the later word, and belongs to whoever walked', async () => {
    const id = crypto.randomUUID();
    const own = session({ id, changedAt: at(3), stretches: [{ from: at(0), to: at(3) }] });
    await send([], [own]);
    await send([], [session({ id, changedAt: at(1) })]);
    await keepChecks(
      w.id,
      { sessions: [session({ id, changedAt: at(9), name: 'mine now' })], checks: [] },
      'somebody',
    );
    expect((await sessionOf(w.id, id))?.session).toMatchObject({ changedAt: at(3), name: '' });
    const line = (await sessionsOf(w.id)).find((l) => l.session.id === sessionId);
    expect(line?.checked).toBeGreaterThan(2);
    expect(await sessionOf(other.id, id)).toBeNull();
  });
});

it('a workspace that has all it may have takes no more, and says so', async () => {
  await send([await check()]);
  const full = inWorkspace(w.id, (tx) => needRoomForChecks(tx, w.id, 1));
  await expect(full).rejects.toMatchObject({ fault: { code: 'quotaChecks', detail: { most: 1 } } });
  await inWorkspace(other.id, (tx) => needRoomForChecks(tx, other.id, 1));
});

describe('what becomes of checks', () => {
  it('a candidate, bought as at the shelf, once', async () => {
    const c = await check({ gtin: '9520000010027', name: 'Nest box' });
    await send([c]);
    const [id] = await candidatesOfChecks(w.id, [c.id], () => 'Seen at a shelf', w.personId);
    expect(await candidatesOfChecks(w.id, [c.id], () => 'again', w.personId)).toEqual([id]);
    const sheet = await loadSheet(w.id, id ?? '');
    expect(sheet?.candidate.data).toMatchObject({ name: 'Nest box', way: 'retail', gtin: c.gtin });
    expect(sheet?.quotes[0]?.data).toMatchObject({ kind: 'retail', shelfPrice: 12 });
    expect(sheet?.lanes[0]?.data).toMatchObject({ price: 39, orderQuantity: 2 });
    // What became a candidate is decided.
    await send([{ ...c, state: 'left', changedAt: at(50) }]);
    expect((await kept()).find((k) => k.id === c.id)?.data.state).toBe('kept');
    const known = await shelfSaid(
      w.id,
      null,
      (await settingsOf(w.id)) as never,
      ask({ gtin: c.gtin }),
      signal(),
    );
    expect(known.candidate).toEqual({ id, name: 'Nest box' });
  });
  it('kept ones become a list that reads back', async () => {
    const own = crypto.randomUUID();
    const [a, b] = [await check({ session: own }), await check({ session: own, state: 'left' })];
    await send([a, b], [session({ id: own })]);
    const id = await listOfSession(w.id, own, 'Finds', w.personId);
    const set = await loadSetup(w.id, id, null);
    expect(set?.list.name).toBe('Finds');
    expect(Object.keys(set?.map.columns ?? {}).sort()).toEqual([
      'brand',
      'cost',
      'identifier',
      'price',
      'title',
      'units',
    ]);
    expect(set?.sheets[0]?.rows).toHaveLength(2);
  });
  it('is decided anew', async () => {
    const c = await check();
    await send([c]);
    await decideChecks(w.id, [c.id], { state: 'left', reason: 'Seen cheaper' });
    await decideChecks(other.id, [c.id], { state: 'kept', reason: 'not mine' });
    expect((await kept()).find((k) => k.id === c.id)?.data).toMatchObject({
      state: 'left',
      reason: 'Seen cheaper',
    });
  });
});

const signal = (): AbortSignal => new AbortController().signal;
const ask = (over: object) => ({ market: MARKET, gtin: null, code: null, words: null, ...over });
const feed = () => ({ base: `${standIn.url}/feed`, secret: null, ours: true });
const shelf = async (over: object) =>
  shelfSaid(w.id, feed(), (await settingsOf(w.id)) as never, ask(over), signal());

describe('what is known at the shelf', () => {
  it('listings of a barcode, the fastest first, with the figures of their pages', async () => {
    const said = await shelf({ gtin: GTIN });
    expect(said.faults).toEqual([]);
    const [first] = said.listings;
    expect(first?.prices.now).toBeGreaterThan(0);
    expect(first?.prices.mean90).toBeGreaterThan(0);
    expect(first).toMatchObject({ source: 'feed', permission: expect.any(String) });
    const units = said.listings.map((l) => l.units ?? -1);
    expect(units).toEqual([...units].sort((x, y) => y - x));
  });
  it('by a listing’s code, and by words where it is none', async () => {
    const code = (await shelf({ gtin: GTIN })).listings[0]?.code ?? '';
    expect((await shelf({ code })).listings.map((l) => l.code)).toEqual([code]);
    const words = await shelf({ code: 'bienenhaus2' });
    expect(words.faults).toEqual([]);
    expect((await shelf({ words: 'bienenhaus' })).listings.length).toBeGreaterThan(1);
  });
  it('a feed that fails leaves what the workspace knows, and says so', async () => {
    await standIn.behave({ failNext: 50 });
    const said = await shelf({ gtin: GTIN });
    expect(said.listings).toEqual([]);
    expect(said.faults.length).toBeGreaterThan(0);
  });
});
