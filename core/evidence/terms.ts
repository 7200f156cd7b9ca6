/** Terms people search for: which of them sell, which are weak, broad or not what they seem (evidence, section 6). */
import { monthsBefore } from './season.ts';
import { median } from './statistics.ts';
import type { Term } from './schema.ts';
import type { EvidenceSettings } from './settings.ts';

export const TERM_FLAGS = ['weak', 'broad', 'searchedNotBought', 'perhapsNotMain'] as const;
export type TermFlag = (typeof TERM_FLAGS)[number];
export type TermSaid = {
  /** Searches of its last known month; null where none is. */
  readonly volume: number | null;
  readonly month: string | null;
  readonly salesPerSearch: number | null;
  readonly flags: readonly TermFlag[];
  /** A broad term counts once somebody has confirmed that such goods appear under it. */
  readonly counts: boolean;
};

const LEAST_TERMS = 5;
const NOT_BOUGHT = 1 / 5;
const NOT_MAIN = 5;
const BROAD_WORDS = 2;

/** Words in any script, folded, so that they compare as whole words. */
export const wordsOf = (text: string): string[] =>
  text
    .normalize('NFC')
    .toLowerCase()
    .match(/[\p{L}\p{M}\p{N}]+/gu) ?? [];

const monthText = (n: number): string =>
  `${String(Math.floor(n / 12)).padStart(4, '0')}-${String((n % 12) + 1).padStart(2, '0')}`;

/** Searches of the last month before now that is known. */
export function volumeOf(term: Pick<Term, 'volumes'>, now: string): { month: string; volume: number } | null {
  const known = monthsBefore(term.volumes, now);
  if (known.size === 0) return null;
  const last = Math.max(...known.keys());
  return { month: monthText(last), volume: known.get(last) as number };
}

/** What each term of a table is worth, by itself and beside the others. */
export function termsSaid(terms: readonly Term[], now: string, s: EvidenceSettings): TermSaid[] {
  const volumes = terms.map((t) => volumeOf(t, now));
  const perSearch = terms.map((t, i) => {
    const volume = volumes[i]?.volume ?? 0;
    return t.sales === null || volume <= 0 ? null : t.sales / volume;
  });
  const known = perSearch.filter((x) => x !== null);
  const usual = known.length < LEAST_TERMS ? null : median(known);
  return terms.map((t, i) => {
    const volume = volumes[i] ?? null;
    const own = perSearch[i] as number | null;
    const broad = t.broad || wordsOf(t.term).length <= BROAD_WORDS;
    const flags: TermFlag[] = [];
    if (volume !== null && volume.volume < s.weakVolume) flags.push('weak');
    if (broad && !t.confirmed) flags.push('broad');
    if (own !== null && usual !== null && usual > 0) {
      if (own < NOT_BOUGHT * usual) flags.push('searchedNotBought');
      if (own > NOT_MAIN * usual) flags.push('perhapsNotMain');
    }
    return {
      volume: volume?.volume ?? null,
      month: volume?.month ?? null,
      salesPerSearch: own,
      flags,
      counts: !broad || t.confirmed,
    };
  });
}

/** Places of the terms that hold every word of `include` and none of `exclude`, as whole words. */
export function termsHolding(terms: readonly { term: string }[], include: string, exclude: string): number[] {
  const [wanted, unwanted] = [wordsOf(include), wordsOf(exclude)];
  return terms.flatMap((t, i) => {
    const own = new Set(wordsOf(t.term));
    return wanted.every((w) => own.has(w)) && !unwanted.some((w) => own.has(w)) ? [i] : [];
  });
}

/**
 * Terms with a word and without it: how many, and the strongest of each (volumes are not added: terms share
 * buyers).
 */
export function withAndWithout(
  terms: readonly Term[],
  word: string,
  now: string,
): Record<'with' | 'without', { terms: number; strongest: number | null }> {
  const holding = new Set(termsHolding(terms, word, ''));
  const side = (own: readonly Term[]) => {
    const known = own.flatMap((t) => volumeOf(t, now)?.volume ?? []);
    return { terms: own.length, strongest: known.length === 0 ? null : Math.max(...known) };
  };
  return {
    with: side(terms.filter((_, i) => holding.has(i))),
    without: side(terms.filter((_, i) => !holding.has(i))),
  };
}
