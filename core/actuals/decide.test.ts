/** What a lane on sale asks to be decided, how it stands against hurdles, and what its figures are good for. */
import { describe, expect, it } from 'vitest';
import type { LaneDocument } from '../lane/schema.ts';
import { evaluate } from '../lane/evaluate.ts';
import { asPlanned, BASE, readAll, sumsOf } from '../testing/settled.ts';
import type { Said } from '../testing/settled.ts';
import { allMonthsOnSale, cashOfKinds, laneMonths } from './allMonths.ts';
import { standsAt } from './compare.ts';
import { decisionsOf } from './decide.ts';
import { latelyOf } from './drift.ts';
import { driftWidth } from './driftWidth.ts';
import { estimatesOf, missesOf } from './estimates.ts';
import { gapsOf } from './gaps.ts';
import { gistOf } from './gist.ts';
import { hurdlesOnActuals } from './hurdles.ts';
import { leftOverOf } from './leftOver.ts';
import { placeSettled, soldOf } from './onSale.ts';
import { offersOf, pacePerMonth } from './takeOver.ts';
import type { SettledKind } from './schema.ts';

type Month = { month: string; units: number; price?: number } & Partial<Record<SettledKind, number>>;
const NONE = { amount: 0, count: 0 };
/** A lane with months settled by its own rates, but for lines that a month says otherwise, of all units. */
function laneWith(months: readonly Month[], document: LaneDocument = BASE) {
  const rows = months.flatMap(({ month, units, price, ...over }): Said[] => [
    ...asPlanned(document, units, price).map((s) => ({
      ...s,
      date: `${month}-28`,
      ...(over[s.what as SettledKind] !== undefined && {
        amount: String(-(over[s.what as SettledKind] as number)),
      }),
    })),
    ...(over.refund === undefined
      ? []
      : Array.from({ length: over.refund }, () => ({ what: 'refund', date: `${month}-28`, amount: '-24' }))),
  ]);
  const lane = { document, codes: ['A'], since: '2026-08-01', ramp: [1] };
  const last = `${months.at(-1)?.month}-28`;
  const sold = soldOf(lane, placeSettled(sumsOf(readAll(rows).lines), last));
  return { sold, lately: latelyOf(lane, sold.months, last, driftWidth.parse({})), lane };
}
const decide = (months: readonly Month[], claims = NONE, next: Parameters<typeof decisionsOf>[4] = null) => {
  const { sold, lately } = laneWith(months);
  return decisionsOf(BASE, sold.whole, lately, claims, next, '2026-11-01');
};
const NEXT = { day: '2026-11-20', quantity: 100, money: 600, soldOut: null };

describe('decisions', () => {
  it('are none where all goes as planned, but for fees to claim and an order that comes near', () => {
    const steady = [
      { month: '2026-09', units: 100 },
      { month: '2026-10', units: 100 },
    ];
    expect(decide(steady)).toEqual([]);
    expect(decide(steady, { amount: 12, count: 3 }, NEXT)).toEqual([
      { what: 'claim', amount: 12, count: 3 },
      { what: 'reorder', ...NEXT },
    ]);
    expect(decide(steady, NONE, { ...NEXT, day: '2026-12-02' })).toEqual([]);
    expect(decide([])).toEqual([]);
  });
  it('adverts that drift are cut; the price that makes up for them keeps what was planned', () => {
    const dear = [
      { month: '2026-09', units: 100, adverts: 400 },
      { month: '2026-10', units: 100, adverts: 400 },
    ];
    const [cut, raise] = decide(dear);
    expect(cut).toMatchObject({ what: 'cutAdverts', actual: 4 });
    expect(raise).toMatchObject({ what: 'raisePrice', from: 24 });
    if (raise?.what !== 'raisePrice' || cut?.what !== 'cutAdverts') throw new Error('another decision');
    const kept = evaluate({ ...BASE, price: raise.price }).figures.unitProfit as number;
    const planned = evaluate(BASE).figures.unitProfit as number;
    expect(kept - planned).toBeGreaterThanOrEqual(raise.gap - 1e-9);
    expect(kept - planned).toBeLessThan(raise.gap + 0.02);
    expect(cut.year).toBeCloseTo((-(4 - cut.planned) * 200 * 365) / 58, 6);
  });
  it('a unit that loses even at the planned price is let go, and no more of it ordered', () => {
    const lost = [
      { month: '2026-09', units: 50, adverts: 700 },
      { month: '2026-10', units: 50, adverts: 700 },
    ];
    const found = decide(lost, NONE, NEXT);
    expect(found.map((d) => d.what)).toEqual(['letGo', 'cutAdverts']);
    expect(found[0]).toMatchObject({ what: 'letGo' });
  });
  it('a price cut below cost asks for the price, not to be let go', () => {
    const cut = [
      { month: '2026-09', units: 50, price: 15 },
      { month: '2026-10', units: 50, price: 15 },
    ];
    const found = decide(cut);
    expect(found.map((d) => d.what)).toEqual([]);
    expect(laneWith(cut).lately?.stands.standing).toBe('loses');
    // Up to half as dear again is thought of; nine euros on fifteen are not.
    const less = cut.map((m) => ({ ...m, price: 18 }));
    expect(decide(less)).toMatchObject([{ what: 'raisePrice', from: 18, price: 24 }]);
  });
});

