import { describe, expect, it } from 'vitest';
import { freightCard, postageCard } from '../cards/schema.ts';
import { marketplaceCard, taxCard } from '../cards/rates.ts';
import type { MarketplaceCard } from '../cards/rates.ts';
import { marketplaceCardOf, plainLane, taxCardOf } from '../testing/documents.ts';
import { byFall, fallsUnder, impactOf } from './impact.ts';
import { vatInPrice } from '../lane/steps/revenue.ts';
import { laneLike } from './laneLike.ts';
import { newLane } from './newLane.ts';
import { postageFor, proposeLanes, routeFits } from './proposals.ts';
import type { Around, Ask } from './proposals.ts';
import { candidateData, quoteSource, storedLane } from './records.ts';
import { settings as settingsSchema } from './settings.ts';

const warehouse = {
  tiers: [
    {
      name: 'small',
      maxL: 40,
      maxW: 30,
      maxH: 20,
      maxKg: 5,
      bands: [{ upToPrice: null, table: { steps: [{ upToKg: 5, fee: 3 }] } }],
    },
  ],
};
const market = (country: string, currency: string, over: object = {}): Ask['marketplaces'][number] => {
  const card: MarketplaceCard = marketplaceCard.parse({
    ...marketplaceCardOf([{ upTo: null, pct: 0.1 }]),
    country,
    currency,
    warehouse,
    ...over,
  });
  return { id: `m-${country}`, key: `Testmarket/${country}`, card };
};
const freight = (name: string, from: string | null, to: string | null) =>
  freightCard.parse({
    name,
    inForceFrom: '2026-01-01',
    from,
    to,
    mode: 'sea',
    route: { legs: [{ stage: 'main', basis: 'perCbm', rate: 90, currency: 'EUR' }] },
  });
const postage = (country: string | null) =>
  postageCard.parse({
    name: `Post ${country ?? 'anywhere'}`,
    inForceFrom: '2026-01-01',
    country,
    zones: [{ name: 'all', share: 1, postage: { currency: 'EUR', steps: [{ upToKg: 30, fee: 5 }] } }],
  });
const quote = (over: object = {}) =>
  quoteSource.parse({ kind: 'quote', currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice: 5 }], ...over });
const around = (over: Partial<Around> = {}): Around => ({
  candidate: candidateData.parse({
    name: 'Frog shelter',
    way: 'ownBrand',
    product: { sides: [20, 15, 10], kg: 0.5, category: 'any', origin: 'CN' },
  }),
  lanes: [],
  marketplaceKeys: {},
  taxCountries: new Set(['DE', 'PL']),
  exchange: { date: '2026-11-20', base: 'EUR', rates: { PLN: 4 } },
  homeCurrency: 'EUR',
  standings: { DE: { kind: 'registered' }, PL: { kind: 'registered' } },
  today: '2026-11-24',
  ...over,
});
const ask = (over: Partial<Ask> = {}): Ask => ({
  marketplaces: [market('DE', 'EUR'), market('PL', 'PLN')],
  methods: ['warehouse', 'ownDispatch'],
  quotes: [{ id: 'q', data: quote() }],
  routes: [],
  postages: [{ id: 'p', card: postage(null) }],
  ...over,
});

