/** The place where products stand that are on sale: each with what came of it, and what is to be decided. */
import { eq } from 'drizzle-orm';
import { allMonthsOnSale } from '../../core/actuals/allMonths.ts';
import type { WorkspaceMonth } from '../../core/actuals/allMonths.ts';
import type { CodeSum, LaneBook } from '../../core/actuals/book.ts';
import { cashBeside } from '../../core/actuals/cashBeside.ts';
import type { CashBeside } from '../../core/actuals/cashBeside.ts';
import { mixOf } from '../../core/actuals/compare.ts';
import type { Compared, Stands } from '../../core/actuals/compare.ts';
import { estimatesOf } from '../../core/actuals/estimates.ts';
import type { EstimateSaid } from '../../core/actuals/estimates.ts';
import { gapsOf } from '../../core/actuals/gaps.ts';
import type { Span } from '../../core/actuals/gaps.ts';
import { hurdlesOnActuals } from '../../core/actuals/hurdles.ts';
import { monthCompared } from '../../core/actuals/onSale.ts';
import { paidFor } from '../../core/actuals/paid.ts';
import type { Coming } from '../../core/actuals/received.ts';
import type { Count } from '../../core/actuals/stock.ts';
import type { Offer } from '../../core/actuals/takeOver.ts';
import type { NextOrder } from '../../core/cash/nextOrder.ts';
import type { HurdleResult } from '../../core/lane/hurdles.ts';
import { daysBetween } from '../../core/money/days.ts';
import { cashPlanOf, fundPlanOf } from '../../core/workspace/fundPlan.ts';
import { inWorkspace } from '../db/client.ts';
import { settledPlace } from '../db/schema.ts';
import { today } from '../env.ts';
import { gone } from '../refusal.ts';
import { loadSheet } from './candidates.ts';
import { loadClaims, openClaims } from './claims.ts';
import type { ClaimSaid } from './claims.ts';
import { entryOf, laneEntries, nextOf, shelfOf } from './laneBooks.ts';
import type { LaneEntry } from './laneBooks.ts';
import { offersNow } from './launched.ts';
import { waysOut } from './leftOver.ts';
import type { WayOut } from './leftOver.ts';
import { onSaleIn } from './onSale.ts';
import type { LaneOnSale, OnSaleNow } from './onSale.ts';
import { placeIn } from './settledPlaces.ts';
import { reportsIn } from './settlementPages.ts';
import type { ReportHead } from './settlementPages.ts';
import { settingsIn } from './workspaces.ts';

/** A lane on sale as it stands in the list; `until`: the last day that reports speak of. */
export type LaunchedSaid = Omit<LaneEntry, 'book'> &
  Omit<LaneBook, 'key' | 'mix' | 'misses' | 'months' | 'home'>;
export type CodeUnknown = CodeSum & { readonly place: string; readonly currency: string };
export type PlaceSaid = {
  readonly place: string;
  readonly until: string | null;
  readonly gaps: readonly Span[];
  /** What the marketplace settled and has not paid out; null: not known, or its reports tell of no pay-outs. */
  readonly holds: number | null;
  readonly currency: string;
};
export type SellingPage = {
  /** The most urgent ones, or all. */
  readonly lanes: readonly LaunchedSaid[];
  /** Of all lanes that go on: settled; paying less than planned or losing; asking for a decision. */
  readonly counts: {
    readonly all: number;
    readonly settled: number;
    readonly less: number;
    readonly asks: number;
  };
  readonly mix: { readonly currency: string; readonly volume: number; readonly mix: number } | null;
  /** Codes that reports name and no lane on sale has. */
  readonly unknown: readonly CodeUnknown[];
  readonly months: readonly WorkspaceMonth[];
  readonly homeCurrency: string;
  /** Stock at cost, home currency; `lacks`: lanes whose stock or cost nobody knows. */
  readonly stock: { readonly value: number; readonly lacks: number };
  /** The newest first. */
  readonly reports: readonly ReportHead[];
  readonly places: readonly PlaceSaid[];
  readonly estimates: readonly EstimateSaid[];
};