describe('returns by chance', () => {
  it('a few more than planned of few units change no standing; of many they do', () => {
    const few = laneWith([{ month: '2026-10', units: 20, refund: 2 }]).sold.whole;
    const many = laneWith([{ month: '2026-10', units: 400, refund: 60 }]).sold.whole;
    if (few === null || many === null) throw new Error('nothing sold');
    expect(few.parts?.rate).toBeLessThan(-10);
    expect(standsAt(few).standing).toBe('asPlanned');
    expect(standsAt(many)).toMatchObject({ standing: 'paysLess', because: 'returns' });
    expect(
      laneWith([{ month: '2026-10', units: 20 }], { ...BASE, returns: 'none' }).sold.whole?.parts?.chance,
    ).toBe(0);
  });
});

describe('hurdles on actuals', () => {
  const hurdle = (
    figure: 'unitProfit' | 'margin' | 'roi' | 'gross' | 'expectedMonthlyUnits' | 'profitPerMonth' | 'markup',
    level: number,
  ) => ({ figure, bound: 'atLeast', level, near: 0.1 }) as const;
  it('are held against what came; figures that no report knows are left out', () => {
    const { whole } = laneWith([{ month: '2026-10', units: 61 }]).sold;
    if (whole === null) throw new Error('nothing sold');
    const said = hurdlesOnActuals(
      BASE,
      [
        hurdle('unitProfit', 100),
        hurdle('margin', 0.01),
        hurdle('roi', 0.01),
        hurdle('gross', 24),
        hurdle('expectedMonthlyUnits', 61),
        hurdle('profitPerMonth', 1e6),
        hurdle('markup', 1),
      ],
      whole,
      61,
    );
    expect(said.map((h) => [h.hurdle.figure, h.verdict])).toEqual([
      ['unitProfit', 'fail'],
      ['margin', 'pass'],
      ['roi', 'pass'],
      ['gross', 'pass'],
      ['expectedMonthlyUnits', 'fail'],
      ['profitPerMonth', 'fail'],
    ]);
    expect(said[4]?.value).toBeCloseTo(30.4375, 6);
  });
  it('a profit that lacks a cost passes none; a level in another currency needs its rate', () => {
    const lacking = { ...BASE, goods: null };
    const { whole } = laneWith([{ month: '2026-10', units: 60 }], lacking).sold;
    if (whole === null) throw new Error('nothing sold');
    expect(hurdlesOnActuals(lacking, [hurdle('unitProfit', 1)], whole, 30)[0]?.verdict).toBe('unknown');
    expect(
      hurdlesOnActuals({ ...BASE, homeCurrency: 'PLN' }, [hurdle('unitProfit', 1)], whole, 30)[0],
    ).toMatchObject({ level: null, verdict: 'unknown' });
    const nothing = { ...whole, actual: { ...whole.actual, shipped: 0, profit: null }, unitProfit: null };
    expect(hurdlesOnActuals(BASE, [hurdle('gross', 1), hurdle('profitPerMonth', 1)], nothing, 30)).toEqual(
      [],
    );
  });
});