describe('proposed lanes', () => {
  it('are every combination of marketplace, way, quote and fitting route', () => {
    const list = proposeLanes(
      ask({
        quotes: [
          { id: 'q1', data: quote() },
          { id: 'q2', data: quote() },
        ],
        routes: [
          { id: 'sea', card: freight('Sea', 'CN', null) },
          { id: 'pl', card: freight('Rail', 'CN', 'PL') },
          { id: 'tr', card: freight('Lorry', 'TR', 'DE') },
        ],
      }),
      around(),
    );
    // Germany has one route, Poland two; two quotes, two ways.
    expect(list.length).toBe(2 * 2 * 1 + 2 * 2 * 2);
    expect(list.every((p) => p.possible && p.missing.length === 0)).toBe(true);
    expect(new Set(list.map((p) => [p.country, p.method, p.quoteId, p.freightCardId].join())).size).toBe(
      list.length,
    );
    expect(list.filter((p) => p.method === 'ownDispatch').every((p) => p.postageCardId === 'p')).toBe(true);
  });
  it('what each would lack is said, not skipped', () => {
    const land = market('US', 'USD', {
      categories: [
        {
          key: 'other',
          name: 'Other',
          referral: { base: 'gross', mode: 'whole', tiers: [{ upTo: null, pct: 0.1 }], min: null, max: null },
        },
      ],
    });
    const list = proposeLanes(
      ask({
        marketplaces: [land],
        postages: [],
        quotes: [{ id: 'old', data: quote({ validUntil: '2026-11-01' }) }],
        routes: [{ id: 'pl', card: freight('Rail', 'CN', 'PL') }],
      }),
      around(),
    );
    expect(list.map((p) => p.missing)).toEqual([
      ['tax', 'standing', 'exchange', 'category', 'route', 'quoteExpired'],
      ['tax', 'standing', 'exchange', 'category', 'postage', 'route', 'quoteExpired'],
    ]);
    expect(list.every((p) => p.possible && p.freightCardId === null)).toBe(true);
    expect(proposeLanes(ask({ quotes: [], methods: ['warehouse'] }), around()).map((p) => p.missing)).toEqual(
      [['quote'], ['quote']],
    );
    expect(
      proposeLanes(
        ask({ methods: ['warehouse'] }),
        around({
          candidate: candidateData.parse({ name: 'x', way: 'ownBrand', product: { category: 'any' } }),
        }),
      ).every((p) => p.possible && p.missing[0] === 'size'),
    ).toBe(true);
  });
  it('what cannot be is named once and marked: no warehouse, no tier that takes the parcel', () => {
    const huge = around({
      candidate: candidateData.parse({
        name: 'Arch',
        way: 'ownBrand',
        product: { sides: [200, 90, 20], kg: 20, category: 'any' },
      }),
    });
    const quotes = [
      { id: 'q1', data: quote() },
      { id: 'q2', data: quote() },
    ];
    expect(
      proposeLanes(ask({ methods: ['warehouse'], quotes }), huge).map((p) => [p.possible, p.missing[0]]),
    ).toEqual([
      [false, 'tier'],
      [false, 'tier'],
    ]);
    expect(
      proposeLanes(
        ask({ marketplaces: [market('DE', 'EUR', { warehouse: null })], methods: ['warehouse'], quotes }),
        around(),
      ).map((p) => [p.possible, p.missing[0]]),
    ).toEqual([[false, 'warehouse']]);
  });
  it('a combination that is there already is known by the card, whatever its version', () => {
    const lane = storedLane.parse({
      country: 'DE',
      currency: 'EUR',
      marketplace: 'Testmarket',
      method: 'warehouse',
      components: [{ quoteId: 'q' }],
      marketplaceCardId: 'older-version',
    });
    const list = proposeLanes(
      ask(),
      around({ lanes: [lane], marketplaceKeys: { 'older-version': 'Testmarket/DE' } }),
    );
    expect(list.filter((p) => p.exists).map((p) => [p.country, p.method])).toEqual([['DE', 'warehouse']]);
  });
  it('goods that the supplier ships go no other way', () => {
    const ships = around({
      candidate: candidateData.parse({ name: 'x', way: 'supplierShips', product: { category: 'any' } }),
    });
    expect(proposeLanes(ask(), ships).map((p) => p.method)).toEqual(['supplierShips', 'supplierShips']);
  });
  it('a route fits from where the goods are made; a postage card of the country comes before one for any', () => {
    const card = freight('Sea', 'CN', 'DE');
    expect([
      routeFits(card, 'CN', 'DE'),
      routeFits(card, null, 'DE'),
      routeFits(card, 'TR', 'DE'),
      routeFits(card, 'CN', 'PL'),
    ]).toEqual([true, true, false, false]);
    const cards = [
      { id: 'any', card: postage(null) },
      { id: 'pl', card: postage('PL') },
    ];
    expect([postageFor(cards, 'PL')?.id, postageFor(cards, 'DE')?.id, postageFor([], 'DE')]).toEqual([
      'pl',
      'any',
      null,
    ]);
  });
});

