/** Ranges that are offered for the inputs of a lane: as wide as their figures are unsure. */
import { z } from 'zod';
import type { SourceOfNumber } from '../lane/confidence.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { reckon } from '../lane/reckon.ts';
import { Reckoning } from '../lane/reckoning.ts';
import { share } from '../money/schema.ts';
import { RISK_INPUTS } from './schema.ts';
import type { Range, RiskInput } from './schema.ts';

/** Shares of a value that a range goes below and above it. A guess is wide, a quote narrow. */
export const rangeWidths = z.strictObject({
  guess: share.default(0.4),
  estimate: share.default(0.25),
  default: share.default(0.4),
  borrowed: share.default(0.25),
  typed: share.default(0.15),
  evidence: share.default(0.15),
  card: share.default(0.02),
  quote: share.default(0.05),
  actual: share.default(0.03),
});
export type RangeWidths = z.output<typeof rangeWidths>;

/** How wide ranges must be by one's own launches: shares of the plan within which four in five of them came. */
export type Learned = Readonly<Partial<Record<RiskInput, number>>>;
/** Figures that nobody has proven: they are as wide as those of one's launches were off. */
const UNPROVEN: ReadonlySet<SourceOfNumber> = new Set(['guess', 'estimate', 'default', 'borrowed', 'typed']);

/** `learned`: as wide as one's own launches were off. */
export type OfferedRange = {
  readonly range: Range;
  readonly source: SourceOfNumber;
  readonly learned?: true;
};

/** Which input of a lane each uncertain input is, by its place in the provenance. */
const INPUT_OF: Readonly<Record<RiskInput, string>> = {
  price: 'price',
  costPerClick: 'adverts',
  conversionRate: 'adverts',
  unitCost: 'goods',
  freight: 'route',
  units: 'demand',
  returnRate: 'returns',
  exchangeRate: 'exchange',
};
const FACTORS: ReadonlySet<RiskInput> = new Set([
  'costPerClick',
  'conversionRate',
  'freight',
  'exchangeRate',
]);
/** How far an exchange rate goes, whoever published it. */
const EXCHANGE_WIDTH = 0.06;

/** What the lane says of an input today; null: nothing, and no range is offered for it. */
export function saidOf(doc: LaneDocument, input: RiskInput): number | null {
  const r = reckon(doc, new Reckoning());
  const source = Array.isArray(doc.goods) ? doc.goods[0]?.source : undefined;
  const known = (x: number | null | undefined): number | null =>
    x === null || x === undefined || Number.isNaN(x) ? null : x;
  switch (input) {
    case 'price':
      return known(doc.price);
    case 'units':
      return known(r.units);
    case 'returnRate':
      return doc.returns === null || doc.returns === 'none' ? null : known(doc.returns.rate);
    case 'unitCost':
      return source === undefined ? null : known(unitCostOf(source, r.quantity));
    case 'exchangeRate':
      return source !== undefined && source.currency !== doc.currency ? 1 : null;
    case 'freight':
      return doc.route !== null && doc.route !== 'none' && doc.route.legs.length > 0 ? 1 : null;
    default:
      return doc.adverts === null || doc.adverts === 'none' ? null : 1;
  }
}
type Source = Extract<LaneDocument['goods'], readonly unknown[]>[number]['source'];
/** The price as quoted at the order quantity: that of the last break it reaches. */
function unitCostOf(source: Source, quantity: number): number | null {
  if (source.kind !== 'quote') return source.shelfPrice;
  return source.priceBreaks.filter((b) => !(b.minQty > quantity)).at(-1)?.unitPrice ?? null;
}

/** Where the figure of an input comes from. */
function sourceOfInput(doc: LaneDocument, input: RiskInput): SourceOfNumber {
  const key = INPUT_OF[input];
  const said =
    doc.provenance[key]?.source ??
    Object.entries(doc.provenance).find(([k]) => k.startsWith(`${key}.`))?.[1].source;
  if (said !== undefined) return said;
  const first = Array.isArray(doc.goods) ? doc.goods[0]?.source : undefined;
  return input === 'unitCost' && first?.kind === 'quote' ? 'quote' : 'typed';
}

/**
 * Ranges offered for a lane, none where it says nothing of an input. What the market says goes before the widths, and
 * before those of settings how far one's own launches were off.
 *
 * @param fromMarket low, most likely and high as evidence has them, where it is in the lane's own currency
 */
export function offeredRanges(
  doc: LaneDocument,
  widths: RangeWidths,
  fromMarket: Readonly<Partial<Record<RiskInput, Range>>> = {},
  learned: Learned = {},
): Partial<Record<RiskInput, OfferedRange>> {
  const offered: Partial<Record<RiskInput, OfferedRange>> = {};
  for (const input of RISK_INPUTS) {
    const likely = saidOf(doc, input);
    if (likely === null) continue;
    const seen = fromMarket[input];
    if (seen !== undefined && seen.low <= likely && likely <= seen.high) {
      offered[input] = { range: { low: seen.low, likely, high: seen.high }, source: 'evidence' };
      continue;
    }
    const source = sourceOfInput(doc, input);
    const own = UNPROVEN.has(source) ? learned[input] : undefined;
    const width =
      input === 'exchangeRate'
        ? EXCHANGE_WIDTH
        : own !== undefined
          ? own
          : source === 'actual'
            ? actualWidth(doc, input, likely, widths)
            : widthOf(source, widths);
    const most = input === 'returnRate' ? 0.99 : FACTORS.has(input) ? 1000 : 1e9;
    const low = Math.min(likely, readable(likely * (1 - width)));
    const high = Math.max(likely, readable(Math.min(most, likely * (1 + width))));
    const range = { low, likely, high };
    offered[input] = { range, source, ...(own !== undefined && { learned: true }) };
  }
  return offered;
}

/**
 * The width of what really came. What is counted (units, what came back) is as sure as so many units make it: twice the
 * spread of the count, but no narrower than the width of actual figures and no wider than that of estimates.
 */
function actualWidth(doc: LaneDocument, input: RiskInput, likely: number, widths: RangeWidths): number {
  const key = INPUT_OF[input];
  const behind =
    doc.provenance[key]?.units ??
    Object.entries(doc.provenance).find(([k]) => k.startsWith(`${key}.`))?.[1].units;
  if (behind === undefined || (input !== 'units' && input !== 'returnRate')) return widths.actual;
  const share = input === 'units' ? 0 : Math.min(0.99, likely);
  const counted = input === 'units' ? behind : behind * share;
  const spread = counted > 0 ? 2 * Math.sqrt((1 - share) / counted) : widths.estimate;
  return Math.min(Math.max(widths.actual, spread), Math.max(widths.actual, widths.estimate));
}

/** Four figures are enough for the end of a range. */
const readable = (x: number): number => Number(x.toPrecision(4));

function widthOf(source: SourceOfNumber, widths: RangeWidths): number {
  if (source === 'proven') return widths.actual;
  if (source === 'disputed') return widths.guess;
  return widths[source as keyof RangeWidths] ?? widths.typed;
}
