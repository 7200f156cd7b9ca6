import { isKnown, isUnknown } from '../rules/numbers.ts';
import { z } from 'zod';
import type { ExchangeTable } from '../money/money.ts';
import { exchangeFactor } from '../money/money.ts';
import { BOUNDS, boundOf } from './bounds.ts';
import type { Bound } from './bounds.ts';
import { reckon } from './evaluate.ts';
import { BLANKS, blanksIn, FAMILIES, FAMILY_LINES, FIGURE_BLANKS, FIGURES, LINES } from './lines.ts';
import type { Blank, Family, Figure, Line } from './lines.ts';
import { NOTICE_TEXTS, PROBLEM_TEXTS } from './problems.ts';
import { Reckoning } from './reckoning.ts';
import type { LaneDocument } from './schema.ts';

const known = z.number().nullable();
const record = <K extends string>(keys: readonly K[]) =>
  z.object(Object.fromEntries(keys.map((k) => [k, known])) as Record<K, typeof known>);
const codes = <T extends object>(texts: T) => z.enum(Object.keys(texts) as [keyof T & string]);
const detail = z.record(z.string(), z.union([z.string(), z.number()]));

/**
 * What evaluating a lane yields. Amounts per unit sold in `currency`, ratios as fractions. `null` is unknown,
 * and `reasons` says why; `incomplete` names the blanks that a figure had to leave out, `bounds` what the
 * figure is a bound of while it lacks them.
 */
export const laneResult = z.object({
  format: z.literal('bold-margin/result'),
  version: z.literal(1),
  currency: z.string(),
  date: z.string(),
  lines: record(LINES),
  families: record(FAMILIES),
  figures: record(FIGURES),
  blanks: z.array(z.enum(BLANKS)).readonly(),
  incomplete: z.partialRecord(z.enum(FIGURES), z.array(z.enum(BLANKS)).readonly()),
  bounds: z
    .partialRecord(z.enum(FIGURES), z.enum(BOUNDS))
    .default({})
    .meta({ description: 'Of each figure that is known but lacks cost lines: what it is a bound of' }),
  reasons: z.partialRecord(z.enum(FIGURES), z.string()),
  problems: z.array(z.object({ code: codes(PROBLEM_TEXTS), line: z.string(), path: z.string(), detail })),
  notices: z.array(z.object({ code: codes(NOTICE_TEXTS), path: z.string(), detail })),
});
export type LaneResult = z.output<typeof laneResult>;
/** What is kept of a result once another has taken its place. */
export type EarlierResult = Pick<LaneResult, 'currency' | 'lines'> & {
  figures: Pick<LaneResult['figures'], 'unitProfit' | 'gross'>;
};

/** Cost line as reckoned; NaN where unknown or blank. */
export function lineValue(r: Reckoning, line: Line): number {
  switch (line) {
    case 'outputVat':
      return r.outputVat;
    case 'irrecoverableVat':
      return r.irrecoverableVat;
    case 'feeVat':
      return r.feeVat;
    case 'goods':
      return r.goods;
    case 'buyingCosts':
      return r.buyingCosts;
    case 'prep':
      return r.isBlank('prep') ? Number.NaN : r.prep;
    // Legs that are known count although another is blank; with none known there is no amount to show.
    case 'freight':
      return r.isBlank('freight') && r.freight === 0 ? Number.NaN : r.freight;
    case 'insurance':
      return r.insurance;
    // The same where only the import charges lack an order quantity.
    case 'duty':
      return r.isBlank('duty') && r.duty === 0 ? Number.NaN : r.duty;
    case 'importCharges':
      return r.importCharges;
    case 'referral':
      return r.isBlank('referral') ? Number.NaN : r.referral;
    case 'itemFee':
      return r.itemFee;
    case 'payment':
      return r.payment;
    case 'surcharges':
      return r.surcharges;
    case 'subscription':
      return r.isBlank('subscription') ? Number.NaN : r.subscription;
    case 'currencyConversion':
      return r.currencyConversion;
    case 'fulfilment':
      return r.isBlank('fulfilment') ? Number.NaN : r.fulfilment;
    case 'storage':
      return r.isBlank('storage') ? Number.NaN : r.storage;
    case 'returns':
      return r.isBlank('returns') ? Number.NaN : r.returns;
    case 'breakage':
      return r.breakage;
    case 'other':
      return r.isBlank('other') && r.other === 0 ? Number.NaN : r.other;
    case 'freeExtra':
      return r.doc.freeExtraProfit === 0 ? 0 : -r.doc.freeExtraProfit;
    case 'adverts':
      return r.isBlank('adverts') ? Number.NaN : r.adverts;
  }
}

