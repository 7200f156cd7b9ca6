/** Which candidates Weigh shows, and in which order: by the limits and the order in its address. */
import type { Gate } from '../../../core/workspace/records.ts';
import type { GateState } from '../../../core/workspace/summary.ts';
import type { MarketStored, NewerLine } from '../../../core/evidence/stored.ts';
import type { WeighLine } from '../../../core/workspace/weighLine.ts';
import { parseNumber } from '../../ui/parseNumber.ts';

export type LaneLine = WeighLine & { readonly id: string };
export type CandidateLine = {
  id: string;
  name: string;
  way: string;
  stage: string;
  tags: string[];
  archived: boolean;
  dropped: string | null;
  changed: string;
  gates: Record<Gate, GateState>;
  /** What evidence says of the market of the best lane; null: nobody follows it. */
  market: Omit<MarketStored, 'facts'> | null;
  /** Evidence newer than that lane holds, and what it would change. */
  newer: readonly NewerLine[];
  best: LaneLine | null;
  laneCount: number;
};

export const SORTS = ['keeps', 'margin', 'roi', 'launch', 'name', 'changed'] as const;
export type Sort = (typeof SORTS)[number];
export const LIMITS = ['q', 'way', 'stage', 'tag', 'keeps', 'launch'] as const;
export type LimitName = (typeof LIMITS)[number];

const profitOf = (l: CandidateLine): number | null => l.best?.bar.figures.unitProfit ?? null;

/** Which candidates are looked at: those one works on, the archived, or the dropped. */
const isOn =
  (show: string) =>
  (l: CandidateLine): boolean => {
    if (show === 'archived') return l.archived;
    if (show === 'dropped') return l.dropped !== null;
    return !l.archived && l.dropped === null;
  };

/** Each limit by itself, so that it can say what it takes away. */
function testsOf(
  search: URLSearchParams,
  locale: string,
): Readonly<Record<LimitName, (l: CandidateLine) => boolean>> {
  const text = (key: LimitName): string => search.get(key) ?? '';
  const amount = (key: LimitName): number | null => {
    const n = parseNumber(text(key), locale);
    return n.kind === 'number' ? n.value : null;
  };
  const [keeps, launch] = [amount('keeps'), amount('launch')];
  return {
    q: (l) => l.name.toLowerCase().includes(text('q').toLowerCase()),
    way: (l) => text('way') === '' || l.way === text('way'),
    stage: (l) => text('stage') === '' || l.stage === text('stage'),
    tag: (l) => text('tag') === '' || l.tags.includes(text('tag')),
    keeps: (l) => keeps === null || (profitOf(l) ?? Number.NEGATIVE_INFINITY) >= keeps,
    launch: (l) => launch === null || (l.best?.launchCash ?? Number.POSITIVE_INFINITY) <= launch,
  };
}

/** What a candidate is ordered by; null where it is not known. */
function keyOf(l: CandidateLine, sort: Sort): number | string | null {
  switch (sort) {
    case 'name':
      return l.name.toLowerCase();
    case 'changed':
      return l.changed;
    case 'keeps':
      return profitOf(l);
    case 'margin':
      return l.best?.margin ?? null;
    case 'roi':
      return l.best?.roi ?? null;
    case 'launch':
      return l.best?.launchCash ?? null;
  }
}

export type Weighed = {
  /** All that stand on this shelf (live, archived, dropped). */
  readonly shelf: readonly CandidateLine[];
  /** What the limits leave of them, in order. */
  readonly shown: readonly CandidateLine[];
  readonly sort: Sort;
  readonly down: boolean;
  /** How many a limit takes away by itself, of what the others leave. */
  readonly takes: (limit: LimitName) => number;
};

/** The candidates as the address wants them; numbers in it are read as the locale writes them. */
export function weighedBy(lines: readonly CandidateLine[], search: URLSearchParams, locale: string): Weighed {
  const shelf = lines.filter(isOn(search.get('show') ?? 'live'));
  const tests = testsOf(search, locale);
  const sort = SORTS.find((s) => s === search.get('sort')) ?? 'keeps';
  const down = search.get('down') !== '0';
  // What is not known stands last, whichever way the others go.
  const order = (a: CandidateLine, b: CandidateLine): number => {
    const [x, y] = [keyOf(a, sort), keyOf(b, sort)];
    if (x === null || y === null) return Number(x === null) - Number(y === null);
    return (x < y ? 1 : x > y ? -1 : 0) * (down ? 1 : -1);
  };
  return {
    shelf,
    shown: shelf.filter((l) => LIMITS.every((k) => tests[k](l))).sort(order),
    sort,
    down,
    takes: (limit) =>
      shelf.filter((l) => !tests[limit](l) && LIMITS.every((k) => k === limit || tests[k](l))).length,
  };
}

/** Whether a candidate's best lane clears all hurdles there are. */
export const clears = ({ best }: CandidateLine): boolean =>
  best !== null && best.hurdles.length > 0 && best.hurdles.every((h) => h.verdict === 'pass');
