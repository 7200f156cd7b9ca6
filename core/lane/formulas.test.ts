import { describe, expect, it } from 'vitest';
import { marketplaceCardOf, plainLane, taxCardOf } from '../testing/documents.ts';
import { minorDigits } from '../money/money.ts';
import { roundMinor, up, within } from '../rules/numbers.ts';
import { grossAt } from './steps/revenue.ts';
import { seasonIndex, unitsInMonth } from './steps/demand.ts';
import type { Figure } from './figures.ts';
import type { Line } from './costLines.ts';
import { evaluate, restate } from './evaluate.ts';
import type { LaneDocumentInput } from './schema.ts';
import { breakEvenUnits, priceHeadroom } from './solve.ts';

type Over = Partial<LaneDocumentInput>;
const inclusive = (vat: number) => taxCardOf('inclusive', vat);
const card = (over: object = {}, tiers = [{ upTo: null as number | null, pct: 0.1 }]) => ({
  ...marketplaceCardOf(tiers),
  ...over,
});
const line = (over: Over, name: Line) => evaluate(plainLane(over)).lines[name];
const fig = (over: Over, name: Figure) => evaluate(plainLane(over)).figures[name];
const eur = (
  amount: number,
  vat: 'none' | 'included' | 'added' = 'none',
  vatRate = 0,
  recoverable: boolean | null = null,
) => ({ amount, currency: 'EUR', vat, vatRate, recoverable });
const quote = (unitPrice: number | null, over: object = {}) => [
  { source: { kind: 'quote' as const, currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice }], ...over } },
];
const retail = (over: object) => [
  { source: { kind: 'retail' as const, currency: 'EUR', shelfPrice: 20, ...over } },
];
const marketplace = (c: object, over: Over = {}): Over => ({
  referralApplies: true,
  product: { category: 'any', sides: [20, 10, 10], kg: 0.5 },
  ...over,
  rates: { tax: taxCardOf('exclusive', 0), ...over.rates, marketplace: c as never },
});

/** Figures worked by hand, one rule at a time. Section numbers are those of the rules. */
describe('1 conventions', () => {
  it("rounds halves away from zero, in the currency's own minor unit", () => {
    expect([
      roundMinor(1.005, 100),
      roundMinor(-1.005, 100),
      roundMinor(2.675, 100),
      roundMinor(1.4949, 100),
    ]).toEqual([1.01, -1.01, 2.68, 1.49]);
    expect([minorDigits('JPY'), minorDigits('EUR'), minorDigits('KWD')]).toEqual([0, 2, 3]);
    expect([up(3.0000000001), up(3.01), within(10.0000000005, 10), within(10.01, 10)]).toEqual([
      3,
      4,
      true,
      false,
    ]);
  });
  it('converts by units per base: 10 USD at 1.25 and 5 PLN at 4 per euro', () => {
    const r = evaluate(
      plainLane({
        goods: quote(10, { currency: 'USD' }),
        otherPerUnit: [{ name: 'x', line: { amount: 5, currency: 'PLN' } }],
        rates: {
          tax: taxCardOf('exclusive', 0),
          exchange: { date: '2026-11-20', base: 'EUR', rates: { USD: 1.25, PLN: 4 } },
        },
      }),
    );
    expect(r.lines.goods).toBeCloseTo(8, 12);
    expect(r.lines.other).toBeCloseTo(1.25, 12);
    expect(
      restate(r, 'PLN', { date: '2026-11-20', base: 'EUR', rates: { PLN: 4 } })?.lines.goods,
    ).toBeCloseTo(32, 12);
    expect(restate(r, 'GBP', { date: '2026-11-20', base: 'EUR', rates: { PLN: 4 } })).toBeNull();
  });
  it('a missing exchange rate is a problem that names the currency, not a figure', () => {
    const r = evaluate(plainLane({ goods: quote(10, { currency: 'USD' }) }));
    expect(r.problems).toMatchObject([
      { code: 'noExchangeRate', line: 'goods', path: 'rates.exchange', detail: { currency: 'USD' } },
    ]);
    expect(r.figures.unitProfit).toBeNull();
  });
});

