/** How one thing changed in the set-up of a list changes another. */
import { guessMap, headerAmong, mapIssues } from '../../../core/lists/map.ts';
import type { ListMap } from '../../../core/lists/map.ts';
import type { Role } from '../../../core/lists/roles.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';

/** A row of headings as they are compared. */
export const headings = (row: readonly string[] | undefined): string[] => (row ?? []).map((c) => c.trim());

/** What the columns of a sheet seem to say, by its first rows. */
export function guessed(rows: readonly (readonly string[])[]): ListMap {
  const at = headerAmong(rows);
  return guessMap(headings(rows[at]), rows.slice(at + 1));
}

/** A column says one thing: what it said before is asked for again. `heading` '': no column says it. */
export function assigned(map: ListMap, role: Role, heading: string): ListMap {
  const columns = { ...map.columns };
  for (const [r, h] of Object.entries(columns)) if (h === heading) delete columns[r as Role];
  if (heading === '') delete columns[role];
  else columns[role] = heading;
  return { ...map, columns, extras: map.extras.filter((h) => h !== heading) };
}

export type KnownSupplier = { name: string; map: ListMap | null; currency: string | null };
/** A supplier by the name that is typed, whatever its case. */
export const supplierNamed = <T extends { name: string }>(list: readonly T[], typed: string): T | undefined =>
  list.find((s) => s.name.toLowerCase() === typed.trim().toLowerCase());

/** Its columns were read before: the same ones again, where this file has them; otherwise those that are set. */
export const mapLike = (map: ListMap, known: KnownSupplier, header: readonly string[]): ListMap =>
  known.map !== null && mapIssues(known.map, header).length === 0 ? known.map : map;

/** Prices in the supplier's currency, where it is known. */
export const pricedLike = (own: ListSettings, { currency }: KnownSupplier): ListSettings =>
  currency === null ? own : bought(own, { currency });

export const bought = (
  own: ListSettings,
  over: Partial<ListSettings['assumptions']['purchase']>,
): ListSettings => ({
  ...own,
  assumptions: { ...own.assumptions, purchase: { ...own.assumptions.purchase, ...over } },
});

type Market = { id: string; country: string; hasWarehouse: boolean; categories: readonly { key: string }[] };
/** Sold on another marketplace: without a warehouse of its own one dispatches; a category it lacks is none. */
export function soldOn(own: ListSettings, market: Market): ListSettings {
  const { method, category } = own.assumptions;
  const known = category !== null && market.categories.some((c) => c.key === category);
  return {
    ...own,
    marketplaceCardId: market.id,
    country: market.country,
    assumptions: {
      ...own.assumptions,
      method: market.hasWarehouse ? method : 'ownDispatch',
      category: known ? category : null,
    },
  };
}
