/**
 * A second reckoning of the market, written down plainly from the sentences of the evidence page and sharing nothing
 * with the rules, held against them on random documents. What the documents reach is counted.
 */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RUN_SEED } from '../testing/seed.ts';
import { offerList, randomEvidence, rivalRows, unitsKnown } from '../testing/evidence.ts';
import { offersSaid } from './offers.ts';
import { historyOf } from './history.ts';
import { bandStep, priceBands } from './priceBands.ts';
import { placeAmong, rivalsSaid } from './rivals.ts';
import { offer, rival, unitsKnown as unitsSchema } from './schema.ts';
import type { Offer, Rival, UnitsKnown } from './schema.ts';
import { directionOf, seasonOf } from './season.ts';
import { evidenceSettings } from './settings.ts';
import { myUnits, unitsOf } from './units.ts';

const S = evidenceSettings.parse({});
const NOW = '2026-11-29';
const DAY = 86_400_000;

type Tally = {
  readonly hit: (name: string, when?: boolean) => void;
  readonly lacks: (names: readonly string[]) => string[];
  readonly wants: (...names: string[]) => void;
};
/** Counts which cases the draws came to, and asks for each of them. */
function tally(): Tally {
  const seen = new Map<string, number>();
  const lacks = (names: readonly string[]): string[] => names.filter((n) => (seen.get(n) ?? 0) < 5);
  return {
    hit: (name, when = true) => {
      if (when) seen.set(name, (seen.get(name) ?? 0) + 1);
    },
    lacks,
    wants: (...names) => expect(lacks(names)).toEqual([]),
  };
}
/** Holds a property on 1,500 draws, and on as many more until every case has been met: rare ones take their time. */
function drawn<T>(t: Tally, wanted: readonly string[], property: fc.IProperty<T>): void {
  for (let round = 0; round === 0 || (round < 20 && t.lacks(wanted).length > 0); round++)
    fc.assert(property, { numRuns: 1500, ...(round > 0 && { seed: RUN_SEED + round }) });
  t.wants(...wanted);
}
const near = (actual: number | null | undefined, expected: number | null): void => {
  if (expected === null) expect(actual ?? null).toBeNull();
  else
    expect(Math.abs((actual as number) - expected)).toBeLessThanOrEqual(
      1e-7 * Math.max(1, Math.abs(expected)),
    );
};

/** Linear between ranks, `h = (n - 1) p`: walks the steps between the sorted values. */
function pth(values: readonly number[], p: number): number | null {
  const own = [...values];
  if (own.length === 0) return null;
  own.sort((a, b) => a - b);
  let left = (own.length - 1) * p;
  let at = 0;
  while (left >= 1) {
    at++;
    left--;
  }
  const here = own[at] as number;
  return left < 1e-12 ? here : here + left * ((own[at + 1] as number) - here);
}
const middle = (values: readonly number[]): number | null => pth(values, 0.5);
function average(values: readonly number[]): number | null {
  let sum = 0;
  for (const x of values) sum += x;
  return values.length === 0 ? null : sum / values.length;
}

/** Months counted from January 2000, before that of now; the later of two entries of one month. */
function table(series: readonly { month: string; value: number }[]): Record<number, number> {
  const known: Record<number, number> = {};
  for (const { month, value } of series) {
    if (month < NOW.slice(0, 7))
      known[(Number(month.slice(0, 4)) - 2000) * 12 + Number(month.slice(5, 7)) - 1] = value;
  }
  return known;
}
const volumes = fc
  .record({
    from: fc.integer({ min: 200, max: 300 }),
    values: fc.array(
      fc.option(fc.oneof(fc.integer({ min: 0, max: 400 }), fc.constantFrom(0, 100, 100, 130)), { freq: 25 }),
      { minLength: 8, maxLength: 60, size: 'max' },
    ),
    peak: fc.option(fc.integer({ min: 0, max: 11 }), { freq: 3 }),
    yearly: fc.constantFrom(1, 1, 1.3, 2, 0.6),
    /** Nothing but in each so many months: at 5 no two a year apart have something. */
    each: fc.constantFrom(1, 1, 1, 1, 5),
  })
  .map(({ from, values, peak, yearly, each }) =>
    values.flatMap((v, i) => {
      const n = from + i;
      const factor = yearly ** (i / 12) * (peak === n % 12 ? 3 : 1);
      const month = `${2000 + Math.floor(n / 12)}-${String((n % 12) + 1).padStart(2, '0')}`;
      return v === null ? [] : [{ month, value: i % each === 0 ? v * factor : 0 }];
    }),
  );

