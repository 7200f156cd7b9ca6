/** Bids of ticked terms into the adverts of a lane (evidence, section 6); economics, section 7, does the rest. */
import type { z } from 'zod';
import type { keyword } from '../lane/schema.ts';
import { volumeOf } from './terms.ts';
import type { MATCHES } from './schema.ts';
import type { Bid, Term } from './schema.ts';
import type { EvidenceSettings } from './settings.ts';

export type Match = (typeof MATCHES)[number];
export type Keyword = z.output<typeof keyword>;
export type Bids =
  | {
      readonly known: true;
      readonly keywords: readonly Keyword[];
      /** `equal`: a volume or the share of clicks is not known. */
      readonly weights: 'byClicks' | 'equal';
      /** Ticked terms without a bid of this match type: they take no part. */
      readonly without: readonly string[];
      /** Ticked terms that hold a rival's name, left out. */
      readonly ofRivals: readonly string[];
    }
  | { readonly known: false; readonly why: 'noneTicked' | 'noBids' };

/**
 * The range of several sources: the lowest low and the highest high; where only one end is known it stands for both.
 *
 * @example bidRange([{ source: 'a', match: 'exact', low: 0.4, high: 0.8 }], 'exact') // { low: 0.4, high: 0.8 }
 */
export function bidRange(bids: readonly Bid[], match: Match): { low: number; high: number } | null {
  const ends = bids
    .filter((b) => b.match === match)
    .flatMap((b) => [b.low, b.high].filter((x): x is number => x !== null));
  return ends.length === 0 ? null : { low: Math.min(...ends), high: Math.max(...ends) };
}

/** The keywords that the ticked terms make: those of rivals' names only where asked for. */
export function bidsOf(
  terms: readonly Term[],
  match: Match,
  now: string,
  s: EvidenceSettings,
  withRivals = false,
): Bids {
  const ticked = terms.filter((t) => t.ticked);
  if (ticked.length === 0) return { known: false, why: 'noneTicked' };
  const own = ticked.filter((t) => withRivals || !t.ofRival);
  const bidding = own.flatMap((t) => {
    const range = bidRange(t.bids, match);
    const volume = volumeOf(t, now)?.volume ?? null;
    return range === null
      ? []
      : [{ t, range, clicks: volume === null || s.clickShare === null ? null : volume * s.clickShare }];
  });
  if (bidding.length === 0) return { known: false, why: 'noBids' };
  const byClicks = bidding.every((b) => b.clicks !== null) && bidding.some((b) => (b.clicks ?? 0) > 0);
  return {
    known: true,
    keywords: bidding.map(({ t, range, clicks }) => ({
      text: t.term,
      low: range.low,
      high: range.high,
      weight: 0.5,
      conversionRate: null,
      expectedClicks: byClicks ? clicks : null,
    })),
    weights: byClicks ? 'byClicks' : 'equal',
    without: own.filter((t) => bidRange(t.bids, match) === null).map((t) => t.term),
    ofRivals: ticked.filter((t) => !own.includes(t)).map((t) => t.term),
  };
}
