import type { Detail } from '../fault.ts';

/**
 * Problems: where no answer exists, the core says which input to change. The line and all that depends on it
 * are unknown. Their words stand in the catalogues.
 */
export const PROBLEMS = [
  'noExchangeRate',
  'standingMissing',
  'noTaxCard',
  'noTaxClass',
  'noMarketplaceCard',
  'cardCurrency',
  'categoryNotOnCard',
  'underFirstBreak',
  'underMinimumOrder',
  'noCarton',
  'noContainer',
  'noWeightBand',
  'noDutyRate',
  'noSizeTier',
  'noWarehouse',
  'noStorageRates',
  'noPostageStep',
  'zeroUnits',
  'zeroConversion',
] as const;
export type ProblemCode = (typeof PROBLEMS)[number];

/** Notices: an answer exists, but the reader should know something about it. */
export const NOTICES = ['quoteExpired', 'outOfTheRunning'] as const;
export type NoticeCode = (typeof NOTICES)[number];

/** `line` is the cost line that has no answer; `path` the input of the lane document to change. */
export type Problem = {
  readonly code: ProblemCode;
  readonly line: string;
  readonly path: string;
  readonly detail: Detail;
};
export type Notice = { readonly code: NoticeCode; readonly path: string; readonly detail: Detail };
