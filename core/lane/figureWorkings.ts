import { minorDigits } from '../money/money.ts';
import { reckon } from './reckon.ts';
import { figureValue, unitOf } from './figures.ts';
import type { Figure } from './figures.ts';
import { Reckoning } from './reckoning.ts';
import type { Term, TermUnit } from './reckoning.ts';
import type { LaneDocument } from './schema.ts';
import { priceHeadroom } from './solve.ts';
import type { CostAnswer, PriceAnswer } from './solve.ts';

type Row = readonly [formula: string, terms: readonly (Figure | keyof typeof INPUTS)[]];

/** What ratios read besides other figures: unit, value and the path of the input it came from. */
const INPUTS = {
  price: ['money', (r) => r.price, 'price'],
  averageDiscount: ['share', (r) => r.doc.averageDiscount, 'averageDiscount'],
  monthlyFixedCosts: ['money', (r) => r.doc.monthlyFixedCosts, 'monthlyFixedCosts'],
  goods: ['money', (r) => r.goods, ''],
  orderQuantity: ['pieces', (r) => r.quantity, 'orderQuantity'],
  monthsHeld: ['months', (r) => r.doc.monthsHeld ?? Number.NaN, 'monthsHeld'],
  leadDays: ['days', (r) => sourceOf(r)?.leadDays ?? Number.NaN, 'goods.0.source.leadDays'],
  depositShare: [
    'share',
    (r) => {
      const s = sourceOf(r);
      return s?.kind === 'quote' ? (s.depositShare ?? 1) : 1;
    },
    'goods.0.source.depositShare',
  ],
  creditDays: ['days', (r) => sourceOf(r)?.creditDays ?? 0, 'goods.0.source.creditDays'],
  transitDays: [
    'days',
    (r) => (r.doc.route === null || r.doc.route === 'none' ? 0 : (r.doc.route.transitDays ?? Number.NaN)),
    'route.transitDays',
  ],
  inboundDays: [
    'days',
    (r) => (r.doc.route === null || r.doc.route === 'none' ? 0 : r.doc.route.inboundDays),
    'route.inboundDays',
  ],
  payoutEveryDays: [
    'days',
    (r) => r.doc.payoutEveryDays ?? r.doc.rates.marketplace?.payoutEveryDays ?? Number.NaN,
    'rates.marketplace.payoutEveryDays',
  ],
  payoutDelayDays: [
    'days',
    (r) => r.doc.payoutDelayDays ?? r.doc.rates.marketplace?.payoutDelayDays ?? Number.NaN,
    'rates.marketplace.payoutDelayDays',
  ],
  benchmarkRate: ['share', (r) => r.doc.rates.benchmark?.rate ?? Number.NaN, 'rates.benchmark'],
  costPerClick: ['money', (r) => r.cpc, 'adverts.keywords'],
  conversionRate: ['share', (r) => r.conversionRate, 'adverts.keywords'],
  adShare: ['share', (r) => r.adShare, 'adverts.adShare'],
  vatFactor: ['number', (r) => r.advertVatFactor, 'rates.marketplace.advertVat'],
  internationalFreight: [
    'money',
    (r) => r.originLegs + r.mainLegs + (r.doc.imported ? r.supplierDeliveryNet : 0),
    'route.legs',
  ],
  originLegs: ['money', (r) => r.originLegs, 'route.legs'],
  insurance: ['money', (r) => r.insurance, ''],
} as const satisfies Record<string, readonly [TermUnit, (r: Reckoning) => number, string]>;

function sourceOf(r: Reckoning) {
  return Array.isArray(r.doc.goods) ? r.doc.goods[0]?.source : undefined;
}

