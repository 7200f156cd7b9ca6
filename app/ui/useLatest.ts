import { useCallback, useRef } from 'react';

/**
 * A function that stays the same while it always calls the newest one, so that handing it down draws nothing
 * again.
 */
export function useLatest<A extends unknown[], R>(fn: (...args: A) => R): (...args: A) => R {
  const latest = useRef(fn);
  latest.current = fn;
  return useCallback((...args: A) => latest.current(...args), []);
}
