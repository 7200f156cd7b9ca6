/** What is told of something that somebody typed or pasted to name goods: what it is, and where it leads. */
import type { Recognised } from '../core/goods/recognise.ts';

export type FoundListing = {
  readonly market: string;
  readonly code: string;
  readonly title: string;
  readonly price: number | null;
  readonly currency: string;
};
export type AnythingKnown = {
  /** What the text is; where it could be two things, the likelier first. */
  readonly meanings: readonly Recognised[];
  /** Products of the workspace that it means. */
  readonly candidates: readonly { readonly id: string; readonly name: string }[];
  /** What was decided about it in lists or searches; null: nothing. */
  readonly decided: string | null;
  readonly listings: readonly FoundListing[];
  /** The market that was asked; null: there is none. */
  readonly market: string | null;
};
/** As it comes to the browser: what went wrong in words. */
export type AnythingSaid = AnythingKnown & { readonly wrong: readonly string[] };
