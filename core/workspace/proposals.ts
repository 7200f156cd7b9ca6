/** Which lanes a candidate could have: every sensible combination of marketplace, fulfilment, quote and route. */
import type { FreightCard, PostageCard } from '../cards/schema.ts';
import { parcelOf, sizeTierOf } from '../rules/parcel.ts';
import { exchangeFactor } from '../money/money.ts';
import type { ExchangeTable } from '../money/money.ts';
import type { MarketplaceCard } from '../cards/rates.ts';
import type { Standing } from '../lane/schema.ts';
import type { CandidateData, QuoteSource, StoredLane } from './records.ts';

export type Method = StoredLane['method'];
export const MISSING = [
  'warehouse',
  'tier',
  'size',
  'category',
  'tax',
  'standing',
  'exchange',
  'postage',
  'route',
  'quote',
  'quoteExpired',
] as const;
/** What a proposed lane would lack. `warehouse` and `tier` mean that it cannot be. */
export type Missing = (typeof MISSING)[number];
const IMPOSSIBLE: readonly Missing[] = ['warehouse', 'tier'];

export type Proposal = {
  readonly marketplaceCardId: string;
  readonly country: string;
  readonly marketplace: string;
  readonly method: Method;
  readonly quoteId: string | null;
  readonly freightCardId: string | null;
  readonly postageCardId: string | null;
  /** A lane of just this combination is there already. */
  readonly exists: boolean;
  readonly possible: boolean;
  readonly missing: readonly Missing[];
};

export type Ask = {
  readonly marketplaces: readonly {
    readonly id: string;
    readonly key: string;
    readonly card: MarketplaceCard;
  }[];
  readonly methods: readonly Method[];
  readonly quotes: readonly { readonly id: string; readonly data: QuoteSource }[];
  /** Freight cards to choose from; none: the workspace's default route. */
  readonly routes: readonly { readonly id: string; readonly card: FreightCard }[];
  readonly postages: readonly { readonly id: string; readonly card: PostageCard }[];
};
export type Around = {
  readonly candidate: CandidateData;
  readonly lanes: readonly StoredLane[];
  /** Key (marketplace/country) of every marketplace card version that lanes name. */
  readonly marketplaceKeys: Readonly<Record<string, string>>;
  readonly taxCountries: ReadonlySet<string>;
  readonly exchange: ExchangeTable | null;
  readonly homeCurrency: string;
  readonly standings: Readonly<Record<string, Standing>>;
  readonly today: string;
};

/** Whether a freight card runs from where the goods are made to the country. */
export function routeFits(card: FreightCard, origin: string | null, country: string): boolean {
  return (
    (card.to === null || card.to === country) &&
    (card.from === null || origin === null || card.from === origin)
  );
}

/** The postage card for buyers in a country: one for that country before one for any. */
export function postageFor(cards: Ask['postages'], country: string): Ask['postages'][number] | null {
  return cards.find((c) => c.card.country === country) ?? cards.find((c) => c.card.country === null) ?? null;
}

/**
 * Proposals in the order marketplace, method, quote, route. What a combination lacks is said; combinations
 * that cannot be (no warehouse there, no size tier that takes the parcel) are named too, and marked so.
 * Freight cards that do not run to the country are passed over; where none runs there, `route` is missing and
 * the default route stands in.
 */
export function proposeLanes(ask: Ask, around: Around): Proposal[] {
  const { candidate: c } = around;
  const out: Proposal[] = [];
  const methods: readonly Method[] =
    c.way === 'supplierShips' ? ['supplierShips'] : ask.methods.filter((m) => m !== 'supplierShips');
  const quotes: readonly { id: string | null; data: QuoteSource | null }[] =
    ask.quotes.length === 0 ? [{ id: null, data: null }] : ask.quotes;
  const parcel =
    c.product.sides === null || c.product.kg === null
      ? null
      : parcelOf(c.product.sides[0], c.product.sides[1], c.product.sides[2], c.product.kg, {
          L: 0,
          W: 0,
          H: 0,
          kg: 0,
        });
  const there = new Set(
    around.lanes.map((l) =>
      [
        around.marketplaceKeys[l.marketplaceCardId ?? ''] ?? '',
        l.method,
        l.components[0]?.quoteId ?? '',
        l.freightCardId ?? '',
      ].join('|'),
    ),
  );
  for (const m of ask.marketplaces) {
    const land = m.card.country;
    const lacks: Missing[] = [];
    if (!around.taxCountries.has(land)) lacks.push('tax');
    if (around.standings[land] === undefined) lacks.push('standing');
    if (Number.isNaN(exchangeFactor(around.exchange, around.homeCurrency, m.card.currency)))
      lacks.push('exchange');
    if (c.product.category === null || !m.card.categories.some((x) => x.key === c.product.category))
      lacks.push('category');
    for (const method of methods) {
      const missing = [...lacks];
      const postage = method === 'ownDispatch' ? postageFor(ask.postages, land) : null;
      if (method === 'ownDispatch' && postage === null) missing.push('postage');
      if (method === 'warehouse') {
        if (m.card.warehouse === null) missing.unshift('warehouse');
        else if (parcel === null) missing.push('size');
        else if (sizeTierOf(m.card.warehouse.tiers, parcel) < 0) missing.unshift('tier');
      }
      const possible = !missing.some((x) => IMPOSSIBLE.includes(x));
      const fitting =
        method === 'supplierShips' ? [] : ask.routes.filter((r) => routeFits(r.card, c.product.origin, land));
      const routes: readonly { id: string | null }[] = fitting.length === 0 ? [{ id: null }] : fitting;
      if (method !== 'supplierShips' && ask.routes.length > 0 && fitting.length === 0) missing.push('route');
      // What cannot be is said once, not for every quote and route.
      for (const q of possible ? quotes : quotes.slice(0, 1))
        for (const r of possible ? routes : routes.slice(0, 1)) {
          const own = [...missing];
          if (q.id === null) own.push('quote');
          else if (q.data?.validUntil != null && around.today > q.data.validUntil) own.push('quoteExpired');
          out.push({
            marketplaceCardId: m.id,
            country: land,
            marketplace: m.card.marketplace,
            method,
            quoteId: q.id,
            freightCardId: r.id,
            postageCardId: postage?.id ?? null,
            exists: there.has([m.key, method, q.id ?? '', r.id ?? ''].join('|')),
            possible,
            missing: own,
          });
        }
    }
  }
  return out;
}
