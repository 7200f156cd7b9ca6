import { describe, expect, it } from 'vitest';
import { evaluate } from '../lane/evaluate.ts';
import { Draw } from '../testing/draw.ts';
import { PLAIN_CARDS, PLAIN_SETTINGS } from '../testing/plainParts.ts';
import { settings } from '../workspace/settings.ts';
import { basisFor, checkSaid, gistOf, laneOfCheck, sellsAt, VERDICTS } from './check.ts';
import type { Checked, CheckFrame } from './check.ts';
import { shelfCheck, shelfListing } from './schema.ts';
import type { ShelfListing } from './schema.ts';
import { cases } from '../testing/seed.ts';

const LISTING: ShelfListing = shelfListing.parse({
  code: 'L1',
  title: 'Cork mat',
  prices: { now: 50, mean30: 42, mean90: 40 },
  units: 60,
  mine: 10,
  kg: 0.4,
  category: 'any',
  asOf: '2026-11-24',
  source: 'feed',
});
/** Nothing but the goods and a referral fee of a tenth. */
const FRAME: CheckFrame = {
  settings: settings.parse({
    ...PLAIN_SETTINGS,
    defaults: { ...PLAIN_SETTINGS.defaults, prep: 0, returnRate: 0, returnHandling: 0, postagePerParcel: 0 },
  }),
  cards: PLAIN_CARDS,
  today: '2026-11-30',
};
const HURDLES = FRAME.settings.hurdles.retail ?? [];
const TILL = { currency: 'EUR', off: 0.2, coupon: 0, cashback: 0, salesTax: 0, vatRate: 0 };
const check = (over: Partial<Checked> = {}): Checked => ({
  gtin: null,
  name: '',
  market: 'Testmarket/DE',
  cards: { marketplace: 'm', tax: 't', exchange: null },
  listing: LISTING,
  typed: { sides: null, kg: null, category: null },
  basis: 'mean90',
  typedPrice: null,
  shelf: 25,
  till: TILL,
  take: 4,
  boughtPack: 1,
  ...over,
});
const said = (over: Partial<Checked> = {}) => {
  const doc = laneOfCheck(check(over), FRAME);
  if (doc === null) throw new Error('the card is there');
  return { doc, ...checkSaid(doc, HURDLES) };
};

describe('a check at the shelf, worked by hand', () => {
  it('25 on the shelf, a fifth off, sold at 40 less a tenth: keeps 16', () => {
    const s = said();
    expect(s.result.figures.unitProfit).toBeCloseTo(16, 9);
    expect(s.pays).toBeCloseTo(20, 9);
    expect(s.verdict).toBe('buy');
    // A return of 30 % on the goods decides: (36 - g) / g >= 0.3.
    expect(s.most.till).toBeCloseTo(36 / 1.3, 6);
    expect(s.most.shelf).toBeCloseTo(36 / 1.3 / 0.8, 6);
    expect(s.most.evenTill).toBeCloseTo(36, 6);
    expect(s.perMonth).toBeCloseTo(160, 6);
    expect(gistOf(s.doc, s)).toMatchObject({ verdict: 'buy', price: 40, perMonthHome: 160, missed: null });
  });
  it('at the shelf price that is just too dear it is left, and the hurdle is named', () => {
    const s = said({ shelf: 45, till: { ...TILL, off: 0.1 } });
    // 40.5 at the till: a loss of 4.5.
    expect(s.verdict).toBe('loses');
    const near = said({ shelf: 35 });
    // 28: a return of 8 / 28, near 30 %.
    expect(near.verdict).toBe('near');
    expect(near.missed?.hurdle.figure).toBe('roi');
    expect(near.missed?.short).toBeCloseTo(0.3 - 8 / 28, 9);
    const far = said({ shelf: 44 });
    expect(far.verdict).toBe('leave');
    expect(far.missed?.value).toBeCloseTo(0.8 / 35.2, 9);
  });
  it('coupon after the percentage, cashback off the cost, tax at the till on it', () => {
    const s = said({ till: { ...TILL, coupon: 2, cashback: 0.1, salesTax: 0.05 } });
    // 25 * 0.8 - 2 = 18; + 0.9 of tax, - 1.8 of cashback.
    expect(s.pays).toBeCloseTo(18, 9);
    expect(s.result.figures.unitProfit).toBeCloseTo(36 - 18 - 0.9 + 1.8, 9);
  });
  it('a pack on the shelf and a pack that is sold make the ratio', () => {
    const s = said({ listing: { ...LISTING, pack: 4 }, boughtPack: 2, take: 6 });
    // Six packs of two make three of four; each sold pack takes two of them.
    expect(s.doc.orderQuantity).toBe(3);
    expect(s.result.figures.unitProfit).toBeCloseTo(36 - 40, 9);
  });
  it('what is typed of the goods beats what is known of the listing, and says where it is from', () => {
    const s = said({ typed: { sides: [10, 10, 10], kg: 2, category: null }, basis: 'typed', typedPrice: 44 });
    expect(s.doc.product).toMatchObject({ sides: [10, 10, 10], kg: 2 });
    expect(s.doc.price).toBe(44);
    expect(s.doc.provenance.price).toBeUndefined();
    expect(said().doc.provenance.price).toEqual({ source: 'evidence', date: '2026-11-24', note: 'L1' });
    expect(said().doc.provenance.orderQuantity).toBeUndefined();
  });
});

