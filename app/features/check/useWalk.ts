/** The walk that is going on: checks are kept on it, it is paused, gone on with, ended. */
import { useEffect, useRef, useState } from 'react';
import type { Checked, CheckGist } from '../../../core/check/check.ts';
import { ended, isPaused, minutesOf, paused, walked } from '../../../core/check/session.ts';
import type { CheckSession, ShelfCheck } from '../../../core/check/schema.ts';
import type { Device } from './useDevice.ts';

/** The minute of the clock, so that minutes on screen move on. */
function useNow(everyMs: number): string {
  const [now, setNow] = useState(() => new Date().toISOString());
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date().toISOString()), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return now;
}

const instant = (): string => new Date().toISOString();

/** What was in one's hand: `again`: the check whose place it takes. */
type Decidable = { readonly checked: Checked; readonly gist: CheckGist; readonly again: ShelfCheck | null };

export function useWalk(device: Device) {
  const now = useNow(15_000);
  const session = device.held.session?.data ?? null;
  const checks = device.held.checks.filter((c) => c.data.session === session?.id);
  /** As it was set last here, which the device may still be writing down. */
  const latest = useRef<CheckSession | null>(null);
  const current = (): CheckSession | null => {
    const own = latest.current;
    const newer = own !== null && own.changedAt > (session?.changedAt ?? '') ? own : session;
    return newer === null || newer.ended ? null : newer;
  };
  const set = (next: CheckSession): Promise<void> => {
    latest.current = next;
    return device.keepSession(next);
  };
  /** The session that a check is kept on: the one that goes on, gone on with where it was paused, or a new one. */
  const forCheck = async (): Promise<CheckSession> => {
    const at = instant();
    const before = current();
    const next: CheckSession =
      before === null
        ? {
            id: crypto.randomUUID(),
            name: '',
            stretches: [{ from: at, to: null }],
            ended: false,
            changedAt: at,
          }
        : paused(before, false, at);
    if (next !== before) await set(next);
    return next;
  };
  return {
    session,
    checks,
    tally: walked(checks),
    minutes: session === null ? 0 : minutesOf(session.stretches, now),
    isPaused: session !== null && isPaused(session),
    pause: async (pause: boolean): Promise<void> => {
      const before = current();
      if (before !== null) await set(paused(before, pause, instant()));
    },
    end: async (): Promise<void> => {
      const before = current();
      if (before !== null) await set(ended(before, instant()));
    },
    /** Keeps or leaves what was in one's hand. */
    decide: async (c: Decidable, state: ShelfCheck['state']): Promise<ShelfCheck> => {
      const on = await forCheck();
      const at = instant();
      const check: ShelfCheck = {
        ...c.checked,
        id: c.again?.id ?? crypto.randomUUID(),
        session: c.again?.session ?? on.id,
        at: c.again?.at ?? at,
        state,
        reason: '',
        changedAt: at,
      };
      await device.keepCheck(check, c.gist);
      return check;
    },
    /** Says why a check was left. */
    explain: async (id: string, reason: string): Promise<void> => {
      const own = device.held.checks.find((c) => c.id === id);
      if (own !== undefined) await device.keepCheck({ ...own.data, reason, changedAt: instant() }, own.said);
    },
  };
}
export type Walk = ReturnType<typeof useWalk>;
