/**
 * Which launches one purse should pay for, how many of each and in which week (planning, section 2). Home currency. The
 * solver comes from outside.
 */
import { availableBy, objectiveOf, rowsOf, worthTrying } from './model.ts';
import type { Solver, Terms } from './model.ts';
import { optionsOf } from './options.ts';
import { startOf } from './start.ts';
import type { Aside, Option } from './options.ts';
import type { PurseDocument } from './schema.ts';

export type Launch = {
  readonly key: string;
  readonly quantity: number;
  readonly week: number;
  readonly value: number;
  readonly moneyNeeded: number;
  readonly unitsSold: number;
  readonly left: number;
  /** Days counted from the start of the purse. */
  readonly onSale: number;
  readonly payback: number | null;
};
export type Plan = {
  readonly feasible: true;
  readonly launches: readonly Launch[];
  /** What they bring, and that less what caution takes off. */
  readonly value: number;
  readonly worth: number;
  /** Lowest balance of each week, reserve in it. */
  readonly balance: readonly number[];
  readonly lowest: number;
  /** The most that is out of the account at once, and what of it is never needed. */
  readonly tiedUp: number;
  readonly idle: number;
  /** Share of the value by which a better plan may exist; 0: this is the best; null: the solver cannot say. */
  readonly gap: number | null;
};
/** Why no plan fits: lanes that must be launched, and the cash that would let them; null: no cash would. */
export type NoPlan = {
  readonly feasible: false;
  /** `aside`: what must be launched is incomplete or cannot be ordered. */
  readonly why: 'cash' | 'rules' | 'outOfTime' | 'aside';
  readonly must: readonly string[];
  readonly cash: number | null;
};
export type PreparedPurse = {
  readonly document: PurseDocument;
  readonly options: readonly Option[];
  readonly aside: readonly Aside[];
  readonly solver: Solver;
};

/** Works out all options of a purse. `onLane` as for `optionsOf`. */
export function preparePurse(
  document: PurseDocument,
  solver: Solver,
  onLane?: (done: number) => boolean,
): PreparedPurse {
  const { options, aside } = optionsOf(document, onLane);
  return { document, options: worthTrying(options, document), aside, solver };
}

const mustOf = ({ document, options }: PreparedPurse): Set<number> => {
  const has = new Set(options.map((o) => o.lane));
  return new Set(document.lanes.flatMap((l, i) => (l.must !== false && has.has(i) ? [i] : [])));
};

/** Another cash than the document's, one more lane that must be launched, another time for the solver to think. */
export type Change = { readonly cash?: number; readonly must?: number; readonly seconds?: number };

/** The best plan. */
export function planWith(purse: PreparedPurse, more: Change = {}): Plan | NoPlan {
  const { document, options, aside, solver } = purse;
  const impossible = document.lanes.filter((l) => l.must !== false && aside.some((a) => a.key === l.key));
  if (impossible.length > 0)
    return { feasible: false, why: 'aside', must: impossible.map((l) => l.key), cash: null };
  const must = mustOf(purse);
  if (more.must !== undefined) must.add(more.must);
  const terms: Terms = { cash: more.cash ?? document.cash, must };
  const rows = rowsOf(options, document, terms);
  // Without options there is nothing to solve: the account holds, or it does not.
  if (options.length === 0 && rows.every((r) => r.lower <= 0)) return planOf(document, [], terms.cash, 0);
  const objective = options.map(objectiveOf);
  const start = startOf({ objective, rows });
  const solved = solver({ objective, free: 0, rows, start }, more.seconds ?? document.seconds);
  // Out of time with nothing found: what there was to begin with stands, and how good it is nobody knows.
  const x = solved.x ?? (solved.status === 'outOfTime' ? start : null);
  if (x !== null) {
    const chosen = options.filter((_, i) => (x[i] ?? 0) > 0.5);
    return planOf(document, chosen, terms.cash, solved.gap);
  }
  const keys = [...must].map((i) => document.lanes[i]?.key ?? '');
  if (solved.status === 'outOfTime') return { feasible: false, why: 'outOfTime', must: keys, cash: null };
  return whyNot(purse, terms, keys);
}

/** The least cash that lets what must be launched be launched: a sum that may be added to the account is made least. */
function whyNot({ document, options, solver }: PreparedPurse, terms: Terms, keys: readonly string[]): NoPlan {
  const own = options.filter((o) => terms.must.has(o.lane));
  const rows = rowsOf(own, document, terms, 1).map((row) =>
    row.upper === Number.POSITIVE_INFINITY
      ? { ...row, columns: [0, ...row.columns], values: [1, ...row.values] }
      : row,
  );
  const solved = solver(
    { objective: [-1, ...own.map(() => 0)], free: 1, rows, start: null },
    document.seconds,
  );
  const added = solved.x?.[0];
  return {
    feasible: false,
    why: added === undefined ? 'rules' : 'cash',
    must: keys,
    cash: added === undefined ? null : terms.cash + Math.max(0, added),
  };
}