describe('a lane like another', () => {
  const settings = settingsSchema.parse({});
  const exchange = { date: '2026-11-20', base: 'EUR', rates: { PLN: 4 }, source: '' };
  const place = (country: string, currency: string) => ({
    way: 'ownBrand' as const,
    settings,
    country,
    currency,
    marketplace: market(country, currency).card,
    cards: { marketplace: `m-${country}`, tax: 't', exchange: 'x' },
    exchange,
    origin: 'CN',
    price: null,
    quoteId: 'q',
    today: '2026-11-24',
  });
  const base = {
    ...newLane(place('DE', 'EUR')),
    price: 24.9,
    orderQuantity: 640,
    breakage: 0.03,
    typed: { ...newLane(place('DE', 'EUR')).typed, vatRate: 0.05 },
  };
  it('takes over what belongs to the product and says so; what belongs to the place is of the new one', () => {
    const made = laneLike(base, place('PL', 'PLN'), '99', { there: 0.2, here: 0.2 });
    expect(made).toMatchObject({
      country: 'PL',
      currency: 'PLN',
      orderQuantity: 640,
      breakage: 0.03,
      price: 99.99,
      marketplaceCardId: 'm-PL',
    });
    expect(made.typed.vatRate).toBeNull();
    for (const path of ['price', 'orderQuantity', 'breakage'])
      expect(made.provenance[path]).toEqual({
        source: 'borrowed',
        date: '2026-11-24',
        note: 'Testmarket DE',
      });
    const bids = (l: typeof made) =>
      l.adverts !== null && l.adverts !== 'none' ? l.adverts.keywords[0] : null;
    expect(bids(made)?.low).toBeCloseTo((bids(base)?.low ?? 0) * 4, 3);
  });
  it('carries the price net of VAT from one tax regime to another and back', () => {
    const price = (there: number | null, here: number | null) =>
      laneLike({ ...base, price: 24 }, place('PL', 'PLN'), 'none', { there, here }).price;
    // 24.00 with 20 % in it is 20.00 net: 80.00 at 4, and 98.40 with 23 % in it.
    expect([
      price(0.2, 0),
      price(0.2, 0.23),
      price(0, 0.25),
      price(0, 0),
      price(null, 0.2),
      price(0.2, null),
    ]).toEqual([80, 98.4, 120, 96, null, null]);
    const tax = (regime: 'inclusive' | 'exclusive') => taxCard.parse(taxCardOf(regime, 0.2));
    expect([
      vatInPrice(tax('inclusive'), { kind: 'registered' }, 'standard'),
      vatInPrice(tax('inclusive'), { kind: 'notRegistered' }, 'standard'),
      vatInPrice(tax('inclusive'), null, 'standard', 0.07),
      vatInPrice(tax('exclusive'), { kind: 'registered' }, 'standard'),
      vatInPrice(tax('inclusive'), null, 'nowhere'),
      vatInPrice(null, null, 'standard'),
    ]).toEqual([0.2, 0, 0.07, 0, null, null]);
  });
  it('without a rate, prices and bids are not made up', () => {
    const made = laneLike(base, { ...place('US', 'USD'), exchange: null }, '99', { there: 0.2, here: 0 });
    expect([made.price, made.adverts]).toEqual([null, null]);
    expect(made.provenance.price).toBeUndefined();
  });
});

describe('what a change of rates does', () => {
  const rates = (vat: number) => ({ tax: taxCard.parse(taxCardOf('inclusive', vat)) });
  const before = plainLane({ price: 24, rates: rates(0.2) });
  it('profit on both sides, the lines that change, and hurdles that are missed from then on', () => {
    const impact = impactOf(before, plainLane({ price: 24, rates: rates(0.5) }), [
      { figure: 'unitProfit', bound: 'atLeast', level: 18, near: 0.1 },
    ]);
    expect(impact).toMatchObject({ before: 20, after: 16, change: -4, dropped: ['unitProfit'], lost: [] });
    expect(impact.why.map((l) => [l.line, l.effect])).toEqual([['outputVat', expect.closeTo(-4, 9)]]);
    expect(fallsUnder(before, before, [])).toEqual([]);
  });
  it('what becomes unknown is said, and stands before every fall', () => {
    const lost = impactOf(before, plainLane({ price: 24, rates: { tax: null } }), []);
    // What either side leaves out is named.
    const open = impactOf(before, plainLane({ price: 24, prep: null, rates: rates(0.2) }), []);
    expect(open.lacks).toEqual({ before: [], after: ['prep'] });
    const fell = impactOf(before, plainLane({ price: 20, rates: rates(0.2) }), []);
    const rose = impactOf(before, plainLane({ price: 30, rates: rates(0.2) }), []);
    expect(lost.after === null || lost.lost.length > 0).toBe(true);
    expect([rose, fell].sort(byFall)).toEqual([fell, rose]);
    if (lost.after === null) expect([fell, lost].sort(byFall)[0]).toBe(lost);
  });
});
