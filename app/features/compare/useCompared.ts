import { useMemo, useRef } from 'react';
import { asked, perHundred } from '../../../core/compare/whatIf.ts';
import type { WhatIf } from '../../../core/compare/whatIf.ts';
import { lightOf } from '../../../core/compare/light.ts';
import type { Light } from '../../../core/compare/light.ts';
import { byMeasure } from '../../../core/compare/measures.ts';
import type { Measure } from '../../../core/compare/measures.ts';
import type { CardData } from '../../../core/cards/schema.ts';
import { evaluate, restate } from '../../../core/lane/evaluate.ts';
import type { LaneResult } from '../../../core/lane/result.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { priceFor } from '../../../core/lane/solve.ts';
import { launchCash } from '../../../core/launch/launch.ts';
import type { LaunchPlan } from '../../../core/launch/schema.ts';
import { composeLane } from '../../../core/workspace/compose.ts';
import type { CandidateData, QuoteSource, StoredLane } from '../../../core/workspace/records.ts';
import type { Settings } from '../../../core/workspace/settings.ts';

export type LaneIn = { readonly id: string; readonly data: StoredLane };
export type Around = {
  readonly candidate: CandidateData;
  readonly quotes: readonly { id: string; data: QuoteSource }[];
  readonly cards: Record<string, CardData>;
  readonly settings: Settings;
  readonly plan: LaunchPlan;
  readonly today: string;
};
/** A lane of the comparison; its whole result is worked out when it is shown (`resultOf`, `homeOf`). */
export type Compared = {
  readonly id: string;
  readonly data: StoredLane;
  readonly doc: LaneDocument;
  readonly light: Light;
};

/** Lane documents, each put together again only when its lane changes. */
export function useDocuments(
  lanes: readonly LaneIn[],
  around: Around,
): { id: string; data: StoredLane; doc: LaneDocument }[] {
  const kept = useRef(new Map<string, { data: StoredLane; around: Around; doc: LaneDocument }>());
  return useMemo(() => {
    const quotes = Object.fromEntries(around.quotes.map((q) => [q.id, q.data]));
    return lanes.map((l) => {
      const known = kept.current.get(l.id);
      if (known !== undefined && known.data === l.data && known.around === around)
        return { id: l.id, data: l.data, doc: known.doc };
      const doc = composeLane({
        candidate: around.candidate,
        lane: l.data,
        quotes,
        cards: around.cards,
        homeCurrency: around.settings.homeCurrency,
        standings: around.settings.standings,
        today: around.today,
      });
      kept.current.set(l.id, { data: l.data, around, doc });
      return { id: l.id, data: l.data, doc };
    });
  }, [lanes, around]);
}

/** Every lane reckoned under a question asked of all. */
export function evaluateAll(
  lanes: readonly { id: string; data: StoredLane; doc: LaneDocument }[],
  question: WhatIf,
): Compared[] {
  return lanes.map((l) => {
    const doc = asked(l.doc, question);
    return { id: l.id, data: l.data, doc, light: lightOf(doc) };
  });
}

const results = new WeakMap<LaneDocument, LaneResult>();
/** The whole result in the sales currency, worked out once for each document. */
export function resultOf(c: Compared): LaneResult {
  let result = results.get(c.doc);
  if (result === undefined) {
    result = evaluate(c.doc);
    results.set(c.doc, result);
  }
  return result;
}

const homes = new WeakMap<LaneDocument, LaneResult | null>();
/** The whole result in the home currency; null without an exchange rate. */
export function homeOf(c: Compared): LaneResult | null {
  let home = homes.get(c.doc);
  if (home === undefined) {
    home = restate(resultOf(c), c.doc.homeCurrency, c.doc.rates.exchange);
    homes.set(c.doc, home);
  }
  return home;
}

const evens = new WeakMap<LaneDocument, number | null>();
/** Break-even price in the sales currency, worked out once for each document. */
export function breakEvenOf(doc: LaneDocument): number | null {
  let price = evens.get(doc);
  if (price === undefined) {
    price = priceFor(doc).price;
    evens.set(doc, price);
  }
  return price;
}

const cash = new WeakMap<LaneDocument, number | null>();
/** What the launch of the lane takes, home currency. */
export function launchOf(doc: LaneDocument, plan: LaunchPlan): number | null {
  let total = cash.get(doc);
  if (total === undefined) {
    total = launchCash(doc, plan);
    cash.set(doc, total);
  }
  return total;
}

export const SORTS = [
  'unitProfit',
  'margin',
  'roi',
  'profitPerMonth',
  'yearlyReturnOnCash',
  'launchCash',
  'landedCost',
  'gross',
  'breakEven',
  'cashCycleDays',
] as const;
export type Sort = (typeof SORTS)[number];
const LOW_FIRST = new Set<Sort>(['launchCash', 'landedCost', 'breakEven', 'cashCycleDays']);

/** A figure of a lane, money in the home currency. */
export function figureOf(c: Compared, sort: Sort, plan: LaunchPlan): number | null {
  if (sort === 'launchCash') return launchOf(c.doc, plan);
  if (sort === 'breakEven') {
    const even = breakEvenOf(c.doc);
    return even === null || Number.isNaN(c.light.factor) ? even : even * c.light.factor;
  }
  return c.light.figures[sort];
}

export function sorted(
  lanes: readonly Compared[],
  sort: Sort,
  turned: boolean,
  plan: LaunchPlan,
): Compared[] {
  const value = new Map(lanes.map((c) => [c, figureOf(c, sort, plan)]));
  const of = (c: Compared): number | null => value.get(c) ?? null;
  const whole = (c: Compared): boolean => sort === 'gross' || c.light.whole;
  const order = LOW_FIRST.has(sort) ? byMeasure('launchCash', of, whole) : byMeasure('unitProfit', of, whole);
  const out = [...lanes].sort(order);
  return turned ? out.reverse() : out;
}

/** A measure of a lane, money in the home currency. */
export function measureOf(c: Compared, measure: Measure, plan: LaunchPlan): number | null {
  return measure === 'launchCash' ? launchOf(c.doc, plan) : c.light.figures[measure];
}

/** The best lane by the user's measure. */
export function bestOf(lanes: readonly Compared[], measure: Measure, plan: LaunchPlan): Compared | undefined {
  const better = byMeasure<Compared>(
    measure,
    (c) => measureOf(c, measure, plan),
    (c) => c.light.whole,
  );
  return lanes.reduce<Compared | undefined>(
    (best, c) => (best === undefined || better(c, best) < 0 ? c : best),
    undefined,
  );
}

const hundreds = new WeakMap<LaneResult, LaneResult | null>();
/** What a bar shows: the result in the home currency, or per 100 of price. */
export function barOf(c: Compared, per: 'money' | 'hundred'): LaneResult | null {
  const home = homeOf(c);
  if (home === null || per === 'money') return home;
  let out = hundreds.get(home);
  if (out === undefined) {
    out = perHundred(home);
    hundreds.set(home, out);
  }
  return out;
}

export const GROUPS = ['none', 'country', 'marketplace', 'method', 'supplier', 'route'] as const;
export type Group = (typeof GROUPS)[number];
