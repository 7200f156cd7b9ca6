import { describe, expect, it } from 'vitest';
import { marketplaceCardOf, taxCardOf } from '../testing/documents.ts';
import { marketplaceCard, taxCard } from '../cards/rates.ts';
import { evaluate } from '../lane/evaluate.ts';
import { WAYS } from '../lane/choices.ts';
import type { Way } from '../lane/choices.ts';
import { crossesCustoms } from '../tax/countries.ts';
import { newLane } from './newLane.ts';
import { inverse, patched, samePlace, valueAt, withValueAt } from './patch.ts';
import type { Patch } from './patch.ts';
import { candidateData, quoteSource } from './records.ts';
import { composeLane } from './compose.ts';
import { settings as settingsSchema } from './settings.ts';
import { bestLane, completeness, gatesOf, planOf, summarise } from './summary.ts';
import { conversionsIn, weighLine } from './weighLine.ts';
import type { WeighLine } from './weighLine.ts';
import type { LaneSummary } from './summary.ts';

const settings = settingsSchema.parse({});
const exchange = { date: '2026-11-20', base: 'EUR', rates: { PLN: 4, USD: 1.25 }, source: '' };
const card = marketplaceCard.parse({
  ...marketplaceCardOf([{ upTo: null, pct: 0.1 }]),
  warehouse: {
    tiers: [{ name: 'any', bands: [{ upToPrice: null, table: { steps: [{ upToKg: 30, fee: 3 }] } }] }],
  },
  storage: { perM3Month: Array(12).fill(20) },
});
const ask = (way: Way, over: object = {}) => ({
  way,
  settings,
  country: 'DE',
  currency: 'EUR',
  marketplace: card,
  exchange,
  cards: { marketplace: 'm', tax: 't', exchange: 'x' },
  origin: null,
  price: 20,
  quoteId: 'q',
  today: '2026-11-24',
  ...over,
});
const candidate = (way: Way, over: object = {}) =>
  candidateData.parse({
    name: 'Frog shelter',
    way,
    product: { sides: [20, 15, 10], kg: 0.5, category: 'any' },
    ...over,
  });
const cards = { m: card, t: taxCard.parse(taxCardOf('inclusive', 0.19)), x: exchange };
const source = quoteSource.parse({
  kind: 'quote',
  currency: 'EUR',
  incoterm: 'FOB',
  priceBreaks: [{ minQty: 0, unitPrice: 5 }],
  leadDays: 30,
});
const compose = (way: Way, over: object = {}, lane: object = {}) =>
  composeLane({
    candidate: candidate(way),
    lane: { ...newLane(ask(way, over)), ...lane },
    quotes: { q: source },
    cards,
    homeCurrency: 'EUR',
    standings: { DE: { kind: 'registered' } },
    today: '2026-11-24',
  });

describe('a new lane by defaults', () => {
  it.each(WAYS)('%s: every default taken is marked so, and what was typed is not', (way) => {
    const lane = newLane(ask(way));
    expect(lane.provenance.price).toBeUndefined();
    for (const said of Object.values(lane.provenance))
      expect(said).toEqual({ source: 'default', date: '2026-11-24', note: '' });
    expect(evaluate(compose(way)).problems).toEqual([]);
  });
  it('has what its way of working needs and nothing else', () => {
    expect(newLane(ask('supplierShips'))).toMatchObject({
      method: 'supplierShips',
      route: 'none',
      prep: 'none',
      storage: 'none',
      orderQuantity: null,
    });
    // What the supplier takes to send it is blank where no postage is set: it is no 0.
    const open = newLane(
      ask('supplierShips', {
        settings: { ...settings, defaults: { ...settings.defaults, postagePerParcel: null } },
      }),
    );
    expect([open.supplierDelivery, open.provenance.supplierDelivery]).toEqual([null, undefined]);
    expect(newLane(ask('feeCheck'))).toMatchObject({
      route: 'none',
      prep: 'none',
      returns: 'none',
      adverts: 'none',
      orderQuantity: 1,
    });
    expect(newLane(ask('retail'))).toMatchObject({ orderQuantity: 10, adverts: 'none' });
    expect(newLane(ask('ownBrand'))).toMatchObject({
      imported: true,
      adverts: { adShare: settings.defaults.adShare },
    });
    expect(newLane(ask('ownBrand', { marketplace: { ...card, warehouse: null } })).method).toBe(
      'ownDispatch',
    );
  });
  it('a default left empty leaves its line blank', () => {
    const bare = settingsSchema.parse({
      defaults: { prep: null, returnRate: null, clickLow: null, monthlyUnits: null, orderQuantity: null },
    });
    expect(newLane(ask('ownBrand', { settings: bare }))).toMatchObject({
      prep: null,
      returns: null,
      adverts: null,
      demand: null,
      orderQuantity: null,
    });
  });
  it('clicks come in the sales currency; without a rate they stay blank', () => {
    const lane = newLane(ask('ownBrand', { currency: 'PLN' }));
    expect(lane.adverts).toMatchObject({ keywords: [{ low: 1.4, high: 2.6 }] });
    expect(newLane(ask('ownBrand', { currency: 'PLN', exchange: null })).adverts).toBeNull();
  });
  it('customs: across the border of the union, not within it', () => {
    expect([
      crossesCustoms('CN', 'DE'),
      crossesCustoms('PL', 'DE'),
      crossesCustoms('DE', 'DE'),
      crossesCustoms('DE', 'GB'),
      crossesCustoms('GB', 'US'),
    ]).toEqual([true, false, false, true, true]);
    expect(newLane(ask('ownBrand', { origin: 'PL' })).imported).toBe(false);
  });
});

