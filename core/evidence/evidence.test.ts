import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { randomLane } from '../testing/lanes.ts';
import { plainLane } from '../testing/documents.ts';
import { evaluate } from '../lane/evaluate.ts';
import { gapsOf, historyOf } from './history.ts';
import type { DayPrice } from './history.ts';
import { marginOverTime } from './marginOverTime.ts';
import { directionOf, monthsBefore, seasonOf, together } from './season.ts';
import type { MonthValue } from './season.ts';
import { mean, median, percentile } from './statistics.ts';

const NOW = '2026-11-29';
const monthAt = (n: number): string => {
  const t = 2026 * 12 + 10 - n;
  return `${Math.floor(t / 12)}-${String((t % 12) + 1).padStart(2, '0')}`;
};
/** Values of the months before now, the last one first. */
const back = (...values: (number | null)[]): MonthValue[] =>
  values.flatMap((value, i) => (value === null ? [] : [{ month: monthAt(i + 1), value }]));
/** So many months by their place from the last, 0 the last, and their calendar month. */
const months = (n: number, value: (k: number, calendar: number) => number | null): MonthValue[] =>
  back(...Array.from({ length: n }, (_, k) => value(k, Number(monthAt(k + 1).slice(5)))));
const dayAt = (n: number): string => new Date(Date.UTC(2026, 10, 29 - n)).toISOString().slice(0, 10);
/** Prices by day, the last today. */
const days = (...prices: (number | null)[]): DayPrice[] =>
  prices.map((price, i) => ({ day: dayAt(prices.length - 1 - i), price }));

describe('statistics', () => {
  it('are linear between ranks, and null of nothing', () => {
    expect([0, 0.25, 0.5, 0.75, 1].map((p) => percentile([16, 10, 14, 12], p))).toEqual([
      10, 11.5, 13, 14.5, 16,
    ]);
    expect([mean([]), median([]), percentile([], 0.9), percentile([7], 0.9)]).toEqual([null, null, null, 7]);
  });
});

describe('the season of a term', () => {
  it('needs twelve months in a row with something in them; the month that runs does not count', () => {
    expect(
      seasonOf(
        months(11, () => 5),
        NOW,
      ),
    ).toEqual({ known: false, why: 'few', months: 11 });
    expect(seasonOf([...months(11, () => 5), { month: '2026-11', value: 9 }], NOW)).toMatchObject({
      why: 'few',
    });
    expect(
      seasonOf(
        months(14, (k) => (k === 3 ? null : 5)),
        NOW,
      ),
    ).toMatchObject({ known: false, why: 'gaps' });
    expect(
      seasonOf(
        months(12, () => 0),
        NOW,
      ),
    ).toMatchObject({ known: false, why: 'gaps' });
  });
  it('two years with every December twice its neighbours and no growth: December alone is the peak', () => {
    const s = seasonOf(
      months(24, (_, m) => (m === 12 ? 200 : 100)),
      NOW,
    );
    expect(s).toMatchObject({
      known: true,
      peaks: [12],
      seasonal: true,
      oneYear: false,
      years: 2,
      growth: 0,
    });
    if (s.known) expect(s.index[11]).toBeCloseTo(200 / (1300 / 12), 12);
  });
  it('growing evenly by 100 % a year is no season', () => {
    const s = seasonOf(
      months(24, (k) => 1000 * 2 ** (-k / 12)),
      NOW,
    );
    expect(s).toMatchObject({ known: true, peaks: [], seasonal: false });
    if (s.known) for (const x of s.index) expect(x).toBeCloseTo(1, 9);
  });
  it('of one year growth stays in it, and it says so', () => {
    const s = seasonOf(
      months(12, (k) => 1000 * 2 ** (-k / 12)),
      NOW,
    );
    expect(s).toMatchObject({ known: true, oneYear: true, years: 1, growth: 0, seasonal: true });
  });
  it('a month is a peak only where it stands out in two of three years', () => {
    const july = (inYears: (year: number) => boolean) =>
      seasonOf(
        months(36, (k, m) => (m === 7 && inYears(Math.floor(k / 12)) ? 400 : 100)),
        NOW,
      );
    expect(july(() => true)).toMatchObject({ peaks: [7] });
    expect(july((y) => y > 0)).toMatchObject({ peaks: [7] });
    expect(july((y) => y === 0)).toMatchObject({ peaks: [], seasonal: true });
  });
  it('a year that lacks a month is left out', () => {
    expect(
      seasonOf(
        months(36, (k, m) => (k === 14 ? null : m === 12 ? 200 : 100)),
        NOW,
      ),
    ).toMatchObject({ years: 2, peaks: [12] });
  });
  it('has mean 1, and other units of volume change nothing', () => {
    const series = fc.array(fc.option(fc.integer({ min: 0, max: 5000 })), { minLength: 12, maxLength: 60 });
    fc.assert(
      fc.property(series, fc.double({ min: 0.1, max: 50, noNaN: true }), (values, factor) => {
        const s = seasonOf(back(...values), NOW);
        if (!s.known) return;
        expect(mean(s.index)).toBeCloseTo(1, 9);
        expect(s.index.every((x) => Number.isFinite(x) && x >= 0)).toBe(true);
        const other = seasonOf(back(...values.map((v) => (v === null ? null : v * factor))), NOW);
        if (other.known)
          for (const [m, x] of other.index.entries()) expect(x).toBeCloseTo(s.index[m] as number, 6);
      }),
    );
  });
});

