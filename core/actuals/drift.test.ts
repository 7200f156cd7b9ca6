/** Lines that left the plan: in two periods running, beyond both widths, in periods with enough units. */
import { describe, expect, it } from 'vitest';
import { asPlanned, BASE, readAll, sumsOf } from '../testing/settled.ts';
import type { Said } from '../testing/settled.ts';
import { latelyOf } from './drift.ts';
import { driftWidth } from './driftWidth.ts';
import type { DriftWidth } from './driftWidth.ts';
import { placeSettled, soldOf } from './onSale.ts';

const LANE = { document: BASE, codes: ['A'], since: '2026-08-01', ramp: [1] };

type Month = { month: string; units: number; price?: number; fulfilment?: number };
/** What was settled of months by the lane's own rates, but for what a month says otherwise a unit. */
const rowsOf = (months: readonly Month[]): Said[] =>
  months.flatMap(({ month, units, price, fulfilment }) =>
    asPlanned(BASE, units, price).map((s) => ({
      ...s,
      date: `${month}-05`,
      ...(s.what === 'fulfilment' && fulfilment !== undefined && { amount: String(-units * fulfilment) }),
    })),
  );
const lately = (months: readonly Month[], last = '2026-10-31', width: Partial<DriftWidth> = {}) => {
  const place = placeSettled(sumsOf(readAll(rowsOf(months)).lines), last);
  return latelyOf(LANE, soldOf(LANE, place).months, last, driftWidth.parse(width));
};
const month = (n: number, units: number, over: Partial<Month> = {}): Month => ({
  month: `2026-${String(n).padStart(2, '0')}`,
  units,
  ...over,
});

describe('drift', () => {
  it('is what two periods running say, with what it does to a year', () => {
    const found = lately([
      month(8, 100),
      month(9, 60, { fulfilment: 4.1 }),
      month(10, 62, { fulfilment: 4.1 }),
    ]);
    expect(found?.from).toBe('2026-09-01');
    expect(found?.to).toBe('2026-10-31');
    expect(found?.drifts).toHaveLength(1);
    const [drift] = found?.drifts ?? [];
    expect(drift).toMatchObject({ what: 'fulfilment', actual: 4.1 });
    expect(drift?.planned).toBeCloseTo(3.1, 9);
    expect(drift?.each).toBeCloseTo(-1, 9);
    // 122 units in the 61 days of two months.
    expect(drift?.year).toBeCloseTo(-2 * 365, 6);
    expect(found?.stands).toMatchObject({ standing: 'paysLess', because: 'fulfilment' });
  });
  it('is not what one period says, nor what two say that went different ways', () => {
    expect(lately([month(8, 50), month(9, 50), month(10, 50, { fulfilment: 5 })])?.drifts).toEqual([]);
    const ways = [month(9, 50, { fulfilment: 2 }), month(10, 50, { fulfilment: 4.2 })];
    expect(lately(ways)?.drifts).toEqual([]);
  });
  it('must pass both widths', () => {
    const dearer = [month(9, 50, { fulfilment: 3.5 }), month(10, 50, { fulfilment: 3.5 })];
    expect(lately(dearer)?.drifts.map((d) => d.what)).toEqual(['fulfilment']);
    expect(lately(dearer, '2026-10-31', { amount: 0.5 })?.drifts).toEqual([]);
    expect(lately(dearer, '2026-10-31', { share: 0.2 })?.drifts).toEqual([]);
  });
  it('an amount in another currency is turned into that of the sale; without a rate the share decides', () => {
    const document = { ...BASE, homeCurrency: 'PLN' };
    const place = placeSettled(
      sumsOf(readAll(rowsOf([month(9, 50, { fulfilment: 3.5 }), month(10, 50, { fulfilment: 3.5 })])).lines),
      '2026-10-31',
    );
    const at = (rate: number | null) => {
      const exchange =
        rate === null ? null : { base: 'EUR', date: '2026-09-01', source: '', rates: { PLN: rate } };
      const lane = { ...LANE, document: { ...document, rates: { ...document.rates, exchange } } };
      return latelyOf(lane, soldOf(lane, place).months, '2026-10-31', driftWidth.parse({ amount: 1 }))?.drifts
        .length;
    };
    expect(at(2)).toBe(0);
    expect(at(4)).toBe(1);
    expect(at(null)).toBe(1);
  });
  it('months with few units are one period with those before them; too few say nothing', () => {
    const few = [month(8, 30), month(9, 9, { fulfilment: 4.5 }), month(10, 9, { fulfilment: 4.5 })];
    expect(lately(few)?.from).toBe('2026-08-01');
    expect(lately(few)?.drifts).toEqual([]);
    expect(lately([month(10, 40)])).toBeNull();
    expect(lately([month(9, 7), month(10, 40)])).toBeNull();
    expect(lately([])).toBeNull();
  });
  it('a price that was cut is a drift of its own, with all that follows it', () => {
    const found = lately([month(9, 40, { price: 20 }), month(10, 40, { price: 20 })], '2026-10-10');
    expect(found?.to).toBe('2026-10-10');
    expect(found?.drifts.map((d) => d.what)).toEqual(['price']);
    expect(found?.drifts[0]).toMatchObject({ planned: 24, actual: 20 });
    expect(found?.drifts[0]?.each).toBeLessThan(-2);
  });
});