describe('a lane document put together', () => {
  it('takes standing and category from the lane before those of the workspace and the product', () => {
    expect(compose('ownBrand').standing).toEqual({ kind: 'registered' });
    expect(compose('ownBrand', {}, { standing: { kind: 'notRegistered' }, category: 'other' })).toMatchObject(
      { standing: { kind: 'notRegistered' }, product: { category: 'other' } },
    );
    expect(compose('ownBrand', {}, { country: 'FR' }).standing).toBeNull();
  });
  it('has blank goods without a quote, none where so said, no card where it is gone', () => {
    expect(compose('ownBrand', { quoteId: null }).goods).toBeNull();
    expect(compose('ownBrand', {}, { noGoods: true }).goods).toBe('none');
    expect(compose('ownBrand', {}, { marketplaceCardId: 'gone', taxCardId: null }).rates).toMatchObject({
      marketplace: null,
      tax: null,
    });
  });
});

describe('summaries and gates', () => {
  const docAt = (price: number, over: object) => ({ ...compose('wholesale', { price }), ...over });
  const summary = (price: number, over: object = {}): LaneSummary =>
    summarise(
      docAt(price, over),
      settings.hurdles.wholesale ?? [],
      planOf(candidate('wholesale'), { ...settings.launch, cash: 2000, reserve: 0 }),
    );
  const line = (price: number, over: object = {}): WeighLine =>
    weighLine(docAt(price, over), summary(price, over));
  it('the best lane keeps most; a whole result comes before an incomplete one', () => {
    expect(bestLane([summary(18), summary(25), summary(12)])).toBe(1);
    expect(bestLane([summary(18), summary(40, { returns: null })])).toBe(0);
    expect(bestLane([])).toBe(-1);
  });
  it('the rates of several lines stand once each', () => {
    const [a, b] = [line(18), line(25)];
    const rate = { from: 'SEK', to: 'EUR', factor: 0.09, date: '2026-11-20', days: 4 };
    expect(conversionsIn([a, b])).toEqual([]);
    expect(
      conversionsIn([
        { ...a, conversions: [rate] },
        { ...b, conversions: [rate] },
      ]),
    ).toEqual([rate]);
  });
  it('affordable and profitable are computed, the others as ticked', () => {
    const c = candidate('wholesale', {
      gates: {
        demanded: { passed: true },
        enterable: { passed: false, note: 'one brand owns the page' },
        permitted: null,
      },
    });
    expect(gatesOf(c, line(30))).toEqual({
      affordable: 'passed',
      demanded: 'passed',
      enterable: 'failed',
      profitable: 'passed',
      permitted: 'open',
    });
    expect(gatesOf(c, line(9)).profitable).toBe('failed');
    expect(gatesOf(c, line(30, { returns: null })).profitable).toBe('open');
    expect(gatesOf(c, null)).toMatchObject({ affordable: 'open', profitable: 'open' });
    expect(gatesOf(c, line(30, { orderQuantity: 1000 })).affordable).toBe('failed');
  });
  it('a candidate has its own launch plan, the workspace the cash', () => {
    const own = { ...settings.launch, contingency: 0.2, cash: 1, reserve: 1 };
    expect(
      planOf(candidate('wholesale', { launch: own }), { ...settings.launch, cash: 900, reserve: 100 }),
    ).toMatchObject({ contingency: 0.2, cash: 900, reserve: 100 });
  });
});

describe('patches', () => {
  const p = (path: (string | number)[], from: unknown, to: unknown): Patch => ({
    entity: 'lane',
    id: 'l',
    path,
    from,
    to,
  });
  it('change one place and share the rest', () => {
    const root = { a: { b: [1, 2, 3] }, c: { d: 1 } };
    const next = withValueAt(root, ['a', 'b', 1], 9);
    expect([next, root.a.b]).toEqual([{ a: { b: [1, 9, 3] }, c: { d: 1 } }, [1, 2, 3]]);
    expect(next.c).toBe(root.c);
    expect([
      valueAt(root, ['a', 'b', 2]),
      valueAt(root, ['a', 'x', 'y']),
      valueAt(root, ['a', 'constructor']),
    ]).toEqual([3, undefined, undefined]);
  });
  it('reach no prototype', () => {
    for (const key of ['__proto__', 'constructor', 'prototype'])
      expect(() => withValueAt({}, [key, 'x'], 1)).toThrow(/No such field/);
  });
  it('undo themselves, the note of a source included', () => {
    const root = { price: 20, provenance: {} };
    const edits = [p(['price'], 20, 25), p(['provenance', 'price'], null, { source: 'typed' })];
    const edited = edits.reduce((r, e) => patched(r, e), root);
    expect(
      edits
        .map(inverse)
        .reverse()
        .reduce((r, e) => patched(r, e), edited),
    ).toEqual(root);
    expect(patched({ returns: { rate: 1 } }, p(['returns'], {}, null))).toEqual({ returns: null });
  });
  it('are about the same place or not', () => {
    expect([
      samePlace(p(['a', 1], 0, 1), p(['a', 1], 5, 6)),
      samePlace(p(['a', 1], 0, 1), p(['a', 2], 0, 1)),
      samePlace(p(['a'], 0, 1), { ...p(['a'], 0, 1), id: 'k' }),
    ]).toEqual([true, false, false]);
  });
});

describe('how much of a lane is known', () => {
  it('counts the lines there are: one that does not apply is neither known nor missing', () => {
    const doc = compose('wholesale', { price: 20 });
    const whole = evaluate(doc);
    expect(whole.blanks).toEqual([]);
    expect(completeness(whole)).toBe(1);
    const others = Object.entries(whole.lines).filter(([line, x]) => line !== 'returns' && x !== 0).length;
    expect(completeness(evaluate({ ...doc, returns: null }))).toBeCloseTo(others / (others + 1), 12);
  });
});
