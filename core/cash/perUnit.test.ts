/** What a unit pays and brings as cash, with VAT worked by hand: registered or not, charged or reversed. */
import { describe, expect, it } from 'vitest';
import { evaluate } from '../lane/evaluate.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { marketplaceCardOf, plainLane, taxCardOf } from '../testing/documents.ts';
import { cashOf } from './cash.ts';
import { advertVat, cashPerUnit, orderCash } from './perUnit.ts';
import { cashPlan } from './schema.ts';
import { reckon } from '../lane/reckon.ts';
import { Reckoning } from '../lane/reckoning.ts';

const NET = { currency: 'EUR', vat: 'added', vatRate: 0.2 } as const;
/** Sold at 120 with 20 % VAT in it: 100 net. Goods 30, a leg of 5, one into the warehouse of 3, all plus 20 % VAT. */
const laneWith = (over: object = {}): LaneDocument =>
  plainLane({
    price: 120,
    standing: { kind: 'registered' },
    goods: [
      {
        source: {
          kind: 'quote',
          currency: 'EUR',
          priceBreaks: [{ minQty: 0, unitPrice: 30 }],
          vat: 'added',
          vatRate: 0.2,
        },
      },
    ],
    imported: false,
    route: {
      legs: [
        { stage: 'main', basis: 'perUnit', rate: 5, ...NET },
        { stage: 'inbound', basis: 'perUnit', rate: 3, ...NET },
      ],
      transitDays: 4,
    },
    prep: { standard: 2, oversize: 2, ...NET },
    rates: { tax: taxCardOf('inclusive', 0.2) },
    ...over,
  } as never);
const notRegistered = { standing: { kind: 'notRegistered' } };

describe('what a unit of an order pays, and when', () => {
  it('registered: VAT goes out with each bill, and every cent of it comes back', () => {
    const o = orderCash(laneWith(), 100, 50);
    expect(o.goods).toBeCloseTo(36, 9);
    expect(o.way).toBeCloseTo(6, 9);
    // Preparation and the way into the warehouse.
    expect(o.ready).toBeCloseTo(2.4 + 3.6, 9);
    expect([o.goodsVat, o.wayVat, o.readyVat].map((x) => Number(x.toFixed(9)))).toEqual([6, 1, 1]);
    expect(o.landedCost).toBeCloseTo(40, 9);
    expect(o.goods + o.way + o.ready - o.goodsVat - o.wayVat - o.readyVat).toBeCloseTo(o.landedCost, 9);
  });
  it('not registered: the same goes out, and nothing comes back', () => {
    const o = orderCash(laneWith(notRegistered), 100, 50);
    expect(o.goods + o.way + o.ready).toBeCloseTo(48, 9);
    expect([o.goodsVat, o.wayVat, o.readyVat]).toEqual([0, 0, 0]);
    expect(o.landedCost).toBeCloseTo(48, 9);
  });
  it('an order of another size pays the price of its own break', () => {
    const doc = laneWith({
      goods: [
        {
          source: {
            kind: 'quote',
            currency: 'EUR',
            priceBreaks: [
              { minQty: 0, unitPrice: 30 },
              { minQty: 500, unitPrice: 25 },
            ],
          },
        },
      ],
    });
    expect(orderCash(doc, 499, 50).goods).toBeCloseTo(30, 9);
    expect(orderCash(doc, 500, 50).goods).toBeCloseTo(25, 9);
    expect(cashPerUnit(doc, 50).order.goods).toBeCloseTo(30, 9);
  });
  it('is in the home currency', () => {
    const home = laneWith({
      homeCurrency: 'PLN',
      rates: {
        tax: taxCardOf('inclusive', 0.2),
        exchange: { base: 'EUR', date: '2026-11-24', rates: { PLN: 4 } },
      },
    });
    const factor = orderCash(home, 100, 50).goods / orderCash(laneWith(), 100, 50).goods;
    expect(factor).toBeGreaterThan(3.5);
    expect(orderCash(home, 100, 50).way / orderCash(laneWith(), 100, 50).way).toBeCloseTo(factor, 9);
    expect(cashPerUnit(home, 50).sale.payout / cashPerUnit(laneWith(), 50).sale.payout).toBeCloseTo(
      factor,
      9,
    );
  });
  it('a line that is not known is left out, and the run says what the lane lacks', () => {
    const open = laneWith({ prep: null });
    expect(orderCash(open, 100, 50).ready).toBeCloseTo(3.6, 9);
    expect(cashOf(open, cashPlan.parse({}))).toMatchObject({
      known: false,
      lacks: expect.arrayContaining(['prep']),
    });
  });
});

