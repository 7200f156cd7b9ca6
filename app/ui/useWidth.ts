import { useLayoutEffect, useRef, useState } from 'react';
import type { RefObject } from 'react';

/** The width of what the reference stands at, in pixels; `start` until it is measured. */
export function useWidth<T extends HTMLElement>(start: number): [RefObject<T | null>, number] {
  const at = useRef<T>(null);
  const [width, setWidth] = useState(start);
  // Before the first paint: a picture that is drawn at `start` would widen a narrow page for a moment.
  useLayoutEffect(() => {
    const of = at.current;
    if (of === null || typeof ResizeObserver === 'undefined') return;
    const measured = (now: number): void => setWidth(Math.max(280, now));
    measured(of.clientWidth);
    const seen = new ResizeObserver(([entry]) => entry && measured(entry.contentRect.width));
    seen.observe(of);
    return () => seen.disconnect();
  }, []);
  return [at, width];
}