describe('2 revenue and tax', () => {
  const at = (standing: LaneDocumentInput['standing'], over: Over = {}): Over => ({
    price: 24,
    standing,
    rates: { tax: inclusive(0.2) },
    ...over,
  });
  it('price 25 less 4 % with 3 delivery: item 24, gross 27', () => {
    expect([
      fig({ price: 25, averageDiscount: 0.04, shippingCharged: 3 }, 'itemPrice'),
      fig({ price: 25, averageDiscount: 0.04, shippingCharged: 3 }, 'gross'),
    ]).toEqual([24, 27]);
  });
  it('stands on the ruler where its gross is', () => {
    expect(grossAt({ averageDiscount: 0.04, shippingCharged: 3 }, 25)).toBe(27);
  });
  it('output VAT by standing: 24 at 20 % holds 4; flat rate 7.5 % takes 1.80', () => {
    expect(line(at({ kind: 'registered' }), 'outputVat')).toBeCloseTo(4, 12);
    expect(line(at({ kind: 'notRegistered' }), 'outputVat')).toBe(0);
    expect(line(at({ kind: 'flatRate', rate: 0.075 }), 'outputVat')).toBeCloseTo(1.8, 12);
    expect(line(at({ kind: 'marketplaceRemits' }), 'outputVat')).toBeCloseTo(4, 12);
    expect(fig(at({ kind: 'marketplaceRemits' }), 'payout')).toBeCloseTo(20, 12);
    expect(fig(at({ kind: 'registered' }), 'payout')).toBeCloseTo(24, 12);
    expect(
      line({ ...at({ kind: 'registered' }), rates: { tax: taxCardOf('exclusive', 0.2) } }, 'outputVat'),
    ).toBe(0);
  });
  it(
    'VAT on a purchase of 10 plus 20 %: recovered it ties cash, else it is a line of its own; a line ' +
      'may say otherwise',
    () => {
      const goods = quote(10, { vat: 'added', vatRate: 0.2 });
      expect([
        fig(at({ kind: 'registered' }, { goods }), 'landedCost'),
        fig(at({ kind: 'registered' }, { goods }), 'landedCash'),
      ]).toEqual([10, 12]);
      expect([
        fig(at({ kind: 'notRegistered' }, { goods }), 'landedCost'),
        line(at({ kind: 'notRegistered' }, { goods }), 'irrecoverableVat'),
      ]).toEqual([12, 2]);
      expect(
        fig(
          at(
            { kind: 'registered' },
            { goods: quote(10, { vat: 'added', vatRate: 0.2, recoverable: false }) },
          ),
          'landedCost',
        ),
      ).toBe(12);
      expect(
        line(at({ kind: 'registered' }, { goods: quote(12, { vat: 'included', vatRate: 0.2 }) }), 'goods'),
      ).toBeCloseTo(10, 12);
      expect(fig(at({ kind: 'marketplaceRemits', recoverable: true }, { goods }), 'landedCost')).toBe(10);
    },
  );
  it('VAT on fees of 2.40 at 20 %: charged and not recovered 0.48; recovered nothing, but it lowers the payout', () => {
    const c = (treatment: 'charged' | 'reverseCharge' | 'none') => card({ feeVat: { treatment, rate: 0.2 } });
    const of = (kind: 'registered' | 'notRegistered', treatment: 'charged' | 'reverseCharge' | 'none') =>
      evaluate(
        plainLane(
          marketplace(c(treatment), { price: 24, standing: { kind }, rates: { tax: inclusive(0.2) } }),
        ),
      );
    expect(of('notRegistered', 'charged').lines.feeVat).toBeCloseTo(0.48, 12);
    expect(of('notRegistered', 'reverseCharge').lines.feeVat).toBeCloseTo(0.48, 12);
    expect(of('registered', 'charged').lines.feeVat).toBe(0);
    expect(of('registered', 'charged').figures.payout).toBeCloseTo(24 - 2.4 * 1.2, 12);
    expect(of('registered', 'reverseCharge').figures.payout).toBeCloseTo(21.6, 12);
    expect(of('notRegistered', 'none').lines.feeVat).toBe(0);
  });
  it(
    'fee bases of 24 + 3 delivery at 20 %: item 24, gross 27, net 22.50; of what the buyer pays with ' +
      '8 % checkout tax 29.16',
    () => {
      const c = (base: string) =>
        card({
          categories: [
            {
              key: 'any',
              name: 'Any',
              referral: { base, mode: 'whole', tiers: [{ upTo: null, pct: 0.1 }], min: null, max: null },
            },
          ],
        });
      const of = (base: string, over: Over = {}) =>
        line(
          marketplace(c(base), {
            price: 24,
            shippingCharged: 3,
            standing: { kind: 'registered' },
            rates: { tax: inclusive(0.2) },
            ...over,
          }),
          'referral',
        );
      expect([of('item'), of('gross'), of('net'), of('buyerPays')]).toEqual([2.4, 2.7, 2.25, 2.7]);
      expect(of('net', { standing: { kind: 'notRegistered' } })).toBe(2.7);
      expect(of('buyerPays', { rates: { tax: { ...taxCardOf('exclusive', 0), checkoutTax: 0.08 } } })).toBe(
        2.92,
      );
    },
  );
});

