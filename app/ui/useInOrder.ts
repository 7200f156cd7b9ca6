import { useCallback, useRef } from 'react';

/**
 * Has work done in the order it is asked for, each piece once the one before has ended, well or not: what was typed
 * or ticked last is what is kept last. Gives what the piece itself comes to.
 */
export function useInOrder(): <T>(work: () => Promise<T>) => Promise<T> {
  const last = useRef<Promise<unknown>>(Promise.resolve());
  return useCallback((work) => {
    const now = last.current.then(work);
    last.current = now.catch(() => undefined);
    return now;
  }, []);
}
