/**
 * Some rows at a time: what one step of the evaluation leaves for the next. A block is small enough to stay in
 * the processor's memory, and is used again for the next rows.
 */
import type { ListColumns, ListResults } from './columns.ts';
import type { Terms } from './terms.ts';

/** Rows in a block. */
export const BLOCK = 512;
const FIGURES = [
  'gross',
  'netBase',
  'buyerPays',
  'withheldVat',
  'netRevenue',
  'sells',
  'packRatio',
  'quantity',
  'paid',
  'goods',
  'cashback',
  'recoverableVat',
  'irrecoverableVat',
  'landedCost',
  'landedCash',
  'fulfilment',
  'referral',
  'itemFee',
  'payment',
  'storage',
  'surcharges',
  'feesWithVat',
] as const;

/** Money per unit sold in the sales currency; unknown is NaN. */
export type Block = Readonly<Record<(typeof FIGURES)[number], Float64Array>> & {
  /** Blank cost lines of each row, as bits. */
  readonly blanks: Uint32Array;
  /** Why a row has no answer, 0: it has one. */
  readonly troubles: Uint8Array;
};

export const makeBlock = (): Block => ({
  ...(Object.fromEntries(FIGURES.map((f) => [f, new Float64Array(BLOCK)])) as Record<
    (typeof FIGURES)[number],
    Float64Array
  >),
  blanks: new Uint32Array(BLOCK),
  troubles: new Uint8Array(BLOCK),
});

/** What size and weight alone decide of each row. */
export type Prepared = {
  /** The fulfilment fee in each price band of its tier, or its postage: `width` fees a row. */
  readonly bandFees: Float64Array;
  /** The place of its tier; -1: none fits. */
  readonly tiers: Int16Array;
};

/** In place of a size tier: the weight is past the postage table. */
export const NO_STEP = -2;

/** Where the price function of a row bends: raw referral over its least and its most, refund fee over its most, payout. */
export const BENDS = { referralMin: 0, referralMax: 1, refundFee: 2, payout: 3 } as const;

/** The rows a step is about, and what it reads and writes. */
export type Slice = {
  readonly terms: Terms;
  readonly columns: ListColumns;
  readonly prepared: Prepared;
  readonly width: number;
  readonly block: Block;
  readonly out: ListResults;
  /** Shelf prices; that of row i stands at `i - shift`, and so do its results. */
  readonly prices: Float64Array;
  readonly shift: number;
  /** For one row: fees that follow the price stay unrounded, and where the price function bends is noted. */
  readonly bends: Float64Array | null;
  /** First row, and how many; no more than a block holds. */
  from: number;
  count: number;
};
