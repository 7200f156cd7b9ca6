/**
 * What people decide about goods, by barcode and across lists: shortlisted, kept, dropped, ordered; and what
 * kept rows become.
 */
import { and, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { laneOfRow } from '../../core/columns/assumptions.ts';
import { BLANKS } from '../../core/lane/blanks.ts';
import type { Blank } from '../../core/lane/blanks.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import { evaluate } from '../../core/lane/evaluate.ts';
import { exchangeFactor } from '../../core/money/money.ts';
import type { ListRow, RowListing } from '../../between/ask.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { goodsMark, listRow } from '../db/schema.ts';
import type { MarkState } from '../db/schema.ts';
import { today } from '../env.ts';
import { askRow } from '../screening/client.ts';
import { candidateFromDocument } from './laneDocuments.ts';
import type { ListPage } from './lists.ts';

export type Mark = typeof goodsMark.$inferSelect;

/** The running tally: goods shortlisted and kept, and the profit a month that those kept add up to, home currency. */
export type Tally = {
  readonly kept: number;
  readonly shortlisted: number;
  readonly dropped: number;
  readonly ordered: number;
  readonly profitPerMonth: number;
  /** Costs which some of these profits leave out. */
  readonly lacks: readonly Blank[];
  readonly unknownProfit: number;
  readonly since: Date | null;
};
export async function tallyOf(workspaceId: string, listId: string | null): Promise<Tally> {
  return inWorkspace(workspaceId, async (tx) => {
    const rows = await tx
      .select({
        state: goodsMark.state,
        n: sql<number>`count(*)::int`,
        sum: sql<number>`coalesce(sum(${goodsMark.profitPerMonth}), 0)`,
        unknown: sql<number>`count(*) filter (where ${goodsMark.profitPerMonth} is null)::int`,
        lacks: sql<Blank[]>`(
          select coalesce(jsonb_agg(distinct blank), '[]')
          from jsonb_array_elements(jsonb_agg(${goodsMark.profitLacks})) as each, jsonb_array_elements(each) as blank
        )`,
        since: sql<string | null>`min(${goodsMark.at})`,
      })
      .from(goodsMark)
      .where(
        and(
          eq(goodsMark.workspaceId, workspaceId),
          isNotNull(goodsMark.state),
          listId === null ? undefined : eq(goodsMark.listId, listId),
        ),
      )
      .groupBy(goodsMark.state);
    const of = (s: MarkState) => rows.find((r) => r.state === s);
    const chosen = [of('kept'), of('ordered')].filter((r) => r !== undefined);
    return {
      kept: of('kept')?.n ?? 0,
      shortlisted: of('shortlisted')?.n ?? 0,
      dropped: of('dropped')?.n ?? 0,
      ordered: of('ordered')?.n ?? 0,
      profitPerMonth: chosen.reduce((s, r) => s + r.sum, 0),
      lacks: [...new Set(chosen.flatMap((r) => r.lacks))],
      unknownProfit: chosen.reduce((s, r) => s + r.unknown, 0),
      since: rows.reduce<Date | null>(
        (m, r) => (r.since === null ? m : m === null || new Date(r.since) < m ? new Date(r.since) : m),
        null,
      ),
    };
  });
}

export async function marksOf(workspaceId: string, keys: readonly number[]): Promise<Mark[]> {
  if (keys.length === 0) return [];
  return inWorkspace(workspaceId, (tx) =>
    tx
      .select()
      .from(goodsMark)
      .where(and(eq(goodsMark.workspaceId, workspaceId), inArray(goodsMark.key, [...keys]))),
  );
}

export const markChange = z.strictObject({
  rows: z
    .array(
      z.strictObject({
        key: z.number().int().min(1),
        name: z.string().max(500),
        profitPerMonth: z.number().nullable(),
        /** Costs which that profit leaves out. */
        lacks: z.array(z.enum(BLANKS)).max(BLANKS.length).default([]),
      }),
    )
    .min(1)
    .max(5000),
  /** Absent: as it is. Null: no decision any more. */
  state: z.enum(['shortlisted', 'dropped', 'ordered', 'kept']).nullable().optional(),
  reason: z.string().trim().max(500).optional(),
  note: z.string().trim().max(5000).optional(),
  tags: z.array(z.string().trim().min(1).max(40)).max(20).optional(),
  /** Pieces in the pack sold and in the pack bought; null: as the list takes them. */
  pack: z
    .strictObject({ sold: z.number().int().min(1).max(10_000), bought: z.number().int().min(1).max(10_000) })
    .nullable()
    .optional(),
  /** Row of the list's market figures that counts for these goods; null: by the list's rule. */
  listing: z.number().int().min(1).max(1e9).nullable().optional(),
});
export type MarkChange = z.output<typeof markChange>;

/**
 * Notes a decision about goods. Profit a month in the sales currency is turned into the home currency by the
 * list's own rates.
 */
export async function markGoods(
  workspaceId: string,
  page: ListPage,
  change: MarkChange,
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, (tx) => markIn(tx, workspaceId, page, change, by));
}

