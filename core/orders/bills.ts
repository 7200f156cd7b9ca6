/** What an order cost beside its goods: bills of the way in, shared out over its lines as one chooses. */
import { z } from 'zod';
import type { Line } from '../lane/costLines.ts';
import { day, positive, shortText } from '../money/schema.ts';
import type { OrderSaid } from './totals.ts';

/** Each is a line of the build-up. */
export const BILL_KINDS = [
  'freight',
  'insurance',
  'duty',
  'importCharges',
  'prep',
  'buyingCosts',
] as const satisfies Line[];
export const SHARED_BY = ['value', 'units', 'weight', 'volume'] as const;
export type SharedBy = (typeof SHARED_BY)[number];

/** `amount`: home currency, without VAT that one gets back. */
export const bill = z.strictObject({
  id: z.string().min(1).max(64),
  day,
  kind: z.enum(BILL_KINDS),
  amount: positive,
  by: z.enum(SHARED_BY).default('value'),
  note: shortText.default(''),
});
export type Bill = z.output<typeof bill>;

/** Characters of a file of bills that are taken in. */
export const LARGEST_BILL_FILE = 200_000;

/** Weight and volume of one bought unit; null: not known. */
export type Measures = { readonly kg: number | null; readonly m3: number | null };

/**
 * The part of each line, by its id, of what is shared out; they add up to 1. Null: what it is shared by is not known
 * of every line, or comes to nothing.
 *
 * @param measures of each line, by its id
 */
export function partsBy(
  by: SharedBy,
  said: Pick<OrderSaid, 'lines'>,
  measures: ReadonlyMap<string, Measures>,
): ReadonlyMap<string, number> | null {
  const weights = said.lines.map((l): number | null => {
    if (by === 'value') return l.amount?.net ?? null;
    if (l.units === null || by === 'units') return l.units;
    const each = measures.get(l.id)?.[by === 'weight' ? 'kg' : 'm3'] ?? null;
    return each === null ? null : l.units * each;
  });
  if (weights.includes(null)) return null;
  const whole = weights.reduce<number>((s, w) => s + (w ?? 0), 0);
  if (whole <= 0) return null;
  return new Map(said.lines.map((l, i) => [l.id, (weights[i] ?? 0) / whole]));
}
