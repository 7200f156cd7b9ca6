/** What a device gets so that it can check goods at a shelf, with a network and without. */
import type { CheckFrame } from '../core/check/check.ts';
import type { ShelfCheck } from '../core/check/schema.ts';

/** A market that goods can be checked for, with the card versions a check is reckoned with. */
export type CheckMarket = {
  readonly key: string;
  readonly name: string;
  readonly currency: string;
  readonly cards: ShelfCheck['cards'];
};
export type CheckKit = CheckFrame & {
  readonly markets: readonly CheckMarket[];
  /** The market one begins with; null: there is none. */
  readonly market: string | null;
  /** When this was put together, ISO 8601. */
  readonly at: string;
};
