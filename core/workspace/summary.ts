import { byMeasure, isWhole, measured } from '../compare/measures.ts';
import type { Measure } from '../compare/measures.ts';
import { judgeHurdles } from '../lane/hurdles.ts';
import type { HurdleResult } from '../lane/hurdles.ts';
import type { Hurdle } from '../lane/hurdleSchema.ts';
import { LINES } from '../lane/costLines.ts';
import { evaluate, restate } from '../lane/evaluate.ts';
import type { LaneResult } from '../lane/result.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { highestPurchaseCost, priceFor } from '../lane/solve.ts';
import { exchangeFactor } from '../money/money.ts';
import { launch, launchCash } from '../launch/launch.ts';
import type { MarketStored } from '../evidence/stored.ts';
import type { LaunchPlan } from '../launch/schema.ts';
import type { CandidateData, Gate } from './records.ts';
import type { WeighLine } from './weighLine.ts';

/** What a table shows of a lane. Money of `result` in the sales currency, of `home` in the home currency. */
export type LaneSummary = {
  readonly result: LaneResult;
  readonly home: LaneResult | null;
  readonly hurdles: readonly HurdleResult[];
  readonly breakEvenPrice: number | null;
  readonly mostToPay: number | null;
  readonly mostToPayCurrency: string;
  readonly launchCash: number | null;
  /** What the launch cash does not count. */
  readonly launchLacks: readonly string[];
  readonly affordable: boolean | null;
};

/** Evaluates a lane and what a list of candidates shows beside it. */
export function summarise(doc: LaneDocument, hurdles: readonly Hurdle[], plan: LaunchPlan): LaneSummary {
  const result = evaluate(doc);
  const cost = highestPurchaseCost(doc);
  const budget = launch(doc, plan);
  const total = budget.budget?.total ?? null;
  return {
    result,
    home: restate(result, doc.homeCurrency, doc.rates.exchange),
    hurdles: judgeHurdles(doc, hurdles),
    breakEvenPrice: priceFor(doc).price,
    mostToPay: cost.unitPrice,
    mostToPayCurrency: cost.currency,
    launchCash: total,
    launchLacks: budget.incomplete.filter((b) => b !== 'advertising' && b !== 'oneOffs'),
    // Blanks can only add to what a launch takes, so too dear stays too dear.
    affordable:
      total === null || plan.cash === null
        ? null
        : total > plan.cash - plan.reserve
          ? false
          : budget.incomplete.some((b) => b !== 'advertising')
            ? null
            : true,
  };
}

/** The index of the lane that is best by a measure; whole results before incomplete ones; -1 for none. */
export function bestLane(lanes: readonly LaneSummary[], measure: Measure = 'unitProfit'): number {
  const order = lanes.map((l, i) => ({
    i,
    value: measured(measure, l.home, l.launchCash),
    whole: isWhole(measure, l.result),
  }));
  order.sort(
    byMeasure(
      measure,
      (x) => x.value,
      (x) => x.whole,
    ),
  );
  return order[0]?.i ?? -1;
}

export type GateState = 'passed' | 'near' | 'failed' | 'open';

/**
 * The five gates in order: affordable and profitable computed from the best lane, the others from the evidence on its
 * market; a state that was set by hand stands over these.
 */
export function gatesOf(
  candidate: CandidateData,
  best: WeighLine | null,
  market: MarketStored | null = null,
): Record<Gate, GateState> {
  const hand = (g: 'demanded' | 'enterable' | 'permitted'): GateState => {
    const said = candidate.gates[g];
    if (said !== null) return said.passed ? 'passed' : 'failed';
    const verdict = market?.gates[g].verdict ?? 'notLooked';
    return verdict === 'unknown' || verdict === 'notLooked' ? 'open' : verdict;
  };
  const verdicts = best?.hurdles.map((h) => h.verdict) ?? [];
  const profitable: GateState =
    best === null || best.bar.figures.unitProfit === null
      ? 'open'
      : verdicts.includes('fail')
        ? 'failed'
        : verdicts.includes('unknown')
          ? 'open'
          : verdicts.includes('near')
            ? 'near'
            : 'passed';
  return {
    affordable: best === null || best.affordable === null ? 'open' : best.affordable ? 'passed' : 'failed',
    demanded: hand('demanded'),
    enterable: hand('enterable'),
    profitable,
    permitted: hand('permitted'),
  };
}

/** Share of the lines a lane has that are known, 0 to 1: a line that does not apply (it is 0) is none of them. */
export function completeness(result: LaneResult): number {
  const known = LINES.filter((line) => result.lines[line] !== null && result.lines[line] !== 0).length;
  return known + result.blanks.length === 0 ? 0 : known / (known + result.blanks.length);
}

/** The launch plan of a candidate: its own where it has one, with the workspace's cash and reserve. */
export function planOf(candidate: CandidateData, workspacePlan: LaunchPlan): LaunchPlan {
  return { ...(candidate.launch ?? workspacePlan), cash: workspacePlan.cash, reserve: workspacePlan.reserve };
}

/**
 * What is stored beside a lane's result so that lanes can be ranked without reading them; money in the home
 * currency.
 */
export type Measures = {
  readonly unitProfit: number | null;
  readonly margin: number | null;
  readonly roi: number | null;
  readonly profitPerMonth: number | null;
  readonly yearlyReturnOnCash: number | null;
  readonly launchCash: number | null;
  readonly whole: boolean;
};

/** The measures of an evaluated lane under a launch plan. */
export function measuresOf(doc: LaneDocument, result: LaneResult, plan: LaunchPlan): Measures {
  const factor = exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency);
  const home = (x: number | null): number | null => (x === null || Number.isNaN(factor) ? null : x * factor);
  const f = result.figures;
  return {
    unitProfit: home(f.unitProfit),
    margin: f.margin,
    roi: f.roi,
    profitPerMonth: home(f.profitPerMonth),
    yearlyReturnOnCash: f.yearlyReturnOnCash,
    launchCash: launchCash(doc, plan),
    whole: (result.incomplete.unitProfit?.length ?? 0) === 0,
  };
}
