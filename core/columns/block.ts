/**
 * Some rows at a time: what one step of the evaluation leaves for the next. A block is small enough to stay in
 * the processor's memory, and is used again for the next rows.
 */
import type { ListColumns, ListResults } from './columns.ts';
import type { Terms } from './terms.ts';

/** Fees of a row that others are charged on, or that bear VAT. */
export const FEE_COLUMNS = ['referral', 'itemFee', 'payment', 'surcharges', 'fulfilment', 'storage'] as const;
export type FeeColumn = (typeof FEE_COLUMNS)[number];

/** Rows in a block. */
export const BLOCK = 256;
const FIGURES = [
  'netBase',
  'buyerPays',
  'sells',
  'packRatio',
  'cashback',
  'recoverableVat',
  'irrecoverableVat',
  'referral',
  'itemFee',
  'payment',
  'storage',
  'surcharges',
  'fulfilment',
  'feesWithVat',
  'feeSum',
  'refundFee',
  'returns',
  'conversion',
] as const;

/** What stands between the steps and is in no column: money per unit sold in the sales currency; unknown is NaN. */
export type Block = Readonly<Record<(typeof FIGURES)[number], Float64Array>>;

export const makeBlock = (): Block =>
  Object.fromEntries(FIGURES.map((f) => [f, new Float64Array(BLOCK)])) as Block;

/** The same value for some rows: a loop, since a block of one row is as common as a full one. */
export function fillRows(column: Float64Array, value: number, at: number, count: number): void {
  for (let j = 0; j < count; j++) column[at + j] = value;
}

/** What size and weight alone decide of each row. */
export type Prepared = {
  /** The fulfilment fee in each price band of its tier, or its postage: `width` fees a row. */
  readonly bandFees: Float64Array;
  /** The place of its tier; -1: none fits. */
  readonly tiers: Int16Array;
};

/** In place of a size tier: the weight is past the postage table. */
export const NO_STEP = -2;

/**
 * Where the price function of a row bends: raw referral over its least and most, refund fee over its most,
 * payout.
 */
export const BENDS = { referralMin: 0, referralMax: 1, refundFee: 2, payout: 3 } as const;

/** The rows a step is about, and what it reads and writes. */
export type Slice = {
  readonly terms: Terms;
  readonly columns: ListColumns;
  readonly prepared: Prepared;
  readonly width: number;
  readonly block: Block;
  readonly out: ListResults;
  /** Shelf prices, as the results have them: from `at`. */
  readonly prices: Float64Array;
  /** For one row: fees that follow the price stay unrounded, and where the price function bends is noted. */
  bends: Float64Array | null;
  /** First row, its place in the results, and how many; no more than a block holds. */
  from: number;
  at: number;
  count: number;
};