const NOT_ABOVE_ZERO = 1e-12;
/** A ratio whose denominator is not above zero has no answer. */
function ratio(a: number, b: number): number {
  return b > NOT_ABOVE_ZERO ? a / b : Number.NaN;
}

/** A figure of section 8 from a finished reckoning; NaN where it has no answer. */
export function figureValue(r: Reckoning, figure: Figure): number {
  const V = r.advertVatFactor;
  switch (figure) {
    case 'itemPrice':
      return r.itemPrice;
    case 'gross':
      return r.gross;
    case 'netRevenue':
      return r.netRevenue;
    case 'proceeds':
      return r.proceeds;
    case 'landedCost':
      return r.landedCost;
    case 'landedCash':
      return r.landedCash;
    case 'contribution':
      return r.contribution;
    case 'unitProfit':
      return r.unitProfit;
    case 'margin':
      return ratio(r.unitProfit, r.netRevenue);
    case 'marginOnShelfPrice':
      return ratio(r.unitProfit, r.gross);
    case 'roi':
      return ratio(r.unitProfit, r.landedCost);
    case 'markup':
      return ratio(r.netRevenue, r.landedCost) - 1;
    case 'priceMultiple':
      return ratio(r.gross, r.goods);
    case 'expectedMonthlyUnits':
      return r.units;
    case 'profitPerMonth':
      return r.profitPerMonth;
    case 'coverMonths':
      return r.cover;
    case 'cashCycleDays':
      return r.cashCycleDays;
    case 'turnsPerYear':
      return r.turns;
    case 'yearlyReturnOnCash':
      return ratio(r.unitProfit, r.landedCash) * r.turns;
    case 'costOfHolding':
      return r.doc.rates.benchmark === null
        ? Number.NaN
        : (r.landedCash * r.doc.rates.benchmark.rate * Math.max(0, r.cashCycleDays)) / 365;
    case 'payout':
      return r.payout;
    case 'recoverableVat':
      return r.recoverableVat;
    case 'cashbackToCome':
      return r.cashback;
    case 'cifValue':
      return r.cifValue;
    case 'customsValue':
      return r.customsValue;
    case 'importVat':
      return r.importVat;
    case 'adCostPerAdSale':
      return r.adCostPerAdSale;
    case 'acos':
      return ratio(r.cpc / (r.conversionRate < 1e-9 ? Number.NaN : r.conversionRate), r.gross);
    case 'tacos':
      return r.adShare * figureValue(r, 'acos');
    case 'breakEvenAcos':
      return r.contribution > 0 ? ratio(r.contribution, r.gross * V) : Number.NaN;
    case 'highestCpc':
      return highestCpc(r, 0, false);
    case 'highestCpcBlended':
      return highestCpc(r, 0, true);
    case 'lowestConversion':
      return r.contribution > 0 ? ratio(r.cpc * V, r.contribution) : Number.NaN;
    case 'lowestConversionBlended':
      return r.contribution > 0 ? r.adShare * ratio(r.cpc * V, r.contribution) : Number.NaN;
  }
}

/**
 * Highest cost per click that leaves `target` a unit: `(contribution - target) * conversionRate / V`, for an
 * advert sale or blended over all units.
 */
export function highestCpc(r: Reckoning, target: number, blended: boolean): number {
  const left = r.contribution - target;
  if (!(left > 0)) return Number.NaN;
  const cpc = (left * r.conversionRate) / r.advertVatFactor;
  return blended ? ratio(cpc, r.adShare) : cpc;
}

/** What stands under the bar of each ratio, for the reason when it is not above zero. */
const DENOMINATOR: Partial<Record<Figure, Figure>> = {
  margin: 'netRevenue',
  marginOnShelfPrice: 'gross',
  roi: 'landedCost',
  markup: 'landedCost',
  priceMultiple: 'gross',
  yearlyReturnOnCash: 'landedCash',
  acos: 'gross',
  tacos: 'gross',
  breakEvenAcos: 'contribution',
  highestCpc: 'contribution',
  highestCpcBlended: 'contribution',
  lowestConversion: 'contribution',
  lowestConversionBlended: 'contribution',
};

