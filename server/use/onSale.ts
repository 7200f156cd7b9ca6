/** Lanes on sale with all that is known of them: what came, how they stand lately, what is on the shelf. */
import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { latelyOf } from '../../core/actuals/drift.ts';
import type { Lately } from '../../core/actuals/drift.ts';
import { leftShelf, placeSettled, soldOf } from '../../core/actuals/onSale.ts';
import type { PlaceSettled, Sold } from '../../core/actuals/onSale.ts';
import { layersOf, onTheWay } from '../../core/actuals/received.ts';
import type { Coming, Layer } from '../../core/actuals/received.ts';
import type { SettledKind } from '../../core/actuals/schema.ts';
import { NO_SUM } from '../../core/actuals/sums.ts';
import type { KindSums } from '../../core/actuals/sums.ts';
import { stockOf } from '../../core/actuals/stock.ts';
import type { Stock } from '../../core/actuals/stock.ts';
import type { Measures } from '../../core/orders/bills.ts';
import type { Order } from '../../core/orders/schema.ts';
import { SENT } from '../../core/orders/states.ts';
import { volumeM3 } from '../../core/rules/wayIn.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import type { CandidateData } from '../../core/workspace/records.ts';
import type { Tx } from '../db/client.ts';
import { candidate, launchedLane, settledPlace } from '../db/schema.ts';
import { gone } from '../refusal.ts';
import { ordersIn } from './orders.ts';
import { monthsIn } from './settledSums.ts';
import { settingsIn } from './workspaces.ts';

export type Launched = typeof launchedLane.$inferSelect & {
  readonly name: string;
  readonly candidate: CandidateData;
};

/** What is settled of some places. */
async function placesIn(
  tx: Tx,
  workspaceId: string,
  of: readonly string[],
): Promise<Map<string, PlaceSettled>> {
  const by = await monthsIn(tx, workspaceId, of);
  const lasts = await tx
    .select({ place: settledPlace.place, last: settledPlace.last })
    .from(settledPlace)
    .where(eq(settledPlace.workspaceId, workspaceId));
  const last = new Map(lasts.map((p) => [p.place, p.last]));
  return new Map([...by].map(([place, sums]) => [place, placeSettled(sums, last.get(place) ?? null)]));
}

const NOTHING = placeSettled(new Map(), null);

/** Of these lanes, or of this place, alone. */
export type Only = { readonly lanes?: readonly string[]; readonly place?: string };

/** Lanes on sale of candidates that are there, in the order they were launched. */
export async function launchedIn(tx: Tx, workspaceId: string, only: Only = {}): Promise<Launched[]> {
  const rows = await tx
    .select({ launched: launchedLane, data: candidate.data })
    .from(launchedLane)
    .innerJoin(
      candidate,
      and(eq(candidate.workspaceId, launchedLane.workspaceId), eq(candidate.id, launchedLane.candidateId)),
    )
    .where(
      and(
        eq(launchedLane.workspaceId, workspaceId),
        isNull(candidate.deletedAt),
        only.lanes === undefined ? undefined : inArray(launchedLane.laneId, [...only.lanes]),
        only.place === undefined ? undefined : eq(launchedLane.place, only.place),
      ),
    )
    .orderBy(asc(launchedLane.createdAt));
  return rows.map((r) => ({ ...r.launched, name: r.data.name, candidate: r.data }));
}

/** Weight and volume of a bought unit, by the lines of orders: those of the product the line is of. */
async function measuresIn(
  tx: Tx,
  workspaceId: string,
  orders: readonly Order[],
): Promise<Map<string, Measures>> {
  const lines = orders.filter((o) => o.progress.bills.length > 0).flatMap((o) => o.terms.lines);
  const ids = [...new Set(lines.flatMap((l) => l.candidateId ?? []))];
  if (ids.length === 0) return new Map();
  const products = await tx
    .select({ id: candidate.id, data: candidate.data })
    .from(candidate)
    .where(and(eq(candidate.workspaceId, workspaceId), inArray(candidate.id, ids)));
  const by = new Map(products.map((p) => [p.id, p.data.product]));
  return new Map(
    lines.flatMap((l) => {
      const product = l.candidateId === null ? undefined : by.get(l.candidateId);
      return product === undefined
        ? []
        : [
            [
              l.id,
              { kg: product.kg, m3: product.sides === null ? null : volumeM3(...product.sides) },
            ] as const,
          ];
    }),
  );
}

