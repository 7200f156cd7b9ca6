/** The lane's formulas over the columns of a list. */
import type { Assumptions, ListRates } from './assumptions.ts';
import { BLOCK, makeBlock } from './block.ts';
import type { Prepared, Slice } from './block.ts';
import type { ListColumns, ListResults } from './columns.ts';
import { reckonConversions, reckonResults, reckonReturns } from './outcome.ts';
import { makePrepared, prepareRows } from './prepare.ts';
import { reckonGoods, reckonOrders, reckonWayIn, startRows } from './purchase.ts';
import {
  reckonCharges,
  reckonFeeBases,
  reckonFulfilments,
  reckonRevenues,
  reckonSaleFees,
  reckonStorages,
} from './sale.ts';
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

  /**
   * What size and weight alone decide, once for every row: size tier and fulfilment fee in each of its price
   * bands.
   */
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
   * same.
   */
  run(
    columns: ListColumns,
    out: ListResults,
    from = 0,
    to = columns.length,
    prices: Float64Array = columns.price,
    shift = 0,
  ): void {
    const slice = this.sliceOf(columns, out, prices);
    for (slice.from = from; slice.from < to; slice.from += BLOCK) {
      slice.at = slice.from - shift;
      slice.count = Math.min(BLOCK, to - slice.from);
      buy(slice, this.assumptions);
      sell(slice);
    }
  }

  /**
   * One row at whatever price is asked for, its result in the one row of `out`: what buying it costs is worked
   * out once. With `bends` fees that follow the price stay unrounded, and it notes where the price function
   * bends (`BENDS`; economics, section 9). Blanks of the purchase are not said.
   */
  rowAtPrices(columns: ListColumns, row: number, out: ListResults) {
    const price = new Float64Array(1);
    const slice = this.sliceOf(columns, out, price);
    slice.from = row;
    slice.count = 1;
    buy(slice, this.assumptions);
    return (shelfPrice: number, bends: Float64Array | null): void => {
      price[0] = shelfPrice;
      bends?.fill(0);
      slice.bends = bends;
      sell(slice);
    };
  }

  private sliceOf(columns: ListColumns, out: ListResults, prices: Float64Array): Slice {
    if (this.columns !== columns) this.prepare(columns);
    return {
      terms: this.termsOf(columns),
      columns,
      prepared: this.prepared,
      width: this.width,
      block: this.block,
      out,
      prices,
      bends: null,
      from: 0,
      at: 0,
      count: 0,
    };
  }

  private termsOf(columns: ListColumns): Terms {
    this.terms ??= termsOf(this.assumptions, this.rates, columns.taxClasses);
    return this.terms;
  }
}

/** What buying costs, whatever the price. */
function buy(slice: Slice, set: Assumptions): void {
  startRows(slice);
  reckonOrders(slice, set);
  reckonGoods(slice);
  reckonWayIn(slice);
}

/** What selling at the price brings, and what is left. */
function sell(slice: Slice): void {
  reckonRevenues(slice);
  reckonFulfilments(slice);
  reckonFeeBases(slice);
  reckonSaleFees(slice);
  reckonStorages(slice);
  reckonCharges(slice);
  reckonReturns(slice);
  reckonConversions(slice);
  reckonResults(slice);
}
