/** Which of a listing's prices is reckoned with; `typed`: one's own. */
export const PRICE_BASES = ['now', 'mean30', 'mean90', 'typed'] as const;
export type PriceBasis = (typeof PRICE_BASES)[number];
