import { useMemo, useRef } from 'react';
import { asked, perHundred } from '../../../core/compare/whatIf.ts';
import type { WhatIf } from '../../../core/compare/whatIf.ts';
import { byMeasure, isWhole, measured } from '../../../core/compare/measures.ts';
import type { Measure } from '../../../core/compare/measures.ts';
import type { CardData } from '../../../core/cards/schema.ts';
import { evaluate, isMoney, restate } from '../../../core/lane/result.ts';
import type { LaneResult } from '../../../core/lane/result.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { priceFor } from '../../../core/lane/solve.ts';
import { launchCash } from '../../../core/launch/launch.ts';
import type { LaunchPlan } from '../../../core/launch/schema.ts';
import { composeLane } from '../../../core/workspace/records.ts';
import type { CandidateData, QuoteSource, StoredLane } from '../../../core/workspace/records.ts';
import type { Format } from '../../ui/locale.ts';
import type { Settings } from '../../../core/workspace/settings.ts';

export type LaneIn = { readonly id: string; readonly data: StoredLane };
export type Around = { readonly candidate: CandidateData; readonly quotes: readonly { id: string; data: QuoteSource }[]; readonly cards: Record<string, CardData>; readonly settings: Settings; readonly plan: LaunchPlan; readonly today: string };
/** A lane of the comparison. Money of `result` in the sales currency, of `home` in the home currency. */
export type Compared = { readonly id: string; readonly data: StoredLane; readonly doc: LaneDocument; readonly result: LaneResult; readonly home: LaneResult | null };

/** Lane documents, each put together again only when its lane changes. */
export function useDocuments(lanes: readonly LaneIn[], around: Around): { id: string; data: StoredLane; doc: LaneDocument }[] {
  const kept = useRef(new Map<string, { data: StoredLane; around: Around; doc: LaneDocument }>());
  return useMemo(() => {
    const quotes = Object.fromEntries(around.quotes.map((q) => [q.id, q.data]));
    return lanes.map((l) => {
      const known = kept.current.get(l.id);
      if (known !== undefined && known.data === l.data && known.around === around) return { id: l.id, data: l.data, doc: known.doc };
      const doc = composeLane({ candidate: around.candidate, lane: l.data, quotes, cards: around.cards, homeCurrency: around.settings.homeCurrency, standings: around.settings.standings, today: around.today });
      kept.current.set(l.id, { data: l.data, around, doc });
      return { id: l.id, data: l.data, doc };
    });
  }, [lanes, around]);
}

/** Every lane evaluated under a question asked of all. */
export function evaluateAll(lanes: readonly { id: string; data: StoredLane; doc: LaneDocument }[], question: WhatIf): Compared[] {
  return lanes.map((l) => {
    const doc = asked(l.doc, question);
    const result = evaluate(doc);
    return { id: l.id, data: l.data, doc, result, home: restate(result, doc.homeCurrency, doc.rates.exchange) };
  });
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

export const SORTS = ['unitProfit', 'margin', 'roi', 'profitPerMonth', 'yearlyReturnOnCash', 'launchCash', 'landedCost', 'gross', 'breakEven', 'cashCycleDays'] as const;
export type Sort = (typeof SORTS)[number];
const LOW_FIRST = new Set<Sort>(['launchCash', 'landedCost', 'breakEven', 'cashCycleDays']);

/** A figure of a lane, money in the home currency. */
export function figureOf(c: Compared, sort: Sort, plan: LaunchPlan): number | null {
  if (sort === 'launchCash') return launchOf(c.doc, plan);
  if (sort === 'breakEven') {
    const even = breakEvenOf(c.doc);
    return even === null || c.home === null || c.result.figures.gross === null || c.home.figures.gross === null || c.result.figures.gross === 0 ? even : (even * c.home.figures.gross) / c.result.figures.gross;
  }
  return c.home?.figures[sort] ?? null;
}

export function sorted(lanes: readonly Compared[], sort: Sort, turned: boolean, plan: LaunchPlan): Compared[] {
  const value = new Map(lanes.map((c) => [c, figureOf(c, sort, plan)]));
  const of = (c: Compared): number | null => value.get(c) ?? null;
  const whole = (c: Compared): boolean => sort === 'breakEven' || sort === 'gross' || isWhole(sort === 'landedCost' || sort === 'cashCycleDays' ? 'unitProfit' : sort, c.result);
  const order = LOW_FIRST.has(sort) ? byMeasure('launchCash', of, whole) : byMeasure('unitProfit', of, whole);
  const out = [...lanes].sort(order);
  return turned ? out.reverse() : out;
}

/** The best lane by the user's measure. */
export function bestOf(lanes: readonly Compared[], measure: Measure, plan: LaunchPlan): Compared | undefined {
  return [...lanes].sort(byMeasure(measure, (c) => measured(measure, c.home, measure === 'launchCash' ? launchOf(c.doc, plan) : null), (c) => isWhole(measure, c.result)))[0];
}

const hundreds = new WeakMap<LaneResult, LaneResult | null>();
/** What a bar shows: the result in the home currency, or per 100 of price. */
export function barOf(c: Compared, per: 'money' | 'hundred'): LaneResult | null {
  if (c.home === null || per === 'money') return c.home;
  let out = hundreds.get(c.home);
  if (out === undefined) {
    out = perHundred(c.home);
    hundreds.set(c.home, out);
  }
  return out;
}

export const GROUPS = ['none', 'country', 'marketplace', 'method', 'supplier', 'route'] as const;
export type Group = (typeof GROUPS)[number];

/** Text of a figure of a lane in the home currency. */
export function figureText(f: Format, sort: Sort | Measure, value: number | null, currency: string): string {
  if (sort === 'cashCycleDays') return f.number(value, 0);
  if (sort === 'breakEven' || sort === 'launchCash' || isMoney(sort)) return f.money(value, currency);
  return f.percent(value);
}
