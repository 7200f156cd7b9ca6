/** A product from what one knows of it at first: its name, a price and a cost; the rest may come later. */
import { z } from 'zod';
import { isGtin } from '../goods/gtin.ts';
import type { MarketplaceCard } from '../cards/rates.ts';
import { quote, retailPurchase } from '../lane/schema.ts';
import { WAYS } from '../lane/choices.ts';
import type { Way } from '../lane/choices.ts';
import { country, currency, nonNegative, positive } from '../money/schema.ts';
import { candidateData } from './records.ts';
import type { CandidateData, QuoteSource } from './records.ts';
import type { Settings } from './settings.ts';

const HEADING = /^\d{4,10}$/;
/** Whether a text can be a heading of the customs tariff: 4 to 10 digits. */
export const isHeading = (text: string): boolean => HEADING.test(text);

/** `price` in the marketplace's currency, VAT as it shows prices; `cost` of a unit in `costCurrency`. */
export const newCandidate = z.object({
  name: z.string().trim().min(1, 'productNoName').max(200),
  way: z.enum(WAYS),
  price: nonNegative.nullable(),
  cost: nonNegative.nullable(),
  costCurrency: currency,
  sides: z.tuple([positive, positive, positive]).nullable(),
  kg: positive.nullable(),
  marketplaceCardId: z.string().max(64).nullable(),
  country,
  origin: country.nullable().default(null),
  category: z.string().max(200).nullable().default(null),
  hsCode: z.string().regex(HEADING, 'headingShape').nullable().default(null),
  gtin: z.string().refine(isGtin, 'wrongCheckDigit').nullable().default(null),
});
export type NewCandidate = z.output<typeof newCandidate>;

/** The candidate; without a category of its own it is in the marketplace's first. */
export function candidateOf(n: NewCandidate, marketplace: MarketplaceCard | null): CandidateData {
  const { name, way, sides, kg, origin, hsCode, gtin } = n;
  const category = n.category ?? marketplace?.categories[0]?.key ?? null;
  return candidateData.parse({ name, way, gtin, product: { sides, kg, origin, hsCode, category } });
}

/** What a supplier's price covers, by the way goods come in, until a quote says so. */
const INCOTERM: Partial<Record<Way, 'FOB' | 'DAP'>> = { ownBrand: 'FOB', wholesale: 'DAP' };

/**
 * Where its goods come from: a shelf in retail, otherwise a quote at one price, with the days that goods of this way
 * take to be ready.
 */
export function firstSource(n: NewCandidate, defaults: Settings['defaults']): QuoteSource {
  if (n.way === 'retail')
    return retailPurchase.parse({ kind: 'retail', currency: n.costCurrency, shelfPrice: n.cost });
  return quote.parse({
    kind: 'quote',
    currency: n.costCurrency,
    incoterm: INCOTERM[n.way] ?? 'EXW',
    priceBreaks: [{ minQty: 0, unitPrice: n.cost }],
    leadDays: n.way === 'ownBrand' ? defaults.leadDays : n.way === 'wholesale' ? 3 : 0,
  });
}
