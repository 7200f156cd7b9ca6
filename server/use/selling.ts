/** The place where products stand that are on sale: each with what came of it, and what is to be decided. */
import { allMonthsOnSale, cashOfKinds } from '../../core/actuals/allMonths.ts';
import type { WorkspaceMonth } from '../../core/actuals/allMonths.ts';
import { mixOf, standsAt } from '../../core/actuals/compare.ts';
import type { Compared, Stands } from '../../core/actuals/compare.ts';
import { decisionsOf } from '../../core/actuals/decide.ts';
import type { Decision } from '../../core/actuals/decide.ts';
import type { Lately } from '../../core/actuals/drift.ts';
import { estimatesOf } from '../../core/actuals/estimates.ts';
import type { EstimateSaid } from '../../core/actuals/estimates.ts';
import { gapsOf } from '../../core/actuals/gaps.ts';
import type { Span } from '../../core/actuals/gaps.ts';
import { gistOf } from '../../core/actuals/gist.ts';
import type { Gist } from '../../core/actuals/gist.ts';
import { hurdlesOnActuals } from '../../core/actuals/hurdles.ts';
import type { Stopped } from '../../core/actuals/letGo.ts';
import type { Sold } from '../../core/actuals/onSale.ts';
import type { Coming } from '../../core/actuals/received.ts';
import { STEPS } from '../../core/actuals/schema.ts';
import type { Count, Stock } from '../../core/actuals/stock.ts';
import { addKinds, kindsOfCodes } from '../../core/actuals/sums.ts';
import { pacePerMonth } from '../../core/actuals/takeOver.ts';
import type { Offer } from '../../core/actuals/takeOver.ts';
import { nextOrder } from '../../core/cash/nextOrder.ts';
import type { NextOrder } from '../../core/cash/nextOrder.ts';
import type { HurdleResult } from '../../core/lane/hurdles.ts';
import { daysBetween } from '../../core/money/days.ts';
import { exchangeFactor } from '../../core/money/money.ts';
import { cashPlanOf, fundPlanOf } from '../../core/workspace/fundPlan.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { inWorkspace } from '../db/client.ts';
import { today } from '../env.ts';
import { gone } from '../refusal.ts';
import { loadClaims, openClaims } from './claims.ts';
import type { ClaimSaid } from './claims.ts';
import { loadOffers } from './launched.ts';
import { onSaleIn } from './onSale.ts';
import type { LaneOnSale, OnSaleNow } from './onSale.ts';
import { placeIn } from './settledPlaces.ts';
import { loadSettlements } from './settlements.ts';
import type { Settlement } from './settlements.ts';

const OPEN: Stands = { standing: 'open', because: null, amount: null };
const NO_CLAIMS = { amount: 0, count: 0 };

export type LaunchedSaid = {
  readonly laneId: string;
  readonly candidateId: string;
  readonly name: string;
  readonly place: string;
  readonly codes: readonly string[];
  readonly since: string;
  /** The last day that reports speak of. */
  readonly until: string | null;
  readonly stopped: Stopped | null;
  /** Over all months. */
  readonly stands: Stands;
  /** Over the last two periods; null: too little was settled for that. */
  readonly lately: (Omit<Lately, 'compared'> & { readonly gist: Gist }) | null;
  /** Over all months; null: nothing of it has been settled. */
  readonly gist: Gist | null;
  readonly stock: Stock;
  readonly decisions: readonly Decision[];
};
export type CodeUnknown = {
  readonly place: string;
  readonly code: string;
  readonly currency: string;
  readonly units: number;
  /** What its lines come to, transfers apart. */
  readonly amount: number;
};
export type PlaceSaid = {
  readonly place: string;
  readonly until: string | null;
  readonly gaps: readonly Span[];
  /** What the marketplace settled and has not paid out, in its currency; null: its reports tell of no pay-outs. */
  readonly holds: number | null;
  readonly currency: string;
};
export type SellingPage = {
  readonly lanes: readonly LaunchedSaid[];
  readonly mix: { readonly currency: string; readonly volume: number; readonly mix: number } | null;
  /** Codes that reports name and no lane on sale has. */
  readonly unknown: readonly CodeUnknown[];
  readonly months: readonly WorkspaceMonth[];
  readonly homeCurrency: string;
  /** Stock at cost, home currency; `lacks`: lanes whose stock or cost nobody knows. */
  readonly stock: { readonly value: number; readonly lacks: number };
  readonly places: readonly PlaceSaid[];
  readonly estimates: readonly EstimateSaid[];
};

