/** A shop and what of it is to be read, as it is being chosen. */
import { useState } from 'react';
import type { ListSettings } from '../../../core/lists/settings.ts';
import type { MarketChoice } from '../../../core/lists/setup.ts';
import { catalogueFilters, sameReading } from '../../../core/shops/schema.ts';
import type { CatalogueChoice, CatalogueFilters, CatalogueSetup, Shop } from '../../../core/shops/schema.ts';
import { soldOn } from './setupChanges.ts';

export type ShopShown = Shop & { last: CatalogueSetup | null; begins: ListSettings };
type Chosen = {
  readonly ticked: ReadonlySet<string>;
  readonly filters: CatalogueFilters;
  readonly own: ListSettings;
};
/** How a shop begins: as it was read last, or with nothing chosen. Categories it no longer has are not asked for. */
function beginning(s: ShopShown): Chosen {
  const has = new Set(s.categories.map((c) => c.key));
  return {
    ticked: new Set(s.last?.choice.categories.map((c) => c.key).filter((k) => has.has(k))),
    filters: s.last?.choice.filters ?? catalogueFilters.parse({}),
    own: s.last?.settings ?? s.begins,
  };
}

export function useShop(
  shops: readonly ShopShown[],
  markets: readonly MarketChoice[],
  /** Markets that the feed knows. */
  known: readonly string[],
  first: string | null,
) {
  const [key, setKey] = useState(() => shops.find((s) => s.key === first)?.key ?? shops[0]?.key ?? '');
  const [byShop, setByShop] = useState<Readonly<Record<string, Chosen>>>({});
  const shop = shops.find((s) => s.key === key) ?? null;
  const chosen = shop === null ? null : (byShop[key] ?? beginning(shop));
  const change = (over: Partial<Chosen>): void => {
    if (chosen !== null) setByShop({ ...byShop, [key]: { ...chosen, ...over } });
  };
  const market = markets.find((m) => m.id === chosen?.own.marketplaceCardId) ?? null;
  const isKnown = market !== null && known.includes(market.key);
  const sellOn = (id: string): void => {
    const m = markets.find((x) => x.id === id);
    if (m !== undefined && chosen !== null) change({ own: soldOn(chosen.own, m) });
  };
  return {
    shop,
    setShop: setKey,
    chosen,
    change,
    market,
    sellOn,
    isKnown,
    setup: setupOf(shop, chosen, isKnown ? market : null),
  };
}

/** What is sent; null while no category is chosen. */
function setupOf(
  shop: ShopShown | null,
  chosen: Chosen | null,
  market: MarketChoice | null,
): (CatalogueSetup & { readonly isEdition: boolean }) | null {
  if (shop === null || chosen === null || chosen.ticked.size === 0) return null;
  const { name, country, currency, tax } = shop;
  const choice: CatalogueChoice = {
    shop: shop.key,
    name: name.slice(0, 200),
    country,
    currency,
    tax,
    categories: shop.categories.filter((c) => chosen.ticked.has(c.key)),
    market: market?.key ?? null,
    filters: chosen.filters,
  };
  const isEdition = shop.last !== null && sameReading(shop.last.choice, choice);
  return { choice, settings: chosen.own, isEdition };
}