describe('3 what the goods cost', () => {
  it('price breaks rate the whole order; extras; 4 in a sold pack, 6 in a bought one', () => {
    const goods = [
      {
        unitsInSoldPack: 4,
        unitsInBoughtPack: 6,
        source: {
          kind: 'quote' as const,
          currency: 'EUR',
          priceBreaks: [
            { minQty: 10, unitPrice: 9 },
            { minQty: 100, unitPrice: 7.5 },
          ],
          extras: [{ name: 'sleeve', amount: 0.6 }],
        },
      },
    ];
    // 150 sold packs are 100 bought ones: (7.5 + 0.6) * 4 / 6
    expect(line({ goods, orderQuantity: 150 }, 'goods')).toBeCloseTo(5.4, 12);
    expect(line({ goods, orderQuantity: 149 }, 'goods')).toBeCloseTo(6.4, 12);
  });
  it('an order under the first break or the minimum is a problem that says how many it takes', () => {
    expect(
      evaluate(
        plainLane({
          goods: [
            { source: { kind: 'quote', currency: 'EUR', priceBreaks: [{ minQty: 200, unitPrice: 4 }] } },
          ],
          orderQuantity: 150,
        }),
      ).problems,
    ).toMatchObject([{ code: 'underFirstBreak', detail: { minQty: 200, bought: 150 } }]);
    expect(
      evaluate(plainLane({ goods: quote(4, { minimumOrder: 300 }), orderQuantity: 150 })).problems,
    ).toMatchObject([{ code: 'underMinimumOrder', path: 'orderQuantity', detail: { minimum: 300 } }]);
  });
  it('charges of 120 an order over 100 units and 2 % on payments of 5: 1.30', () => {
    expect(
      line(
        { goods: quote(5, { perOrder: [{ name: 'inspection', amount: 120 }] }), buyingSpread: 0.02 },
        'buyingCosts',
      ),
    ).toBeCloseTo(1.3, 12);
  });
  it('an expired quote is used and said', () => {
    expect(
      evaluate(plainLane({ goods: quote(5, { supplier: 'Someone', validUntil: '2026-11-01' }) })).notices,
    ).toMatchObject([{ code: 'quoteExpired', detail: { supplier: 'Someone', date: '2026-11-01' } }]);
  });
  it('shelf price 20: 25 % then 3 off is 12, the other way round 12.75; a coupon never makes it negative', () => {
    const steps = [
      { kind: 'coupon', amount: 3 },
      { kind: 'percent', share: 0.25 },
    ];
    expect(line({ goods: retail({ discounts: steps }) }, 'goods')).toBeCloseTo(12, 12);
    expect(line({ goods: retail({ discounts: steps, reordered: true }) }, 'goods')).toBeCloseTo(12.75, 12);
    expect(line({ goods: retail({ discounts: [{ kind: 'coupon', amount: 50 }] }) }, 'goods')).toBe(0);
  });
  it(
    'sales tax, unless exempt; gift cards on half the bill; cashback on what tax counts for, not ' +
      'where gift cards pay',
    () => {
      expect(line({ goods: retail({ salesTax: 0.1 }) }, 'goods')).toBeCloseTo(22, 12);
      expect(line({ goods: retail({ salesTax: 0.1, exempt: true }) }, 'goods')).toBeCloseTo(20, 12);
      // bill 22, half by cards at 10 % off: 1.10 saved
      expect(
        line({ goods: retail({ salesTax: 0.1, giftCard: { discount: 0.1, part: 0.5 } }) }, 'goods'),
      ).toBeCloseTo(20.9, 12);
      // 5 % of 22, of the half not paid by cards: 0.55
      expect(
        fig(
          {
            goods: retail({
              salesTax: 0.1,
              giftCard: { discount: 0.1, part: 0.5 },
              cashback: { share: 0.05, taxCounts: true, giftCardsCount: false },
            }),
          },
          'cashbackToCome',
        ),
      ).toBeCloseTo(0.55, 12);
      expect(
        line({ goods: retail({ delivery: eur(12, 'included', 0.2) }), orderQuantity: 4 }, 'goods'),
      ).toBeCloseTo(22.5, 12);
    },
  );
  it('a bundle sums its components; a free extra brings its own profit', () => {
    const goods = [...quote(3), ...retail({ shelfPrice: 2 })];
    expect(line({ goods }, 'goods')).toBe(5);
    expect(fig({ goods, price: 10, freeExtraProfit: 1.5 }, 'unitProfit')).toBeCloseTo(6.5, 12);
  });
});