describe('the direction of a term', () => {
  it('twelve pairs all doubled: +100 % a year, growing; all halved: fading', () => {
    expect(
      directionOf(
        months(24, (k) => (k < 12 ? 200 : 100)),
        NOW,
      ),
    ).toEqual({ known: true, direction: 'growing', change: 1, agreeing: 1, pairs: 12 });
    expect(
      directionOf(
        months(24, (k) => (k < 12 ? 50 : 100)),
        NOW,
      ),
    ).toMatchObject({ direction: 'fading', change: -0.5 });
  });
  it('is steady where it changes little, or where not three quarters agree', () => {
    expect(
      directionOf(
        months(24, (k) => (k < 12 ? 104 : 100)),
        NOW,
      ),
    ).toMatchObject({ direction: 'steady' });
    const mixed = months(24, (k) => (k < 12 ? (k % 3 === 0 ? 50 : 150) : 100));
    expect(directionOf(mixed, NOW)).toMatchObject({ direction: 'steady', change: 0.5, agreeing: 8 / 12 });
  });
  it('is not known with fewer than six pairs', () => {
    expect(
      directionOf(
        months(24, (k) => (k < 12 || k > 16 ? 100 : null)),
        NOW,
      ),
    ).toMatchObject({ known: true });
    expect(
      directionOf(
        months(24, (k) => (k < 12 || k > 18 ? 100 : null)),
        NOW,
      ),
    ).toEqual({ known: false, pairs: 5 });
    expect(directionOf([], NOW)).toEqual({ known: false, pairs: 0 });
  });
});

describe('several terms together', () => {
  it('are summed by their weights over the months that every one has', () => {
    const a = { series: back(10, 20, 30), weight: 1 };
    const b = { series: back(1, null, 3), weight: 2 };
    expect(together([a, b], NOW)).toEqual([
      { month: '2026-08', value: 36 },
      { month: '2026-10', value: 12 },
    ]);
    expect(together([], NOW)).toEqual([]);
  });
  it('a later entry of a month stands; what is no month or no volume is none', () => {
    const odd = [
      ...back(5),
      { month: '2026-10', value: 7 },
      { month: '2026-13', value: 1 },
      { month: '2026-09', value: -1 },
    ];
    expect([...monthsBefore(odd, NOW).values()]).toEqual([7]);
  });
});

