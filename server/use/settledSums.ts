/**
 * What the lines that count come to, by code and month: worked out by the core's own sums, and after a report anew
 * only where it has a say, so that a month is closed as quickly beside a million lines as beside none.
 */
import { and, eq, inArray, sql } from 'drizzle-orm';
import { placeBook } from '../../core/actuals/book.ts';
import { SummingUp } from '../../core/actuals/sums.ts';
import type { KindSums, SettledSums, SummedLine } from '../../core/actuals/sums.ts';
import { firstOfNextMonth } from '../../core/money/days.ts';
import type { Tx } from '../db/client.ts';
import { inPieces } from '../db/pieces.ts';
import type { Joined } from '../db/pieces.ts';
import { settledMonth, settledPlace, settlement } from '../db/schema.ts';
import type { SettlementSaid } from '../db/schema.ts';

/** Months of codes that a report has a say in. */
export type Touched = readonly { readonly code: string; readonly month: string }[];
type TouchedIn = { place: string; code: string; month: string };

/** Rows stored in one statement. */
const AT_ONCE = 5000;

/** Lines of a report up to which each finds its partners by an index. */
const FEW_LINES = 20_000;
export const howMany = ({ lines }: Pick<SettlementSaid, 'lines'>): Joined =>
  lines > FEW_LINES ? 'many' : 'few';

/**
 * The months of codes that a report's lines stand in, those of other lines of its orders (a refund tells of fees that
 * came back before), and those of lines of other reports that it corrects; by place.
 */
export async function touchedBy(
  tx: Tx,
  { workspaceId, id, said }: { workspaceId: string; id: string; said: Pick<SettlementSaid, 'lines'> },
): Promise<Map<string, Touched>> {
  const rows = inPieces<TouchedIn>(
    tx,
    sql`with own as materialized (
        select place, code, "order", key, day from bm.settled_line
        where workspace_id = ${workspaceId} and settlement_id = ${id}),
      orders as materialized (select distinct place, "order" from own where "order" <> '')
      select place, code, to_char(day, 'YYYY-MM') as month from own
      union select l.place, l.code, to_char(l.day, 'YYYY-MM') from orders o
        join bm.settled_line l on l.workspace_id = ${workspaceId} and l.place = o.place
          and l."order" = o."order"
      union select l.place, l.code, to_char(l.day, 'YYYY-MM') from own o
        join bm.settled_line l on l.workspace_id = ${workspaceId} and l.place = o.place and l.key = o.key`,
    howMany(said),
  );
  const by = new Map<string, TouchedIn[]>();
  for await (const row of rows) {
    const of = by.get(row.place) ?? [];
    by.set(row.place, of);
    of.push(row);
  }
  return by;
}

/** Of the months of codes that a place has, those that are touched count as few up to this share. */
const FEW_MONTHS = 0.2;
/** Whether lines of the months that are touched are found by an index, or all of the place's are read. */
export async function howManyOf(
  tx: Tx,
  workspaceId: string,
  place: string,
  touched: Touched,
): Promise<Joined> {
  const all = await tx.$count(
    settledMonth,
    and(eq(settledMonth.workspaceId, workspaceId), eq(settledMonth.place, place)),
  );
  return touched.length < all * FEW_MONTHS ? 'few' : 'many';
}

/**
 * As a table of a statement: its columns are `code`, the first day of the month, `first`, and that of the next one,
 * `after`. They are dates from the start: with a sum or a cast in a condition no index would be used for it, for a
 * row's own workspace is checked before anything that might tell of it.
 */
export const asTable = (touched: Touched) => {
  const firsts = touched.map((t) => `${t.month}-01`);
  return sql`unnest(${sql.param(touched.map((t) => t.code))}::text[], ${sql.param(firsts)}::date[],
    ${sql.param(firsts.map(firstOfNextMonth))}::date[]) as t(code, first, after)`;
};