describe('4 freight, duty, landed cost', () => {
  const carton = { units: 20, volumeM3: 0.05, kg: 8 };
  const leg = (basis: string, rate: number | null, over: object = {}) => ({
    stage: 'main' as const,
    basis: basis as 'perKg',
    rate,
    currency: 'EUR',
    ...over,
  });
  const way = (legs: object[], over: Over = {}): Over => ({
    goods: quote(4, { incoterm: 'FOB', carton }),
    orderQuantity: 110,
    route: { legs: legs as never },
    product: { sides: [20, 10, 10], kg: 0.4 },
    ...over,
  });
  it('110 units are 6 whole cartons: 48 kg, 0.3 m3', () => {
    expect(line(way([leg('perUnit', 0.5)]), 'freight')).toBeCloseTo(0.5, 12);
    expect(line(way([leg('perKg', 2)]), 'freight')).toBeCloseTo(96 / 110, 12);
    expect(line(way([leg('perKg', 2, { divisor: 5000 })]), 'freight')).toBeCloseTo(120 / 110, 12);
    expect(line(way([leg('perKg', 2, { minKg: 100 })]), 'freight')).toBeCloseTo(200 / 110, 12);
    expect(line(way([leg('perCbm', 200)]), 'freight')).toBeCloseTo(60 / 110, 12);
    expect(line(way([leg('perCbm', 200, { minCbm: 1 })]), 'freight')).toBeCloseTo(200 / 110, 12);
    expect(line(way([leg('perCarton', 3)]), 'freight')).toBeCloseTo(18 / 110, 12);
    expect(line(way([leg('perShipment', 55)]), 'freight')).toBeCloseTo(0.5, 12);
    expect(line(way([leg('perContainer', 1100, { usableM3: 0.2 })]), 'freight')).toBeCloseTo(20, 12);
    expect(line(way([leg('perShipment', 20, { minCharge: 50, fuelSurcharge: 0.1 })]), 'freight')).toBeCloseTo(
      0.5,
      12,
    );
    expect(
      line(
        way([
          leg('perKg', null, {
            bands: [
              { upToKg: 40, rate: 3 },
              { upToKg: 60, rate: 2.5 },
            ],
          }),
        ]),
        'freight',
      ),
    ).toBeCloseTo(120 / 110, 12);
  });
  it('without a carton: packaged units with 10 % packing; a carton rate is then a problem', () => {
    const loose = { goods: quote(4, { incoterm: 'FOB' }) };
    expect(
      line(
        { ...way([leg('perKg', 2)], loose), route: { legs: [leg('perKg', 2)], packingAllowance: 0.1 } },
        'freight',
      ),
    ).toBeCloseTo(2 * 0.4 * 1.1, 12);
    expect(evaluate(plainLane(way([leg('perCarton', 3)], loose))).problems).toMatchObject([
      { code: 'noCarton' },
    ]);
    expect(
      evaluate(plainLane(way([leg('perKg', null, { bands: [{ upToKg: 10, rate: 3 }] })]))).problems,
    ).toMatchObject([{ code: 'noWeightBand', detail: { kg: 48 } }]);
  });
  it('the rule of the quote says which stages the buyer pays', () => {
    const all = (['origin', 'main', 'destination', 'inbound'] as const).map((stage, i) =>
      leg('perUnit', 10 ** -i, { stage }),
    );
    const paid = (incoterm: string) => line(way(all, { goods: quote(4, { incoterm, carton }) }), 'freight');
    expect(paid('EXW')).toBeCloseTo(1.111, 12);
    for (const rule of ['FCA', 'FAS', 'FOB']) expect(paid(rule)).toBeCloseTo(0.111, 12);
    for (const rule of ['CFR', 'CPT', 'CIF', 'CIP']) expect(paid(rule)).toBeCloseTo(0.011, 12);
    for (const rule of ['DAP', 'DPU', 'DDP']) expect(paid(rule)).toBeCloseTo(0.001, 12);
    expect(line(way([leg('perUnit', 1, { buyerPays: false })]), 'freight')).toBe(0);
  });
  it('insurance 1 % of goods and international legs, where the buyer insures', () => {
    const legs = [leg('perUnit', 1), leg('perUnit', 1, { stage: 'inbound' })];
    const insured = (incoterm: string) =>
      line(
        { ...way(legs, { goods: quote(4, { incoterm, carton }) }), route: { legs, insuranceRate: 0.01 } },
        'insurance',
      );
    expect(insured('FOB')).toBeCloseTo(0.05, 12);
    expect(insured('CFR')).toBeCloseTo(0.04, 12);
    expect(insured('CIF')).toBe(0);
  });
  const customs = (tax: object, over: Over = {}) =>
    evaluate(
      plainLane({
        ...way([leg('perUnit', 1), leg('perUnit', 0.5, { stage: 'destination' })]),
        imported: true,
        product: { sides: [20, 10, 10], kg: 0.4, hsCode: '44219999', origin: 'CN' },
        ...over,
        rates: { tax: { ...inclusive(0.2), ...tax } as never },
      }),
    );
  it('CIF value 5 (goods 4, main leg 1); FOB value 4 less freight inside the price', () => {
    const duties = [{ heading: '44', origins: null, pct: 0.1, perUnit: 0.05, perKg: 0.5 }];
    // 0.1 * 5 + 0.05 + 0.5 * 0.4
    expect(customs({ duties }).lines.duty).toBeCloseTo(0.75, 12);
    expect(customs({ duties, customsBasis: 'FOB' }).lines.duty).toBeCloseTo(0.65, 12);
    expect(
      customs(
        { duties, customsBasis: 'FOB' },
        { goods: quote(4, { incoterm: 'CIF', carton, freightInPrice: 1 }) },
      ).figures.customsValue,
    ).toBeCloseTo(3, 12);
  });
  it(
    'the most exact heading rates it, an origin of its own before all, additional duties on top, ' +
      'free under the limit',
    () => {
      const duties = [
        { heading: '', origins: null, pct: 0.9 },
        { heading: '4421', origins: null, pct: 0.04 },
        { heading: '4421', origins: ['CN'], pct: 0.06 },
        { heading: '44', origins: ['CN'], pct: 0.1, additional: true },
      ];
      expect(customs({ duties }).lines.duty).toBeCloseTo(0.8, 12);
      expect(customs({ duties, dutyFreeLimit: 550 }).lines.duty).toBe(0);
      expect(customs({ duties, dutyFreeLimit: 549 }).lines.duty).toBeCloseTo(0.8, 12);
      expect(customs({ duties: [{ heading: '39', origins: null, pct: 0.1 }] }).problems).toMatchObject([
        { code: 'noDutyRate' },
      ]);
      expect(customs({ duties }, { typed: { dutyPct: 0.02 } }).lines.duty).toBeCloseTo(0.1, 12);
    },
  );
  it('import charges of a shipment worth 550: 2 % held between 20 and 30, and 33 flat, over 110 units', () => {
    expect(
      customs(
        { importCharges: [{ name: 'a', pct: 0.02, min: 20, max: 30, flat: 0 }] },
        { typed: { dutyPct: 0 } },
      ).lines.importCharges,
    ).toBeCloseTo(20 / 110, 12);
    expect(
      customs(
        { importCharges: [{ name: 'a', pct: 0.2, min: 20, max: 30, flat: 33 }] },
        { typed: { dutyPct: 0 } },
      ).lines.importCharges,
    ).toBeCloseTo(63 / 110, 12);
  });
  it(
    'import VAT 20 % on 5 + 0.50 + duty 0.50: 1.20; on the customs value 1.10; postponed it ties no ' +
      'cash; unregistered it is a cost',
    () => {
      const typed = { dutyPct: 0.1 };
      expect(customs({}, { typed }).figures.importVat).toBeCloseTo(1.2, 12);
      expect(customs({ importVatBase: 'customsValue' }, { typed }).figures.importVat).toBeCloseTo(1.1, 12);
      expect(customs({}, { typed }).figures.recoverableVat).toBeCloseTo(1.2, 12);
      expect(customs({}, { typed, importVatPostponed: true }).figures.recoverableVat).toBe(0);
      expect(customs({}, { typed, standing: { kind: 'notRegistered' } }).lines.irrecoverableVat).toBeCloseTo(
        1.2,
        12,
      );
    },
  );
  it('no customs under DDP or inside the border', () => {
    expect(
      customs({}, { typed: { dutyPct: 0.1 }, goods: quote(4, { incoterm: 'DDP', carton }) }).lines.duty,
    ).toBe(0);
    expect(customs({}, { typed: { dutyPct: 0.1 }, imported: false }).figures.importVat).toBe(0);
  });
  it('preparation: standard, or oversize where flagged', () => {
    const prep = { standard: 0.3, oversize: 1.2, currency: 'EUR' };
    expect([line({ prep }, 'prep'), line({ prep, product: { oversize: true } }, 'prep')]).toEqual([0.3, 1.2]);
  });
});

