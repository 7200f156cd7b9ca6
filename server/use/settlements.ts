/** Settlement reports: received, read line by line, counted once, taken back whole. */
import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { and, asc, desc, eq, isNotNull, sql } from 'drizzle-orm';
import { guessSettlementMap, mapLike } from '../../core/actuals/map.ts';
import { isFault, SettlementReader, settlementMapIssues } from '../../core/actuals/read.ts';
import type { SettledLine, SettledPlace, SettlementMap } from '../../core/actuals/schema.ts';
import { SummingUp } from '../../core/actuals/sums.ts';
import type { MarketplaceCard } from '../../core/cards/rates.ts';
import type { Fault } from '../../core/fault.ts';
import { headerAmong } from '../../core/lists/map.ts';
import type { Sheet } from '../../core/lists/setup.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { settledLine, settledMonth, settlement } from '../db/schema.ts';
import type { SettlementSaid } from '../db/schema.ts';
import { today } from '../env.ts';
import { firstRows, readList } from '../files/lists.ts';
import { headsOfWorkbook } from '../files/readApart.ts';
import { isWorkbook, receiveFile, removeFolder, storePath } from '../files/store.ts';
import { sourceOf } from '../jobs/listTask.ts';
import { gone, refused } from '../refusal.ts';
import { cardsInForce, newId } from './workspaces.ts';

/** Largest report that is taken in, in bytes. */
export const LARGEST_REPORT = 150 * 1024 * 1024;
/** Reports of a workspace, and lines of a report. */
const MOST_REPORTS = 2000;
const MOST_LINES = 1_000_000;
const HEAD_ROWS = 60;
/** Lines stored in one statement, and read back at once. */
const AT_ONCE = 5000;
const SHOWN_REFUSED = 500;

export const placeOf = (p: Pick<SettledPlace, 'marketplace' | 'country'>): string =>
  `${p.marketplace}/${p.country}`;

export type Settlement = typeof settlement.$inferSelect;

/** A new report from a stream of bytes: kept whole, not read yet. `sameAs`: an earlier one of the very same file. */
export async function receiveSettlement(
  workspaceId: string,
  name: string,
  from: Readable,
  by: string,
): Promise<{ id: string; sameAs: string | null }> {
  const id = newId();
  const path = storePath(workspaceId, id, 'source');
  const got = await receiveFile(from, path, LARGEST_REPORT);
  try {
    const kind = (await isWorkbook(path)) ? 'xlsx' : 'csv';
    const heads: Sheet[] =
      kind === 'csv'
        ? [{ name: '', rows: await firstRows(path, HEAD_ROWS) }]
        : await headsOfWorkbook(path, HEAD_ROWS);
    await writeFile(storePath(workspaceId, id, 'source-heads.json'), JSON.stringify(heads));
    return await inWorkspace(workspaceId, async (tx) => {
      await lockReports(tx, workspaceId);
      const [known] = await tx
        .select({
          count: sql<number>`count(*)::int`,
          last: sql<number>`coalesce(max(${settlement.seq}), 0)::int`,
          same: sql<
            string | null
          >`max(${settlement.name}) filter (where ${settlement.file} ->> 'sha256' = ${got.sha256})`,
        })
        .from(settlement)
        .where(eq(settlement.workspaceId, workspaceId));
      if ((known?.count ?? 0) >= MOST_REPORTS) throw refused('quotaReports', { most: MOST_REPORTS });
      await tx
        .insert(settlement)
        .values({
          workspaceId,
          id,
          seq: (known?.last ?? 0) + 1,
          name: name.replace(/\.(csv|xlsx|txt|tsv)$/i, '').slice(0, 200) || 'Report',
          file: { name: name.slice(0, 200), kind, ...got },
          sheet: kind === 'xlsx' ? (heads[0]?.name ?? null) : null,
          createdBy: by,
        });
      return { id, sameAs: known?.same ?? null };
    });
  } catch (e) {
    await removeFolder(workspaceId, id);
    throw e;
  }
}