/** Sums the months that are touched anew, and the place as a whole. */
export async function sumUp(tx: Tx, workspaceId: string, place: string, touched: Touched): Promise<void> {
  if (touched.length === 0) return;
  const sums = await sumsOf(tx, workspaceId, place, touched);
  await tx.execute(sql`
    delete from bm.settled_month m using ${asTable(touched)}
    where m.workspace_id = ${workspaceId} and m.place = ${place} and m.code = t.code
      and m.month = to_char(t.first, 'YYYY-MM')`);
  const rows = [...sums].flatMap(([code, months]) =>
    [...months].map(([month, of]) => ({ workspaceId, place, code, month, sums: of })),
  );
  for (let at = 0; at < rows.length; at += AT_ONCE)
    await tx.insert(settledMonth).values(rows.slice(at, at + AT_ONCE));
}

async function sumsOf(tx: Tx, workspaceId: string, place: string, touched: Touched): Promise<SettledSums> {
  const summing = new SummingUp();
  const lines = inPieces<SummedLine>(
    tx,
    sql`select l.day::text as day, l."order", l.code, l.kind, l.amount::float8 as amount, l.tax::float8 as tax, l.units
      from bm.settled_line l join ${asTable(touched)} on l.code = t.code and l.day >= t.first and l.day < t.after
      where l.workspace_id = ${workspaceId} and l.place = ${place} and l.counts`,
    await howManyOf(tx, workspaceId, place, touched),
  );
  for await (const line of lines) summing.add(line);
  // Refunds of other months tell which fees of these came back.
  const doubt = summing.inDoubt();
  if (doubt.length > 0) {
    const refunds = inPieces<{ order: string }>(
      tx,
      sql`select distinct l."order" from unnest(${sql.param(doubt)}::text[]) as d("order")
        join bm.settled_line l on l.workspace_id = ${workspaceId} and l.place = ${place} and l."order" = d."order"
          and l.kind = 'refund' and l.counts`,
      doubt.length > FEW_LINES ? 'many' : 'few',
    );
    for await (const { order } of refunds) summing.refundOf(order);
  }
  return summing.sums();
}

/** The place as a whole; none of it is left once it has no report. */
export async function storePlace(tx: Tx, workspaceId: string, place: string): Promise<void> {
  const [marketplace = '', country = ''] = [
    place.slice(0, place.lastIndexOf('/')),
    place.slice(place.lastIndexOf('/') + 1),
  ];
  const [about] = await tx
    .select({
      currency: sql<string>`max(${settlement.currency})`,
      last: sql<string | null>`max(${settlement.said} ->> 'last')`,
    })
    .from(settlement)
    .where(
      and(
        eq(settlement.workspaceId, workspaceId),
        eq(settlement.marketplace, marketplace),
        eq(settlement.country, country),
      ),
    );
  await tx
    .delete(settledPlace)
    .where(and(eq(settledPlace.workspaceId, workspaceId), eq(settledPlace.place, place)));
  if (about?.currency == null) return;
  const { currency, last } = about;
  const sums = (await monthsIn(tx, workspaceId, [place])).get(place) ?? new Map();
  await tx.insert(settledPlace).values({ workspaceId, place, currency, last, ...placeBook(sums) });
}

/** The sums of some places. */
export async function monthsIn(
  tx: Tx,
  workspaceId: string,
  places: readonly string[],
): Promise<Map<string, Map<string, Map<string, KindSums>>>> {
  const by = new Map<string, Map<string, Map<string, KindSums>>>();
  if (places.length === 0) return by;
  const rows = await tx
    .select()
    .from(settledMonth)
    .where(and(eq(settledMonth.workspaceId, workspaceId), inArray(settledMonth.place, [...places])));
  for (const { place, code, month, sums } of rows) {
    const codes = by.get(place) ?? new Map<string, Map<string, KindSums>>();
    by.set(place, codes);
    const months = codes.get(code) ?? new Map<string, KindSums>();
    codes.set(code, months);
    months.set(month, sums);
  }
  return by;
}