describe('season and direction, reckoned a second time', () => {
  it('growth out, ratios to the mean of each block, means by calendar month, peaks by years', () => {
    const t = tally();
    drawn(
      t,
      [
        'few',
        'gaps',
        'a block lacks a month',
        'too few pairs for growth',
        'seasonal',
        'one year',
        'a month high on the mean, in too few years',
      ],
      fc.property(volumes, (series) => {
        const known = table(series);
        const months = Object.keys(known).map(Number);
        const said = seasonOf(series, NOW);
        if (months.length < 12) {
          t.hit('few');
          expect(said).toMatchObject({ known: false, why: 'few', months: months.length });
          return;
        }
        const last = Math.max(...months);
        const pairs: number[] = [];
        for (const m of months) {
          const [a, b] = [known[m] as number, known[m + 12] ?? 0];
          if (a > 0 && b > 0) pairs.push(Math.log(b) - Math.log(a));
        }
        const two = months.length >= 24;
        const g = two && pairs.length >= 6 ? (middle(pairs) as number) : 0;
        t.hit('too few pairs for growth', two && pairs.length < 6);
        const blocks: number[][] = [];
        for (let end = last; end >= Math.min(...months) + 11 && (two || blocks.length === 0); end -= 12) {
          const block = Array.from({ length: 12 }, (_, i) => end - 11 + i);
          if (block.some((m) => known[m] === undefined)) {
            t.hit('a block lacks a month');
            continue;
          }
          const w = block.map((m) => (known[m] as number) * Math.exp((-g * m) / 12));
          const level = average(w) as number;
          if (level === 0) continue;
          const ratio = Array.from({ length: 12 }, () => 0);
          for (const [i, m] of block.entries()) ratio[m % 12] = (w[i] as number) / level;
          blocks.push(ratio);
        }
        if (blocks.length === 0) {
          t.hit('gaps');
          expect(said).toMatchObject({ known: false, why: 'gaps' });
          return;
        }
        const means = Array.from(
          { length: 12 },
          (_, c) => average(blocks.map((b) => b[c] as number)) as number,
        );
        const index = means.map((x) => x / (average(means) as number));
        const peaks = index.flatMap((x, c) => {
          const years = blocks.filter((b) => (b[c] as number) >= 1.1 - 1e-9).length;
          t.hit(
            'a month high on the mean, in too few years',
            two && x >= 1.2 && years < (blocks.length * 2) / 3,
          );
          return x >= 1.2 - 1e-9 && (!two || years * 3 >= blocks.length * 2) ? [c + 1] : [];
        });
        const seasonal = index.some((x) => x < 0.8 - 1e-9 || x >= 1.2 - 1e-9);
        t.hit(two ? (seasonal ? 'seasonal' : 'flat') : 'one year');
        expect(said).toMatchObject({ known: true, peaks, seasonal, oneYear: !two, years: blocks.length });
        if (said.known) for (const [c, x] of index.entries()) near(said.index[c], x);
      }),
    );
  });
  it('direction is the median of the twelve ratios, and three quarters have to agree', () => {
    const t = tally();
    drawn(
      t,
      ['unknown', 'growing', 'fading', 'steady', 'moves, but too few agree'],
      fc.property(volumes, (series) => {
        const known = table(series);
        const months = Object.keys(known).map(Number);
        const said = directionOf(series, NOW);
        const changes: number[] = [];
        const last = Math.max(...months);
        for (let m = last - 11; months.length > 0 && m <= last; m++) {
          const [now, before] = [known[m], known[m - 12]];
          if (now !== undefined && before !== undefined && before > 0) changes.push(now / before - 1);
        }
        if (months.length === 0 || changes.length < 6) {
          t.hit('unknown');
          expect(said).toEqual({ known: false, pairs: changes.length });
          return;
        }
        const change = middle(changes) as number;
        const up = changes.filter((x) => x > 0).length;
        const down = changes.filter((x) => x < 0).length;
        const way =
          change > 0.05 && 4 * up >= 3 * changes.length
            ? 'growing'
            : change < -0.05 && 4 * down >= 3 * changes.length
              ? 'fading'
              : 'steady';
        t.hit(way);
        t.hit('moves, but too few agree', way === 'steady' && Math.abs(change) > 0.05);
        expect(said).toMatchObject({ known: true, direction: way, pairs: changes.length });
        if (said.known) near(said.change, change);
      }),
    );
  });
});

