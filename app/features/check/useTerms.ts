/** What is kept from one check to the next: the market, the till, which price is reckoned with. */
import { useEffect, useState } from 'react';
import { z } from 'zod';
import { PRICE_BASES, tillTerms } from '../../../core/check/schema.ts';

const keptTerms = z.object({ market: z.string().max(300), till: tillTerms, basis: z.enum(PRICE_BASES) });
export type KeptTerms = z.output<typeof keptTerms>;

/** The terms of this device; what is stored and can no longer be read makes way for `first`. */
export function useTerms(root: string, first: KeptTerms) {
  const place = `bm-check-terms-${root}`;
  const [terms, setTerms] = useState(first);
  useEffect(() => {
    const read = keptTerms.safeParse(stored(place));
    if (read.success) setTerms(read.data);
  }, [place]);
  const change = (part: Partial<KeptTerms>): void => {
    const next = { ...terms, ...part };
    setTerms(next);
    try {
      localStorage.setItem(place, JSON.stringify(next));
    } catch {
      // A device without room forgets the terms, and nothing else.
    }
  };
  return { terms, change };
}

function stored(place: string): unknown {
  try {
    return JSON.parse(localStorage.getItem(place) ?? 'null');
  } catch {
    return null;
  }
}