describe('what is not known', () => {
  it('without the market there is no lane', () =>
    expect(
      laneOfCheck(check({ cards: { marketplace: 'gone', tax: null, exchange: null } }), FRAME),
    ).toBeNull());
  it('without a price, without a shelf price, without a category nothing is decided', () => {
    expect(said({ listing: null, basis: 'typed' }).verdict).toBe('open');
    const unpriced = said({ shelf: null });
    expect([unpriced.verdict, unpriced.pays]).toEqual(['open', null]);
    // What may be paid is known before the price on the shelf is.
    expect(unpriced.most.till).toBeCloseTo(36 / 1.3, 6);
    expect(said({ listing: { ...LISTING, category: 'unheard of' } }).verdict).toBe('open');
  });
  it('a loss is one though costs are missing, and none while returns are', () => {
    const without = (defaults: object): CheckFrame => ({
      ...FRAME,
      settings: { ...FRAME.settings, defaults: { ...FRAME.settings.defaults, ...defaults } },
    });
    const of = (frame: CheckFrame) => {
      const doc = laneOfCheck(check({ shelf: 60 }), frame);
      return doc === null ? null : checkSaid(doc, HURDLES).verdict;
    };
    expect(of(without({ prep: null }))).toBe('loses');
    expect(of(without({ returnRate: null }))).not.toBe('loses');
  });
  it('no profit a month while the units are a default of ours', () => {
    expect(said({ listing: { ...LISTING, mine: null } }).perMonth).toBeNull();
  });
  it('a hurdle on units that are a default of ours is not cleared by them', () => {
    const doc = laneOfCheck(check({ listing: { ...LISTING, mine: null } }), FRAME);
    if (doc === null) throw new Error('the card is there');
    const units = { figure: 'expectedMonthlyUnits', bound: 'atLeast', level: 1, near: 0.1 } as const;
    expect(checkSaid(doc, [units]).verdict).toBe('open');
    expect(checkSaid(doc, []).verdict).toBe('buy');
  });
  it('even free goods that clear no hurdle have no most to pay', () => {
    const dear = { figure: 'unitProfit', bound: 'atLeast', level: 50, near: 0.1 } as const;
    const doc = laneOfCheck(check(), FRAME);
    if (doc === null) throw new Error('the card is there');
    const { most } = checkSaid(doc, [dear]);
    expect([most.till, most.shelf]).toEqual([null, null]);
    expect(most.evenTill).toBeCloseTo(36, 6);
  });
});

it('what one may not sell is not bought, whatever it would keep', () => {
  const doc = laneOfCheck(check(), FRAME);
  if (doc === null) throw new Error('the card is there');
  expect(checkSaid(doc, HURDLES, 'closed').verdict).toBe('barred');
  for (const p of ['open', 'approval', 'rightsAlert', null] as const)
    expect(checkSaid(doc, HURDLES, p).verdict).toBe('buy');
});

