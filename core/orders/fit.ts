/** Which quantities a supplier takes of goods, and at which price (economics, sections 3 and 11). */
import { priceBreakAt } from '../rules/goods.ts';
import type { OrderLine } from './schema.ts';

type Goods = Pick<OrderLine, 'carton' | 'minimumOrder' | 'priceBreaks'>;

/**
 * Lines that count together for minimum and price breaks: those of one quote. A line of no quote stands alone.
 */
export const togetherWith = (line: OrderLine, lines: readonly OrderLine[]): readonly OrderLine[] =>
  line.quoteId === null ? [line] : lines.filter((l) => l.quoteId === line.quoteId);

/** Bought units of lines; null: of one it is not known. What was confirmed beats what was ordered. */
export const unitsOf = (lines: readonly OrderLine[]): number | null =>
  lines.reduce<number | null>((sum, l) => {
    const units = l.confirmed?.units ?? l.units;
    return sum === null || units === null ? null : sum + units;
  }, 0);

/** The unit price as quoted that an order of so many bought units reaches; null: no break does, or it is blank. */
export const priceAt = (goods: Pick<Goods, 'priceBreaks'>, together: number): number | null =>
  goods.priceBreaks[priceBreakAt(goods.priceBreaks, together)]?.unitPrice ?? null;

export type Misfit = {
  /** Bought units that all lines together still lack to the minimum or the first break; 0: none. */
  readonly short: number;
  /** Whether the quantity breaks a carton. */
  readonly brokenCarton: boolean;
  /** The nearest quantities of this line that would fit, below (null: none) and above. */
  readonly below: number | null;
  readonly above: number;
};

/**
 * What does not fit about the quantity of a line, and what would; null: it fits. `others`: bought units of the lines
 * that count together with it. A line without a carton takes whole units.
 */
export function misfitOf(units: number, goods: Goods, others: number): Misfit | null {
  const step = goods.carton ?? 1;
  const least = Math.max(goods.minimumOrder, goods.priceBreaks[0]?.minQty ?? 0) - others;
  const short = Math.max(0, least - units);
  const brokenCarton = Math.abs(units / step - Math.round(units / step)) > 1e-9;
  if (short <= 1e-9 && !brokenCarton) return null;
  const first = Math.max(1, Math.ceil(least / step - 1e-9)) * step;
  const below = Math.floor(units / step + 1e-9) * step;
  return {
    short: short <= 1e-9 ? 0 : short,
    brokenCarton,
    below: below >= first && below < units - 1e-9 ? below : null,
    above: Math.max(first, Math.ceil(units / step - 1e-9) * step),
  };
}

export type NextBreak = {
  /** Bought units more, whole cartons. */
  readonly more: number;
  readonly unitPrice: number;
  /** What all lines together then cost more; below 0: the larger order is the cheaper one. As quoted. */
  readonly costsMore: number;
};

/** The next price break that is cheaper than the present price, and what reaching it costs; null: there is none. */
export function nextBreak(goods: Goods, together: number): NextBreak | null {
  const now = priceAt(goods, together);
  if (now === null) return null;
  const further = goods.priceBreaks.find(
    (b) => b.minQty > together + 1e-9 && b.unitPrice !== null && b.unitPrice < now,
  );
  if (further === undefined || further.unitPrice === null) return null;
  const step = goods.carton ?? 1;
  const more = Math.ceil((further.minQty - together) / step - 1e-9) * step;
  return {
    more,
    unitPrice: further.unitPrice,
    costsMore: (together + more) * further.unitPrice - together * now,
  };
}
