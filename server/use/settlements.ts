/** Settlement reports: received, read line by line, counted once, taken back whole. */
import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import { and, asc, desc, eq, isNotNull, sql } from 'drizzle-orm';
import { guessSettlementMap } from '../../core/actuals/map.ts';
import { SettlementReader, settlementMapIssues } from '../../core/actuals/read.ts';
import type { SettledLine, SettledPlace, SettlementMap } from '../../core/actuals/schema.ts';
import { placeBook } from '../../core/actuals/book.ts';
import { SummingUp } from '../../core/actuals/sums.ts';
import type { SettledSums } from '../../core/actuals/sums.ts';
import type { MarketplaceCard } from '../../core/cards/rates.ts';
import { isFault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { headerAmong } from '../../core/lists/map.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { launchedLane, settledLine, settledMonth, settledPlace, settlement } from '../db/schema.ts';
import type { SettlementSaid } from '../db/schema.ts';
import { today } from '../env.ts';
import { readList } from '../files/lists.ts';
import { removeFolder } from '../files/store.ts';
import { sourceOf } from '../jobs/listTask.ts';
import { gone, refused } from '../refusal.ts';
import { findClaims } from './claims.ts';
import { noticeDrift } from './driftNotices.ts';
import { needRoomForReport } from './quotas.ts';
import { headsOf, takeIn, widest } from './receiveLists.ts';
import { lockReports, placeIn, placeOf } from './settledPlaces.ts';
import { cardsInForce, newId } from './workspaces.ts';

/** Largest report that is taken in, in bytes. */
export const LARGEST_REPORT = 150 * 1024 * 1024;
/** Lines of a report. */
const MOST_LINES = 1_000_000;
/** Lines stored in one statement, and read back at once. */
const AT_ONCE = 5000;
const SHOWN_REFUSED = 500;
const SHOWN_ROWS = 5;

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

async function needSettlement(tx: Tx, workspaceId: string, id: string): Promise<Settlement> {
  const [found] = await tx
    .select()
    .from(settlement)
    .where(and(eq(settlement.workspaceId, workspaceId), eq(settlement.id, id)));
  if (found === undefined) throw gone();
  return found;
}

export type SettlementPage = {
  readonly settlement: Settlement;
  readonly sheets: readonly string[];
  readonly header: readonly string[];
  readonly rows: readonly (readonly string[])[];
  /** How it is read; null: it has not been yet. */
  readonly map: SettlementMap | null;
  /** What its headings make one guess; what kinds of lines are, nobody guesses. */
  readonly guessed: SettlementMap;
  /** How the last report of each place was read, by marketplace and country. */
  readonly earlier: Readonly<Record<string, SettlementMap>>;
};

/** A report with its first rows, and how it is or may be read. */
export async function loadSettlement(
  workspaceId: string,
  id: string,
  sheet: string | null = null,
): Promise<SettlementPage> {
  const { found, before } = await inWorkspace(workspaceId, async (tx) => ({
    found: await needSettlement(tx, workspaceId, id),
    before: await tx
      .selectDistinctOn([settlement.marketplace, settlement.country], {
        marketplace: settlement.marketplace,
        country: settlement.country,
        map: settlement.map,
      })
      .from(settlement)
      .where(and(eq(settlement.workspaceId, workspaceId), isNotNull(settlement.map)))
      .orderBy(settlement.marketplace, settlement.country, desc(settlement.seq)),
  }));
  const sheets = await headsOf(workspaceId, id);
  const named = sheet ?? found.sheet ?? '';
  const rows = (sheets.find((h) => h.name === named) ?? sheets[0])?.rows ?? [];
  const at = headerAmong(rows);
  const header = (rows[at] ?? []).map((h) => h.trim());
  const body = rows.slice(at + 1);
  return {
    settlement: found,
    sheets: sheets.map((h) => h.name),
    header,
    rows: body.slice(0, SHOWN_ROWS),
    map: found.map,
    guessed: guessSettlementMap(header, body),
    earlier: Object.fromEntries(before.map((b) => [placeIn(b) ?? '', b.map as SettlementMap])),
  };
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
  how: { readonly place: SettledPlace; readonly map: SettlementMap; readonly sheet: string | null },
): Promise<SettlementSaid> {
  return inWorkspace(workspaceId, async (tx) => {
    await lockReports(tx, workspaceId);
    const before = await needSettlement(tx, workspaceId, id);
    const place = placeOf(how.place);
    const was = placeIn(before);
    await dropLines(tx, workspaceId, id);
    const path = await sourceOf(workspaceId, id, 'source', before.file.kind, how.sheet);
    const said = await storeLines(tx, { workspaceId, id, seq: before.seq, path, ...how });
    await recount(tx, workspaceId, id, true);
    const { marketplace, country, currency } = how.place;
    await tx
      .update(settlement)
      .set({ marketplace, country, currency, map: how.map, sheet: how.sheet, said })
      .where(and(eq(settlement.workspaceId, workspaceId), eq(settlement.id, id)));
    for (const p of new Set([place, ...(was === null ? [] : [was])])) await closeBooks(tx, workspaceId, p);
    await noticeDrift(tx, workspaceId, place);
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
};

async function storeLines(tx: Tx, s: Storing): Promise<SettlementSaid> {
  const headings = [...Object.values(s.map.columns), ...s.map.amounts.map((a) => a.column)];
  const refusedRows: (Fault & { row: number })[] = [];
  let reader: SettlementReader | null = null;
  let kept = 0;
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
      for (let at = 0; at < lines.length; at += AT_ONCE)
        await insertLines(tx, s, lines.slice(at, at + AT_ONCE));
    },
  );
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

/**
 * Of the lines that a report and others of its place hold, those of the last report count; `present`: whether the
 * report itself has a say, or is about to go.
 */
async function recount(tx: Tx, workspaceId: string, id: string, present: boolean): Promise<void> {
  const others = present ? sql`` : sql`and l.settlement_id <> ${id}`;
  await tx.execute(sql`
    with best as (
      select l.place, l.key, max(l.seq) as seq from bm.settled_line l
      join bm.settled_line own on own.workspace_id = l.workspace_id and own.place = l.place and own.key = l.key
      where l.workspace_id = ${workspaceId} and own.settlement_id = ${id} ${others}
      group by l.place, l.key)
    update bm.settled_line l set counts = (l.seq = best.seq) from best
    where l.workspace_id = ${workspaceId} and l.place = best.place and l.key = best.key
      and l.counts <> (l.seq = best.seq)`);
}

/** Takes a report's lines away; lines of earlier ones that it had corrected count again. */
async function dropLines(tx: Tx, workspaceId: string, id: string): Promise<void> {
  await recount(tx, workspaceId, id, false);
  await tx
    .delete(settledLine)
    .where(and(eq(settledLine.workspaceId, workspaceId), eq(settledLine.settlementId, id)));
}

/** What follows from the lines that count: their sums, and what was charged above the card. */
async function closeBooks(tx: Tx, workspaceId: string, place: string): Promise<void> {
  await sumUp(tx, workspaceId, place);
  await findClaims(tx, workspaceId, place);
  await tx
    .update(launchedLane)
    .set({ book: null })
    .where(and(eq(launchedLane.workspaceId, workspaceId), eq(launchedLane.place, place)));
}

/** What the lines that count come to, worked out anew by the core's own sums. */
async function sumUp(tx: Tx, workspaceId: string, place: string): Promise<void> {
  const summing = new SummingUp();
  let from = { seq: 0, key: '' };
  for (;;) {
    const lines = await tx
      .select()
      .from(settledLine)
      .where(
        and(
          eq(settledLine.workspaceId, workspaceId),
          eq(settledLine.place, place),
          eq(settledLine.counts, true),
          sql`(${settledLine.seq}, ${settledLine.key}) > (${from.seq}, ${from.key})`,
        ),
      )
      .orderBy(asc(settledLine.seq), asc(settledLine.key))
      .limit(AT_ONCE * 4);
    for (const line of lines) summing.add(line);
    const last = lines.at(-1);
    if (last === undefined) break;
    from = { seq: last.seq, key: last.key };
  }
  await tx
    .delete(settledMonth)
    .where(and(eq(settledMonth.workspaceId, workspaceId), eq(settledMonth.place, place)));
  const sums = summing.sums();
  await storePlace(tx, workspaceId, place, sums);
  const rows = [...sums].flatMap(([code, months]) =>
    [...months].map(([month, sums]) => ({ workspaceId, place, code, month, sums })),
  );
  for (let at = 0; at < rows.length; at += AT_ONCE)
    await tx.insert(settledMonth).values(rows.slice(at, at + AT_ONCE));
}

/** The place as a whole; none of it is left once it has no report. */
async function storePlace(tx: Tx, workspaceId: string, place: string, sums: SettledSums): Promise<void> {
  const ofPlace = and(eq(settledPlace.workspaceId, workspaceId), eq(settledPlace.place, place));
  const [about] = await tx
    .select({
      currency: sql<string>`max(${settlement.currency})`,
      last: sql<string | null>`max(${settlement.said} ->> 'last')`,
    })
    .from(settlement)
    .where(
      and(
        eq(settlement.workspaceId, workspaceId),
        sql`concat(${settlement.marketplace}, '/', ${settlement.country}) = ${place}`,
      ),
    );
  await tx.delete(settledPlace).where(ofPlace);
  if (about?.currency == null) return;
  const { currency, last } = about;
  await tx.insert(settledPlace).values({ workspaceId, place, currency, last, ...placeBook(sums) });
}

/** Takes a report back whole: file, lines and what they came to. */
export async function takeBackSettlement(workspaceId: string, id: string): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    await lockReports(tx, workspaceId);
    const found = await needSettlement(tx, workspaceId, id);
    const place = placeIn(found);
    await dropLines(tx, workspaceId, id);
    await tx.delete(settlement).where(and(eq(settlement.workspaceId, workspaceId), eq(settlement.id, id)));
    if (place !== null) await closeBooks(tx, workspaceId, place);
  });
  await removeFolder(workspaceId, id);
}

/** All reports of a workspace, the newest first. */
export const loadSettlements = (workspaceId: string): Promise<Settlement[]> =>
  inWorkspace(workspaceId, (tx) =>
    tx.select().from(settlement).where(eq(settlement.workspaceId, workspaceId)).orderBy(desc(settlement.seq)),
  );

/** Where one may sell by the workspace's marketplace cards, each place once. */
export async function placesOfCards(workspaceId: string): Promise<SettledPlace[]> {
  const cards = await inWorkspace(workspaceId, (tx) => cardsInForce(tx, workspaceId, today()));
  return cards
    .filter((c) => c.kind === 'marketplace')
    .map(({ data }) => {
      const { marketplace, country, currency } = data as MarketplaceCard;
      return { marketplace, country, currency };
    })
    .sort((a, b) => placeOf(a).localeCompare(placeOf(b)));
}
