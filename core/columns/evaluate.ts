/** The lane's formulas over the columns of a list. */
import type { Assumptions, ListRates } from './assumptions.ts';
import { BLOCK, makeBlock } from './block.ts';
import type { Prepared, Slice } from './block.ts';
import type { ListColumns, ListResults } from './columns.ts';
import { reckonOutcomes } from './outcome.ts';
import { makePrepared, prepareRows } from './prepare.ts';
import { reckonGoods, reckonOrders, reckonWayIn } from './purchase.ts';
import { reckonCharges, reckonFulfilments, reckonRevenues, reckonSaleFees, reckonStorages } from './sale.ts';
import { termsOf } from './terms.ts';
import type { Terms } from './terms.ts';

/**
 * Evaluates rows of a list (economics, section 15): what the assumptions decide for all rows is worked out
 * once, what a row decides is read from typed arrays, block after block, and nothing is allocated for a row.
 * The steps are the lane's, in the lane's order, and call the same rules; bulk and single evaluation agree to
 * 1e-9 (evaluate.test.ts). Scope: what `laneOfRow` can say.
 */
export class ListEvaluator {
  readonly assumptions: Assumptions;
  readonly rates: ListRates;
  /** Fees that are prepared for a row: one for each price band of the tier with the most. */
  readonly width: number;
  private columns: ListColumns | null = null;
  private prepared: Prepared = makePrepared(0, 1);
  private terms: Terms | null = null;
  private readonly block = makeBlock();

  constructor(assumptions: Assumptions, rates: ListRates) {
    this.assumptions = assumptions;
    this.rates = rates;
    this.width = Math.max(1, ...(rates.marketplace?.warehouse?.tiers ?? []).map((t) => t.bands.length));
  }

  /**
   * Places of the card's categories by key, for filling the column `category`; -2 where the card has none of
   * that key.
   */
  categoryAt(key: string | null): number {
    const wanted = key ?? this.assumptions.category;
    if (wanted === null) return -1;
    const at = (this.rates.marketplace?.categories ?? []).findIndex((c) => c.key === wanted);
    return at < 0 ? -2 : at;
  }

  /** What size and weight alone decide, once for every row: size tier and fulfilment fee in each of its price bands. */
  prepare(columns: ListColumns, into: Prepared = makePrepared(columns.length, this.width)): void {
    this.takePrepared(columns, into);
    prepareRows(columns, this.termsOf(columns), this.assumptions, this.rates, this.width, into);
  }

  /** Takes what was prepared for these columns before, under settings with the same `preparedBy`. */
  takePrepared(columns: ListColumns, prepared: Prepared): void {
    if (this.columns?.taxClasses !== columns.taxClasses) this.terms = null;
    this.columns = columns;
    this.prepared = prepared;
  }

  /**
   * Evaluates rows `from` up to `to` of the columns into `out`. Money per unit sold in the sales currency;
   * unknown is NaN. The shelf price of row i is that at `i - shift` of `prices`, and its place in `out` is the
   * same. `bends`, where given (for one row): fees that follow the price stay unrounded, and it notes where the
   * price function bends (`BENDS`; economics, section 9).
   */
  run(
    columns: ListColumns,
    out: ListResults,
    from = 0,
    to = columns.length,
    prices: Float64Array = columns.price,
    shift = 0,
    bends: Float64Array | null = null,
  ): void {
    if (this.columns !== columns) this.prepare(columns);
    const slice: Slice = {
      terms: this.termsOf(columns),
      columns,
      prepared: this.prepared,
      width: this.width,
      block: this.block,
      out,
      prices,
      shift,
      bends,
      from,
      count: 0,
    };
    for (; slice.from < to; slice.from += BLOCK) {
      slice.count = Math.min(BLOCK, to - slice.from);
      this.reckonBlock(slice);
    }
  }

  private reckonBlock(slice: Slice): void {
    slice.bends?.fill(0);
    reckonRevenues(slice);
    reckonOrders(slice, this.assumptions);
    reckonGoods(slice);
    reckonWayIn(slice);
    reckonFulfilments(slice);
    reckonSaleFees(slice);
    reckonStorages(slice);
    reckonCharges(slice);
    reckonOutcomes(slice);
  }

  private termsOf(columns: ListColumns): Terms {
    this.terms ??= termsOf(this.assumptions, this.rates, columns.taxClasses);
    return this.terms;
  }
}
