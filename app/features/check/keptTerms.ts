/** Terms that a device kept, read; apart from the page, which carries no schemas until there is something to read. */
import { z } from 'zod';
import { PRICE_BASES } from '../../../core/check/bases.ts';
import { tillTerms } from '../../../core/check/schema.ts';

const keptTerms = z.object({ market: z.string().max(300), till: tillTerms, basis: z.enum(PRICE_BASES) });
export type KeptTerms = z.output<typeof keptTerms>;

/** The terms that were kept; null where they can no longer be read. */
export const readTerms = (stored: unknown): KeptTerms | null => keptTerms.safeParse(stored).data ?? null;