describe('5 marketplace fees', () => {
  it('referral: whole tiers at the limit and past it, sliced tiers, minimum, maximum, rounding', () => {
    const tiers = [
      { upTo: 10, pct: 0.08 },
      { upTo: null, pct: 0.15 },
    ];
    const of = (price: number, over: object = {}) =>
      line(
        marketplace(
          card({
            categories: [
              {
                key: 'any',
                name: 'Any',
                referral: { base: 'gross', mode: 'whole', tiers, min: null, max: null, ...over },
              },
            ],
          }),
          { price },
        ),
        'referral',
      );
    expect([of(10), of(10.01), of(9.99)]).toEqual([0.8, 1.5, 0.8]);
    expect([of(10, { mode: 'sliced' }), of(30, { mode: 'sliced' })]).toEqual([0.8, 3.8]);
    expect([of(2, { min: 0.5 }), of(100, { max: 9 })]).toEqual([0.5, 9]);
  });
  it('item fee, payment fee 2.9 % + 0.30 of 25, surcharge 4 % of both and the referral fee', () => {
    const r = evaluate(
      plainLane(
        marketplace(
          card({
            itemFee: 0.255,
            payment: { base: 'gross', pct: 0.029, fixed: 0.3 },
            surcharges: [{ name: 's', pct: 0.04, of: ['referral', 'itemFee', 'payment'] }],
          }),
          { price: 25 },
        ),
      ),
    );
    // 0.725 + 0.30 = 1.025 -> 1.03; 4 % of 2.50 + 0.26 + 1.03 = 0.1516 -> 0.15
    expect([r.lines.itemFee, r.lines.payment, r.lines.surcharges]).toEqual([0.26, 1.03, 0.15]);
  });
  it("a subscription of 39 over the account's units, else the lane's", () => {
    expect(
      line(marketplace(card({ subscriptionMonthly: 39 }), { accountUnitsPerMonth: 300 }), 'subscription'),
    ).toBeCloseTo(0.13, 12);
    expect(
      line(
        marketplace(card({ subscriptionMonthly: 39 }), { demand: { kind: 'typed', units: 60 } }),
        'subscription',
      ),
    ).toBeCloseTo(0.65, 12);
    expect(evaluate(plainLane(marketplace(card({ subscriptionMonthly: 39 })))).blanks).toContain(
      'subscription',
    );
  });
  const table = {
    steps: [
      { upToKg: 0.5, fee: 3 },
      { upToKg: 1, fee: 4 },
    ],
    stepKg: 0.5,
    stepFee: 0.7,
  };
  const small = {
    name: 'small',
    maxL: 25,
    maxW: 20,
    maxH: 10,
    maxKg: 2,
    bands: [{ upToPrice: null, table }],
  };
  const large = {
    name: 'large',
    maxLengthGirth: 150,
    divisor: 5000,
    packagingKg: 0.1,
    bands: [
      { upToPrice: 20, table: { steps: [{ upToKg: 1, fee: 5 }], stepKg: 1, stepFee: 1 } },
      { upToPrice: null, table: { steps: [{ upToKg: 1, fee: 6 }], stepKg: 1, stepFee: 1 } },
    ],
  };
  const stored = (over: Over, warehouse: object = {}) =>
    evaluate(
      plainLane({
        ...marketplace(
          card({
            warehouse: { tiers: [small, large], ...warehouse },
            storage: {
              perM3Month: [30, 30, 30, 30, 30, 30, 30, 30, 30, 60, 60, 60],
              longStay: [
                { fromMonths: 2, toMonths: 3, rate: 20 },
                { fromMonths: 3, toMonths: null, rate: 50 },
              ],
            },
          }),
        ),
        method: 'warehouse',
        ...over,
      }),
    );
  it(
    'the first tier that holds the sorted sides; weight steps; past the last step so much for each ' +
      'further one',
    () => {
      const of = (sides: [number, number, number], kg: number, over: Over = {}) =>
        stored({ product: { category: 'any', sides, kg }, ...over }).lines.fulfilment;
      expect([of([10, 20, 25], 0.5), of([10, 20, 25], 0.51), of([10, 20, 25], 1.6)]).toEqual([3, 4, 5.4]);
      // large: 40 * 20 * 15 / 5000 = 2.4 kg + 0.1 packaging = 2.5: fee of 1 kg and two further steps; by price
      // band
      expect([of([40, 20, 15], 0.5, { price: 20 }), of([40, 20, 15], 0.5, { price: 20.01 })]).toEqual([7, 8]);
    },
  );
  it('nothing fits: a problem that names the parcel', () => {
    expect(stored({ product: { category: 'any', sides: [90, 40, 40], kg: 3 } }).problems).toMatchObject([
      { code: 'noSizeTier', detail: { sides: '90 × 40 × 40', kg: 3 } },
    ]);
  });
  it('add-ons and peak: the month of the sale, else the year weighed by season', () => {
    const peak = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0.6, 0.6];
    const season = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 3, 9];
    const of = (over: Over) =>
      stored(
        {
          product: { category: 'any', sides: [20, 10, 10], kg: 0.5, dangerous: true, oversize: true },
          ...over,
        },
        { peak, addOns: { dangerous: 0.5, oversize: 2 } },
      ).lines.fulfilment;
    expect([of({}), of({ saleMonth: 12 }), of({ saleMonth: 1 }), of({ season })]).toEqual([
      5.6, 6.1, 5.5, 6.1,
    ]);
  });
  it('own dispatch: zones by share, packaging and picking, VAT that is a cost', () => {
    const dispatch = {
      zones: [
        { share: 0.75, postage: { ...table, currency: 'EUR' } },
        { share: 0.25, postage: { ...table, steps: [{ upToKg: 2, fee: 9 }], currency: 'EUR' } },
      ],
      packagingKg: 0.2,
      packaging: eur(0.5),
      pickAndPack: eur(1, 'added', 0.2),
    };
    const of = (standing: LaneDocumentInput['standing']) =>
      line({ method: 'ownDispatch', dispatch, product: { kg: 0.5 }, standing }, 'fulfilment');
    // 0.7 kg: 0.75 * 4 + 0.25 * 9 + 0.5 + 1
    expect(of({ kind: 'registered' })).toBeCloseTo(6.75, 12);
    expect(of({ kind: 'notRegistered' })).toBeCloseTo(6.95, 12);
    expect(
      evaluate(
        plainLane({
          method: 'ownDispatch',
          dispatch: { zones: [{ share: 1, postage: { steps: [{ upToKg: 1, fee: 4 }], currency: 'EUR' } }] },
          product: { kg: 3 },
        }),
      ).problems,
    ).toMatchObject([{ code: 'noPostageStep' }]);
  });
  it(
    'supplier ships: delivery per order, no route, prep or storage; 1 unit unless typed; counted by ' +
      'customs if imported',
    () => {
      const over: Over = {
        method: 'supplierShips',
        orderQuantity: null,
        supplierDelivery: eur(6),
        goods: quote(10),
        prep: { standard: 5, currency: 'EUR' },
        storage: null,
        route: null,
      };
      const r = evaluate(plainLane({ ...over, price: 30 }));
      expect([
        r.lines.fulfilment,
        r.lines.prep,
        r.lines.storage,
        r.lines.freight,
        r.blanks,
        r.figures.unitProfit,
      ]).toEqual([6, 0, 0, 0, ['demand'], 14]);
      expect(line({ ...over, orderQuantity: 3 }, 'fulfilment')).toBe(2);
      expect(fig({ ...over, imported: true, typed: { dutyPct: 0 } }, 'cifValue')).toBe(16);
    },
  );
  it(
    'storage of 0.002 m3: cover 4 months at a mean of 37.5, long stay past 2 and 3 months; months ' +
      'held; a sale month',
    () => {
      const over: Over = {
        storage: 'card',
        orderQuantity: 200,
        demand: { kind: 'typed', units: 50 },
        product: { category: 'any', sides: [20, 10, 10], kg: 0.5 },
      };
      // F(2) = 4/8, F(3) = 1/8: 20 * (0.5 - 0.125) + 50 * 0.125 = 13.75; 37.5 * 2 = 75
      expect(stored(over).lines.storage).toBeCloseTo(0.002 * (75 + 13.75), 12);
      expect(stored({ ...over, monthsHeld: 0.5 }).lines.storage).toBeCloseTo(0.002 * 37.5 * 0.5, 12);
      expect(stored({ ...over, monthsHeld: 0.5, saleMonth: 12 }).lines.storage).toBeCloseTo(
        0.002 * 60 * 0.5,
        12,
      );
      expect(
        stored({ ...over, storage: { own: eur(10, 'added', 0.2) }, standing: { kind: 'notRegistered' } })
          .lines.storage,
      ).toBeCloseTo(0.002 * 12 * 2, 12);
      expect(stored({ ...over, demand: { kind: 'typed', units: 0 } }).problems).toMatchObject([
        { code: 'zeroUnits', path: 'demand' },
      ]);
    },
  );
  it('a fee typed on the lane beats the card', () => {
    const r = stored({
      typed: {
        referralPct: 0.2,
        fulfilmentFee: 1.234,
        itemFee: 0.5,
        paymentPct: 0.01,
        paymentFixed: 0.1,
        subscriptionMonthly: 10,
        storagePerM3Month: 100,
      },
      accountUnitsPerMonth: 100,
      storage: 'card',
      monthsHeld: 1,
      price: 10,
    });
    expect([
      r.lines.referral,
      r.lines.fulfilment,
      r.lines.itemFee,
      r.lines.payment,
      r.lines.subscription,
    ]).toEqual([2, 1.23, 0.5, 0.2, 0.1]);
    expect(r.lines.storage).toBeCloseTo(0.002 * 100, 12);
  });
});