describe('the price that is reckoned with', () => {
  it('the basis asked for, else the nearest that is known', () => {
    const only = (prices: Partial<ShelfListing['prices']>): ShelfListing => ({
      ...LISTING,
      prices: { now: null, mean30: null, mean90: null, ...prices },
    });
    expect(basisFor(LISTING, 'mean90')).toBe('mean90');
    expect(basisFor(only({ now: 5 }), 'mean90')).toBe('now');
    expect(basisFor(only({ mean30: 5, now: 6 }), 'mean90')).toBe('mean30');
    expect(basisFor(only({ mean90: 5, now: 6 }), 'mean30')).toBe('mean90');
    expect(basisFor(only({ mean90: 5 }), 'now')).toBe('mean90');
    expect(basisFor(only({}), 'now')).toBe('now');
    expect(basisFor(null, 'mean30')).toBe('mean30');
    expect(sellsAt({ basis: 'mean30', typedPrice: 9, listing: LISTING })).toBe(42);
    expect(sellsAt({ basis: 'now', typedPrice: 9, listing: null })).toBeNull();
  });
});

it('on random checks: no NaN, the most to pay clears every hurdle, and every verdict comes up', () => {
  const d = new Draw(Number(process.env.BM_SEED ?? 1));
  const come = new Map<string, number>();
  // On until every verdict has come up that this shelf can have, whatever the draw.
  const isUnmet = (): boolean => come.size < VERDICTS.length - 1;
  for (let i = 0; i < cases(2000) || (isUnmet() && i < 20_000); i++) {
    const off = d.pick([0, 0, 0.1, 0.5]);
    const c = check({
      shelf: d.chance(0.1) ? null : d.typed(0, 60),
      till: {
        ...TILL,
        off,
        coupon: d.pick([0, 0, 3]),
        cashback: d.pick([0, 0.05]),
        salesTax: d.pick([0, 0.08]),
      },
      take: d.pick([1, 2, 24]),
      boughtPack: d.pick([1, 1, 2, 6]),
      listing: d.chance(0.1)
        ? null
        : { ...LISTING, pack: d.pick([1, 1, 2]), category: d.pick(['any', 'any', 'any', null]) },
    });
    const doc = laneOfCheck(c, FRAME);
    if (doc === null) throw new Error('the card is there');
    const s = checkSaid(doc, HURDLES);
    come.set(s.verdict, (come.get(s.verdict) ?? 0) + 1);
    expect(JSON.stringify([s.most, s.pays, s.perMonth, gistOf(doc, s)])).not.toMatch(/NaN|Infinity/);
    const profit = evaluate(doc).figures.unitProfit;
    if (s.verdict === 'loses') expect(profit).toBeLessThan(0);
    if (s.verdict === 'buy') expect(s.hurdles.every((h) => h.verdict === 'pass')).toBe(true);
    if (s.most.shelf !== null && s.result.bounds.unitProfit === undefined) {
      const at = laneOfCheck({ ...c, shelf: s.most.shelf }, FRAME);
      if (at === null) throw new Error('the card is there');
      for (const h of checkSaid(at, HURDLES).hurdles) expect(h.short).toBe(0);
    }
  }
  expect([...come.keys(), 'barred'].sort()).toEqual([...VERDICTS].sort());
});

describe('a check as it is sent', () => {
  const whole = {
    ...check(),
    id: crypto.randomUUID(),
    session: crypto.randomUUID(),
    at: '2026-11-30T09:00:00.000Z',
    changedAt: '2026-11-30T09:00:00.000Z',
    state: 'kept',
  };
  it('is read as it was made', () => expect(shelfCheck.parse(whole)).toMatchObject(check()));
  it.each([
    ['a barcode that does not prove itself', { gtin: '9521000000005' }],
    ['nothing taken', { take: 0 }],
    ['a discount of more than all', { till: { ...TILL, off: 1.2 } }],
    ['no identity', { id: 'first' }],
    ['a time that is none', { at: 'this morning' }],
    ['a price below nothing', { shelf: -1 }],
    ['a price beyond all measure', { shelf: 1e13 }],
  ])('is refused with %s', (_, over) =>
    expect(shelfCheck.safeParse({ ...whole, ...over }).success).toBe(false),
  );
});