describe('what a unit sold brings', () => {
  it('registered: the payout holds the VAT, which leaves through the account later', () => {
    const { sale } = cashPerUnit(laneWith(), 50);
    expect(sale.payout).toBeCloseTo(120, 9);
    expect(sale.vat).toBeCloseTo(20, 9);
    expect(sale.unitProfit).toBeCloseTo(100 - 40, 9);
  });
  it('not registered: nothing is owed', () => {
    const { sale } = cashPerUnit(laneWith(notRegistered), 50);
    expect(sale.vat).toBe(0);
    expect(sale.unitProfit).toBeCloseTo(120 - 48, 9);
  });
  it('own dispatch and storage go out with their VAT, which the account gives back', () => {
    const doc = laneWith({
      product: { kg: 1 },
      dispatch: {
        zones: [{ share: 1, postage: { currency: 'EUR', steps: [{ upToKg: 9, fee: 10 }] } }],
        vat: 'added',
        vatRate: 0.2,
      },
    });
    const { sale } = cashPerUnit(doc, 50);
    expect(sale.dispatch).toBeCloseTo(12, 9);
    expect(sale.vat).toBeCloseTo(20 - 2, 9);
    const poor = cashPerUnit({ ...doc, standing: { kind: 'notRegistered' } } as LaneDocument, 50).sale;
    expect(poor.dispatch).toBeCloseTo(12, 9);
    expect(poor.vat).toBe(0);
  });
  it('what comes back costs its handling, what is not sold again its disposal; VAT is owed on what stays sold', () => {
    const doc = laneWith({
      returns: {
        rate: 0.1,
        handling: { amount: 4, ...NET },
        disposal: { amount: 1, ...NET },
        resaleShare: 0.5,
      },
    });
    const { sale } = cashPerUnit(doc, 50);
    expect(sale.returns).toBeCloseTo(0.1 * (4.8 + 0.5 * 1.2), 9);
    expect([sale.returned, sale.resold]).toEqual([0.1, 0.5]);
    expect(sale.vat).toBeCloseTo(0.9 * 20 - 0.1 * (0.8 + 0.5 * 0.2), 9);
  });
});

describe('VAT on what the marketplace charges', () => {
  /** A referral fee of a tenth of 120: 12. */
  const feesWith = (treatment: string, standing: object = {}) =>
    cashPerUnit(
      laneWith({
        ...standing,
        referralApplies: true,
        product: { category: 'any', kg: 1 },
        rates: {
          tax: taxCardOf('inclusive', 0.2),
          marketplace: { ...marketplaceCardOf([{ upTo: null, pct: 0.1 }]), feeVat: { treatment, rate: 0.2 } },
        },
      }),
      50,
    ).sale;
  it('none: the fee alone is kept back', () => {
    expect(feesWith('none')).toMatchObject({ payout: 108, vat: 20 });
  });
  it('charged: it is kept back with the fee, and reclaimed by who is registered', () => {
    const sale = feesWith('charged');
    expect(sale.payout).toBeCloseTo(120 - 14.4, 9);
    expect(sale.vat).toBeCloseTo(20 - 2.4, 9);
    expect(feesWith('charged', notRegistered).vat).toBe(0);
  });
  it('reverse charge: no cash to who recovers it; who does not owes it through the account', () => {
    const sale = feesWith('reverseCharge');
    expect(sale.payout).toBeCloseTo(108, 9);
    expect(sale.vat).toBeCloseTo(20, 9);
    const poor = feesWith('reverseCharge', notRegistered);
    expect(poor.payout).toBeCloseTo(108, 9);
    expect(poor.vat).toBeCloseTo(2.4, 9);
  });
  it.each([
    ['none', 0.2, 'registered', 0, 0],
    ['charged', 0.2, 'registered', 0.2, -0.2],
    ['charged', 0.2, 'notRegistered', 0.2, 0],
    ['charged', 0, 'registered', 0, 0],
    ['reverseCharge', 0.2, 'registered', 0, 0],
    ['reverseCharge', 0.2, 'notRegistered', 0, 0.2],
  ])('on a click, %s at %s, %s: charged %s, to the account %s', (treatment, rate, kind, charged, account) => {
    const doc = laneWith({
      standing: { kind },
      rates: {
        tax: taxCardOf('inclusive', 0.2),
        marketplace: { ...marketplaceCardOf([{ upTo: null, pct: 0.1 }]), advertVat: { treatment, rate } },
      },
    });
    expect(advertVat(reckon(doc, new Reckoning()))).toEqual({ charged, account });
  });
  it('adverts are paid with what is charged on them, and cost the lane what is not reclaimed', () => {
    const doc = (kind: string): LaneDocument =>
      laneWith({
        standing: { kind },
        adverts: {
          adShare: 1,
          keywords: [{ text: 'pot', low: 1, high: 1, weight: 0.5, conversionRate: 0.1 }],
        },
        rates: {
          tax: taxCardOf('inclusive', 0.2),
          marketplace: {
            ...marketplaceCardOf([{ upTo: null, pct: 0.1 }]),
            advertVat: { treatment: 'charged', rate: 0.2 },
          },
        },
      });
    // A click at 1, one in ten sells: 10 a sale, and 2 of VAT.
    const rich = cashPerUnit(doc('registered'), 50).sale;
    expect(rich.adverts).toBeCloseTo(12, 9);
    expect(rich.vat).toBeCloseTo(18, 9);
    expect(rich.unitProfit).toBeCloseTo(50, 9);
    const poor = cashPerUnit(doc('notRegistered'), 50).sale;
    expect(poor.adverts).toBeCloseTo(12, 9);
    expect(poor.unitProfit).toBeCloseTo(120 - 48 - 12, 9);
    expect(poor.unitProfit).toBeCloseTo(evaluate(doc('notRegistered')).figures.unitProfit as number, 9);
  });
});
