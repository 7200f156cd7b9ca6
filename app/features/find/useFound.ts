/** Rows of a search weighed by the workspace's defaults, and what is decided about them. */
import { useMemo, useState } from 'react';
import { useFetcher } from 'react-router';
import type { FeedRow } from '../../../between/feed.ts';
import type { CardData } from '../../../core/cards/schema.ts';
import type { MarketplaceCard } from '../../../core/cards/rates.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import type { LaneResult } from '../../../core/lane/result.ts';
import { highestPurchaseCost } from '../../../core/lane/solve.ts';
import { isGtin } from '../../../core/goods/gtin.ts';
import { laneOfHit } from '../../../core/workspace/laneOfHit.ts';
import type { LaneCards } from '../../../core/workspace/compose.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import { barExtent } from '../../ui/MarginBar.tsx';
import { keyed } from '../../ui/keyed.ts';
import type { Decided } from '../lists/TickedRows.tsx';

export type FoundRows = {
  readonly asOf: string;
  readonly currency: string;
  readonly total: number | null;
  readonly next: string | null;
  readonly listings: readonly FeedRow[];
};
export type MarkOf = {
  readonly listing: string;
  readonly state: 'shortlisted' | 'kept' | 'dropped';
  readonly reason: string;
  readonly candidateId: string | null;
};
/** What is shown of decisions beside rows. */
export const marksShown = (
  marks: readonly (Omit<MarkOf, 'listing'> & { readonly row: FeedRow })[],
): MarkOf[] =>
  marks.map(({ row, state, reason, candidateId }) => ({ listing: row.listing, state, reason, candidateId }));

/** What rows are weighed by, and where they are decided about. */
export type FoundFrame = {
  settings: Settings;
  today: string;
  market: string | null;
  cards: Record<string, CardData>;
  laneCards: LaneCards;
  marks: readonly MarkOf[];
  root: string;
  canEdit: boolean;
};
export type FoundRow = {
  readonly key: string;
  readonly item: FeedRow;
  readonly mark: MarkOf | null;
  readonly result: LaneResult | null;
  readonly pay: ReturnType<typeof highestPurchaseCost> | null;
};

/** Each row as a lane of the defaults: the bar before its goods are bought, and what one may pay for them. */
export function useWeighed(
  listings: readonly FeedRow[],
  currency: string,
  { settings, cards, laneCards, today, marks }: FoundFrame,
): { rows: FoundRow[]; scale: number } {
  return useMemo(() => {
    const card = cards[laneCards.marketplace ?? ''] as MarketplaceCard | undefined;
    const frame = { settings, way: settings.ways[0] ?? ('ownBrand' as const), cards, laneCards, today };
    const of = new Map(marks.map((m) => [m.listing, m]));
    const rows = keyed(listings, (l) => l.listing).map(({ key, item }) => {
      const doc = card?.currency === currency ? laneOfHit(item, frame) : null;
      return {
        key,
        item,
        mark: of.get(item.listing) ?? null,
        // Its goods are bought later: the bar shows what is left for them and for oneself.
        result: doc === null ? null : evaluate({ ...doc, goods: 'none' }),
        pay: doc === null ? null : highestPurchaseCost(doc),
      };
    });
    const scale = Math.max(1e-9, ...rows.map((w) => (w.result === null ? 0 : barExtent(w.result))));
    return { rows, scale };
  }, [listings, currency, settings, cards, laneCards, today, marks]);
}

/** Ticks, and what is done with what is ticked: shortlisted, dropped, or weighed as a candidate. */
export function useFoundActs(p: FoundFrame, asOf: string, currency: string, search: string) {
  const { submit, data, state } = useFetcher<{ error?: string }>();
  const [ticked, setTicked] = useState<ReadonlyMap<string, FeedRow>>(new Map());
  const send = (body: object): void =>
    void submit(body as never, {
      method: 'post',
      encType: 'application/json',
      action: `${p.root}/find/market`,
    });
  const seen = { market: p.market, currency, asOf };
  const card = p.cards[p.laneCards.marketplace ?? ''] as MarketplaceCard | undefined;
  const mark = (rows: readonly FeedRow[], change: Decided | null): void => {
    const { state: to, reason } = change ?? { state: null, reason: '' };
    send({ what: 'mark', marks: { ...seen, rows, state: to, reason } });
    setTicked(new Map());
  };
  const keep = (l: FeedRow): void =>
    send({
      what: 'keep',
      kept: {
        ...seen,
        row: l,
        search,
        candidate: {
          name: l.title.slice(0, 200),
          way: p.settings.ways[0] ?? 'ownBrand',
          price: l.price,
          cost: null,
          costCurrency: p.settings.homeCurrency,
          sides: null,
          kg: l.kg,
          gtin: l.gtin !== null && isGtin(l.gtin) ? l.gtin : null,
          marketplaceCardId: p.laneCards.marketplace ?? null,
          country: card?.country ?? p.settings.homeCountry,
          category: card?.categories.some((x) => x.key === l.category) ? l.category : null,
        },
      },
    });
  const tick = (l: FeedRow): void => {
    const next = new Map(ticked);
    if (!next.delete(l.listing)) next.set(l.listing, l);
    setTicked(next);
  };
  const untick = (): void => setTicked(new Map());
  return { ticked, tick, untick, mark, keep, busy: state !== 'idle', error: data?.error };
}
export type FoundActs = ReturnType<typeof useFoundActs>;
