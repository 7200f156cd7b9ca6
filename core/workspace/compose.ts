/** How a lane document is put together from what a workspace keeps. */
import type { OwnDispatch } from '../cards/carriage.ts';
import type { MarketplaceCard, TaxCard } from '../cards/rates.ts';
import type { BenchmarkCard, CardData, FreightCard, PostageCard } from '../cards/schema.ts';
import type { Way } from '../lane/choices.ts';
import type { Component, LaneDocument, Product, Standing } from '../lane/schema.ts';
import type { QuoteSource, StoredLane } from './records.ts';

/** The fields of a stored lane that name the card versions it is computed with. */
export const CARD_FIELDS = {
  marketplace: 'marketplaceCardId',
  tax: 'taxCardId',
  exchange: 'exchangeCardId',
  freight: 'freightCardId',
  postage: 'postageCardId',
  benchmark: 'benchmarkCardId',
} as const;

export type LaneCardKind = keyof typeof CARD_FIELDS;
/** Card versions by kind; absent or null: none. */
export type LaneCards = Partial<Record<LaneCardKind, string | null>>;

/** The fields of a lane that name these versions. */
export const cardFields = (cards: LaneCards): Record<(typeof CARD_FIELDS)[LaneCardKind], string | null> =>
  Object.fromEntries(
    Object.entries(CARD_FIELDS).map(([kind, field]) => [field, cards[kind as LaneCardKind] ?? null]),
  ) as Record<(typeof CARD_FIELDS)[LaneCardKind], string | null>;

/** Ids of the card versions that lanes are computed with, each once. */
export function cardsOf(lanes: readonly StoredLane[]): string[] {
  const ids = new Set<string>();
  for (const l of lanes)
    for (const field of Object.values(CARD_FIELDS)) {
      const id = l[field];
      if (id !== null && id !== undefined) ids.add(id);
    }
  return [...ids];
}

export type Parts = {
  readonly candidate: { readonly way: Way; readonly product: Product };
  readonly lane: StoredLane;
  readonly quotes: ReadonlyMap<string, QuoteSource> | Readonly<Record<string, QuoteSource>>;
  readonly cards: Readonly<Record<string, CardData>>;
  readonly homeCurrency: string;
  readonly standings: Readonly<Record<string, Standing>>;
  /** Day of the answer, year-month-day. */
  readonly today: string;
};

/**
 * Puts a self-contained lane document together. A standing on the lane beats the workspace's for that
 * country; a category on the lane beats the product's.
 */
export function composeLane(p: Parts): LaneDocument {
  const l = p.lane;
  const card = <T extends CardData>(id: string | null | undefined): T | null =>
    id === null || id === undefined ? null : ((p.cards[id] as T | undefined) ?? null);
  const quoteOf = (id: string): QuoteSource | undefined =>
    p.quotes instanceof Map ? p.quotes.get(id) : (p.quotes as Record<string, QuoteSource>)[id];
  const goods: Component[] = [];
  for (const c of l.components) {
    const source = quoteOf(c.quoteId);
    if (source !== undefined)
      goods.push({
        name: c.name,
        unitsInSoldPack: c.unitsInSoldPack,
        unitsInBoughtPack: c.unitsInBoughtPack,
        source,
      });
  }
  const freight = card<FreightCard>(l.freightCardId);
  const postage = card<PostageCard>(l.postageCardId);
  const bank = card<BenchmarkCard>(l.benchmarkCardId);
  // Every field by name: copied by spread or rest, the document would be read some ten times more slowly.
  return {
    format: 'bold-margin/lane',
    version: 1,
    date: p.today,
    homeCurrency: p.homeCurrency,
    way: p.candidate.way,
    name: l.name,
    marketplace: l.marketplace,
    country: l.country,
    currency: l.currency,
    imported: l.imported,
    price: l.price,
    averageDiscount: l.averageDiscount,
    shippingCharged: l.shippingCharged,
    standing: l.standing ?? p.standings[l.country] ?? null,
    orderQuantity: l.orderQuantity,
    buyingSpread: l.buyingSpread,
    route: freight === null ? l.route : { ...freight.route, name: freight.name },
    importVatPostponed: l.importVatPostponed,
    prep: l.prep,
    method: l.method,
    dispatch:
      postage === null || l.dispatch === 'none'
        ? l.dispatch
        : {
            ...(l.dispatch ?? NO_PACKAGING),
            zones: postage.zones,
            vat: postage.vat,
            vatRate: postage.vatRate,
            recoverable: postage.recoverable,
            packagingKg: postage.packagingKg,
          },
    supplierDelivery: l.supplierDelivery,
    storage: l.storage,
    monthsHeld: l.monthsHeld,
    saleMonth: l.saleMonth,
    referralApplies: l.referralApplies,
    accountUnitsPerMonth: l.accountUnitsPerMonth,
    returns: l.returns,
    breakage: l.breakage,
    otherPerUnit: l.otherPerUnit,
    freeExtraProfit: l.freeExtraProfit,
    conversionSpread: l.conversionSpread,
    adverts: l.adverts,
    demand: l.demand,
    season: l.season,
    monthlyFixedCosts: l.monthlyFixedCosts,
    payoutEveryDays: l.payoutEveryDays,
    payoutDelayDays: l.payoutDelayDays,
    typed: l.typed,
    provenance: l.provenance,
    product: l.category === null ? p.candidate.product : { ...p.candidate.product, category: l.category },
    goods: l.noGoods ? 'none' : goods.length === 0 ? null : goods,
    rates: {
      exchange: card<NonNullable<LaneDocument['rates']['exchange']>>(l.exchangeCardId),
      tax: card<TaxCard>(l.taxCardId),
      marketplace: card<MarketplaceCard>(l.marketplaceCardId),
      benchmark: bank === null ? l.benchmark : { rate: bank.rate, date: bank.inForceFrom },
    },
  };
}

const NO_PACKAGING = { packaging: null, pickAndPack: null } satisfies Partial<OwnDispatch>;
