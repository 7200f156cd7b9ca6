/**
 * The taxes of a country to begin with, where a workspace has no tax card of it yet: the standard rate that an
 * open data package gives, and what customs usually go by. All of it says where it is from, and to check it.
 */
import { and, eq, isNull } from 'drizzle-orm';
import rates from 'sales-tax/res/sales_tax_rates.json' with { type: 'json' };
import version from 'sales-tax/package.json' with { type: 'json' };
import { taxCard } from '../../core/cards/rates.ts';
import type { TaxCard } from '../../core/cards/rates.ts';
import { inWorkspace } from '../db/client.ts';
import { rateCard } from '../db/schema.ts';
import { putInForce } from './cards.ts';

/** What such a card says of itself, by the version of the package. */
type Note = (version: string) => string;
type Known = { readonly type: string; readonly currency: string; readonly rate: number };
const KNOWN = rates as unknown as Readonly<Record<string, Known | undefined>>;

/** Countries where tax is added at checkout. */
const ADDED_AT_CHECKOUT: ReadonlySet<string> = new Set(['US', 'CA']);
/** Countries that take duty of the value at the port of export. */
const FOB: ReadonlySet<string> = new Set(['US', 'CA', 'AU', 'NZ', 'ZA']);
const names = new Intl.DisplayNames(['en'], { type: 'region' });

/** A country's tax card in force from a day; null where no rate of it is known. */
export function taxStart(country: string, currency: string, day: string, note: Note): TaxCard | null {
  const known = KNOWN[country];
  if (known === undefined) return null;
  return taxCard.parse({
    name: names.of(country) ?? country,
    inForceFrom: day,
    note: note(version.version),
    country,
    currency,
    regime: ADDED_AT_CHECKOUT.has(country) ? 'exclusive' : 'inclusive',
    vatRates: { standard: known.rate },
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
): Promise<boolean> {
  const data = taxStart(country, currency, day, note);
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
