/** Purses for tests of what is chosen: of one lane, under as many keys as a test wants. */
import { purseDocument } from '../purse/schema.ts';
import type { PurseDocument } from '../purse/schema.ts';
import { lantern } from './lantern.ts';

/** Kept at 15 a unit over the cost, in cartons of ten, fifty at least. */
export const LANE = lantern(
  {},
  { priceBreaks: [{ minQty: 50, unitPrice: 10 }], minimumOrder: 50, carton: { units: 10 } },
);
export const lane = (key: string, more: object = {}) => ({ key, candidate: key, lane: LANE, ...more });
export const documentOf = (more: object): PurseDocument =>
  purseDocument.parse({
    format: 'bold-margin/purse',
    version: 1,
    start: '2026-01-01',
    cash: 5000,
    lanes: [lane('a')],
    ...more,
  });
