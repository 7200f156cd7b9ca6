/** The figures of a lane (economics, section 8 and those it rests on), each said once. */
import { acos, breakEvenAcos, highestCpc, lowestConversion } from '../rules/adverts.ts';
import { isUnknown } from '../rules/numbers.ts';
import { costOfHolding, markup, ratio, yearlyReturn } from '../rules/result.ts';
import { BIT, blanksIn } from './blanks.ts';
import type { Reckoning, TermUnit } from './reckoning.ts';

type FigureRule = {
  /** From a finished reckoning; NaN where it has no answer. */
  readonly value: (r: Reckoning) => number;
  readonly unit: TermUnit;
  /** The blanks that make it incomplete, as bits. */
  readonly blanks: number;
  /**
   * How it errs while costs are missing: it can only be lower (`falls`), only be higher (`rises`); `no`: it is
   * no sum of costs, and what is missing bounds nothing.
   */
  readonly errs: 'falls' | 'rises' | 'no';
  /** What else it cannot be without: months of cover, the days of a cash cycle, adverts, a share of advert sales. */
  readonly needs?: readonly ('cover' | 'cycle' | 'benchmark' | 'adverts' | 'advertSales')[];
  /** What stands under the bar, for the reason where that is not above zero. */
  readonly over?: 'netRevenue' | 'gross' | 'goods' | 'landedCost' | 'landedCash' | 'contribution';
};

const landed = BIT.goods | BIT.freight | BIT.duty | BIT.importVatAsCost | BIT.prep | BIT.deliveryInCost;
const landedCash = landed | BIT.importVatAsCash | BIT.deliveryInCash;
const proceeds =
  BIT.price | BIT.referral | BIT.fulfilment | BIT.storage | BIT.subscription | BIT.returnsInConversion;
const contribution = landed | proceeds | BIT.returns | BIT.other;
const profit = contribution | BIT.adverts;
const paidOut =
  BIT.price | BIT.referral | BIT.subscription | BIT.returns | BIT.fulfilmentInPayout | BIT.storageInPayout;
const customs = BIT.goods | BIT.freight;
const cover = BIT.demandInCover;
const cycle = BIT.demandInCycle;

const money = (value: FigureRule['value'], blanks: number, errs: FigureRule['errs']) =>
  ({ value, unit: 'money', blanks, errs }) as const;
const share = (value: FigureRule['value'], blanks: number, over: NonNullable<FigureRule['over']>) =>
  ({ value, unit: 'share', blanks, errs: 'falls', over }) as const;

export const FIGURE = {
  itemPrice: money((r) => r.itemPrice, BIT.price, 'no'),
  gross: money((r) => r.gross, BIT.price, 'no'),
  netRevenue: money((r) => r.netRevenue, BIT.price, 'no'),
  proceeds: money((r) => r.proceeds, proceeds, 'falls'),
  landedCost: money((r) => r.landedCost, landed, 'rises'),
  landedCash: money((r) => r.landedCash, landedCash, 'rises'),
  contribution: money((r) => r.contribution, contribution, 'falls'),
  unitProfit: money((r) => r.unitProfit, profit, 'falls'),
  margin: share((r) => ratio(r.unitProfit, r.netRevenue), profit, 'netRevenue'),
  marginOnShelfPrice: share((r) => ratio(r.unitProfit, r.gross), profit, 'gross'),
  roi: share((r) => ratio(r.unitProfit, r.landedCost), profit, 'landedCost'),
  markup: share((r) => markup(r.netRevenue, r.landedCost), landed | BIT.price, 'landedCost'),
  priceMultiple: {
    value: (r) => ratio(r.gross, r.goods),
    unit: 'number',
    blanks: BIT.price | BIT.goods,
    errs: 'no',
    over: 'goods',
  },
  expectedMonthlyUnits: { value: (r) => r.units, unit: 'pieces', blanks: BIT.demand, errs: 'no' },
  profitPerMonth: money((r) => r.profitPerMonth, profit | BIT.demand, 'falls'),
  coverMonths: { value: (r) => r.cover, unit: 'months', blanks: cover, errs: 'no', needs: ['cover'] },
  cashCycleDays: {
    value: (r) => r.cashCycleDays,
    unit: 'days',
    blanks: cycle,
    errs: 'no',
    needs: ['cover', 'cycle'],
  },
  turnsPerYear: {
    value: (r) => r.turns,
    unit: 'number',
    blanks: cover | cycle,
    errs: 'no',
    needs: ['cover', 'cycle'],
  },
  yearlyReturnOnCash: {
    ...share(
      (r) => yearlyReturn(r.unitProfit, r.landedCash, r.turns),
      profit | landedCash | cover | cycle,
      'landedCash',
    ),
    needs: ['cover', 'cycle'],
  },
  costOfHolding: {
    ...money(
      (r) => costOfHolding(r.landedCash, r.doc.rates.benchmark?.rate ?? Number.NaN, r.cashCycleDays),
      landedCash | cycle,
      'rises',
    ),
    needs: ['benchmark', 'cover', 'cycle'],
  },
  payout: money((r) => r.payout, paidOut, 'falls'),
  recoverableVat: money(
    (r) => r.recoverableVat,
    BIT.goods | BIT.freight | BIT.duty | BIT.prep | BIT.importVatAsCash | BIT.deliveryInCash,
    'rises',
  ),
  cashbackToCome: money((r) => r.cashback, BIT.goods, 'rises'),
  cifValue: money((r) => r.cifValue, customs | BIT.deliveryInCif, 'rises'),
  customsValue: money((r) => r.customsValue, customs | BIT.deliveryInCustoms, 'rises'),
  importVat: money((r) => r.importVat, customs | BIT.duty | BIT.importVat | BIT.deliveryInImportVat, 'rises'),
  adCostPerAdSale: {
    ...money((r) => r.adCostPerAdSale, BIT.adverts, 'no'),
    needs: ['adverts', 'advertSales'],
  },
  acos: {
    ...share((r) => acos(r.cpc, r.conversionRate, r.gross), BIT.adverts | BIT.price, 'gross'),
    errs: 'no',
    needs: ['adverts'],
  },
  tacos: {
    ...share((r) => r.adShare * acos(r.cpc, r.conversionRate, r.gross), BIT.adverts | BIT.price, 'gross'),
    errs: 'no',
    needs: ['adverts'],
  },
  breakEvenAcos: share(
    (r) => breakEvenAcos(r.contribution, r.gross, r.advertVatFactor),
    contribution,
    'contribution',
  ),
  highestCpc: {
    ...money((r) => highestCpcFor(r, 0), contribution | BIT.adverts, 'falls'),
    needs: ['adverts'],
    over: 'contribution',
  },
  highestCpcBlended: {
    ...money((r) => highestCpcBlendedFor(r, 0), contribution | BIT.adverts, 'falls'),
    needs: ['adverts', 'advertSales'],
    over: 'contribution',
  },
  lowestConversion: {
    ...share(lowestConversionOf, contribution | BIT.adverts, 'contribution'),
    errs: 'rises',
    needs: ['adverts'],
  },
  lowestConversionBlended: {
    ...share((r) => r.adShare * lowestConversionOf(r), contribution | BIT.adverts, 'contribution'),
    errs: 'rises',
    needs: ['adverts', 'advertSales'],
  },
} as const satisfies Record<string, FigureRule>;

