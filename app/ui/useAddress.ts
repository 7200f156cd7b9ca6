import { useRef } from 'react';
import { useSearchParams } from 'react-router';

/** Changes parts of the address; null or an empty text removes a part. */
export type SetAddress = (changes: Readonly<Record<string, string | null>>) => void;

/**
 * The state that stands in the address, and a way to change parts of it. Changes that follow each other
 * faster than the page is drawn build on one another.
 */
export function useAddress(): [URLSearchParams, SetAddress] {
  const [search, setSearch] = useSearchParams();
  const latest = useRef(search);
  const drawn = useRef(search);
  if (drawn.current !== search) {
    drawn.current = search;
    latest.current = search;
  }
  const change: SetAddress = (changes) => {
    const next = new URLSearchParams(latest.current);
    for (const [key, value] of Object.entries(changes)) {
      if (value === null || value === '') next.delete(key);
      else next.set(key, value);
    }
    latest.current = next;
    setSearch(next, { replace: true, preventScrollReset: true });
  };
  return [search, change];
}
