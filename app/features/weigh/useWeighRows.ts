/** What Weigh draws of its rows, and the lanes of the one that is opened. */
import { useEffect, useRef, useState } from 'react';
import { useFetcher } from 'react-router';
import type { LaneLine } from './weighed.ts';

export type Opened = { id: string; lanes: LaneLine[] };
/** Rows that are drawn at first; the others follow as one comes near them. */
const FIRST_ROWS = 24;

/** The lanes of the candidate that is opened: those that came with the page, else asked for. */
export function useOpenLanes(first: Opened | null, openId: string | null, base: string): readonly LaneLine[] {
  const fetcher = useFetcher<Opened>();
  const { load } = fetcher;
  const has = first?.id === openId ? first : fetcher.data?.id === openId ? fetcher.data : null;
  const isMissing = openId !== null && has === null;
  useEffect(() => {
    if (isMissing) void load(`${base}/weigh/${openId}/lanes`);
  }, [isMissing, openId, base, load]);
  return has?.lanes ?? [];
}

/** How many rows are drawn, and what to put below them: as it comes near the view, more are. */
export function useRowsAsNeeded(all: number) {
  const [drawn, setDrawn] = useState(FIRST_ROWS);
  const more = useRef<HTMLDivElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the mark below the rows comes and goes with them
  useEffect(() => {
    const el = more.current;
    if (el === null) return;
    const near = new IntersectionObserver(([e]) => e?.isIntersecting && setDrawn((n) => n + FIRST_ROWS), {
      rootMargin: '600px',
    });
    near.observe(el);
    return () => near.disconnect();
  }, [drawn, all]);
  return { drawn, more };
}