describe('6 returns', () => {
  it(
    'gives back 30 of revenue and 3 of referral, keeps 0.60 of it, costs 1 to handle, 0.50 to throw ' +
      'half away, and brings half of 8 back',
    () => {
      const c = card({ refund: { adminPct: 0.2, adminMax: 5 } });
      const over = marketplace(c, {
        price: 30,
        goods: quote(8),
        returns: { rate: 0.1, resaleShare: 0.5, handling: eur(1), disposal: eur(1) },
      });
      expect(line(over, 'returns')).toBeCloseTo(0.1 * (30 - 3 + 0.6 + 1 + 0.5 - 4), 12);
      // payout: 0.9 * 30 - 3 + 0.1 * (3 - 0.6)
      expect(fig(over, 'payout')).toBeCloseTo(24.24, 12);
      expect(
        line(
          marketplace(card({ refund: { adminPct: 0.2, adminMax: 0.25 } }), {
            price: 30,
            goods: quote(8),
            returns: { rate: 0.1, resaleShare: 0.5 },
          }),
          'returns',
        ),
      ).toBeCloseTo(0.1 * (30 - 3 + 0.25 - 4), 12);
    },
  );
  it('a return can pay: goods that come back saleable are worth more than the sale', () => {
    expect(
      line({ price: 5, goods: quote(8), returns: { rate: 0.1, resaleShare: 1 } }, 'returns'),
    ).toBeCloseTo(-0.3, 12);
  });
  it('of the units bought 2 % never become saleable: 8 * 0.02 / 0.98', () => {
    expect(line({ goods: quote(8), breakage: 0.02 }, 'breakage')).toBeCloseTo(8 * (0.02 / 0.98), 12);
  });
});