async function markIn(
  tx: Tx,
  workspaceId: string,
  page: ListPage,
  change: MarkChange,
  by: string,
): Promise<void> {
  const factor =
    page.screen === null
      ? Number.NaN
      : exchangeFactor(page.screen.rates.exchange, page.screen.currency, page.settings.homeCurrency);
  const set = {
    ...(change.state === undefined ? {} : { state: change.state, listId: page.list.id }),
    ...(change.reason === undefined ? {} : { reason: change.reason }),
    ...(change.note === undefined ? {} : { note: change.note }),
    ...(change.tags === undefined ? {} : { tags: change.tags }),
    ...(change.pack === undefined
      ? {}
      : { soldPack: change.pack?.sold ?? null, boughtPack: change.pack?.bought ?? null }),
    by,
    at: new Date(),
  };
  const listings =
    change.listing === undefined || change.listing === null ? {} : { [page.list.id]: change.listing };
  const values = new Map(
    change.rows.map((r) => [
      r.key,
      {
        workspaceId,
        key: r.key,
        listId: page.list.id,
        name: r.name,
        profitPerMonth: r.profitPerMonth === null || Number.isNaN(factor) ? null : r.profitPerMonth * factor,
        profitLacks: r.lacks,
        listings,
        ...set,
      },
    ]),
  );
  // Name and profit are those of the moment at which it was decided.
  const decided =
    change.state === undefined
      ? {}
      : {
          name: sql`excluded.name`,
          profitPerMonth: sql`excluded.profit_per_month`,
          profitLacks: sql`excluded.profit_lacks`,
        };
  await tx
    .insert(goodsMark)
    .values([...values.values()])
    .onConflictDoUpdate({
      target: [goodsMark.workspaceId, goodsMark.key],
      set: {
        ...set,
        ...decided,
        ...(change.listing === undefined
          ? {}
          : {
              listings:
                change.listing === null
                  ? sql`${goodsMark.listings} - ${page.list.id}::text`
                  : sql`${goodsMark.listings} || excluded.listings`,
            }),
      },
    });
}

export type RowPage = {
  readonly row: ListRow;
  readonly doc: LaneDocument;
  readonly mark: Mark | null;
  /** Link, picture, notes and columns kept as they are. */
  readonly more: Readonly<Record<string, string>>;
  /** Listings of its barcode in the market figures, where there are several. */
  readonly listings: readonly RowListing[];
};

/** What else the file says of rows, by their lines: link, picture, notes, columns kept as they are. */
export async function moreOf(
  workspaceId: string,
  runId: string,
  lines: readonly number[],
): Promise<Map<number, Record<string, string>>> {
  if (lines.length === 0) return new Map();
  const rows = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ line: listRow.line, more: listRow.more })
      .from(listRow)
      .where(
        and(
          eq(listRow.workspaceId, workspaceId),
          eq(listRow.runId, runId),
          inArray(listRow.line, [...lines]),
        ),
      ),
  );
  return new Map(rows.map((r) => [r.line, r.more ?? {}]));
}

/** A row as a lane, and its listings; null where the list has no such row. */
export async function openRow(
  workspaceId: string,
  page: ListPage,
  line: number,
): Promise<Pick<RowPage, 'row' | 'doc' | 'listings'> | null> {
  const found = await askRow(workspaceId, page, line);
  if (found === null || page.screen === null) return null;
  const { screen } = page;
  const doc = laneOfRow(
    screen.assumptions,
    { ...screen.rates, country: screen.country, currency: screen.currency },
    found.inputs,
    found.row.title || found.row.code,
  );
  const named = Array.isArray(doc.goods)
    ? doc.goods.map((g) => ({ ...g, source: { ...g.source, supplier: page.supplierName, date: today() } }))
    : doc.goods;
  return { row: found.row, listings: found.listings, doc: { ...doc, goods: named as LaneDocument['goods'] } };
}

/** A row of a list as a full lane, with what else is known of it. Null where the list has no such row. */
export async function loadRow(workspaceId: string, page: ListPage, line: number): Promise<RowPage | null> {
  const opened = await openRow(workspaceId, page, line);
  if (opened === null || page.shown === null) return null;
  const [mark = null] = await marksOf(workspaceId, [opened.row.key]);
  const more = await moreOf(workspaceId, page.shown.id, [line]);
  return { ...opened, mark, more: more.get(line) ?? {} };
}

/**
 * Makes a candidate of a row, everything carried over; `notesOf` says in words where it
 * came from; `quantity`: sold units to order, where not the list's.
 * A row that was kept already leads to its candidate. Returns its id.
 */
export async function keepRow(
  workspaceId: string,
  page: ListPage,
  line: number,
  by: string,
  notesOf: (row: ListRow, list: string) => readonly string[],
  quantity: number | null = null,
): Promise<string | null> {
  const opened = await loadRow(workspaceId, page, line);
  if (opened === null) return null;
  const { row } = opened;
  const doc = quantity === null ? opened.doc : { ...opened.doc, orderQuantity: quantity };
  const more = Object.entries(opened.more).map(([k, v]) => `${k}: ${v}`);
  const notes = [...notesOf(row, page.list.name), ...more, opened.mark?.note]
    .filter(Boolean)
    .join('\n')
    .slice(0, 10_000);
  const { figures, incomplete } = evaluate(doc);
  const lacks = [...(incomplete.profitPerMonth ?? [])];
  const kept = {
    rows: [{ key: row.key, name: row.title.slice(0, 500), profitPerMonth: figures.profitPerMonth, lacks }],
    state: 'kept' as const,
  };
  const its = and(eq(goodsMark.workspaceId, workspaceId), eq(goodsMark.key, row.key));
  return inWorkspace(workspaceId, async (tx) => {
    // Two hands that keep one row at once come to one candidate.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`${workspaceId}/${row.key}`}, 0))`);
    const [mark] = await tx
      .select({ state: goodsMark.state, candidateId: goodsMark.candidateId })
      .from(goodsMark)
      .where(its);
    if (mark?.state === 'kept' && mark.candidateId !== null) return mark.candidateId;
    const tags = opened.mark?.tags ?? [];
    const candidateId = await candidateFromDocument(tx, workspaceId, doc, by, {
      tags,
      notes,
      gtin: row.code,
    });
    await markIn(tx, workspaceId, page, kept, by);
    await tx.update(goodsMark).set({ candidateId }).where(its);
    return candidateId;
  });
}