const said = ({ book, ...lane }: LaneEntry): LaunchedSaid => {
  const { until, stands, gist, lately, stock, decisions } = book;
  return { ...lane, until, stands, gist, lately, stock, decisions };
};

/** How a lane stands now: lately, where enough was settled for that. */
const nowOf = (l: Pick<LaunchedSaid, 'lately' | 'stands'>): Stands => l.lately?.stands ?? l.stands;
const URGENCY: readonly Stands['standing'][] = ['loses', 'paysLess', 'open', 'asPlanned', 'paysMore'];

type Settled = typeof settledPlace.$inferSelect;

/**
 * Lanes on sale with what came of them; those that lose or pay less than planned stand first, those let go last.
 *
 * @param most so many of them
 */
export async function loadSelling(
  workspaceId: string,
  most = Number.POSITIVE_INFINITY,
): Promise<SellingPage> {
  const { entries, places, reports, homeCurrency } = await inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    if (settings === null) throw gone();
    return {
      entries: await laneEntries(tx, workspaceId, settings),
      places: await tx.select().from(settledPlace).where(eq(settledPlace.workspaceId, workspaceId)),
      reports: await reportsIn(tx, workspaceId),
      homeCurrency: settings.homeCurrency,
    };
  });
  const spans = spansOf(reports);
  const lanes = entries.map(said);
  const rank = (l: LaunchedSaid): number =>
    l.stopped !== null ? URGENCY.length : URGENCY.indexOf(nowOf(l).standing);
  lanes.sort((a, b) => rank(a) - rank(b));
  return {
    lanes: lanes.slice(0, most),
    counts: countsOf(lanes),
    mix: mixSaid(entries),
    unknown: unknownCodes(entries, places),
    months: monthsOf(entries, places, homeCurrency),
    homeCurrency,
    stock: stockOfAll(entries),
    reports,
    places: places.map((p) => placeSaid(p, spans.get(p.place) ?? [])),
    estimates: estimatesOf(entries.map((e) => e.book.misses)),
  };
}

function countsOf(lanes: readonly LaunchedSaid[]): SellingPage['counts'] {
  const going = lanes.filter((l) => l.stopped === null);
  return {
    all: lanes.length,
    settled: going.filter((l) => l.gist !== null).length,
    less: going.filter((l) => ['loses', 'paysLess'].includes(nowOf(l).standing)).length,
    asks: going.filter((l) => l.decisions.length > 0).length,
  };
}

/** The days that each report of a place speaks of. */
function spansOf(reports: readonly ReportHead[]): Map<string, Span[]> {
  const spans = new Map<string, Span[]>();
  for (const { said, ...of } of reports) {
    const place = placeIn(of);
    if (place !== null && said?.first != null && said.last !== null)
      spans.set(place, [...(spans.get(place) ?? []), { from: said.first, to: said.last }]);
  }
  return spans;
}

function mixSaid(entries: readonly LaneEntry[]): SellingPage['mix'] {
  const settled = entries.flatMap((e) => e.book.gist ?? []);
  const [first, ...others] = [...new Set(settled.map((c) => c.currency))];
  if (settled.length < 2 || first === undefined || others.length > 0) return null;
  const mix = mixOf(entries.flatMap((e) => e.book.mix ?? []));
  return mix === null ? null : { currency: first, ...mix };
}

function unknownCodes(entries: readonly LaneEntry[], places: readonly Settled[]): CodeUnknown[] {
  const known = new Set(entries.flatMap((l) => l.codes.map((c) => `${l.place}\n${c}`)));
  return places.flatMap(({ place, currency, codes }) =>
    codes
      .filter(({ code }) => code !== '' && !known.has(`${place}\n${code}`))
      .map((sum) => ({ ...sum, place, currency })),
  );
}

