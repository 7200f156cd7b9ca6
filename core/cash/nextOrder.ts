/** The next order of a lane that is on sale: the cash run begun with what is on the shelf and on its way. */
import { launchPlan } from '../launch/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { daysBetween } from '../money/days.ts';
import { calendarOf, dayText } from './calendar.ts';
import { prepareCash } from './prepare.ts';
import { calendarDays, runCash } from './run.ts';
import type { RunInput } from './run.ts';
import type { CashPlan } from './schema.ts';

/** Where a lane on sale stands today. */
export type OnShelf = {
  readonly day: string;
  /** Sold units. */
  readonly stock: number;
  readonly onTheWay: readonly { readonly day: string; readonly units: number }[];
  /** Units a month as they really sell; null: as the lane expects them. */
  readonly unitsPerMonth: number | null;
};

export type NextOrder = {
  /** Last day to place it, so that it is on the shelf before the safety days are touched. */
  readonly day: string;
  readonly quantity: number;
  /** What it takes in all, home currency, VAT included. */
  readonly money: number;
  /** First day on which something wanted could not be sold; null: none up to the horizon. */
  readonly soldOut: string | null;
};

/**
 * The cash run of a lane on sale from a day on, or what it lacks for one.
 *
 * @param plan its start, launch costs and ramp are those of the past; the last ramp factor goes on
 */
export function goingOn(
  doc: LaneDocument,
  plan: CashPlan,
  at: OnShelf,
): { readonly input: RunInput | null; readonly lacks: readonly string[] } {
  const { reorder } = plan;
  const going: CashPlan = {
    ...plan,
    start: at.day,
    ramp: at.unitsPerMonth === null ? plan.ramp.slice(-1) : [1],
    // What the launch took is of the past.
    launch: launchPlan.parse({ cash: plan.launch.cash, reserve: plan.launch.reserve }),
    reorder: reorder.kind === 'none' ? reorder : { ...reorder, notBefore: 0 },
  };
  const prepared = prepareCash(doc, going);
  if (!prepared.known) return { input: null, lacks: [...prepared.lacks, ...prepared.problems] };
  const { horizon } = going;
  const calendar = calendarOf(at.day, calendarDays(horizon, prepared.days, going), going.vat.period);
  const input: RunInput = {
    ...prepared.inputAt(at.unitsPerMonth ?? prepared.units),
    calendar,
    horizon,
    oneOffs: 0,
    running: {
      stock: at.stock,
      onTheWay: at.onTheWay.map(({ day, units }) => ({ day: Math.max(0, daysBetween(at.day, day)), units })),
    },
  };
  return { input, lacks: [] };
}

/** Null: there is none up to the plan's horizon, or the lane cannot be run (`lacks` says of what). */
export function nextOrder(
  doc: LaneDocument,
  plan: CashPlan,
  at: OnShelf,
): { readonly next: NextOrder | null; readonly lacks: readonly string[] } {
  const reorder: CashPlan['reorder'] =
    plan.reorder.kind === 'none' ? { kind: 'same', notBefore: 0 } : plan.reorder;
  const { input, lacks } = goingOn(doc, { ...plan, reorder }, at);
  if (input === null || doc.method === 'supplierShips') return { next: null, lacks };
  const run = runCash(input);
  const [first] = run.orders;
  if (first === undefined) return { next: null, lacks: [] };
  const short = run.lost.findIndex((x) => x > 1e-9);
  const { goods, way, ready } =
    first.quantity === input.quantity ? input.order : input.orderOf(first.quantity);
  const next = {
    day: dayText(at.day, first.day),
    quantity: first.quantity,
    money: first.quantity * (goods + way + ready),
    soldOut: short < 0 ? null : dayText(at.day, short),
  };
  return { next: Number.isFinite(next.money) ? next : null, lacks: [] };
}
