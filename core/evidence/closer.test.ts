import { describe, expect, it } from 'vitest';
import { daysBefore } from '../money/days.ts';
import { closerLook, CLOSER_WARNINGS } from './closer.ts';
import { evidenceDocument } from './schema.ts';
import { evaluate } from '../lane/evaluate.ts';
import { plainLane } from '../testing/documents.ts';

const NOW = '2026-11-30';
/** A unit costs 10 and nothing else. */
const LANE = plainLane({ prep: { standard: 10, oversize: 10, currency: 'EUR' } });
/** What a unit keeps at a price by the lane itself. */
const at = (price: number): number => evaluate({ ...LANE, price }).figures.unitProfit as number;
/** A price well above the break-even, and one below it. */
const [PAYS, LOSES] = [40, 5];

type Facts = {
  /** Price by day, from today back; null: nobody offered. */
  prices?: readonly (number | null)[];
  ownShop?: (daysAgo: number) => boolean;
  offers?: readonly object[];
  permission?: string;
};
function documentOf({ prices = [], ownShop = () => false, offers, permission }: Facts) {
  const days = prices.map((price, i) => ({ day: daysBefore(NOW, i), price, ownShop: ownShop(i) })).reverse();
  return evidenceDocument.parse({
    format: 'bold-margin/evidence',
    version: 1,
    now: NOW,
    ...(days.length === 0 ? {} : { prices: { currency: 'EUR', days } }),
    ...(offers === undefined ? {} : { offers: { currency: 'EUR', list: offers } }),
    ...(permission === undefined ? {} : { permission: { state: permission } }),
  });
}
const offer = (over: object = {}) => ({
  seller: 's',
  price: 11,
  delivery: 0,
  warehouse: true,
  of: 'other',
  isDefault: true,
  ...over,
});
const steady = (price: number, days = 200): number[] => Array.from({ length: days }, () => price);
const warn = (f: Facts, otherGoods = false) => closerLook(documentOf(f), LANE, otherGoods).warnings;

describe('a second look', () => {
  it('says the means of its windows and what a unit keeps at them, as the lane has it', () => {
    const prices = [42, ...steady(PAYS, 29), ...steady(LOSES, 150)];
    const look = closerLook(documentOf({ prices }), LANE);
    expect(look.price).toBe(42);
    expect(look.means['30']).toBeCloseTo((42 + 29 * PAYS) / 30, 9);
    expect(look.means['90']).toBeCloseTo((42 + 29 * PAYS + 60 * LOSES) / 90, 9);
    expect(look.keeps).toBeCloseTo(at(42), 6);
    expect(look.keepsAtMean).toBeCloseTo(at(look.means['90'] as number), 6);
    expect(look.lossShare).toBeCloseTo(150 / 180, 9);
    expect(look.lacks).toEqual(evaluate(LANE).incomplete.unitProfit ?? []);
  });

  it('knows nothing of what was not observed, and warns of that alone', () => {
    const look = closerLook(documentOf({}), LANE);
    expect(look).toMatchObject({
      price: null,
      keeps: null,
      keepsAtMean: null,
      lossShare: null,
      ownShop: null,
      offers: null,
      lowest: null,
      permission: null,
      warnings: ['fewDays'],
    });
    expect(Object.values(look.means)).toEqual([null, null, null]);
  });

  it('nothing speaks against goods that pay, steadily, with few others', () => {
    expect(warn({ prices: steady(PAYS), offers: [offer({ price: PAYS })], permission: 'open' })).toEqual([]);
  });

  it.each([
    ['closed', { prices: steady(PAYS), permission: 'closed' }],
    ['rightsAlert', { prices: steady(PAYS), permission: 'rightsAlert' }],
    ['approval', { prices: steady(PAYS), permission: 'approval' }],
    ['spike', { prices: [2 * PAYS, ...steady(PAYS)] }],
    ['ownShopNow', { prices: steady(PAYS), offers: [offer({ price: PAYS, of: 'ownShop' })] }],
    ['ownShopOften', { prices: steady(PAYS), ownShop: (i: number) => i % 2 === 0 }],
    ['noOffers', { prices: steady(PAYS), offers: [] }],
    [
      'manyOffers',
      { prices: steady(PAYS), offers: Array.from({ length: 15 }, () => offer({ price: PAYS })) },
    ],
    ['fewDays', { prices: steady(PAYS, 29) }],
  ] as const)('%s is said alone where nothing else is', (what, facts) => {
    expect(warn(facts as Facts)).toEqual([what]);
  });

  it('a loss at the mean, and one on many of the days, are told apart', () => {
    expect(warn({ prices: [...steady(LOSES + 1, 30), ...steady(LOSES, 60)] })).toEqual(
      expect.arrayContaining(['lossAtMean', 'lossOften']),
    );
    // A third of the days at a loss, and a mean that pays.
    const often = warn({ prices: [...steady(PAYS, 60), ...steady(LOSES, 30)] });
    expect(often).toContain('lossOften');
    expect(often).not.toContain('lossAtMean');
  });

  it('says first that the listing may be of other goods', () => {
    expect(warn({ prices: steady(PAYS), permission: 'closed' }, true)).toEqual(['otherGoods', 'closed']);
    expect(CLOSER_WARNINGS[0]).toBe('otherGoods');
  });
});
