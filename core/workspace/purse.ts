/** The purse of a workspace: its candidates with their plans as one document, and all launches month by month. */
import type { z } from 'zod';
import type { CardData } from '../cards/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { admissibleOrders, breakQuantities, quantitiesToCompare } from '../launch/orders.ts';
import { nonNegative } from '../money/schema.ts';
import { purseKept } from '../purse/schema.ts';
import type { PurseDocument, PurseLane } from '../purse/schema.ts';
import type { Order } from '../orders/schema.ts';
import { cashPlanOf, fundPlanOf } from './fundPlan.ts';
import { partOf } from './part.ts';
import { composeLane } from './compose.ts';
import type { CandidateData, QuoteSource, StoredLane } from './records.ts';
import type { Settings } from './settings.ts';

/** A candidate as the purse reads it. */
export type PurseCandidate = {
  readonly id: string;
  readonly data: CandidateData;
  readonly quotes: Readonly<Record<string, QuoteSource>>;
  readonly lanes: readonly { readonly id: string; readonly data: StoredLane }[];
};
export type PurseSource = {
  readonly settings: Settings;
  readonly cards: Readonly<Record<string, CardData>>;
  readonly today: string;
  readonly candidates: readonly PurseCandidate[];
  /** Orders to suppliers: those that are agreed stand in place of the first orders of plans. */
  readonly orders?: readonly Order[];
};
export const purseKey = (candidate: string, lane: string): string => `${candidate}/${lane}`;
/** The candidate and the lane that a key was made of. */
export function laneOfPurseKey(key: string): { candidate: string; lane: string } {
  const [candidate = '', lane = ''] = key.split('/');
  return { candidate, lane };
}

const saved = purseKept.extend({ cash: nonNegative.nullable(), reserve: nonNegative });
/** What the purse's page keeps: its rules and ticks, and the workspace's cash and reserve. */
export type PurseSaved = z.output<typeof saved>;
/** Some of it, as a change sends them. */
export const pursePart = partOf(saved);
export const purseSaved = ({ purse, launch: { cash, reserve } }: Settings): PurseSaved => ({
  ...purse,
  cash,
  reserve,
});
/** The settings with what the purse's page keeps of them. */
export const withSaved = (settings: Settings, { cash, reserve, ...purse }: PurseSaved): Settings => ({
  ...settings,
  purse,
  launch: { ...settings.launch, cash, reserve },
});

/** The document of a lane of a candidate. */
export function purseLaneDocument(s: PurseSource, c: PurseCandidate, lane: StoredLane): LaneDocument {
  return composeLane({
    candidate: c.data,
    lane,
    quotes: c.quotes,
    cards: s.cards,
    homeCurrency: s.settings.homeCurrency,
    standings: s.settings.standings,
    today: s.today,
  });
}

/** Quantities to choose among: those of the plan, else half, all and twice the order and the price breaks. */
function quantitiesFor(doc: LaneDocument, planned: readonly number[]): number[] {
  const orders = admissibleOrders(doc);
  if (planned.length > 0) return [...planned];
  if (doc.orderQuantity === null) return [];
  const all = [...quantitiesToCompare(orders, doc.orderQuantity), ...breakQuantities(doc)];
  return [...new Set(all)].sort((a, b) => a - b).slice(0, 8);
}

/** Every lane of the workspace that is ticked in, with its plan, under the purse's rules; starts today. */
export function purseOfWorkspace(s: PurseSource): PurseDocument {
  const { must, out, ...rules } = s.settings.purse;
  const { launch } = s.settings;
  const left = new Set(out);
  const lanes = s.candidates.flatMap((c) => {
    const plan = fundPlanOf(c.data, launch);
    return c.lanes.flatMap((l): PurseLane[] => {
      const key = purseKey(c.id, l.id);
      if (left.has(key)) return [];
      const lane = purseLaneDocument(s, c, l.data);
      return [
        {
          key,
          candidate: c.id,
          name: c.data.name,
          lane,
          plan: cashPlanOf(plan, s.today),
          quantities: quantitiesFor(lane, plan.quantities),
          lastStart: null,
          must: must[key] ?? false,
        },
      ];
    });
  });
  const keys = new Set(lanes.map((l) => l.key));
  const together = rules.neverTogether.map((set) => set.filter((k) => keys.has(k)));
  return {
    ...rules,
    neverTogether: together.filter((set) => set.length > 1),
    format: 'bold-margin/purse',
    version: 1,
    start: s.today,
    cash: launch.cash ?? 0,
    reserve: launch.reserve,
    monthlyFixedCosts: launch.monthlyFixedCosts,
    lanes,
  };
}