const history = fc
  .record({
    usual: fc.integer({ min: 1, max: 40 }),
    days: fc.array(
      fc.record({
        /** Days since the row before: more than one leaves days unobserved, none is the same day once more. */
        after: fc.constantFrom(1, 1, 1, 1, 1, 1, 1, 2, 0, 5),
        price: fc.option(fc.integer({ min: 80, max: 120 }), { freq: 6 }),
        ownShop: fc.option(fc.boolean(), { freq: 4 }),
        promotion: fc.constantFrom(false, false, false, true),
      }),
      { minLength: 1, maxLength: 260, size: 'max' },
    ),
    last: fc.constantFrom(1, 1, 1.07, 1.5, 0.93, 0.6),
  })
  .map(({ usual, days, last }) => {
    let day = Date.UTC(2026, 0, 1);
    return days.map((d, i) => {
      day += d.after * DAY;
      const price = d.price === null ? null : (usual * d.price * (i === days.length - 1 ? last : 1)) / 100;
      return {
        day: new Date(day).toISOString().slice(0, 10),
        price,
        ownShop: d.ownShop,
        promotion: d.promotion,
      };
    });
  });

describe('the history of a listing, reckoned a second time', () => {
  it('windows, gaps, band, trend, standing, bases and own shop', () => {
    const t = tally();
    fc.assert(
      fc.property(history, (rows) => {
        const h = historyOf(rows);
        const byDay = new Map(rows.map((r) => [Date.parse(r.day) / DAY, r]));
        t.hit('a day twice', byDay.size < rows.length);
        const end = Math.max(...byDay.keys());
        const within = (n: number) => [...byDay].filter(([d]) => d > end - n).map(([, r]) => r);
        const priced = (n: number) => within(n).flatMap((r) => (r.price === null ? [] : [r.price]));
        for (const [name, n] of Object.entries({ '30': 30, '90': 90, '180': 180, all: 1e9 })) {
          const own = h.windows[name as '30'];
          expect(own.days).toBe(priced(n).length);
          near(own.mean, average(priced(n)));
          near(own.median, middle(priced(n)));
          const plain = within(n).flatMap((r) => (r.price === null || r.promotion ? [] : [r.price]));
          if (h.withoutPromotions !== null) near(h.withoutPromotions[name as '30'].mean, average(plain));
          t.hit('promotions', h.withoutPromotions !== null && plain.length < priced(n).length);
        }
        // A gap: a run of days, each observed and without an offer, of two or more.
        const empty = (d: number): boolean => byDay.has(d) && byDay.get(d)?.price === null;
        const gaps: [number, number][] = [];
        for (const d of [...byDay.keys()].filter((x) => empty(x) && !empty(x - 1))) {
          let to = d;
          while (empty(to + 1)) to++;
          if (to > d) gaps.push([d, to]);
        }
        t.hit('gaps', gaps.length > 0);
        expect(h.gaps.map((g) => [Date.parse(g.from) / DAY, Date.parse(g.to) / DAY])).toEqual(
          gaps.sort((a, b) => a[0] - b[0]),
        );
        const half = priced(180);
        const trend = middle(half);
        near(h.trend, trend);
        const band = half.length >= 30 ? ([pth(half, 0.1), pth(half, 0.9)] as [number, number]) : null;
        near(h.band?.low, band?.[0] ?? null);
        near(h.band?.high, band?.[1] ?? null);
        const now = byDay.get(end)?.price ?? null;
        const quarter = priced(90).length >= 30 ? middle(priced(90)) : null;
        const high =
          (quarter !== null && (now ?? 0) > 1.25 * quarter) ||
          (band !== null && (now ?? 0) > band[1] && (now ?? 0) > 1.05 * (trend as number));
        const low =
          (quarter !== null && (now ?? 0) < 0.8 * quarter) ||
          (band !== null && (now ?? 0) < band[0] && (now ?? 0) < 0.95 * (trend as number));
        const standing =
          now === null || (quarter === null && band === null)
            ? 'unknown'
            : high
              ? 'spike'
              : low
                ? 'dip'
                : 'usual';
        t.hit(standing);
        expect(h.standing).toBe(standing);
        const bases = { now: [now, 1], mean30: [average(priced(30)), 10], mean90: [average(priced(90)), 30] };
        const counts = { now: now === null ? 0 : 1, mean30: priced(30).length, mean90: priced(90).length };
        for (const of of ['now', 'mean30', 'mean90'] as const) {
          const [value, needs] = bases[of] as [number | null, number];
          const own = h.bases[of];
          expect(own.days).toBe(counts[of]);
          t.hit(`${of} ${own.known}`);
          if (counts[of] >= needs) near(own.known ? own.price : null, value);
          else expect(own).toEqual({ known: false, days: counts[of], needs });
        }
        expect(h.bases.trend.known).toBe(half.length >= 60);
        const shop = within(90).filter((r) => r.ownShop !== null);
        expect(h.ownShop['90']).toEqual({
          days: shop.filter((r) => r.ownShop).length,
          known: shop.length,
          share: shop.length === 0 ? null : shop.filter((r) => r.ownShop).length / shop.length,
        });
      }),
      { numRuns: 500 },
    );
    t.wants('a day twice', 'promotions', 'gaps', 'unknown', 'spike', 'dip', 'usual');
    t.wants('now true', 'now false', 'mean30 true', 'mean30 false', 'mean90 true', 'mean90 false');
  });
});