/** Why a figure is unknown: blanks, a problem, missing days, no benchmark, or a denominator that is not above zero. */
function reasonFor(r: Reckoning, figure: Figure): string {
  const blank = blanksIn(r.blanks & FIGURE_BLANKS[figure]);
  if (
    blank.length > 0 &&
    !(figure in DENOMINATOR && blank.every((b) => b !== 'price' && b !== 'goods' && b !== 'adverts'))
  )
    return `blank: ${blank.join(', ')}`;
  if (r.problems.length > 0) return `problem: ${[...new Set(r.problems.map((p) => p.code))].join(', ')}`;
  if (figure === 'costOfHolding' && r.doc.rates.benchmark === null) return 'blank: benchmark';
  if (
    figure === 'coverMonths' ||
    (figure !== 'landedCost' && isUnknown(r.cover) && /cover|cash|turns|return|holding/i.test(figure))
  )
    return 'blank: orderQuantity or demand';
  if (/cash|turns|return|holding/i.test(figure) && figure !== 'landedCash' && isUnknown(r.cashCycleDays))
    return 'blank: days (lead, transit or payout)';
  if (r.doc.adverts === 'none' && figure !== 'breakEvenAcos' && /cpc|conversion|acos|adCost/i.test(figure))
    return 'none: adverts';
  if (
    figure === 'adCostPerAdSale' ||
    ((figure === 'highestCpcBlended' || figure === 'lowestConversionBlended') && r.adShare === 0)
  )
    return 'none: adverts';
  return `not above zero: ${DENOMINATOR[figure] ?? figure}`;
}

/** Turns a finished reckoning into the plain result; the only place where unknown (NaN) becomes null. */
export function toResult(r: Reckoning): LaneResult {
  const lines = {} as Record<Line, number | null>;
  for (const line of LINES) {
    const v = lineValue(r, line);
    lines[line] = isKnown(v) ? v : null;
  }
  const families = {} as Record<Family, number | null>;
  for (const family of FAMILIES) {
    let sum: number | null = 0;
    let any = false;
    for (const line of FAMILY_LINES[family]) {
      const v: number | null = lines[line];
      if (v !== null) {
        sum = (sum ?? 0) + v;
        any = true;
      }
    }
    families[family] = any ? sum : null;
  }
  const figures = {} as Record<Figure, number | null>;
  const incomplete: Partial<Record<Figure, readonly Blank[]>> = {};
  const bounds: Partial<Record<Figure, Bound>> = {};
  const reasons: Partial<Record<Figure, string>> = {};
  for (const figure of FIGURES) {
    const v = figureValue(r, figure);
    figures[figure] = Number.isFinite(v) ? v : null;
    const missing = r.blanks & FIGURE_BLANKS[figure];
    if (missing !== 0) {
      incomplete[figure] = blanksIn(missing);
      const bound = Number.isFinite(v)
        ? boundOf(figure, incomplete[figure], figure === 'yearlyReturnOnCash' ? v / r.turns : v, r.returnRate)
        : null;
      if (bound !== null) bounds[figure] = bound;
    }
    if (!Number.isFinite(v)) reasons[figure] = reasonFor(r, figure);
  }
  return {
    format: 'bold-margin/result',
    version: 1,
    currency: r.doc.currency,
    date: r.doc.date,
    lines,
    families,
    figures,
    blanks: blanksIn(r.blanks),
    incomplete,
    bounds,
    reasons,
    problems: r.problems.slice(),
    notices: r.notices.slice(),
  };
}

const shared = new Reckoning();

/**
 * Evaluates one lane: every cost line, every figure, problems, blanks, notices. Amounts per unit sold, sales
 * currency. Pure: the same document gives the same result.
 */
export function evaluate(doc: LaneDocument): LaneResult {
  return toResult(reckon(doc, shared));
}

const NOT_MONEY = new Set<Figure>([
  'margin',
  'marginOnShelfPrice',
  'roi',
  'markup',
  'priceMultiple',
  'expectedMonthlyUnits',
  'coverMonths',
  'cashCycleDays',
  'turnsPerYear',
  'yearlyReturnOnCash',
  'acos',
  'tacos',
  'breakEvenAcos',
  'lowestConversion',
  'lowestConversionBlended',
]);
export function isMoney(figure: Figure): boolean {
  return !NOT_MONEY.has(figure);
}

/**
 * The same result in another currency, by one table; null where the table lacks a rate. Ratios, days and
 * units stay.
 */
export function restate(result: LaneResult, to: string, table: ExchangeTable | null): LaneResult | null {
  const f = exchangeFactor(table, result.currency, to);
  if (isUnknown(f)) return null;
  const scale = <K extends string>(values: Record<K, number | null>, money: (k: K) => boolean) =>
    Object.fromEntries(
      Object.entries<number | null>(values).map(([k, v]) => [k, v !== null && money(k as K) ? v * f : v]),
    ) as Record<K, number | null>;
  return {
    ...result,
    currency: to,
    lines: scale(result.lines, () => true),
    families: scale(result.families, () => true),
    figures: scale(result.figures, isMoney),
  };
}
