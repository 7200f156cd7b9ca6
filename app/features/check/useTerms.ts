/** What is kept from one check to the next: the market, the till, which price is reckoned with. */
import { useEffect, useRef, useState } from 'react';
import type { KeptTerms } from './keptTerms.ts';

export type { KeptTerms };

/** The terms of this device; what is stored and can no longer be read makes way for `first`. */
export function useTerms(root: string, first: KeptTerms) {
  const place = `bm-check-terms-${root}`;
  const [terms, setTerms] = useState(first);
  const changed = useRef(false);
  useEffect(() => {
    const kept = stored(place);
    if (kept === null) return;
    let current = true;
    void import('./keptTerms.ts').then(({ readTerms }) => {
      const read = readTerms(kept);
      // What was typed meanwhile is newer.
      if (current && read !== null && !changed.current) setTerms(read);
    });
    return () => {
      current = false;
    };
  }, [place]);
  const change = (part: Partial<KeptTerms>): void => {
    changed.current = true;
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
