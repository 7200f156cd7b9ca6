/** What choosing columns and terms of a list offers, and what it comes to. */
import { z } from 'zod';
import type { MarketplaceCard } from '../cards/rates.ts';
import { listMap } from './map.ts';
import type { ListMap } from './map.ts';
import { CHOICES } from './reference.ts';
import { listSettings } from './settings.ts';
import type { ListSettings } from './settings.ts';

/** The first rows of a file, or of a sheet of a workbook, as they stand there. */
export type Sheet = { readonly name: string; readonly rows: readonly (readonly string[])[] };

/** What was set up: how the file is read, and how its rows are weighed. */
export const listSetup = z.strictObject({
  name: z.string().trim().min(1).max(200),
  supplier: z.string().trim().max(200),
  sheet: z.string().max(200).nullable(),
  map: listMap,
  settings: listSettings,
  previousId: z.string().max(100).nullable(),
  reference: z
    .strictObject({ map: listMap, sheet: z.string().max(200).nullable(), choice: z.enum(CHOICES) })
    .nullable(),
});
export type ListSetup = z.output<typeof listSetup>;

/** A marketplace that goods of a list can be sold on. */
export type MarketChoice = {
  readonly id: string;
  /** Marketplace and country, as a feed names it too. */
  readonly key: string;
  readonly name: string;
  readonly country: string;
  readonly currency: string;
  readonly hasWarehouse: boolean;
  readonly categories: readonly { readonly key: string; readonly name: string }[];
};

/** A marketplace's card as it is chosen. */
export const marketChoice = (
  { id, key, name }: Pick<MarketChoice, 'id' | 'key' | 'name'>,
  { country, currency, warehouse, categories }: MarketplaceCard,
): MarketChoice => ({
  id,
  key,
  name,
  country,
  currency,
  hasWarehouse: warehouse !== null,
  categories: categories.map((c) => ({ key: c.key, name: c.name })),
});

/** What there is to choose from, and what is guessed where nothing has been chosen yet. */
export type SetupChoices = {
  sheets: Sheet[];
  /** Those of the market figures; null: there are none. */
  referenceSheets: Sheet[] | null;
  map: ListMap;
  own: ListSettings;
  suppliers: { id: string; name: string; currency: string | null; map: ListMap | null }[];
  markets: MarketChoice[];
  /** Lists that this may be a later edition of. */
  earlier: { id: string; name: string }[];
};
