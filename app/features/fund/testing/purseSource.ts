/** Workspaces as the purse's page is given them, for its tests. */
import { purseKept } from '../../../../core/purse/schema.ts';
import {
  PLAIN_CARDS,
  PLAIN_PRODUCT,
  PLAIN_SETTINGS,
  plainQuote,
  plainStored,
} from '../../../../core/testing/plainParts.ts';
import type { PurseCandidate, PurseSource } from '../../../../core/workspace/purse.ts';
import { settings } from '../../../../core/workspace/settings.ts';

export const TODAY = '2026-12-01';
export const lane = (price: number, more: object = {}) =>
  plainStored({
    price,
    demand: { kind: 'typed', units: 60 },
    payoutEveryDays: 14,
    payoutDelayDays: 3,
    ...more,
  });
export const candidate = (id: string, stored = lane(40), more: object = {}): PurseCandidate => ({
  id,
  data: { ...PLAIN_PRODUCT, name: `Product ${id}`, ...more },
  quotes: { q: { ...plainQuote(), leadDays: 10 } as never },
  lanes: [{ id: 'de', data: stored }],
});
export const sourceOf = (
  candidates: readonly PurseCandidate[],
  cash: number | null,
  more: object = {},
): PurseSource => ({
  settings: settings.parse({
    ...PLAIN_SETTINGS,
    launch: { cash, reserve: 0 },
    purse: { ...purseKept.parse({}), weeks: 20, lastStart: 8, ...more },
  }),
  cards: PLAIN_CARDS as never,
  today: TODAY,
  candidates,
});
/** The better, the fair, one that loses, one that is not complete. */
export const FOUR = [
  candidate('good', lane(45)),
  candidate('fair', lane(38)),
  candidate('poor', lane(20)),
  candidate('open', lane(40, { prep: null })),
];
