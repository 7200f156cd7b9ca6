/** What the job that matches goods says to the screen that shows it. */
import type { Confidence, Match, Reason } from '../core/match/match.ts';

/** A listing of the market figures, as one looks at it. */
export type ListingSeen = {
  /** Barcode, 14 digits. */
  readonly key: string;
  /** Its code on the market, by which its picture is asked for; blank: the figures do not say. */
  readonly code: string;
  readonly title: string;
  readonly brand: string;
  readonly price: number | null;
  readonly units: number | null;
};
/** A row of a list without a proven barcode, and what it could be. */
export type MatchedRow = {
  /** Row in the file, as a spreadsheet counts. */
  readonly line: number;
  /** By what it is known again. */
  readonly said: string;
  readonly brand: string;
  readonly title: string;
  /** Purchase price as the file writes it. */
  readonly cost: string;
  /** What stood in place of the barcode. */
  readonly barcode: string;
  /** Number that the shop it is read from has for it; blank: it comes from no shop. */
  readonly shopCode: string;
  /** Address of a picture that the file names; blank: none. */
  readonly picture: string;
  readonly confidence: Confidence;
  readonly reason: Reason;
  readonly alike: number;
  readonly packs: Match['packs'];
  readonly listing: ListingSeen | null;
  readonly others: readonly ListingSeen[];
};
/** What was decided of it: a barcode, or that it is none of those shown. */
export type MatchDecision = {
  readonly said: string;
  readonly key: string | null;
  readonly by: 'hand' | 'rule';
};
/** Where the feed is asked for pictures: of goods in a shop, and of listings on a market, if any. */
export type PicturesFrom = { readonly shop: string; readonly market: string | null };
