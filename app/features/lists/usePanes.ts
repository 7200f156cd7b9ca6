import { useMediaQuery } from '@mui/material';
import { useEffect, useState } from 'react';
import { z } from 'zod';

export type Side = 'assumptions' | 'row';
const KEY = 'bm-list-panes';
const kept = z.object({
  limits: z.boolean(),
  side: z.enum(['assumptions']).nullable(),
  last: z.enum(['limits', 'side']),
});

/**
 * The panes left and right of the rows. On a screen under 1400 pixels there is room for one of them beside
 * rows that can be read; the one opened last stays. What is open is remembered in this browser.
 */
export function usePanes() {
  const tight = useMediaQuery('(max-width: 1400px)');
  const [limits, setLimits] = useState(true);
  const [side, setSide] = useState<Side | null>('assumptions');
  const [last, setLast] = useState<'limits' | 'side'>('limits');
  const [read, setRead] = useState(false);
  useEffect(() => {
    try {
      const found = kept.safeParse(JSON.parse(localStorage.getItem(KEY) ?? 'null'));
      if (found.success) {
        setLimits(found.data.limits);
        setSide(found.data.side);
        setLast(found.data.last);
      }
    } catch {}
    setRead(true);
  }, []);
  useEffect(() => {
    // A row's pane belongs to that row: what stood there before it is what is remembered.
    try {
      if (read && side !== 'row') localStorage.setItem(KEY, JSON.stringify({ limits, side, last }));
    } catch {}
  }, [read, limits, side, last]);
  const showLimits = limits && !(tight && side !== null && last === 'side');
  const shown = side !== null && !(tight && limits && last === 'limits') ? side : null;
  return {
    showLimits,
    side: shown,
    toggleLimits: () => {
      setLimits(!showLimits);
      if (!showLimits) setLast('limits');
    },
    /** A row that is closed gives back what it stood over. */
    closeRow: () => {
      setSide('assumptions');
      if (limits) setLast('limits');
    },
    openSide: (next: Side | null) => {
      setSide(next);
      if (next !== null) setLast('side');
    },
  };
}
