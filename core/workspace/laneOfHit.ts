/**
 * A listing found on a market as a lane of the workspace's defaults: what a unit would keep before its goods are
 * bought.
 */
import type { CardData } from '../cards/schema.ts';
import type { MarketplaceCard } from '../cards/rates.ts';
import type { LaneDocument } from '../lane/schema.ts';
import type { Way } from '../lane/choices.ts';
import type { ExchangeTable } from '../money/money.ts';
import { product } from '../lane/schema.ts';
import { newLane } from './newLane.ts';
import { composeLane } from './compose.ts';
import type { LaneCards } from './compose.ts';
import type { Settings } from './settings.ts';

/** What a search says of a listing: price with delivery in the market's currency, units a month. */
export type Hit = {
  readonly price: number | null;
  readonly units: number | null;
  readonly kg: number | null;
  readonly category: string;
};
export type HitFrame = {
  readonly settings: Settings;
  readonly way: Way;
  readonly cards: Readonly<Record<string, CardData>>;
  readonly laneCards: LaneCards;
  readonly today: string;
};

/** The lane, or null without the market's card. What the search does not say (goods, size) is blank. */
export function laneOfHit(
  hit: Hit,
  { settings, way, cards, laneCards, today }: HitFrame,
): LaneDocument | null {
  const card = cards[laneCards.marketplace ?? ''] as MarketplaceCard | undefined;
  if (card === undefined) return null;
  const lane = newLane({
    way,
    settings,
    country: card.country,
    currency: card.currency,
    marketplace: card,
    exchange: (cards[laneCards.exchange ?? ''] as ExchangeTable | undefined) ?? null,
    cards: laneCards,
    origin: null,
    price: hit.price,
    quoteId: null,
    today,
  });
  const category = card.categories.some((c) => c.key === hit.category) ? hit.category : null;
  return composeLane({
    candidate: { way, product: product.parse({ kg: hit.kg, category }) },
    lane: { ...lane, demand: hit.units === null ? lane.demand : { kind: 'typed', units: hit.units } },
    quotes: {},
    cards,
    homeCurrency: settings.homeCurrency,
    standings: settings.standings,
    today,
  });
}