/** How far a lane's ramp and pace have come: its last period, else all its months. */
function paceOf({ launched, lately, sold }: LaneOnSale): number | null {
  if (lately === null) return null;
  const months = sold.months.filter((m) => m.month >= lately.from.slice(0, 7));
  return pacePerMonth(launched.document, lately, months);
}

function nextOf(l: LaneOnSale, settings: Settings): NextOrder | null {
  const { launched, stock, coming } = l;
  const pace = paceOf(l);
  if (stock.units === null || launched.stopped !== null || pace === 0) return null;
  const plan = cashPlanOf(fundPlanOf(launched.candidate, settings.launch), today());
  return nextOrder(
    launched.document,
    { ...plan, ramp: [...launched.ramp] },
    {
      day: today(),
      stock: stock.units,
      onTheWay: coming.map((c) => ({ day: c.day ?? today(), units: c.units })),
      unitsPerMonth: pace,
    },
  ).next;
}

function saidOf(
  l: LaneOnSale,
  next: NextOrder | null,
  claims: { readonly amount: number; readonly count: number },
): LaunchedSaid {
  const { laneId, candidateId, name, place, codes, since, stopped, document } = l.launched;
  const { whole } = l.sold;
  const { lately } = l;
  return {
    ...{ laneId, candidateId, name, place, codes, since, stopped },
    until: l.place.last,
    stands: whole === null ? OPEN : standsAt(whole),
    lately: lately === null ? null : latelySaid(lately),
    gist: whole === null ? null : gistOf(whole),
    stock: l.stock,
    decisions: stopped === null ? decisionsOf(document, whole, l.lately, claims, next, today()) : [],
  };
}

const latelySaid = ({ from, to, compared, stands, drifts }: Lately): NonNullable<LaunchedSaid['lately']> => ({
  ...{ from, to, stands, drifts },
  gist: gistOf(compared),
});

/** How a lane stands now: lately, where enough was settled for that. */
const nowOf = (l: Pick<LaunchedSaid, 'lately' | 'stands'>): Stands => l.lately?.stands ?? l.stands;
const URGENCY: readonly Stands['standing'][] = ['loses', 'paysLess', 'open', 'asPlanned', 'paysMore'];

/** Every lane on sale with what came of it; those that lose or pay less than planned stand first, those let go last. */
export async function loadSelling(workspaceId: string): Promise<SellingPage> {
  const { now, claims } = await inWorkspace(workspaceId, async (tx) => ({
    now: await onSaleIn(tx, workspaceId),
    claims: await openClaims(tx, workspaceId),
  }));
  const lanes = now.lanes.map((l) =>
    saidOf(l, nextOf(l, now.settings), claims.get(l.launched.laneId) ?? NO_CLAIMS),
  );
  const rank = (l: LaunchedSaid): number =>
    l.stopped !== null ? URGENCY.length : URGENCY.indexOf(nowOf(l).standing);
  lanes.sort((a, b) => rank(a) - rank(b));
  const compared = now.lanes.flatMap((l) => l.sold.whole ?? []);
  const [first, ...others] = [...new Set(compared.map((c) => c.currency))];
  const mix = compared.length < 2 || others.length > 0 ? null : mixOf(compared);
  return {
    lanes,
    mix: mix === null ? null : { currency: first as string, ...mix },
    unknown: unknownCodes(now),
    months: monthsOf(now),
    homeCurrency: now.settings.homeCurrency,
    stock: stockOfAll(now),
    places: placesSaid(now, await loadSettlements(workspaceId)),
    estimates: estimatesOf(compared),
  };
}

function unknownCodes({ lanes, places }: OnSaleNow): CodeUnknown[] {
  const known = new Set(lanes.flatMap(({ launched: l }) => l.codes.map((c) => `${l.place}\n${c}`)));
  return [...places].flatMap(([place, { sums, currency }]) =>
    [...sums.keys()]
      .filter((code) => code !== '' && !known.has(`${place}\n${code}`))
      .map((code) => {
        const kinds = Object.entries(kindsOfCodes(sums, [code])).filter(([kind]) => kind !== 'transfer');
        return {
          place,
          code,
          currency,
          units: kinds.find(([kind]) => kind === 'sale')?.[1].units ?? 0,
          amount: kinds.reduce((s, [, k]) => s + k.amount, 0) / STEPS,
        };
      }),
  );
}