describe('days that no report speaks of', () => {
  const span = (from: string, to: string) => ({ from, to });
  it('are a gap where they are many, whatever the order of the reports and however they overlap', () => {
    expect(gapsOf([])).toEqual([]);
    expect(
      gapsOf([
        span('2026-10-01', '2026-10-31'),
        span('2026-08-01', '2026-08-31'),
        span('2026-08-10', '2026-08-12'),
      ]),
    ).toEqual([span('2026-09-01', '2026-09-30')]);
    expect(gapsOf([span('2026-08-01', '2026-08-31'), span('2026-09-08', '2026-09-30')])).toEqual([]);
    expect(gapsOf([span('2026-08-01', '2026-08-31'), span('2026-09-09', '2026-09-30')])).toHaveLength(1);
  });
});

describe('all months', () => {
  it('add up lanes and places in the home currency; what is not known is counted', () => {
    const { sold } = laneWith([{ month: '2026-10', units: 10 }]);
    const rates = { base: 'EUR', date: '2026-08-01', source: '', rates: { PLN: 4 } };
    const polish = { ...BASE, homeCurrency: 'PLN', rates: { ...BASE.rates, exchange: rates } };
    const ofOctober = sold.months.filter((m) => m.month === '2026-10');
    const lanes = [laneMonths(polish, ofOctober), laneMonths({ ...BASE, homeCurrency: 'PLN' }, ofOctober)];
    const [month] = allMonthsOnSale(lanes, [
      { month: '2026-10', settled: 100, paidOut: 90 },
      { month: '2026-10', settled: 5, paidOut: 0 },
    ]);
    expect(month).toMatchObject({ month: '2026-10', units: 20, lacks: 1, settled: 105, paidOut: 90 });
    expect(month?.revenue).toBeCloseTo(10 * 20 * 4, 6);
    expect(month?.profit).toBeCloseTo((ofOctober[0]?.actual.profit ?? 0) * 4, 6);
    expect(
      allMonthsOnSale(
        [],
        [
          { month: '2026-01', settled: 1, paidOut: 1 },
          { month: '2026-02', settled: 1, paidOut: 1 },
        ],
      ).map((m) => m.month),
    ).toEqual(['2026-02', '2026-01']);
  });
  it('what was paid out is no part of what was settled', () => {
    const sum = (amount: number) => ({ amount: amount * 10_000, back: 0, tax: null, units: 0, lines: 1 });
    expect(cashOfKinds({ sale: sum(100), referral: sum(-15), transfer: sum(-80) })).toEqual({
      settled: 85,
      paidOut: 80,
    });
  });
});

describe('what is taken over', () => {
  const settledAt = (months: readonly Month[], document: LaneDocument = BASE) => {
    const { sold, lately } = laneWith(months, document);
    if (lately === null) throw new Error('no periods');
    return { sold, lately, of: sold.months.filter((m) => m.month >= lately.from.slice(0, 7)) };
  };
  it('is the price, what came back and the pace, with the units behind them', () => {
    const { lately, of } = settledAt([
      { month: '2026-09', units: 60, price: 22.5, refund: 6 },
      { month: '2026-10', units: 60, price: 22.5, refund: 6 },
    ]);
    const offers = offersOf(BASE, lately, of, of);
    expect(offers.map((o) => [o.what, o.figure, o.was, o.units])).toEqual([
      ['price', 22.5, 24, 120],
      ['returnRate', 0.1, 0.05, 120],
      ['units', Math.round((120 * 30.4375) / 58), 100, 120],
    ]);
    expect(offers[2]?.value).toEqual({ kind: 'typed', units: offers[2]?.figure });
  });
  it('is nothing that the lane says already, and nothing of few units', () => {
    const { lately, of } = settledAt([
      { month: '2026-09', units: 60 },
      { month: '2026-10', units: 60 },
    ]);
    const pace = Math.round(pacePerMonth(BASE, lately, of));
    const same = { ...BASE, demand: { kind: 'typed' as const, units: pace } };
    // No report has a line of refunds: what comes back is not known.
    expect(offersOf(same, lately, of, of)).toEqual([]);
    const few = {
      ...lately,
      compared: { ...lately.compared, actual: { ...lately.compared.actual, shipped: 14 } },
    };
    expect(offersOf(BASE, few, of, of)).toEqual([]);
  });
  it('takes the season out of the pace, and a season from a whole year', () => {
    const season = [1, 1, 1, 1, 1, 1, 1, 1, 2, 2, 1, 1];
    const doc = { ...BASE, season };
    const { lately, of } = settledAt(
      [
        { month: '2026-09', units: 60 },
        { month: '2026-10', units: 60 },
      ],
      doc,
    );
    expect(pacePerMonth(doc, lately, of)).toBeCloseTo(pacePerMonth(BASE, lately, of) / (2 / (14 / 12)), 6);
    expect(pacePerMonth({ ...BASE, season: [1, 1, 1, 1, 1, 1, 1, 1, 0, 0, 1, 1] }, lately, of)).toBe(0);
    const months = [
      ...['11', '12'].map((m) => `2025-${m}`),
      ...Array.from({ length: 10 }, (_, i) => `2026-${String(i + 1).padStart(2, '0')}`),
    ];
    const sold = laneWith(months.map((month) => ({ month, units: month === '2026-06' ? 130 : 70 }))).sold
      .months;
    const whole = offersOf(BASE, lately, of, sold).find((o) => o.what === 'season');
    expect(whole?.value).toEqual([0.93, 0.93, 0.93, 0.93, 0.93, 1.73, 0.93, 0.93, 0.93, 0.93, 0.93, 0.93]);
  });
});