describe('units, reckoned a second time', () => {
  const parsed = (raw: object): UnitsKnown => unitsSchema.parse(raw);
  const ratings = { hasVariations: true, ratingsVariation: 45, ratingsListing: 150 };
  /** The share with its range, or null: ratings over all of them, 30 or more; Wilson at 90 %. */
  function share(u: UnitsKnown): [number, number, number] | null {
    if (!u.hasVariations) return [1, 1, 1];
    if (u.typedShare !== null) return [u.typedShare, u.typedShare, u.typedShare];
    if (u.ratingsVariation === null || u.ratingsListing === null || u.ratingsListing < 30) return null;
    const n = u.ratingsListing;
    const p = Math.min(1, u.ratingsVariation / n);
    const z = 1.6448536269514722;
    const off = (z / (1 + z ** 2 / n)) * Math.sqrt((p * (1 - p)) / n + z ** 2 / (4 * n ** 2));
    const about = (p + z ** 2 / (2 * n)) / (1 + z ** 2 / n);
    return [p, Math.max(0, Math.min(p, about - off)), Math.min(1, Math.max(p, about + off))];
  }
  it('the best rung that is known, with the range of an estimate and of a share', () => {
    const t = tally();
    drawn(
      t,
      [
        'typed',
        'statedVariation',
        'statedListing',
        'estimatedVariation',
        'estimatedListing',
        'fromRank',
        'unknown',
        'share unknown',
      ],
      fc.property(unitsKnown, (raw) => {
        const u = parsed(raw);
        const said = unitsOf(u, S);
        const own = share(u);
        type Three = [number, number, number];
        const spread = (e: { units: number; low: number | null; high: number | null }): Three => [
          e.units,
          Math.min(e.units, e.low ?? 0.6 * e.units),
          Math.max(e.units, e.high ?? 1.6 * e.units),
        ];
        const curve = [...u.curve].sort((a, b) => a.rank - b.rank);
        let atRank: number | null = null;
        for (const [i, a] of curve.entries()) {
          const b = curve[i + 1];
          if (u.rank === null || atRank !== null) continue;
          if (a.rank === u.rank) atRank = a.units;
          else if (b !== undefined && a.rank < u.rank && u.rank < b.rank) {
            const slope = Math.log10(b.units / a.units) / Math.log10(b.rank / a.rank);
            atRank = a.units * 10 ** (slope * Math.log10(u.rank / a.rank));
          }
        }
        const all = (x: number): Three => [x, x, x];
        const shared = (x: Three): Three | null =>
          own === null ? null : [x[0] * own[0], x[1] * own[1], x[2] * own[2]];
        const rungs: [string, Three | null][] = [
          ['typed', u.typed === null ? null : all(u.typed)],
          ['statedVariation', u.statedVariation === null ? null : all(u.statedVariation)],
          ['statedListing', u.statedListing === null ? null : shared(all(u.statedListing))],
          ['estimatedVariation', u.estimatedVariation === null ? null : spread(u.estimatedVariation)],
          ['estimatedListing', u.estimatedListing === null ? null : shared(spread(u.estimatedListing))],
          ['fromRank', atRank === null ? null : shared(spread({ units: atRank, low: null, high: null }))],
        ];
        const best = rungs.find(([, x]) => x !== null);
        t.hit(best?.[0] ?? 'unknown');
        t.hit('share unknown', own === null);
        if (best === undefined) {
          expect(said.known).toBe(false);
          return;
        }
        expect(said).toMatchObject({ known: true, rung: best[0] });
        const [expected, low, high] = best[1] as Three;
        if (!said.known) return;
        near(said.expected, expected);
        near(said.low, low);
        near(said.high, high);
      }),
    );
  });
  it('my units: whoever is within the band of the lowest shares them, the own shop’s days taken off once', () => {
    const t = tally();
    const draws = fc.record({
      offers: offerList,
      // Near each other, as offers are: else hardly anybody shares.
      about: fc.integer({ min: 10, max: 12 }),
      mine: fc.constantFrom(10, 10.5, 11, 12, 20),
      band: fc.constantFrom(0, 0.03, 0.1),
      away: fc.option(fc.constantFrom(0, 0.25, 1), { freq: 2 }),
    });
    drawn(
      t,
      ['in the running', 'priced out', 'delivery unknown', 'own shop’s days unknown'],
      fc.property(draws, ({ offers: raw, about, mine, band, away }) => {
        const offers = raw.map((o) =>
          offer.parse({
            ...o,
            price: about + (o.price % 3),
            delivery: o.delivery === null ? null : o.delivery % 2,
          }),
        );
        const said = myUnits(
          unitsOf(parsed({ ...ratings, statedListing: 240 }), S),
          offers,
          mine,
          band,
          away,
        );
        const rivals = offers.filter((o) => o.of === 'other' || (o.of === 'ownShop' && away === null));
        let floor: number = mine;
        for (const r of rivals) if (r.delivery !== null) floor = Math.min(floor, r.price + r.delivery);
        const sharing = (width: number): number =>
          rivals.filter((r) => r.price + (r.delivery ?? 0) <= floor * (1 + width) + 1e-9).length;
        const inIt = mine <= floor * (1 + band) + 1e-9;
        const [, low, high] = share(parsed(ratings)) as [number, number, number];
        const left = 240 * (1 - (away ?? 0));
        t.hit(inIt ? 'in the running' : 'priced out');
        t.hit(
          'delivery unknown',
          rivals.some((r) => r.delivery === null),
        );
        t.hit('own shop’s days unknown', away === null && rivals.some((r) => r.of === 'ownShop'));
        expect(said).toMatchObject({ known: true, inTheRunning: inIt, rivals: sharing(band) });
        if (!said.known) return;
        near(said.expected, inIt ? (left * 0.3) / (sharing(band) + 1) : 0);
        near(said.low, inIt ? (left * low) / (sharing(2 * band) + 1) : 0);
        near(said.high, inIt ? (left * high) / (sharing(band / 2) + 1) : 0);
      }),
    );
  });
});

