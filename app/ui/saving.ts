/** How forms that save by themselves keep what is not saved yet, and learn of others' changes. */
import { useEffect, useRef, useState } from 'react';
import { z } from 'zod';
import { tell, type Why } from './client.ts';

/** What became of what was sent. */
export type SaveAnswer = 'saved' | Why;

/** What this tab has not saved yet, under a name of its own; null where there is nothing or it cannot be read. */
export function keptInTab(key: string): unknown {
  try {
    return JSON.parse(sessionStorage.getItem(key) ?? 'null');
  } catch {
    return null;
  }
}

/** Keeps what is not saved yet in the tab, or forgets it (null). A tab whose storage is full goes on without. */
export function keepInTab(key: string, what: unknown): void {
  try {
    if (what === null) sessionStorage.removeItem(key);
    else sessionStorage.setItem(key, JSON.stringify(what));
  } catch {}
}

const edition = z.object({ at: z.string(), by: z.string().nullable(), mine: z.boolean() });
const EVERY_MS = 3000;

/**
 * Asks every three seconds whether somebody else has changed what the page shows, and calls `changed` when
 * so. Returns who it was, until one's own change comes after it.
 */
export function useOthersChanges(url: string, changed: () => void): string | null {
  const [by, setBy] = useState<string | null>(null);
  const call = useRef(changed);
  call.current = changed;
  useEffect(() => {
    let known: string | null = null;
    const look = async (): Promise<void> => {
      if (document.visibilityState !== 'visible') return;
      const answer = await tell(url);
      const now = answer.ok ? edition.safeParse(answer.data) : null;
      if (now?.success !== true) return;
      const { at, by: who, mine } = now.data;
      const news = known !== null && at !== known;
      known = at;
      if (!news) return;
      setBy(mine ? null : who);
      if (!mine) call.current();
    };
    void look();
    const timer = setInterval(() => void look(), EVERY_MS);
    return () => clearInterval(timer);
  }, [url]);
  return by;
}