/** Months of lanes and places; a place's currency goes by the rate of the lane that went on sale there last. */
function monthsOf(entries: readonly LaneEntry[], places: readonly Settled[], home: string): WorkspaceMonth[] {
  const cash = places.flatMap(({ place, currency, months }) => {
    const own = entries.findLast((e) => e.place === place)?.book.home ?? null;
    const rate = currency === home ? 1 : own;
    return rate === null
      ? []
      : months.map((m) => ({ month: m.month, settled: m.settled * rate, paidOut: (m.paidOut ?? 0) * rate }));
  });
  return allMonthsOnSale(
    entries.map((e) => e.book.months),
    cash,
  );
}

function stockOfAll(entries: readonly LaneEntry[]): SellingPage['stock'] {
  let value = 0;
  let lacks = 0;
  for (const { book } of entries)
    if (book.stock.value !== null && book.home !== null) value += book.stock.value * book.home;
    else lacks++;
  return { value, lacks };
}

function placeSaid({ place, last, currency, months }: Settled, spans: readonly Span[]): PlaceSaid {
  const gaps = gapsOf(spans);
  const settled = months.reduce((s, m) => s + m.settled, 0);
  const paidOut = months.reduce((s, m) => s + (m.paidOut ?? 0), 0);
  // With days missing nobody knows what was settled in them.
  const holds = gaps.length > 0 || months.every((m) => m.paidOut === null) ? null : settled - paidOut;
  return { place, until: last, gaps, holds, currency };
}

export type LaunchedPage = LaunchedSaid & {
  /** Over all months, and over the last two periods, line by line. */
  readonly whole: Compared | null;
  readonly late: Compared | null;
  readonly months: readonly { readonly month: string; readonly compared: Compared }[];
  readonly hurdles: readonly HurdleResult[];
  readonly counts: readonly Count[];
  readonly coming: readonly Coming[];
  readonly next: NextOrder | null;
  readonly claims: readonly ClaimSaid[];
  readonly offers: readonly Offer[];
  /** What a unit that is left would still bring, here and by other lanes of the product. */
  readonly ways: readonly WayOut[];
  /** Null: the lane cannot be run over time. */
  readonly cash: CashBeside | null;
  readonly homeCurrency: string;
};

/** The cash of a lane beside its launch as it was planned. */
function cashOfLane(l: LaneOnSale, { settings, measures }: OnSaleNow): CashBeside | null {
  const { launched, sold, place, orders } = l;
  const { document, laneId, since, candidate } = launched;
  const plan = launched.plan ?? cashPlanOf(fundPlanOf(candidate, settings.launch), since);
  return cashBeside(document, plan, {
    since,
    today: today(),
    months: sold.months,
    last: place.last,
    paid: paidFor(orders, laneId, document, measures),
    shelf: shelfOf(l),
  });
}

/** One lane on sale, month by month and whole. @throws Refusal `gone` */
export async function loadLaunched(workspaceId: string, laneId: string): Promise<LaunchedPage> {
  const { now, open, claims } = await inWorkspace(workspaceId, async (tx) => ({
    now: await onSaleIn(tx, workspaceId, { lanes: [laneId] }),
    open: await openClaims(tx, workspaceId),
    claims: await loadClaims(tx, workspaceId, laneId),
  }));
  const [l] = now.lanes;
  if (l === undefined) throw gone();
  const next = nextOf(l, now.settings);
  const { lately, launched } = l;
  const { candidateId, name, place, codes, since, stopped } = launched;
  const book = entryOf(l, next, open.get(laneId), '');
  const sheet = await loadSheet(workspaceId, candidateId);
  const lets = stopped !== null || book.decisions.some((d) => d.what === 'letGo');
  const hurdles = now.settings.hurdles[launched.candidate.way] ?? [];
  return {
    ...said({ laneId, candidateId, name, place, codes, since, stopped, book }),
    whole: l.sold.whole,
    late: lately?.compared ?? null,
    months: l.sold.months.map((m) => ({ month: m.month, compared: monthCompared(launched.document, m) })),
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
    offers: offersNow(l, sheet)?.offers ?? [],
    ways: sheet === null || !lets ? [] : waysOut(sheet, laneId),
    cash: cashOfLane(l, now),
    homeCurrency: now.settings.homeCurrency,
  };
}