function planOf(p: PurseDocument, chosen: readonly Option[], cash: number, gap: number | null): Plan {
  const available = availableBy(p, cash);
  const balance = Array.from(
    available,
    (free, w) => chosen.reduce((sum, o) => sum + (o.lowest[w] as number), free) + p.reserve,
  );
  const lowest = Math.min(...balance);
  const launches = chosen
    .map((o) => ({
      key: p.lanes[o.lane]?.key ?? '',
      quantity: o.quantity,
      week: o.week,
      value: o.value,
      moneyNeeded: o.moneyNeeded,
      unitsSold: o.unitsSold,
      left: o.left,
      onSale: o.onSale,
      payback: o.payback,
    }))
    .sort((a, b) => a.week - b.week || b.value - a.value);
  const sum = (of: (o: Option) => number): number => chosen.reduce((all, o) => all + of(o), 0);
  return {
    feasible: true,
    launches,
    value: sum((o) => o.value),
    worth: sum((o) => o.worth),
    balance,
    lowest,
    tiedUp: Math.max(0, cash - lowest),
    idle: Math.max(0, lowest - p.reserve),
    gap,
  };
}

/** What else is asked about a plan is a question of many: each gets a part of the solver's time. */
export const partOf = ({ document }: PreparedPurse): number => document.seconds / 5;

/** Of a lane that a plan leaves out: what choosing it would cost, or what forbids it. */
export type LeftOut =
  | { readonly key: string; readonly costs: number; readonly forbidden: null }
  | { readonly key: string; readonly costs: null; readonly forbidden: NoPlan };

/** Lanes that could be launched and are not in the plan, by index. */
export function leftOutOf({ document, options }: PreparedPurse, plan: Plan): number[] {
  const chosen = new Set(plan.launches.map((l) => l.key));
  const has = new Set(options.map((o) => o.lane));
  return document.lanes.flatMap((l, i) => (has.has(i) && !chosen.has(l.key) ? [i] : []));
}

/**
 * What it would cost to launch a lane that the plan leaves out: the plan is made again with it. Where the solver ran
 * out of time one of the two plans may not be the best, and the cost is about right.
 */
export function costOfChoosing(
  purse: PreparedPurse,
  plan: Plan,
  lane: number,
  seconds = partOf(purse),
): LeftOut {
  const key = purse.document.lanes[lane]?.key ?? '';
  const other = planWith(purse, { must: lane, seconds });
  return other.feasible
    ? { key, costs: plan.worth - other.worth, forbidden: null }
    : { key, costs: null, forbidden: other };
}

/** Shares of the cash that the curve of value is drawn over. */
export const CURVE_SHARES = [
  0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1, 1.1, 1.25, 1.5, 1.75, 2,
] as const;
export type CurvePoint = { readonly share: number; readonly cash: number; readonly worth: number | null };

/** What the best plan is worth with a share of the cash (before reserve); null where none fits. */
export function curvePoint(purse: PreparedPurse, share: number, seconds = partOf(purse)): CurvePoint {
  const cash = purse.document.cash * share;
  const plan = planWith(purse, { cash, seconds });
  return { share, cash, worth: plan.feasible ? plan.worth : null };
}

export type PurseSaid = {
  readonly plan: Plan | NoPlan;
  readonly aside: readonly Aside[];
  readonly leftOut: readonly LeftOut[];
  /** A tenth of the cash; what so much more would bring, and so much less would cost; null where no plan fits. */
  readonly tenth: number;
  readonly more: number | null;
  readonly less: number | null;
  readonly curve: readonly CurvePoint[];
};

/** What is known of a purse before anything is asked about its plan. */
export const saidFirst = ({ document, aside }: PreparedPurse, plan: Plan | NoPlan): PurseSaid => ({
  plan,
  aside,
  leftOut: [],
  tenth: document.cash / 10,
  more: null,
  less: null,
  curve: [],
});

/** Everything about a purse at once. */
export function purseOf(document: PurseDocument, solver: Solver): PurseSaid {
  const purse = preparePurse(document, solver);
  const plan = planWith(purse);
  if (!plan.feasible) return saidFirst(purse, plan);
  const curve = CURVE_SHARES.map((s) => curvePoint(purse, s));
  return {
    ...saidFirst(purse, plan),
    leftOut: leftOutOf(purse, plan).map((lane) => costOfChoosing(purse, plan, lane)),
    ...moreAndLess(plan, curve),
    curve,
  };
}

export function moreAndLess(
  plan: Plan,
  curve: readonly CurvePoint[],
): { more: number | null; less: number | null } {
  const at = (share: number): number | null => curve.find((c) => c.share === share)?.worth ?? null;
  const [more, less] = [at(1.1), at(0.9)];
  return { more: more === null ? null : more - plan.worth, less: less === null ? null : plan.worth - less };
}