describe('7 adverts', () => {
  it('0.40 to 0.60 a click, one in ten buys, 40 % of units by adverts: 5 a sale, 2 a unit', () => {
    const adverts = { keywords: [{ low: 0.4, high: 0.6, conversionRate: 0.1 }], adShare: 0.4 };
    const f = evaluate(plainLane({ price: 25, adverts })).figures;
    expect([f.adCostPerAdSale, f.acos, f.tacos]).toEqual([5, 0.2, 0.2 * 0.4]);
    expect(line({ adverts }, 'adverts')).toBeCloseTo(2, 12);
  });
  it('keywords weigh by clicks, equally where one lacks them; a bid may lean to the high end', () => {
    const of = (clicks: (number | null)[]) =>
      line(
        {
          adverts: {
            keywords: [
              { low: 1, high: 1, conversionRate: 0.2, expectedClicks: clicks[0] },
              { low: 0, high: 2, weight: 1, conversionRate: 0.1, expectedClicks: clicks[1] },
            ],
          },
        },
        'adverts',
      );
    expect(of([300, 100])).toBeCloseTo(1.25 / 0.175, 12);
    expect(of([300, null])).toBeCloseTo(1.5 / 0.15, 12);
  });
  it('VAT on adverts that is a cost: 20 % more', () => {
    const of = (kind: 'registered' | 'notRegistered') =>
      line(
        marketplace(card({ advertVat: { treatment: 'reverseCharge', rate: 0.2 } }), {
          standing: { kind },
          adverts: { keywords: [{ low: 0.5, high: 0.5, conversionRate: 0.1 }] },
        }),
        'adverts',
      );
    expect(of('registered')).toBeCloseTo(5, 12);
    expect(of('notRegistered')).toBeCloseTo(6, 12);
  });
  it('a conversion of 0 is a problem; at no units from adverts the line is 0', () => {
    const keywords = [{ low: 0.5, high: 0.5, conversionRate: 0 }];
    expect(evaluate(plainLane({ adverts: { keywords } })).problems).toMatchObject([
      { code: 'zeroConversion' },
    ]);
    expect(line({ adverts: { keywords, adShare: 0 } }, 'adverts')).toBe(0);
  });
});

