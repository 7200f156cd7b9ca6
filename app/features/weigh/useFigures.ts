import { useRef } from 'react';
import { judgeHurdles, remedyFor } from '../../../core/lane/hurdles.ts';
import type { HurdleResult, Remedy } from '../../../core/lane/hurdles.ts';
import { evaluate, restate } from '../../../core/lane/evaluate.ts';
import type { LaneResult } from '../../../core/lane/result.ts';
import type { LaneDocument, Standing } from '../../../core/lane/schema.ts';
import { highestPurchaseCost, priceFor } from '../../../core/lane/solve.ts';
import type { CostAnswer, PriceAnswer } from '../../../core/lane/solve.ts';
import { launch } from '../../../core/launch/launch.ts';
import type { LaunchPlan, LaunchResult } from '../../../core/launch/schema.ts';
import { composeLane } from '../../../core/workspace/compose.ts';
import type { CardData } from '../../../core/cards/schema.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import { planOf } from '../../../core/workspace/summary.ts';
import type { LaneState, SheetState } from './store.ts';

export type Frame = {
  readonly settings: Settings;
  readonly cards: Record<string, CardData>;
  readonly today: string;
};
export type LaneView = {
  readonly id: string;
  readonly state: LaneState;
  readonly doc: LaneDocument;
  readonly result: LaneResult;
  readonly home: LaneResult | null;
};
export type Answers = {
  readonly breakEven: PriceAnswer;
  readonly mostToPay: CostAnswer;
  readonly launch: LaunchResult;
  readonly plan: LaunchPlan;
  readonly hurdles: readonly { result: HurdleResult; remedy: Remedy | null }[];
};

/** The lanes of a sheet with their results, each reckoned again only when something it reads has changed. */
export function useLaneViews(state: SheetState, frame: Frame): LaneView[] {
  const kept = useRef(new Map<string, { deps: readonly unknown[]; view: LaneView }>());
  const quotes = Object.fromEntries(state.quotes.map((q) => [q.id, q.data]));
  const { product, way } = state.candidate.data;
  const standings: Record<string, Standing> = frame.settings.standings;
  const last = useRef<LaneView[]>([]);
  const views = state.lanes.map((l) => {
    const deps = [
      l.data,
      product,
      way,
      frame.settings,
      frame.cards,
      ...l.data.components.map((c) => quotes[c.quoteId]),
    ];
    const known = kept.current.get(l.id);
    if (known !== undefined && known.deps.length === deps.length && known.deps.every((d, i) => d === deps[i]))
      return known.view;
    const doc = composeLane({
      candidate: { way, product },
      lane: l.data,
      quotes,
      cards: frame.cards,
      homeCurrency: frame.settings.homeCurrency,
      standings,
      today: frame.today,
    });
    const result = evaluate(doc);
    const view = {
      id: l.id,
      state: l,
      doc,
      result,
      home: restate(result, doc.homeCurrency, doc.rates.exchange),
    };
    kept.current.set(l.id, { deps, view });
    return view;
  });
  // The same array while nothing in it changed, so that what hangs on it is not drawn again.
  if (views.length !== last.current.length || views.some((v, i) => v !== last.current[i]))
    last.current = views;
  return last.current;
}

/** Break-evens, launch and hurdles of the chosen lane. */
export function answersFor(view: LaneView, state: SheetState, settings: Settings): Answers {
  const { doc } = view;
  const plan = planOf(state.candidate.data, settings.launch);
  const judged = judgeHurdles(doc, settings.hurdles[state.candidate.data.way] ?? []);
  return {
    breakEven: priceFor(doc),
    mostToPay: highestPurchaseCost(doc),
    launch: launch(doc, plan),
    plan,
    hurdles: judged.map((result) => ({
      result,
      remedy: result.verdict === 'near' || result.verdict === 'fail' ? remedyFor(doc, result.hurdle) : null,
    })),
  };
}
