import { judgeHurdles } from '../lane/hurdles.ts';
import type { Hurdle, HurdleResult } from '../lane/hurdles.ts';
import { evaluate, restate } from '../lane/result.ts';
import type { LaneResult } from '../lane/result.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { highestPurchaseCost, priceFor } from '../lane/solve.ts';
import { launch } from '../launch/launch.ts';
import type { LaunchPlan } from '../launch/schema.ts';
import type { CandidateData, Gate } from './records.ts';

/** What a table shows of a lane. Money of `result` in the sales currency, of `home` in the home currency. */
export type LaneSummary = {
  readonly result: LaneResult;
  readonly home: LaneResult | null;
  readonly hurdles: readonly HurdleResult[];
  readonly breakEvenPrice: number | null;
  readonly mostToPay: number | null;
  readonly mostToPayCurrency: string;
  readonly launchCash: number | null;
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
    mostToPay: cost.unitPrice, mostToPayCurrency: cost.currency,
    launchCash: total,
    // Blanks can only add to what a launch takes, so too dear stays too dear.
    affordable: total === null || plan.cash === null ? null : total > plan.cash - plan.reserve ? false : budget.incomplete.some((b) => b !== 'advertising') ? null : true,
  };
}

/** The index of the lane that keeps most per unit in the home currency; whole results before incomplete ones; -1 for none. */
export function bestLane(lanes: readonly LaneSummary[]): number {
  let best = -1;
  let rank = Number.NEGATIVE_INFINITY;
  lanes.forEach((l, i) => {
    const profit = l.home?.figures.unitProfit ?? null;
    const whole = profit !== null && (l.result.incomplete.unitProfit?.length ?? 0) === 0;
    const r = profit === null ? -2e15 : whole ? profit : profit - 1e15;
    if (r > rank) {
      rank = r;
      best = i;
    }
  });
  return best;
}

export type GateState = 'passed' | 'near' | 'failed' | 'open';

/** The five gates in order: affordable and profitable computed from the best lane, the others as ticked by hand. */
export function gatesOf(candidate: CandidateData, best: LaneSummary | null): Record<Gate, GateState> {
  const hand = (g: 'demanded' | 'enterable' | 'permitted'): GateState => {
    const said = candidate.gates[g];
    return said === null ? 'open' : said.passed ? 'passed' : 'failed';
  };
  const verdicts = best?.hurdles.map((h) => h.verdict) ?? [];
  const profitable: GateState =
    best === null || best.result.figures.unitProfit === null ? 'open'
    : verdicts.includes('fail') ? 'failed'
    : verdicts.includes('unknown') ? 'open'
    : verdicts.includes('near') ? 'near' : 'passed';
  return {
    affordable: best === null || best.affordable === null ? 'open' : best.affordable ? 'passed' : 'failed',
    demanded: hand('demanded'), enterable: hand('enterable'), profitable, permitted: hand('permitted'),
  };
}

/** Share of a lane's cost lines that are not blank, 0 to 1. */
export function completeness(result: LaneResult): number {
  return 1 - result.blanks.length / 11;
}

/** The launch plan of a candidate: its own where it has one, with the workspace's cash and reserve. */
export function planOf(candidate: CandidateData, workspacePlan: LaunchPlan): LaunchPlan {
  return { ...(candidate.launch ?? workspacePlan), cash: workspacePlan.cash, reserve: workspacePlan.reserve };
}