describe('8 the result, 9 the advert limits', () => {
  const over: Over = {
    price: 25,
    goods: quote(8, { leadDays: 30, depositShare: 0.3, creditDays: 20 }),
    route: { legs: [], transitDays: 35, inboundDays: 5 },
    orderQuantity: 100,
    demand: { kind: 'typed', units: 50 },
    adverts: { keywords: [{ low: 0.5, high: 0.5, conversionRate: 0.1 }], adShare: 0.4 },
    payoutEveryDays: 14,
    payoutDelayDays: 3,
    monthlyFixedCosts: 20,
    rates: { tax: taxCardOf('exclusive', 0), benchmark: { rate: 0.03, date: '2026-11-01' } },
  };
  const f = evaluate(plainLane(over)).figures;
  it('after fees 25, after cost 17, after adverts 15', () => {
    expect([f.proceeds, f.contribution, f.unitProfit]).toEqual([25, 17, 15]);
  });
  it('ratios with their bases', () => {
    expect([f.margin, f.marginOnShelfPrice, f.roi, f.markup, f.priceMultiple, f.profitPerMonth]).toEqual([
      0.6, 0.6, 1.875, 2.125, 3.125, 730,
    ]);
  });
  it('cash cycle: 0.3 * 30 + 35 + 5 - 0.7 * 20 + 30.4375 + 7 + 3', () => {
    expect(f.cashCycleDays).toBeCloseTo(75.4375, 12);
    expect(f.turnsPerYear).toBeCloseTo(365 / 75.4375, 12);
    expect(f.yearlyReturnOnCash).toBeCloseTo(1.875 * (365 / 75.4375), 12);
    expect(f.costOfHolding).toBeCloseTo((8 * 0.03 * 75.4375) / 365, 12);
  });
  it('break-even ACoS 17/25, most a click 1.70, least conversion 0.5/17, and over all units', () => {
    expect(f.breakEvenAcos).toBeCloseTo(0.68, 12);
    expect(f.highestCpc).toBeCloseTo(1.7, 12);
    expect(f.highestCpcBlended).toBeCloseTo(4.25, 12);
    expect(f.lowestConversion).toBeCloseTo(0.5 / 17, 12);
    expect(f.lowestConversionBlended).toBeCloseTo((0.4 * 0.5) / 17, 12);
  });
  it('nothing to divide by: null with a reason, never NaN', () => {
    const r = evaluate(plainLane({ price: 0, goods: quote(8) }));
    expect([r.figures.margin, r.reasons.margin]).toEqual([null, 'not above zero: netRevenue']);
    expect([r.figures.breakEvenAcos, r.reasons.breakEvenAcos]).toEqual([
      null,
      'not above zero: contribution',
    ]);
  });
  it('conversion takes 1.5 % of what is paid out, when it leaves the currency, never less than nothing', () => {
    const rates = {
      tax: taxCardOf('exclusive', 0),
      exchange: { date: '2026-11-20', base: 'EUR', rates: { USD: 1.25 } },
    };
    expect(
      line({ price: 20, homeCurrency: 'USD', conversionSpread: 0.015, rates }, 'currencyConversion'),
    ).toBeCloseTo(0.3, 12);
    expect(line({ price: 20, conversionSpread: 0.015, rates }, 'currencyConversion')).toBe(0);
    expect(
      line(
        marketplace(card({ itemFee: 30 }), {
          price: 20,
          homeCurrency: 'USD',
          conversionSpread: 0.015,
          rates,
        }),
        'currencyConversion',
      ),
    ).toBe(0);
  });
  it('headroom 20 %, break-even units up to whole ones', () => {
    expect(priceHeadroom(20, 16)).toBeCloseTo(0.2, 12);
    expect([
      breakEvenUnits(470, 10.34),
      breakEvenUnits(100, 10),
      breakEvenUnits(100, 0),
      breakEvenUnits(100, -1),
      breakEvenUnits(100, null),
    ]).toEqual([46, 10, null, null, null]);
  });
});

describe('10 demand', () => {
  it('a share of the market; a split among who is within 5 % of the cheapest', () => {
    expect(
      fig({ demand: { kind: 'marketShare', marketUnits: 800, share: 0.05 } }, 'expectedMonthlyUnits'),
    ).toBe(40);
    const split = (price: number, shippingCharged = 0) =>
      evaluate(
        plainLane({
          price,
          shippingCharged,
          demand: {
            kind: 'offerSplit',
            listingUnits: 300,
            variationShare: 0.5,
            retailArmShare: 0.2,
            band: 0.05,
            rivals: [20, 20.9, 25],
          },
        }),
      );
    // floor 20: rivals at 20 and 20.90 are in the running, and we at 21 are too
    expect(split(21).figures.expectedMonthlyUnits).toBeCloseTo(120 / 3, 12);
    expect(split(18, 3).figures.expectedMonthlyUnits).toBeCloseTo(40, 12);
    // we alone are the floor
    expect(split(19).figures.expectedMonthlyUnits).toBeCloseTo(120 / 1, 12);
    expect([split(22).figures.expectedMonthlyUnits, split(22).notices[0]?.code]).toEqual([
      0,
      'outOfTheRunning',
    ]);
  });
  it('a season is twelve values over their mean', () => {
    const season = [1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 13];
    expect(seasonIndex(season)[11]).toBe(6.5);
    expect([unitsInMonth(60, season, 12), unitsInMonth(60, season, 1), unitsInMonth(60, null, 1)]).toEqual([
      390, 30, 60,
    ]);
  });
});
