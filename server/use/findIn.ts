/** What it takes to look for goods in a market: its card and the usual ones, the feed, and what was decided there. */
import { usualCards } from '../../core/cards/schema.ts';
import type { CardData } from '../../core/cards/schema.ts';
import { firstMarket, marketsOffered } from '../../core/workspace/offered.ts';
import type { LaneCards } from '../../core/workspace/compose.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { today } from '../env.ts';
import type { askFeed } from '../outside/feed.ts';
import { feedIn } from './feeds.ts';
import { marksOfMarket } from './listingMarks.ts';
import type { ListingMark } from './listingMarks.ts';
import { cardsInForce, settingsWith } from './workspaces.ts';

export type FindIn = {
  readonly settings: Settings;
  readonly today: string;
  readonly feed: Parameters<typeof askFeed>[0] | null;
  /** Those that are offered; one's own before the examples. */
  readonly markets: { key: string; name: string }[];
  /** The market asked about where there is a card of it, else the first of the home country. */
  readonly market: string | null;
  readonly cards: Record<string, CardData>;
  readonly laneCards: LaneCards;
  readonly marks: ListingMark[];
};

/** Null where the workspace is deleted. */
export async function findIn(workspaceId: string, asked: string): Promise<FindIn | null> {
  const { settings, also } = await settingsWith(workspaceId, async (tx) => ({
    cards: await cardsInForce(tx, workspaceId, today()),
    feed: await feedIn(tx, workspaceId),
  }));
  if (settings === null) return null;
  const { cards, feed } = also;
  const known = cards.filter((c) => c.kind === 'marketplace');
  const markets = marketsOffered(known, settings);
  const chosen = known.find((c) => c.key === asked) ?? firstMarket(markets, settings.homeCountry) ?? null;
  const country = chosen?.key.split('/')[1] ?? settings.homeCountry;
  const usual = usualCards(cards, { country, homeCurrency: settings.homeCurrency });
  const used = [chosen, usual.tax, usual.exchange].filter((c) => c != null);
  return {
    settings,
    today: today(),
    feed,
    markets: markets.map(({ key, name }) => ({ key, name })),
    market: chosen?.key ?? null,
    cards: Object.fromEntries(used.map((c) => [c.id, c.data])),
    laneCards: { marketplace: chosen?.id, tax: usual.tax?.id, exchange: usual.exchange?.id },
    marks: chosen === null ? [] : await marksOfMarket(workspaceId, chosen.key),
  };
}