/** The rate from a place's currency to that at home, by the lane that went on sale there last; NaN: none is known. */
function rateHome({ lanes, settings }: OnSaleNow, place: string, currency: string): number {
  if (currency === settings.homeCurrency) return 1;
  const own = lanes.findLast((l) => l.launched.place === place)?.launched.document.rates.exchange ?? null;
  return exchangeFactor(own, currency, settings.homeCurrency);
}

function monthsOf(now: OnSaleNow): WorkspaceMonth[] {
  const cash = [...now.places].flatMap(([place, { sums, currency }]) => {
    const rate = rateHome(now, place, currency);
    if (!Number.isFinite(rate)) return [];
    const months = new Set([...sums.values()].flatMap((by) => [...by.keys()]));
    return [...months].map((month) => {
      const { settled, paidOut } = cashOfKinds(kindsOfCodes(sums, [...sums.keys()], month));
      return { month, settled: settled * rate, paidOut: paidOut * rate };
    });
  });
  const lanes = now.lanes.map((l) => ({ document: l.launched.document, months: l.sold.months }));
  return allMonthsOnSale(lanes, cash);
}

function stockOfAll({ lanes }: OnSaleNow): SellingPage['stock'] {
  let value = 0;
  let lacks = 0;
  for (const { launched, stock } of lanes) {
    const { rates, currency, homeCurrency } = launched.document;
    const home = (stock.value ?? Number.NaN) * exchangeFactor(rates.exchange, currency, homeCurrency);
    if (Number.isFinite(home)) value += home;
    else lacks++;
  }
  return { value, lacks };
}

function placesSaid(now: OnSaleNow, reports: readonly Settlement[]): PlaceSaid[] {
  return [...now.places].map(([place, { sums, last, currency }]): PlaceSaid => {
    const spans = reports.flatMap(({ said, ...r }) =>
      placeIn(r) === place && said?.first != null && said.last != null
        ? [{ from: said.first, to: said.last }]
        : [],
    );
    const kinds = addKinds([...sums.values()].flatMap((by) => [...by.values()]));
    const { settled, paidOut } = cashOfKinds(kinds);
    const holds = kinds.transfer === undefined ? null : settled - paidOut;
    return { place, until: last, gaps: gapsOf(spans), holds, currency };
  });
}

export type LaunchedPage = LaunchedSaid & {
  /** Over all months, and over the last two periods, line by line. */
  readonly whole: Compared | null;
  readonly late: Compared | null;
  readonly months: Sold['months'];
  readonly hurdles: readonly HurdleResult[];
  readonly counts: readonly Count[];
  readonly coming: readonly Coming[];
  readonly next: NextOrder | null;
  readonly claims: readonly ClaimSaid[];
  readonly offers: readonly Offer[];
  readonly homeCurrency: string;
};

/** One lane on sale, month by month and whole. @throws Refusal `gone` */
export async function loadLaunched(workspaceId: string, laneId: string): Promise<LaunchedPage> {
  const { now, open, claims } = await inWorkspace(workspaceId, async (tx) => ({
    now: await onSaleIn(tx, workspaceId, { laneId }),
    open: await openClaims(tx, workspaceId),
    claims: await loadClaims(tx, workspaceId, laneId),
  }));
  const [l] = now.lanes;
  if (l === undefined) throw gone();
  const next = nextOf(l, now.settings);
  const { lately, launched } = l;
  const hurdles = now.settings.hurdles[launched.candidate.way] ?? [];
  return {
    ...saidOf(l, next, open.get(laneId) ?? NO_CLAIMS),
    whole: l.sold.whole,
    late: lately?.compared ?? null,
    months: l.sold.months,
    hurdles:
      lately === null
        ? []
        : hurdlesOnActuals(
            launched.document,
            hurdles,
            lately.compared,
            daysBetween(lately.from, lately.to) + 1,
          ),
    counts: launched.counts,
    coming: l.coming,
    next,
    claims,
    offers: (await loadOffers(workspaceId, laneId)).offers,
    homeCurrency: now.settings.homeCurrency,
  };
}