/** Units of each lane that left the shelf after the day it was last counted, by lane. */
async function leftSince(
  tx: Tx,
  workspaceId: string,
  lanes: readonly Launched[],
): Promise<Map<string, number>> {
  const counted = lanes.flatMap((l) => {
    const last = l.counts.at(-1);
    return last === undefined ? [] : l.codes.map((code) => ({ ...l, code, day: last.day }));
  });
  const left = new Map<string, number>();
  if (counted.length === 0) return left;
  const column = (of: (l: (typeof counted)[number]) => string) => sql.param(counted.map(of));
  const { rows } = await tx.execute<{ lane: string; kind: SettledKind; units: number }>(sql`
    select c.lane, l.kind, sum(l.units)::float8 as units
    from unnest(${column((l) => l.laneId)}::text[], ${column((l) => l.place)}::text[],
      ${column((l) => l.code)}::text[], ${column((l) => l.day)}::date[]) as c(lane, place, code, day)
    join bm.settled_line l on l.workspace_id = ${workspaceId} and l.place = c.place and l.code = c.code
      and l.day > c.day and l.counts
    group by c.lane, l.kind`);
  for (const { launched, sums } of sumsByLane(lanes, rows))
    left.set(launched.laneId, leftShelf(launched.document, sums));
  return left;
}

/** Units of some kinds as sums of each lane. */
function sumsByLane(
  lanes: readonly Launched[],
  rows: readonly { readonly lane: string; readonly kind: SettledKind; readonly units: number }[],
): { launched: Launched; sums: KindSums }[] {
  return lanes.map((launched) => ({
    launched,
    sums: Object.fromEntries(
      rows.filter((r) => r.lane === launched.laneId).map((r) => [r.kind, { ...NO_SUM, units: r.units }]),
    ),
  }));
}

export type LaneOnSale = {
  readonly launched: Launched;
  readonly place: PlaceSettled;
  readonly sold: Sold;
  readonly lately: Lately | null;
  readonly layers: readonly Layer[];
  readonly stock: Stock;
  readonly coming: readonly Coming[];
  /** Orders that hold goods of it. */
  readonly orders: readonly Order[];
};
export type OnSaleNow = {
  readonly settings: Settings;
  readonly lanes: readonly LaneOnSale[];
  /** Weight and volume by lines of orders. */
  readonly measures: ReadonlyMap<string, Measures>;
};

/** @throws Refusal `gone` where the workspace is not there */
export async function onSaleIn(tx: Tx, workspaceId: string, only: Only = {}): Promise<OnSaleNow> {
  const settings = await settingsIn(tx, workspaceId);
  if (settings === null) throw gone();
  const launched = await launchedIn(tx, workspaceId, only);
  const places = await placesIn(tx, workspaceId, [...new Set(launched.map((l) => l.place))]);
  const orders = await ordersIn(tx, workspaceId, SENT);
  const measures = await measuresIn(tx, workspaceId, orders);
  const since = await leftSince(tx, workspaceId, launched);
  const lanes = launched.map((l): LaneOnSale => {
    const place = places.get(l.place) ?? NOTHING;
    const own = orders.filter((o) => o.terms.lines.some((line) => line.laneId === l.laneId));
    const layers = layersOf(own, l.laneId, l.document, measures);
    const lane = { ...l, layers };
    const sold = soldOf(lane, place);
    const counted = l.counts.at(-1) ?? null;
    return {
      launched: l,
      place,
      sold,
      lately: latelyOf(lane, sold.months, place.last, settings.drift),
      layers,
      stock: stockOf(l.document, layers, sold.rest, sold.left, counted, since.get(l.laneId) ?? 0),
      coming: onTheWay(own, l.laneId, l.document),
      orders: own,
    };
  });
  return { settings, lanes, measures };
}