export type Figure = keyof typeof FIGURE;
export const FIGURES = Object.keys(FIGURE) as [Figure, ...Figure[]];
const ruleOf = (figure: Figure): FigureRule => FIGURE[figure];

/** A figure from a finished reckoning; NaN where it has no answer. */
export const figureValue = (r: Reckoning, figure: Figure): number => FIGURE[figure].value(r);

/** How each figure is read, in the order of `FIGURES`. */
export const FIGURE_VALUES: readonly ((r: Reckoning) => number)[] = FIGURES.map((f) => FIGURE[f].value);

/** The blanks that make each figure incomplete, as bits. */
export const FIGURE_BLANKS = Object.fromEntries(FIGURES.map((f) => [f, FIGURE[f].blanks])) as Readonly<
  Record<Figure, number>
>;
export const isMoney = (figure: Figure): boolean => FIGURE[figure].unit === 'money';
/** Unit a figure is shown in. */
export const unitOf = (figure: Figure): TermUnit => FIGURE[figure].unit;

function lowestConversionOf(r: Reckoning): number {
  return lowestConversion(r.cpc, r.advertVatFactor, r.contribution);
}
/** Highest cost per click that leaves `target` for a unit sold by an advert, sales currency. */
function highestCpcFor(r: Reckoning, target: number): number {
  return highestCpc(r.contribution, target, r.conversionRate, r.advertVatFactor);
}
/** The same over all units, of which adverts sell a share. */
export function highestCpcBlendedFor(r: Reckoning, target: number): number {
  return ratio(highestCpcFor(r, target), r.adShare);
}

/** What a figure needs and the lane does not have, as its reason; null where it has all. */
function lackOf(r: Reckoning, needs: NonNullable<FigureRule['needs']>): string | null {
  if (needs.includes('benchmark') && r.doc.rates.benchmark === null) return 'blank: benchmark';
  if (needs.includes('cover') && isUnknown(r.cover)) return 'blank: orderQuantity or demand';
  if (needs.includes('cycle') && isUnknown(r.cashCycleDays)) return 'blank: days (lead, transit or payout)';
  if (needs.includes('adverts') && r.doc.adverts === 'none') return 'none: adverts';
  return needs.includes('advertSales') && r.adShare === 0 ? 'none: adverts' : null;
}

/** Costs without which even the sign of a ratio's parts is not known. */
const DECISIVE = BIT.price | BIT.goods | BIT.adverts;

/**
 * Why a figure is unknown: blanks, a problem, missing days, no benchmark, no adverts, or a denominator that is
 * not above zero.
 */
export function reasonFor(r: Reckoning, figure: Figure): string {
  const { over, blanks, needs } = ruleOf(figure);
  const missing = r.blanks & blanks;
  if (missing !== 0 && (over === undefined || (missing & DECISIVE) !== 0))
    return `blank: ${blanksIn(missing).join(', ')}`;
  if (r.problems.length > 0) return `problem: ${[...new Set(r.problems.map((p) => p.code))].join(', ')}`;
  return (needs === undefined ? null : lackOf(r, needs)) ?? `not above zero: ${over ?? figure}`;
}
