import { describe, expect, it } from 'vitest';
import { evaluate } from '../evaluate.ts';
import type { LaneDocumentInput } from '../schema.ts';
import { plainLane } from '../../testing/documents.ts';
import { seasonIndex, unitsInMonth } from './demand.ts';

const units = (demand: LaneDocumentInput['demand'], over: Partial<LaneDocumentInput> = {}) =>
  evaluate(plainLane({ demand, ...over })).figures.expectedMonthlyUnits;

describe('units a month', () => {
  it('typed, or a share of the market', () => {
    expect([
      units({ kind: 'typed', units: 40 }),
      units({ kind: 'marketShare', marketUnits: 800, share: 0.05 }),
      units(null),
    ]).toEqual([40, 40, null]);
  });
  it('split among the offers in the running, one of them mine', () => {
    const split = { kind: 'offerSplit' as const, listingUnits: 120, rivals: [30, 30.5, 36], band: 0.02 };
    // at 30 the floor is 30: 30 and 30.5 are within two in a hundred, 36 is not
    expect(units(split)).toBe(40);
    expect(units({ ...split, variationShare: 0.5, retailArmShare: 0.25 })).toBe(15);
    expect(units({ ...split, rivals: [] })).toBe(120);
  });
  it('an offer above the band is out of the running: 0, and said', () => {
    const result = evaluate(
      plainLane({
        price: 33,
        demand: { kind: 'offerSplit', listingUnits: 120, rivals: [30, 31], band: 0.05 },
      }),
    );
    expect(result.figures.expectedMonthlyUnits).toBe(0);
    expect(result.notices.map((n) => n.code)).toEqual(['outOfTheRunning']);
  });
  it('charged delivery counts: it is the price with delivery that is compared', () => {
    const split = { kind: 'offerSplit' as const, listingUnits: 120, rivals: [30], band: 0 };
    expect([
      units(split, { price: 26, shippingCharged: 4 }),
      units(split, { price: 28, shippingCharged: 4 }),
    ]).toEqual([60, 0]);
  });
  it('a season moves the year about without changing it', () => {
    const season = [2, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 12];
    expect(seasonIndex(season).reduce((a, b) => a + b, 0)).toBeCloseTo(12, 9);
    expect([
      unitsInMonth(48, season, 12),
      unitsInMonth(48, season, 1),
      unitsInMonth(48, season, 5),
      unitsInMonth(48, null, 5),
    ]).toEqual([288, 48, 24, 48]);
  });
});

describe('adverts', () => {
  const keyword = (low: number, high: number, conversionRate: number, over: object = {}) => ({
    low,
    high,
    conversionRate,
    ...over,
  });
  const adverts = (keywords: object[], adShare = 1) =>
    evaluate(plainLane({ adverts: { keywords, adShare } as never }));
  it('a sale costs its clicks; a unit the share that adverts bring', () => {
    expect(adverts([keyword(0.4, 0.6, 0.1)]).lines.adverts).toBeCloseTo(5, 9);
    expect(adverts([keyword(0.4, 0.6, 0.1)], 0.4).lines.adverts).toBeCloseTo(2, 9);
    expect(adverts([keyword(0.4, 0.6, 0.1, { weight: 0 })]).lines.adverts).toBeCloseTo(4, 9);
    expect(adverts([keyword(0.4, 0.6, 0)], 0).lines.adverts).toBe(0);
  });
  it('several keywords are weighed by their clicks, equally where one lacks them', () => {
    const [dear, cheap] = [keyword(1, 1, 0.1), keyword(0.5, 0.5, 0.2)];
    expect(
      adverts([
        { ...dear, expectedClicks: 30 },
        { ...cheap, expectedClicks: 10 },
      ]).lines.adverts,
    ).toBeCloseTo(0.875 / 0.125, 9);
    expect(adverts([{ ...dear, expectedClicks: 30 }, cheap]).lines.adverts).toBeCloseTo(0.75 / 0.15, 9);
  });
  it('clicks that never sell are a problem, not a figure', () => {
    const result = adverts([keyword(0.4, 0.6, 0)]);
    expect([result.lines.adverts, result.problems.map((p) => p.code)]).toEqual([null, ['zeroConversion']]);
  });
});