describe('how good estimates were', () => {
  it('is how far the actual figure was off, and a width from three launches on', () => {
    const launch = (units: number, price: number) =>
      laneWith([{ month: '2026-08', units, price }]).sold.whole as NonNullable<
        ReturnType<typeof soldOf>['whole']
      >;
    const said = estimatesOf([launch(100, 24), launch(50, 18), launch(80, 30), launch(5, 1)].map(missesOf));
    const price = said.find((e) => e.input === 'price');
    expect(price).toMatchObject({ launches: 3, least: -0.25, middle: 0, most: 0.25, width: 0.25 });
    // Goods and returns stand as planned: they say nothing of how good the estimate was.
    expect(said.map((e) => e.input)).toEqual(['price', 'units', 'adverts', 'fulfilment', 'storage']);
    expect(estimatesOf([missesOf(launch(100, 18))])[0]).toMatchObject({
      input: 'price',
      launches: 1,
      least: -0.25,
      width: null,
    });
    expect(estimatesOf([])).toEqual([]);
  });
});

describe('a gist', () => {
  it('is a unit planned beside a unit as it was', () => {
    const { whole } = laneWith([{ month: '2026-10', units: 10 }]).sold;
    if (whole === null) throw new Error('nothing sold');
    const gist = gistOf(whole);
    expect(gist.actual).toMatchObject({ units: 10, gross: 24, lacks: [] });
    expect(gist.planned.families.goods).toBeCloseTo(5, 9);
    const none = gistOf({ ...whole, actual: { ...whole.actual, shipped: 0 }, parts: null });
    expect(none).toMatchObject({ difference: null, actual: { gross: null, units: 0 } });
    const blank = gistOf({ ...whole, lines: whole.lines.map((l) => ({ ...l, planned: null })) });
    expect(blank.planned.families.goods).toBeNull();
  });
});

describe('what is left over', () => {
  it('brings what the sale brings, its cost spent; nothing is known of a lane without its cost', () => {
    const { brings, floor } = leftOverOf(BASE);
    const { unitProfit, landedCost } = evaluate(BASE).figures;
    expect(brings).toBeCloseTo((unitProfit as number) + (landedCost as number), 9);
    const at = (price: number) => {
      const f = evaluate({ ...BASE, price }).figures;
      return (f.unitProfit as number) + (f.landedCost as number);
    };
    expect(at(floor as number)).toBeGreaterThanOrEqual(-1e-9);
    expect(at((floor as number) - 0.02)).toBeLessThan(0);
    expect(leftOverOf({ ...BASE, price: null }).brings).toBeNull();
    expect(leftOverOf({ ...BASE, goods: null })).toEqual({ brings: null, floor: null });
  });
});