/** The formula of each figure of section 8 (and 2, 4, 7, 9) in the names of its terms. Lines trace themselves. */
const FORMULAS: Partial<Record<Figure, Row | ((r: Reckoning) => Row)>> = {
  itemPrice: ['price * (1 - averageDiscount)', ['price', 'averageDiscount']],
  margin: ['unitProfit / netRevenue', ['unitProfit', 'netRevenue']],
  marginOnShelfPrice: ['unitProfit / gross', ['unitProfit', 'gross']],
  roi: ['unitProfit / landedCost', ['unitProfit', 'landedCost']],
  markup: ['netRevenue / landedCost - 1', ['netRevenue', 'landedCost']],
  priceMultiple: ['gross / goods', ['gross', 'goods']],
  profitPerMonth: [
    'unitProfit * expectedMonthlyUnits - monthlyFixedCosts',
    ['unitProfit', 'expectedMonthlyUnits', 'monthlyFixedCosts'],
  ],
  coverMonths: (r) =>
    r.doc.monthsHeld === null
      ? ['orderQuantity / expectedMonthlyUnits', ['orderQuantity', 'expectedMonthlyUnits']]
      : ['2 * monthsHeld', ['monthsHeld']],
  cashCycleDays: (r) =>
    r.doc.method === 'supplierShips'
      ? [
          'payoutEveryDays / 2 + payoutDelayDays - creditDays',
          ['payoutEveryDays', 'payoutDelayDays', 'creditDays'],
        ]
      : [
          'depositShare * leadDays + transitDays + inboundDays - (1 - depositShare) * creditDays + ' +
            '30.4375 * coverMonths / 2 + payoutEveryDays / 2 + payoutDelayDays',
          [
            'depositShare',
            'leadDays',
            'transitDays',
            'inboundDays',
            'creditDays',
            'coverMonths',
            'payoutEveryDays',
            'payoutDelayDays',
          ],
        ],
  turnsPerYear: (r) =>
    r.cashCycleDays > 0
      ? ['min(12 / coverMonths, 365 / cashCycleDays)', ['coverMonths', 'cashCycleDays']]
      : ['12 / coverMonths', ['coverMonths', 'cashCycleDays']],
  yearlyReturnOnCash: [
    'unitProfit / landedCash * turnsPerYear',
    ['unitProfit', 'landedCash', 'turnsPerYear'],
  ],
  costOfHolding: [
    'landedCash * benchmarkRate * max(0, cashCycleDays) / 365',
    ['landedCash', 'benchmarkRate', 'cashCycleDays'],
  ],
  cifValue: ['goods + internationalFreight + insurance', ['goods', 'internationalFreight', 'insurance']],
  acos: ['costPerClick / conversionRate / gross', ['costPerClick', 'conversionRate', 'gross']],
  tacos: ['adShare * acos', ['adShare', 'acos']],
  adCostPerAdSale: [
    'costPerClick * vatFactor / conversionRate',
    ['costPerClick', 'vatFactor', 'conversionRate'],
  ],
  breakEvenAcos: ['contribution / (gross * vatFactor)', ['contribution', 'gross', 'vatFactor']],
  highestCpc: ['contribution * conversionRate / vatFactor', ['contribution', 'conversionRate', 'vatFactor']],
  highestCpcBlended: ['highestCpc / adShare', ['highestCpc', 'adShare']],
  lowestConversion: [
    'costPerClick * vatFactor / contribution',
    ['costPerClick', 'vatFactor', 'contribution'],
  ],
  lowestConversionBlended: ['adShare * lowestConversion', ['adShare', 'lowestConversion']],
};

/** Writes the workings of the figures that are made of other figures. Call after `reckon` with the same trace. */
export function traceFigures(r: Reckoning): void {
  for (const [figure, row] of Object.entries(FORMULAS) as [Figure, Row | ((r: Reckoning) => Row)][]) {
    const [formula, names] = typeof row === 'function' ? row(r) : row;
    const terms = names.map((name): Term => {
      if (name in INPUTS) {
        const [unit, value, path] = INPUTS[name as keyof typeof INPUTS];
        return [name, value(r), unit, path];
      }
      return [name, figureValue(r, name as Figure), unitOf(name as Figure), ''];
    });
    r.trace?.line(figure, figureValue(r, figure), formula, terms, unitOf(figure));
  }
}

export type Proof = {
  readonly formula: string;
  readonly amount: number | null;
  readonly unit: TermUnit;
  readonly terms: readonly Term[];
};

/**
 * How a price was found: the profit it leaves, and the profit one minor unit less would leave, put back
 * through the model.
 */
export function priceProof(doc: LaneDocument, answer: PriceAnswer): Proof {
  const r = new Reckoning();
  reckon(doc, r);
  r.tried.holdUnits(r.units);
  const profitAt = (price: number): number => {
    r.tried.price = price;
    return reckon(doc, r).unitProfit;
  };
  const step = 10 ** -minorDigits(doc.currency);
  const { price } = answer;
  return {
    formula: 'lowestPriceThatPays',
    amount: price,
    unit: 'money',
    terms:
      price === null
        ? []
        : [
            ['profitAtThisPrice', profitAt(price), 'money', ''],
            ['profitOneStepCheaper', price - step <= 0 ? null : profitAt(price - step), 'money', ''],
          ],
  };
}

/** How far the price may fall before a unit loses, as a share of it. */
export function headroomProof(doc: LaneDocument, breakEvenPrice: number | null): Proof {
  return {
    formula: '(price - breakEvenPrice) / price',
    amount: priceHeadroom(doc.price, breakEvenPrice),
    unit: 'share',
    terms: [
      ['price', doc.price, 'money', 'price'],
      ['breakEvenPrice', breakEvenPrice, 'money', ''],
    ],
  };
}

/**
 * How the most to pay was found: the profit it leaves, put back through the model. The unit price is in the
 * quote's currency.
 */
export function costProof(doc: LaneDocument, answer: CostAnswer): Proof {
  if (answer.unitPrice === null)
    return { formula: 'highestUnitPriceThatPays', amount: null, unit: 'number', terms: [] };
  const r = new Reckoning();
  reckon(doc, r);
  if (Array.isArray(doc.goods)) {
    r.tried.component = 0;
    r.tried.unitPrice = answer.unitPrice;
    reckon(doc, r);
  }
  return {
    formula: 'highestUnitPriceThatPays',
    amount: answer.unitPrice,
    unit: 'number',
    terms: Array.isArray(doc.goods)
      ? [
          ['profitAtThisPrice', r.unitProfit, 'money', ''],
          ['landedCost', r.landedCost, 'money', ''],
        ]
      : [],
  };
}
