/** What launches teach the next one: how wide its ranges must be, and what the way in really cost. */
import { describe, expect, it } from 'vitest';
import { offeredRanges, rangeWidths } from '../risk/offered.ts';
import { laneDocument } from '../lane/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { asPlanned, BASE, readAll, sumsOf } from '../testing/settled.ts';
import { estimatesOf, learnedWidths } from './estimates.ts';
import { placeSettled, soldOf } from './onSale.ts';
import type { Layer } from './received.ts';
import { offersOf } from './takeOver.ts';

describe('how far launches were off', () => {
  const misses = [{ price: -0.1, units: 0.5, storage: 1 }, { price: 0.05 }, { price: -0.2, units: -0.3 }];
  it('widens the ranges of what enough of them speak of', () => {
    // Of 0.05, 0.1 and 0.2 four in five lie within 0.16; two launches say too little of units.
    expect(learnedWidths(estimatesOf(misses))).toEqual({ price: 0.16 });
    expect(learnedWidths(estimatesOf(misses.slice(0, 2)))).toEqual({});
    expect(learnedWidths(estimatesOf([...misses, { units: 0.1, returns: 0.3 }]))).toEqual({
      price: 0.16,
      units: 0.42,
    });
  });
  const widths = rangeWidths.parse({});
  const from = (source: string): LaneDocument =>
    laneDocument.parse({ ...BASE, provenance: { price: { source, date: '2026-10-01', note: '' } } });
  it.each(['guess', 'estimate', 'default', 'borrowed', 'typed'])(
    'stands in place of the width of %s',
    (s) => {
      const { price } = offeredRanges(from(s), widths, {}, { price: 0.25 });
      expect(price).toMatchObject({ range: { low: 18, likely: 24, high: 30 }, learned: true });
    },
  );
  it('says nothing of what is known, nor beside what the market says', () => {
    const known = offeredRanges(from('actual'), widths, {}, { price: 0.25, unitCost: 0.5 });
    expect(known.price).toMatchObject({ range: { low: 23.28 } });
    expect(known.price?.learned).toBeUndefined();
    expect(known.unitCost?.learned).toBeUndefined();
    const seen = { price: { low: 20, likely: 22, high: 25 } };
    expect(offeredRanges(from('guess'), widths, seen, { price: 0.25 }).price).toMatchObject({
      source: 'evidence',
      range: { low: 20, high: 25 },
    });
  });
});

describe('the way in by orders received', () => {
  const offered = (layers: readonly Layer[], doc: LaneDocument = BASE) => {
    const rows = asPlanned(BASE, 100).map((s) => ({ ...s, date: '2026-10-20' }));
    const place = placeSettled(sumsOf(readAll(rows).lines), '2026-10-31');
    const lane = { document: doc, codes: ['A'], since: '2026-10-01', ramp: [1], layers };
    const { whole, months } = soldOf(lane, place);
    if (whole === null) throw new Error('nothing sold');
    const period = { from: '2026-10-01', to: '2026-10-31', compared: whole };
    return offersOf(doc, period, months, []).find((o) => o.what === 'freight');
  };
  const layer = (units: number, lines: Layer['lines']): Layer => ({
    day: '2026-09-01',
    order: 1,
    units,
    lines,
  });
  it('is offered as one leg a unit, the rest of the route as it was', () => {
    const offer = offered([layer(500, { goods: 5, freight: 0.8 })]);
    expect(offer).toMatchObject({ figure: 0.8, was: 0, units: 100, path: ['route'] });
    const over = laneDocument.parse({ ...BASE, route: offer?.value });
    expect(over.route).toMatchObject({ legs: [{ basis: 'perUnit', rate: 0.8, currency: 'EUR' }] });
    expect(offered([layer(500, { goods: 5, freight: 0.8 })], over)).toBeUndefined();
    const routed = laneDocument.parse({
      ...BASE,
      route: { name: 'By road', transitDays: 9, insuranceRate: 0.01, legs: [] },
    });
    expect(offered([layer(500, { freight: 0.8 })], routed)?.value).toMatchObject({
      transitDays: 9,
      insuranceRate: 0.01,
    });
  });
  it('is not offered where no bill tells it, of some units alone, or as planned', () => {
    expect(offered([layer(500, { goods: 5 })])).toBeUndefined();
    expect(offered([layer(40, { goods: 5, freight: 0.8 })])).toBeUndefined();
    expect(offered([])).toBeUndefined();
  });
});
