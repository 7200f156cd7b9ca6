/** What is told of one listing of a market. */
import type { FeedAnswer, FeedRow } from './feed.ts';

export type ListingSaid = {
  readonly listing: FeedAnswer<'listing'>;
  /** The same as a row of a search. */
  readonly row: FeedRow;
  readonly offers: FeedAnswer<'offers'> | null;
  readonly permission: FeedAnswer<'permission'> | null;
  /** Null: no barcode is known, or nothing was answered. */
  readonly siblings: FeedAnswer<'barcode'>['listings'] | null;
  readonly neighbours: FeedRow[];
  /** What it is found by, with the searches of the last month. */
  readonly terms: (Omit<FeedAnswer<'listing-terms'>['terms'][number], 'volumes'> & {
    readonly volume: number | null;
  })[];
};
