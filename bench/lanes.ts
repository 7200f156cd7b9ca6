/** Lanes of the demo for measuring: as full as lanes get in daily work. */
import { demoCandidates, demoSettings } from '../demo/scenario.ts';
import { starterCards } from '../demo/starterCards.ts';
import type { MarketplaceCard } from '../core/cards/rates.ts';
import { laneDocument } from '../core/lane/schema.ts';
import type { LaneDocument } from '../core/lane/schema.ts';
import { newLane } from '../core/workspace/newLane.ts';
import { candidateData, quoteSource, storedLane } from '../core/workspace/records.ts';
import { composeLane } from '../core/workspace/compose.ts';
import { settings as settingsSchema } from '../core/workspace/settings.ts';

export function demoLanes(): LaneDocument[] {
  const settings = settingsSchema.parse(demoSettings);
  const cards = Object.fromEntries(starterCards().map((c) => [c.key, c.data]));
  return demoCandidates.flatMap(({ supplier: _s, quote, others: _o, lanes, dropped: _d, ...data }) => {
    const candidate = candidateData.parse(data);
    return lanes.map((l) => {
      const card = cards[l.market] as MarketplaceCard;
      const stored = newLane({
        way: candidate.way,
        settings,
        country: card.country,
        currency: card.currency,
        marketplace: card,
        exchange: cards.exchange as never,
        cards: { marketplace: l.market, tax: card.country, exchange: 'exchange' },
        origin: candidate.product.origin,
        price: l.price,
        quoteId: 'q',
        today: '2026-11-24',
      });
      return laneDocument.parse(
        composeLane({
          candidate,
          lane: storedLane.parse({ ...stored, ...l.set }),
          quotes: { q: quoteSource.parse(quote) },
          cards,
          homeCurrency: 'EUR',
          standings: settings.standings,
          today: '2026-11-24',
        }),
      );
    });
  });
}
