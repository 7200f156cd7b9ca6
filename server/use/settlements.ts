/** Settlement reports: received, read line by line, counted once, taken back whole. */
import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import { and, eq, isNotNull, ne, sql } from 'drizzle-orm';
import { SettlementReader, settlementMapIssues } from '../../core/actuals/read.ts';
import type { SettledLine, SettledPlace, SettlementMap } from '../../core/actuals/schema.ts';
import { isFault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { joining } from '../db/pieces.ts';
import { settledLine, settlement } from '../db/schema.ts';
import type { SettlementSaid } from '../db/schema.ts';
import { today } from '../env.ts';
import { readList } from '../files/lists.ts';
import { removeFolder } from '../files/store.ts';
import { sourceOf } from '../jobs/listTask.ts';
import { gone, refused } from '../refusal.ts';
import { findClaims, voidBooks } from './claims.ts';
import { needRoomForReport } from './quotas.ts';
import { takeIn, widest } from './receiveLists.ts';
import { lockReports, placeIn, placeOf } from './settledPlaces.ts';
import { howMany, storePlace, sumUp, touchedBy } from './settledSums.ts';
import type { Touched } from './settledSums.ts';
import { newId } from './workspaces.ts';

/** Largest report that is taken in, in bytes. */
export const LARGEST_REPORT = 150 * 1024 * 1024;
/** Lines of a report. */
const MOST_LINES = 1_000_000;
/** Lines stored in one statement, and read back at once. */
const AT_ONCE = 5000;
/** Lines after which the database may be told to look at them anew before it plans what is asked of them. */
const MANY_LINES = 500;
/** Of the lines it knew: what few come in beside them changes no plan. */
const MANY_SHARE = 0.1;
const SHOWN_REFUSED = 500;

export type Settlement = typeof settlement.$inferSelect;

/** A new report from a stream of bytes: kept whole, not read yet. `sameAs`: an earlier one of the very same file. */
export async function receiveSettlement(
  workspaceId: string,
  name: string,
  from: Readable,
  by: string,
): Promise<{ id: string; sameAs: string | null }> {
  await inWorkspace(workspaceId, (tx) => needRoomForReport(tx, workspaceId));
  const id = newId();
  try {
    const { file, sheets } = await takeIn(workspaceId, id, 'source', name, from, LARGEST_REPORT);
    return await inWorkspace(workspaceId, async (tx) => {
      await lockReports(tx, workspaceId);
      const [known] = await tx
        .select({
          last: sql<number>`coalesce(max(${settlement.seq}), 0)::int`,
          same: sql<string | null>`max(${settlement.name})
            filter (where ${settlement.file} ->> 'sha256' = ${file.sha256})`,
        })
        .from(settlement)
        .where(eq(settlement.workspaceId, workspaceId));
      await tx
        .insert(settlement)
        .values({
          workspaceId,
          id,
          seq: (known?.last ?? 0) + 1,
          name: name.replace(/\.(csv|xlsx|txt|tsv)$/i, '').slice(0, 200) || 'Report',
          file,
          sheet: file.kind === 'xlsx' ? (widest(sheets)?.name ?? null) : null,
          createdBy: by,
        });
      return { id, sameAs: known?.same ?? null };
    });
  } catch (e) {
    await removeFolder(workspaceId, id);
    throw e;
  }
}

export async function needSettlement(tx: Tx, workspaceId: string, id: string): Promise<Settlement> {
  const [found] = await tx
    .select()
    .from(settlement)
    .where(and(eq(settlement.workspaceId, workspaceId), eq(settlement.id, id)));
  if (found === undefined) throw gone();
  return found;
}

/** Of which place a report is, and how it is read. */
export type HowToRead = {
  readonly place: SettledPlace;
  readonly map: SettlementMap;
  readonly sheet: string | null;
};
/** Is told how many rows are read; answers whether they are still wanted. */
type Tell = (rows: number) => Promise<boolean>;
/** Rows between two such answers. */
const TELL_EVERY = 20_000;
/** Nobody wants the rest: what was there before stands. */
export class ReadingEnded extends Error {
  constructor() {
    super('the reading was ended');
  }
}

/**
 * Reads a report by a map and counts its lines, in one transaction: whole or not at all. Read again, it takes the
 * place of what it said before. Of lines that several reports of a place hold, those of the last one count.
 *
 * @throws Refusal `invalid` where the map does not fit the file, or the file breaks off
 */
export async function readSettlement(
  workspaceId: string,
  id: string,
  how: HowToRead,
  tell: Tell = async () => true,
): Promise<SettlementSaid> {
  return inWorkspace(workspaceId, async (tx) => {
    await lockReports(tx, workspaceId);
    const before = await needSettlement(tx, workspaceId, id);
    const place = placeOf(how.place);
    const was = placeIn(before);
    const dropped = await dropLines(tx, before);
    const path = await sourceOf(workspaceId, id, 'source', before.file.kind, how.sheet);
    const said = await storeLines(tx, { workspaceId, id, seq: before.seq, path, tell, ...how });
    await lookAnew(tx, said.lines);
    const { marketplace, country, currency } = how.place;
    await tx
      .update(settlement)
      .set({ marketplace, country, currency, map: how.map, sheet: how.sheet, said })
      .where(and(eq(settlement.workspaceId, workspaceId), eq(settlement.id, id)));
    const touched = bothOf(dropped, await touchedBy(tx, { workspaceId, id, said }));
    for (const p of new Set([place, ...(was === null ? [] : [was]), ...touched.keys()]))
      await closeBooks(tx, workspaceId, p, touched.get(p) ?? []);
    return said;
  });
}

type Storing = {
  readonly workspaceId: string;
  readonly id: string;
  readonly seq: number;
  readonly path: string;
  readonly place: SettledPlace;
  readonly map: SettlementMap;
  readonly tell: Tell;
};

async function storeLines(tx: Tx, s: Storing): Promise<SettlementSaid> {
  const headings = [...Object.values(s.map.columns), ...s.map.amounts.map((a) => a.column)];
  const refusedRows: (Fault & { row: number })[] = [];
  let reader: SettlementReader | null = null;
  let kept = 0;
  let told = 0;
  const others = await othersOf(tx, s);
  const corrects = others.some((seq) => seq < s.seq);
  await readList(
    s.path,
    headings,
    ({ header }) => {
      const [issue] = settlementMapIssues(s.map, header);
      if (issue !== undefined) throw refused(issue.code, issue.detail);
      reader = new SettlementReader(s.map, header, s.place, today());
    },
    async (batch, rows) => {
      const lines: SettledLine[] = [];
      for (const [i, raw] of batch.entries()) {
        const row = rows[i] as number;
        const read = (reader as unknown as SettlementReader).read(raw, row);
        if (!isFault(read)) lines.push(...read);
        else if (refusedRows.length < SHOWN_REFUSED) refusedRows.push({ row, ...read });
      }
      kept += lines.length;
      if (kept > MOST_LINES) throw refused('settledTooManyLines', { most: MOST_LINES });
      for (let at = 0; at < lines.length; at += AT_ONCE) {
        const some = lines.slice(at, at + AT_ONCE);
        await insertLines(tx, s, some);
        if (corrects) await countThese(tx, s, some);
      }
      if ((rows.at(-1) ?? 0) < told + TELL_EVERY) return;
      told = rows.at(-1) ?? 0;
      if (!(await s.tell(told))) throw new ReadingEnded();
    },
  );
  if (others.some((seq) => seq > s.seq)) await countLater(tx, s);
  const t = (reader as unknown as SettlementReader).totals;
  return {
    rows: t.rows,
    lines: t.lines,
    amount: t.amount,
    waiting: [...t.waiting].map(([kind, w]) => ({ kind, ...w })),
    refusedRows: t.refusedRows,
    refusedAmount: t.refusedAmount,
    refused: refusedRows,
    first: t.first,
    last: t.last,
  };
}

/** A key that an index can hold: a long one by its digest. */
const shortKey = (key: string): string =>
  key.length <= 200 ? key : createHash('sha256').update(key).digest('hex');

/** Lines as columns in one statement, so that half a million of them are no half a million parameters. */
async function insertLines(tx: Tx, s: Storing, lines: readonly SettledLine[]): Promise<void> {
  const column = <K extends keyof SettledLine>(k: K): SettledLine[K][] => lines.map((l) => l[k]);
  const array = (values: readonly unknown[], type: string) => sql`${sql.param(values)}::${sql.raw(type)}[]`;
  await tx.execute(sql`
    insert into bm.settled_line (workspace_id, settlement_id, place, seq,
      "row", key, day, "order", code, kind, said, amount, tax, units)
    select ${s.workspaceId}, ${s.id}, ${placeOf(s.place)}, ${s.seq}, * from unnest(
      ${array(column('row'), 'int')}, ${array(column('key').map(shortKey), 'text')}, ${array(column('day'), 'date')},
      ${array(column('order'), 'text')}, ${array(column('code'), 'text')}, ${array(column('kind'), 'text')},
      ${array(column('said'), 'text')}, ${array(column('amount'), 'bigint')}, ${array(column('tax'), 'bigint')},
      ${array(column('units'), 'int')})`);
}

/** The other reports of the place that have been read, each by when it came. */
async function othersOf(tx: Tx, s: Storing): Promise<number[]> {
  const rows = await tx
    .select({ seq: settlement.seq })
    .from(settlement)
    .where(
      and(
        eq(settlement.workspaceId, s.workspaceId),
        eq(settlement.marketplace, s.place.marketplace),
        eq(settlement.country, s.place.country),
        ne(settlement.id, s.id),
        isNotNull(settlement.said),
      ),
    );
  return rows.map((r) => r.seq);
}

/** Has the database look at its lines anew, where so many came in that it would plan by what is no longer so. */
async function lookAnew(tx: Tx, lines: number): Promise<void> {
  if (lines <= MANY_LINES) return;
  const { rows } = await tx.execute<{ known: number }>(
    sql`select reltuples::float8 as known from pg_class where oid = 'bm.settled_line'::regclass`,
  );
  if (lines > (rows[0]?.known ?? 0) * MANY_SHARE) await tx.execute(sql`select bm.look_at_settled_lines()`);
}

/** Of lines that an earlier report holds too, those of this one count. */
async function countThese(tx: Tx, s: Storing, lines: readonly SettledLine[]): Promise<void> {
  await tx.execute(sql`
    update bm.settled_line set counts = false
    where workspace_id = ${s.workspaceId} and place = ${placeOf(s.place)} and seq < ${s.seq} and counts
      and key = any(${sql.param(lines.map((l) => shortKey(l.key)))}::text[])`);
}

/** What a later report of the place says otherwise: there the later one counts. */
async function countLater(tx: Tx, s: Storing): Promise<void> {
  await joining(
    tx,
    'many',
    sql`update bm.settled_line own set counts = false
      from (select distinct key from bm.settled_line
        where workspace_id = ${s.workspaceId} and place = ${placeOf(s.place)} and seq > ${s.seq}) l
      where own.workspace_id = ${s.workspaceId} and own.settlement_id = ${s.id} and own.key = l.key`,
  );
}

/**
 * Takes a report's lines away; lines of earlier ones that it had corrected count again. Gives the months that they
 * stood in, by place.
 */
async function dropLines(tx: Tx, report: Settlement): Promise<Map<string, Touched>> {
  const { workspaceId, id, said } = report;
  if (said === null) return new Map();
  const touched = await touchedBy(tx, { workspaceId, id, said });
  await joining(
    tx,
    howMany(said),
    sql`with own as materialized (
        select distinct place, key from bm.settled_line
        where workspace_id = ${workspaceId} and settlement_id = ${id}),
      best as materialized (
        select l.place, l.key, max(l.seq) as seq from own
        join bm.settled_line l on l.workspace_id = ${workspaceId} and l.place = own.place and l.key = own.key
        where l.settlement_id <> ${id} group by l.place, l.key)
      update bm.settled_line l set counts = true from best
      where l.workspace_id = ${workspaceId} and l.place = best.place and l.key = best.key and l.seq = best.seq
        and not l.counts`,
  );
  await tx
    .delete(settledLine)
    .where(and(eq(settledLine.workspaceId, workspaceId), eq(settledLine.settlementId, id)));
  return touched;
}

/** What follows from the lines that count: their sums, what was charged above the card, what is said of the lanes. */
async function closeBooks(tx: Tx, workspaceId: string, place: string, touched: Touched): Promise<void> {
  await sumUp(tx, workspaceId, place, touched);
  await storePlace(tx, workspaceId, place);
  await findClaims(tx, workspaceId, place, touched);
  await voidBooks(tx, workspaceId, place);
}

/** The same months of both, each once. */
function bothOf(a: ReadonlyMap<string, Touched>, b: ReadonlyMap<string, Touched>): Map<string, Touched> {
  const places = new Set([...a.keys(), ...b.keys()]);
  return new Map(
    [...places].map((place) => {
      const all = [...(a.get(place) ?? []), ...(b.get(place) ?? [])];
      return [place, [...new Map(all.map((t) => [`${t.code}\n${t.month}`, t])).values()]];
    }),
  );
}

/** Takes a report back whole: file, lines and what they came to. */
export async function takeBackSettlement(workspaceId: string, id: string): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    await lockReports(tx, workspaceId);
    const found = await needSettlement(tx, workspaceId, id);
    const place = placeIn(found);
    const touched = await dropLines(tx, found);
    await tx.delete(settlement).where(and(eq(settlement.workspaceId, workspaceId), eq(settlement.id, id)));
    if (place !== null) await closeBooks(tx, workspaceId, place, touched.get(place) ?? []);
  });
  await removeFolder(workspaceId, id);
}