describe('rivals and offers, reckoned a second time', () => {
  const rowsOf = (raw: readonly object[]): Rival[] => raw.map((r) => rival.parse(r));
  it('every statistic of the rows that count', () => {
    const t = tally();
    drawn(
      t,
      ['a listing twice', 'earns with few reviews', 'one brand owns the page', 'reference', 'no reference'],
      fc.property(rivalRows, (raw) => {
        const rows = rowsOf(raw);
        const said = rivalsSaid(rows, S);
        const kept = rows.filter((r) => !(r.struck ?? r.paid));
        // Each listing once: its first free place, else its first place.
        const counted = kept.filter((r) => {
          if (r.listing === '') return true;
          const same = kept.filter((x) => x.listing === r.listing);
          t.hit('a listing twice', same.length > 1);
          return r === (same.find((x) => !x.paid) ?? same[0]);
        });
        expect(said.rows).toBe(counted.length);
        const money = (r: Rival): number | null =>
          r.price === null || r.units === null ? null : r.price * r.units;
        const known = (of: (r: Rival) => number | null): number[] =>
          counted.map(of).filter((x) => x !== null);
        const columns = {
          price: known((r) => r.price),
          units: known((r) => r.units),
          revenue: known(money),
          reviews: known((r) => r.reviews),
          rating: known((r) => ((r.reviews ?? 0) > 0 ? r.rating : null)),
          daysListed: known((r) => r.daysListed),
        };
        for (const [name, values] of Object.entries(columns)) {
          const own = said.columns[name as 'price'];
          expect(own.rows).toBe(values.length);
          near(own.mean, average(values));
          near(own.median, middle(values));
          near(own.quarter, pth(values, 0.25));
          near(own.threeQuarters, pth(values, 0.75));
        }
        const few = counted.filter((r) => (r.reviews ?? 1e9) <= 250 && (money(r) ?? -1) >= 1000);
        t.hit('earns with few reviews', few.length > 0);
        expect(said.fewReviews.map((i) => rows[i])).toEqual(rows.filter((r) => few.includes(r)));
        const total = columns.revenue.reduce((a, b) => a + b, 0);
        const brand = (r: Rival): string => r.brand.trim().toLowerCase();
        for (const name of new Set(counted.map(brand).filter((b) => b !== ''))) {
          const own = counted.filter((r) => brand(r) === name);
          const shown = said.brands.find((b) => b.brand.toLowerCase() === name);
          expect(shown?.listings).toBe(own.length);
          near(shown?.listingShare, own.length / counted.length);
          near(shown?.revenueShare, total > 0 ? own.reduce((s, r) => s + (money(r) ?? 0), 0) / total : null);
        }
        const owns = said.brands.some((b) => b.listings > 3 || (b.revenueShare ?? 0) >= 0.5);
        t.hit('one brand owns the page', owns);
        expect(said.owner !== null).toBe(owns);
        const aged = counted.filter((r) => r.daysListed !== null);
        const young = aged.filter((r) => (r.daysListed as number) <= 180);
        expect(said.newcomers.rows).toBe(young.length);
        near(said.newcomers.share, aged.length === 0 ? null : young.length / aged.length);
        near(said.newcomers.medianRevenue, middle(young.map(money).filter((x) => x !== null)));
        const selling = columns.units.filter((u) => u >= 10).length;
        near(said.selling, columns.units.length === 0 ? null : selling / columns.units.length);
        const earning = counted
          .filter((r) => money(r) !== null)
          .sort((a, b) => (money(b) as number) - (money(a) as number) || rows.indexOf(a) - rows.indexOf(b));
        const seven = earning.slice(0, 7);
        t.hit(seven.length < 3 ? 'no reference' : 'reference');
        expect(said.reference === null ? null : rows[said.reference]).toBe(
          seven.length < 3 ? null : seven[Math.floor(seven.length / 2)],
        );
        const [cheap] = columns.price;
        if (cheap === undefined) return;
        const place = placeAmong(columns.price, cheap, S);
        expect(place?.place).toBe(1 + columns.price.filter((p) => p < cheap).length);
        near(place?.ceiling, pth(columns.price, 0.9));
      }),
    );
  });
  it('bands hold every counted price once, and no smaller step of the list would do', () => {
    const t = tally();
    const steps = [1, 2, 2.5, 5].flatMap((lead) => Array.from({ length: 20 }, (_, k) => lead * 10 ** k));
    drawn(
      t,
      ['none', 'an open band'],
      fc.property(rivalRows, (raw) => {
        const rows = rowsOf(raw);
        const bands = priceBands(rows, 'EUR', 12);
        const rivals = rivalsSaid(rows, S);
        expect(bands.reduce((n, b) => n + b.rows, 0)).toBe(rivals.columns.price.rows);
        t.hit('none', bands.length === 0);
        t.hit(
          'an open band',
          bands.some((b) => b.from === null || b.to === null),
        );
        for (const [i, b] of bands.entries()) if (i > 0) expect(b.from).toBe(bands[i - 1]?.to);
      }),
    );
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 90_000 }), fc.integer({ min: 0, max: 90_000 }), (low, width) => {
        const high = low + width;
        const fits = steps
          .filter((s) => Number.isInteger(s) && Math.floor(high / s) - Math.floor(low / s) < 8)
          .sort((a, b) => a - b);
        expect(bandStep(low, high)).toBe(fits[0]);
      }),
    );
  });
  it('offers: the lowest leave one by one, ties singly, ours never counted', () => {
    const t = tally();
    drawn(
      t,
      ['0 leave', '3 leave', 'nobody is left', 'premium'],
      fc.property(offerList, (raw) => {
        const offers: Offer[] = raw.map((o) => offer.parse(o));
        const said = offersSaid(offers, 'EUR', 0.02);
        const theirs = offers.filter((o) => o.of !== 'ours');
        const left = theirs.flatMap((o) => (o.delivery === null ? [] : [o.price + o.delivery]));
        const remaining = [...left];
        for (const leaves of [0, 1, 2, 3]) {
          const lowest = remaining.length === 0 ? null : Math.min(...remaining);
          const shown = said.cases.find((c) => 'leaves' in c.of && c.of.leaves === leaves);
          expect(shown?.price ?? null).toBe(lowest);
          t.hit(lowest === null ? 'nobody is left' : `${leaves} leave`);
          if (lowest !== null) remaining.splice(remaining.indexOf(lowest), 1);
        }
        const under = said.cases.find((c) => 'undercuts' in c.of);
        if (left.length === 0) expect(under).toBeUndefined();
        else
          expect(Math.abs((under?.price ?? -1) - 0.98 * Math.min(...left))).toBeLessThanOrEqual(0.005 + 1e-3);
        const lowestOf = (w: boolean): number =>
          Math.min(
            ...theirs.flatMap((o) =>
              o.warehouse === w && o.delivery !== null ? [o.price + o.delivery] : [],
            ),
          );
        const [fast, slow] = [lowestOf(true), lowestOf(false)];
        const premium = Number.isFinite(fast) && Number.isFinite(slow) && slow > 0 ? fast / slow - 1 : null;
        t.hit('premium', premium !== null);
        near(said.warehousePremium, premium);
      }),
    );
  });
  it('documents of every kind reach a season, a history and rivals together', () => {
    const t = tally();
    fc.assert(
      fc.property(randomEvidence, (doc) => {
        t.hit('prices', doc.prices !== null);
        t.hit('rivals', doc.rivals !== null);
        t.hit(
          'a season',
          doc.terms.some((x) => seasonOf(x.volumes, NOW).known),
        );
      }),
      { numRuns: 300 },
    );
    t.wants('prices', 'rivals', 'a season');
  });
});