/** Reports are read one after the other, so that no line of two is counted by both. */
const lockReports = (tx: Tx, workspaceId: string): Promise<unknown> =>
  tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`settlements/${workspaceId}`}, 0))`);

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
  /** How it is read, or would be: as the last report of its place, else guessed. */
  readonly map: SettlementMap;
};

/** A report with its first rows, and how it is read. */
export async function loadSettlement(
  workspaceId: string,
  id: string,
  sheet: string | null = null,
): Promise<SettlementPage> {
  const { found, earlier } = await inWorkspace(workspaceId, async (tx) => {
    const one = await needSettlement(tx, workspaceId, id);
    const [before] = await tx
      .select({ map: settlement.map })
      .from(settlement)
      .where(
        and(
          eq(settlement.workspaceId, workspaceId),
          isNotNull(settlement.map),
          one.marketplace === null ? undefined : eq(settlement.marketplace, one.marketplace),
        ),
      )
      .orderBy(desc(settlement.seq))
      .limit(1);
    return { found: one, earlier: before?.map ?? null };
  });
  const heads = JSON.parse(
    await readFile(storePath(workspaceId, id, 'source-heads.json'), 'utf8'),
  ) as Sheet[];
  const named = sheet ?? found.sheet ?? '';
  const rows = (heads.find((h) => h.name === named) ?? heads[0])?.rows ?? [];
  const at = headerAmong(rows);
  const header = (rows[at] ?? []).map((h) => h.trim());
  const body = rows.slice(at + 1);
  const guessed = guessSettlementMap(header, body);
  const map = found.map ?? (earlier === null ? guessed : mapLike(guessed, earlier, header));
  return { settlement: found, sheets: heads.map((h) => h.name), header, rows: body.slice(0, 8), map };
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
    const was = before.marketplace === null ? null : `${before.marketplace}/${before.country}`;
    await dropLines(tx, workspaceId, id, was);
    const path = await sourceOf(workspaceId, id, 'source', before.file.kind, how.sheet);
    const said = await storeLines(tx, { workspaceId, id, seq: before.seq, path, ...how });
    await recount(
      tx,
      workspaceId,
      place,
      sql`select key from bm.settled_line
      where workspace_id = ${workspaceId} and settlement_id = ${id}`,
    );
    const { marketplace, country, currency } = how.place;
    await tx
      .update(settlement)
      .set({ marketplace, country, currency, map: how.map, sheet: how.sheet, said })
      .where(and(eq(settlement.workspaceId, workspaceId), eq(settlement.id, id)));
    for (const p of new Set([place, ...(was === null ? [] : [was])])) await sumUp(tx, workspaceId, p);
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

/** Of the lines of these keys those of the last report count. */
async function recount(
  tx: Tx,
  workspaceId: string,
  place: string,
  keys: ReturnType<typeof sql>,
): Promise<void> {
  await tx.execute(sql`
    with touched as materialized (${keys}),
    best as (
      select l.key, max(l.seq) as seq from bm.settled_line l join touched t on t.key = l.key
      where l.workspace_id = ${workspaceId} and l.place = ${place} group by l.key)
    update bm.settled_line l set counts = (l.seq = best.seq) from best
    where l.workspace_id = ${workspaceId} and l.place = ${place} and l.key = best.key
      and l.counts <> (l.seq = best.seq)`);
}

/** Takes a report's lines away; lines of earlier ones that it had corrected count again. */
async function dropLines(tx: Tx, workspaceId: string, id: string, place: string | null): Promise<void> {
  await tx.execute(sql`create temporary table if not exists dropped_keys (key text) on commit drop`);
  await tx.execute(sql`truncate dropped_keys`);
  await tx.execute(sql`
    with gone as (delete from bm.settled_line
      where workspace_id = ${workspaceId} and settlement_id = ${id} returning key)
    insert into dropped_keys select key from gone`);
  if (place !== null) await recount(tx, workspaceId, place, sql`select key from dropped_keys`);
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
  const rows = [...summing.sums()].flatMap(([code, months]) =>
    [...months].map(([month, sums]) => ({ workspaceId, place, code, month, sums })),
  );
  for (let at = 0; at < rows.length; at += AT_ONCE)
    await tx.insert(settledMonth).values(rows.slice(at, at + AT_ONCE));
}

/** Takes a report back whole: file, lines and what they came to. */
export async function takeBackSettlement(workspaceId: string, id: string): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    await lockReports(tx, workspaceId);
    const found = await needSettlement(tx, workspaceId, id);
    const place = found.marketplace === null ? null : `${found.marketplace}/${found.country}`;
    await dropLines(tx, workspaceId, id, place);
    await tx.delete(settlement).where(and(eq(settlement.workspaceId, workspaceId), eq(settlement.id, id)));
    if (place !== null) await sumUp(tx, workspaceId, place);
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