describe('the history of a listing', () => {
  const EXAMPLE = days(10, 11, null, null, 12, null, 15);
  it('the page’s example: mean 12, median 11.5, one gap, and a basis that is short of days', () => {
    const h = historyOf(EXAMPLE);
    expect(h.windows.all).toEqual({ days: 4, mean: 12, median: 11.5, low: 10, high: 15 });
    expect(h.gaps).toEqual([{ from: dayAt(4), to: dayAt(3) }]);
    expect(h.bases.mean30).toEqual({ known: false, days: 4, needs: 10 });
    expect(h.bases.now).toEqual({ known: true, price: 15, days: 1 });
  });
  it('a day that was not observed ends a gap, and one day alone is none', () => {
    const of = (...at: number[]): DayPrice[] => at.map((n) => ({ day: dayAt(n), price: null }));
    expect(gapsOf(of(9, 8, 6, 5, 4, 2).sort((a, b) => (a.day < b.day ? -1 : 1)))).toEqual([
      { from: dayAt(9), to: dayAt(8) },
      { from: dayAt(6), to: dayAt(4) },
    ]);
  });
  it('windows end on now and include it; rows after it do not count', () => {
    const year = days(...Array.from({ length: 200 }, (_, i) => (i < 170 ? 20 : 10)));
    const h = historyOf(year);
    expect([h.windows['30'].days, h.windows['90'].days, h.windows['180'].days, h.windows.all.days]).toEqual([
      30, 90, 180, 200,
    ]);
    expect(h.windows['30'].mean).toBe(10);
    expect(historyOf(year, dayAt(30)).windows['30'].mean).toBe(20);
    expect(historyOf(year, '2030-01-01').bases.now).toMatchObject({ known: false, days: 0 });
  });
  it('a spike is far over the quarter’s median or over the band; a dip the other way', () => {
    const at = (last: number) => historyOf(days(...Array.from({ length: 99 }, () => 20), last)).standing;
    expect([25.1, 25, 20, 16, 15.9].map(at)).toEqual(['spike', 'spike', 'usual', 'dip', 'dip']);
    // Flat prices make a band of one price: five per cent past it counts.
    expect([21.1, 21, 19, 18.9].map(at)).toEqual(['spike', 'usual', 'usual', 'dip']);
    expect(historyOf(days(...Array.from({ length: 20 }, () => 20), 90)).standing).toBe('unknown');
  });
  it('averages never see a gap, and nothing is NaN', () => {
    const price = fc.option(fc.oneof(fc.integer({ min: 0, max: 900 }), fc.constantFrom(Number.NaN, -1)));
    fc.assert(
      fc.property(fc.array(price, { maxLength: 80 }), (prices) => {
        const rows = days(...prices);
        const h = historyOf(rows);
        const priced = historyOf(
          rows.filter((r) => r.price !== null && r.price >= 0),
          h.now || null,
        );
        expect(h.windows).toEqual(priced.windows);
        expect(JSON.stringify(h)).not.toMatch(/NaN|Infinity/);
      }),
    );
  });
});

describe('the margin over time', () => {
  it('the page’s example: a unit keeps the price less 11; a loss on one of four days', () => {
    const doc = plainLane({
      goods: 'none',
      otherPerUnit: [{ name: 'all', line: { amount: 11, currency: 'EUR' } }],
    });
    const over = marginOverTime(doc, days(10, 11, null, null, 12, null, 15));
    expect(over).toMatchObject({ answered: 4, unanswered: 0, lossShare: 0.25, median: 0.5, worst: -1 });
    expect(over.days.map((d) => d.unitProfit)).toEqual([-1, 0, 1, 4]);
  });
  it('is the lane itself where the day’s price is its own, on random lanes', () => {
    let compared = 0;
    for (let seed = 1; seed <= 400; seed++) {
      const doc = randomLane(seed);
      if (doc.price === null) continue;
      const gross = doc.price * (1 - doc.averageDiscount) + doc.shippingCharged;
      const [d] = marginOverTime(doc, days(gross)).days;
      const expected = evaluate(doc).figures.unitProfit;
      if (expected === null || d === undefined) expect(d?.unitProfit ?? null).toBeNull();
      else {
        expect(d.unitProfit).toBeCloseTo(expected, 9);
        compared++;
      }
    }
    expect(compared).toBeGreaterThan(20);
  });
  it('a price below the delivery that buyers pay has no answer, and the lane is not changed', () => {
    const doc = plainLane({ shippingCharged: 5 });
    const before = JSON.stringify(doc);
    expect(marginOverTime(doc, days(3, 30))).toMatchObject({ answered: 1, unanswered: 1 });
    expect(marginOverTime(doc, [])).toMatchObject({ lossShare: null, median: null, worst: null });
    expect(JSON.stringify(doc)).toBe(before);
  });
});
