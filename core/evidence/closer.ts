/**
 * The second look at goods of a list: what the market's own history, its offers and permission say beside the fast
 * figures, which take one day's price as they find it.
 */
import type { LaneDocument } from '../lane/schema.ts';
import { historySection, offersSection } from './keeps.ts';
import type { HistorySaid, Lacking } from './keeps.ts';
import { lackingOf } from './keeps.ts';
import type { EvidenceDocument } from './schema.ts';

/** What speaks against goods that pay by their fast figures, the gravest first. */
export const CLOSER_WARNINGS = [
  'otherGoods',
  'closed',
  'rightsAlert',
  'lossAtMean',
  'lossOften',
  'spike',
  'ownShopNow',
  'ownShopOften',
  'approval',
  'noOffers',
  'manyOffers',
  'fewDays',
] as const;
export type CloserWarning = (typeof CLOSER_WARNINGS)[number];

/** Goods that one list may have looked at a second time. */
export const MOST_LOOKS = 300;
/** Share of the days at a loss from which it is said. */
const OFTEN = 0.25;
const WINDOWS = ['30', '90', '180'] as const;

export type CloserLook = Lacking & {
  readonly currency: string;
  readonly price: number | null;
  /** Mean prices of the windows, with delivery; null with no priced day in one. */
  readonly means: Readonly<Record<(typeof WINDOWS)[number], number | null>>;
  readonly days: number;
  readonly standing: HistorySaid['standing'];
  /** What a unit keeps today, and at the mean of 90 days; share of the priced days at a loss. */
  readonly keeps: number | null;
  readonly keepsAtMean: number | null;
  readonly lossShare: number | null;
  readonly ownShop: HistorySaid['ownShop']['90'] | null;
  readonly offers: number | null;
  readonly lowest: number | null;
  readonly permission: NonNullable<EvidenceDocument['permission']>['state'] | null;
  readonly warnings: readonly CloserWarning[];
};

/** The second look at a listing for a lane; unknown in, unknown out. Money in the currency of the lane. */
export function closerLook(
  doc: EvidenceDocument,
  lane: LaneDocument,
  /** Whether the listing speaks of other goods than the lane is about. */
  otherGoods = false,
): CloserLook {
  const history = historySection(doc, lane);
  const offers = offersSection(doc, lane);
  const look = {
    ...lackingOf(lane),
    currency: lane.currency,
    price: history?.bases.now.known === true ? history.bases.now.price : null,
    means: Object.fromEntries(
      WINDOWS.map((w) => [w, history?.windows[w].mean ?? null]),
    ) as CloserLook['means'],
    days: history?.windows.all.days ?? 0,
    standing: history?.standing ?? ('unknown' as const),
    keeps: history?.atBases.now ?? null,
    keepsAtMean: history?.atBases.mean90 ?? null,
    lossShare: history?.margin?.lossShare ?? null,
    ownShop: history?.ownShop['90'] ?? null,
    offers: offers?.offers ?? null,
    lowest: offers?.cases[0]?.price ?? null,
    permission: doc.permission?.state ?? null,
  };
  return { ...look, warnings: warningsOf(doc, look, otherGoods) };
}

function warningsOf(
  doc: EvidenceDocument,
  look: Omit<CloserLook, 'warnings'>,
  otherGoods: boolean,
): CloserWarning[] {
  const { offers, ownShopAway } = doc.settings.opportunity;
  const own = look.ownShop?.share ?? null;
  const holds: Record<CloserWarning, boolean> = {
    otherGoods,
    closed: look.permission === 'closed',
    rightsAlert: look.permission === 'rightsAlert',
    lossAtMean: look.keepsAtMean !== null && look.keepsAtMean < 0,
    lossOften: look.lossShare !== null && look.lossShare >= OFTEN,
    spike: look.standing === 'spike',
    ownShopNow: doc.offers?.list.some((o) => o.of === 'ownShop') === true,
    ownShopOften: own !== null && own > 0 && 1 - own <= ownShopAway.poor,
    approval: look.permission === 'approval',
    noOffers: look.offers === 0,
    manyOffers: look.offers !== null && look.offers >= offers.poor,
    fewDays: look.days < Number(WINDOWS[0]),
  };
  return CLOSER_WARNINGS.filter((w) => holds[w]);
}
