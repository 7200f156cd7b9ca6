/** What is told of goods at a shelf. */
import type { ShelfListing } from '../core/check/schema.ts';

export type ShelfKnown = {
  /** The fastest seller first. */
  readonly listings: readonly ShelfListing[];
  /** A product of the workspace with this barcode. */
  readonly candidate: { readonly id: string; readonly name: string } | null;
  /** What was decided about these goods in lists. */
  readonly mark: { readonly state: string; readonly reason: string; readonly name: string } | null;
  /** When this was asked, ISO 8601: without a network it is what was known then. */
  readonly at: string;
};
/** As it comes to the browser. */
export type ShelfSaid = ShelfKnown & {
  /** What went wrong while asking, in words; what it would have said is not known. */
  readonly wrong: readonly string[];
  readonly hasFeed: boolean;
};
