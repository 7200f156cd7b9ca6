/**
 * The taxes of a country to begin with, where a workspace has no tax card of it yet: the standard rate that an
 * open data package gives or somebody typed, reduced rates where we know them, and what customs usually go by.
 * All of it says where it is from, and to check it.
 */
import { and, eq, isNull } from 'drizzle-orm';
import rates from 'sales-tax/res/sales_tax_rates.json' with { type: 'json' };
import version from 'sales-tax/package.json' with { type: 'json' };
import { taxCard } from '../../core/cards/rates.ts';
import type { TaxCard } from '../../core/cards/rates.ts';
import { inWorkspace } from '../db/client.ts';
import { rateCard } from '../db/schema.ts';
import { putInForce } from './cards.ts';
import { REDUCED_AS_OF, REDUCED_RATES } from './reducedRates.ts';

/** Where a standard rate is from: the package, by its version, or whoever typed it. */
export type RateFrom = { readonly package: string } | 'typed';
/** What such a card says of itself; `reducedOf`: the day of its reduced rates, null without any. */
type Note = (from: RateFrom, reducedOf: string | null) => string;
type Known = { readonly type: string; readonly currency: string; readonly rate: number };
const KNOWN = rates as unknown as Readonly<Record<string, Known | undefined>>;

/** Countries where tax is added at checkout. */
const ADDED_AT_CHECKOUT: ReadonlySet<string> = new Set(['US', 'CA']);
/** Countries that take duty of the value at the port of export. */
const FOB: ReadonlySet<string> = new Set(['US', 'CA', 'AU', 'NZ', 'ZA']);
const names = new Intl.DisplayNames(['en'], { type: 'region' });

/** Tax classes of reduced rates, the highest first. */
const CLASSES = ['reduced', 'lower', 'lowest'] as const;

/** Standard rates by country as the package has them, fractions; and what they are from. */
export const knownRates = (): Readonly<Record<string, number>> =>
  Object.fromEntries(Object.entries(KNOWN).map(([country, known]) => [country, known?.rate ?? 0]));
export const RATES_FROM = `sales-tax ${version.version}`;

/**
 * A country's tax card in force from a day, with the standard rate that is typed, else the package's; null where
 * neither is there.
 */
export function taxStart(
  country: string,
  currency: string,
  day: string,
  note: Note,
  typed: number | null = null,
): TaxCard | null {
  const standard = typed ?? KNOWN[country]?.rate;
  if (standard === undefined) return null;
  const reduced = REDUCED_RATES[country] ?? [];
  return taxCard.parse({
    name: names.of(country) ?? country,
    inForceFrom: day,
    note: note(
      typed === null ? { package: RATES_FROM } : 'typed',
      reduced.length === 0 ? null : REDUCED_AS_OF,
    ),
    country,
    currency,
    regime: ADDED_AT_CHECKOUT.has(country) ? 'exclusive' : 'inclusive',
    vatRates: { standard, ...Object.fromEntries(reduced.map((r, i) => [CLASSES[i], r])) },
    customsBasis: FOB.has(country) ? 'FOB' : 'CIF',
    importVatBase: 'cif',
    dutyFreeLimit: null,
  });
}

/** Puts a tax card of the country in force where there is none. True where one was made. */
export async function startTaxes(
  workspaceId: string,
  country: string,
  currency: string,
  day: string,
  by: string,
  note: Note,
  typed: number | null = null,
): Promise<boolean> {
  const data = taxStart(country, currency, day, note, typed);
  if (data === null) return false;
  const there = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ id: rateCard.id })
      .from(rateCard)
      .where(
        and(
          eq(rateCard.workspaceId, workspaceId),
          eq(rateCard.kind, 'tax'),
          eq(rateCard.key, country),
          isNull(rateCard.withdrawnAt),
        ),
      )
      .limit(1),
  );
  return there.length === 0 && (await putInForce(workspaceId, 'tax', data, null, by)).ok;
}
