/** A walk through shops: how long it took, and what its finds add up to. */
import type { Blank } from '../lane/blanks.ts';
import type { CheckGist } from './check.ts';
import type { CheckSession, ShelfCheck } from './schema.ts';

/**
 * Minutes that one was at it, pauses left out; an open stretch runs until `now` (ISO 8601). A stretch that ends before
 * it begins, as a clock that was set does, counts nothing.
 *
 * @example minutesOf([{ from: '2026-11-30T09:00:00Z', to: '2026-11-30T09:26:00Z' }], now) // 26
 */
export function minutesOf(stretches: CheckSession['stretches'], now: string): number {
  const ms = stretches.reduce((sum, s) => sum + Math.max(0, Date.parse(s.to ?? now) - Date.parse(s.from)), 0);
  return ms / 60_000;
}

export const isPaused = (s: CheckSession): boolean => s.ended || s.stretches.at(-1)?.to != null;

/** The session paused, or gone on with; one that has ended stays as it is. `now`: ISO 8601. */
export function paused(s: CheckSession, pause: boolean, now: string): CheckSession {
  if (s.ended || isPaused(s) === pause) return s;
  const stretches = pause
    ? s.stretches.map((x, i) => (i === s.stretches.length - 1 ? { ...x, to: now } : x))
    : [...s.stretches, { from: now, to: null }];
  return { ...s, stretches, changedAt: now };
}
export const ended = (s: CheckSession, now: string): CheckSession => ({
  ...paused(s, true, now),
  ended: true,
  changedAt: now,
});

export type Walked = {
  readonly checked: number;
  readonly kept: number;
  readonly left: number;
  /** Profit a month of those kept, home currency: the sum of those that are known. */
  readonly perMonthHome: number;
  /** Kept goods whose profit a month is not known. */
  readonly unknown: number;
  /** Costs that some of these profits leave out: the sum is a bound. */
  readonly lacks: readonly Blank[];
};
export function walked(
  checks: readonly { readonly data: Pick<ShelfCheck, 'state'>; readonly said: CheckGist }[],
): Walked {
  const kept = checks.filter((c) => c.data.state === 'kept');
  const known = kept.filter((c) => c.said.perMonthHome !== null);
  return {
    checked: checks.length,
    kept: kept.length,
    left: checks.length - kept.length,
    perMonthHome: known.reduce((sum, c) => sum + (c.said.perMonthHome ?? 0), 0),
    unknown: kept.length - known.length,
    lacks: [...new Set(known.flatMap((c) => c.said.lacks))],
  };
}

/** What a check is called: by its listing, as it was typed, by its barcode. */
export const goodsName = (c: Pick<ShelfCheck, 'listing' | 'name' | 'gtin'>): string =>
  c.listing?.title || c.name || c.gtin || '';
