/** Suppliers' lists: taken in, mapped, checked, run, looked at. */
import { stat } from 'node:fs/promises';
import { and, desc, eq, gt, inArray, isNotNull, isNull, notExists, sql } from 'drizzle-orm';
import type { MarketplaceCard, TaxCard } from '../../core/cards/rates.ts';
import { DEFAULT_LOOK } from '../../core/lists/query.ts';
import type { ListLook } from '../../core/lists/query.ts';
import { screenSettings } from '../../core/lists/settings.ts';
import type { ListSettings, ScreenSettings } from '../../core/lists/settings.ts';
import type { ExchangeTable } from '../../core/money/money.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { listRow, supplier, supplierList, task } from '../db/schema.ts';
import type { StoredFile } from '../db/schema.ts';
import { today } from '../env.ts';
import { storePath } from '../files/store.ts';
import { kindsOf } from '../jobs/kinds.ts';
import type { ListTask } from '../jobs/listTask.ts';
import { cardData } from './columns.ts';
import { cancelTasks, storeTask, taskColumns, wake } from './tasks.ts';
import type { TaskHead } from './tasks.ts';
import { settingsIn } from './workspaces.ts';
import { gone, refused } from '../refusal.ts';
import type { Fault } from '../../core/fault.ts';

export type ListRecord = typeof supplierList.$inferSelect;

/** Rows of a file that are shown before it is mapped. */
export const HEAD_ROWS = 40;

// ---- reading what there is
// -----------------------------------------------------------------------------------------

export async function needList(workspaceId: string, id: string): Promise<ListRecord> {
  const list = await inWorkspace(workspaceId, (tx) => listIn(tx, workspaceId, id));
  if (list === null) throw gone();
  return list;
}
export async function listIn(tx: Tx, workspaceId: string, id: string): Promise<ListRecord | null> {
  const [list] = await tx
    .select()
    .from(supplierList)
    .where(
      and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, id), isNull(supplierList.deletedAt)),
    );
  return list ?? null;
}

export type Work = Omit<TaskHead, 'data'> & { data: ListTask; updatedAt: Date };
export async function workIn(tx: Tx, workspaceId: string, listId: string | null): Promise<Work[]> {
  const rows = await tx
    .select({ ...taskColumns, updatedAt: task.updatedAt })
    .from(task)
    .where(
      and(
        eq(task.workspaceId, workspaceId),
        inArray(task.kind, kindsOf('lists')),
        listId === null ? undefined : sql`${task.data} ->> 'listId' = ${listId}`,
      ),
    )
    .orderBy(desc(task.createdAt))
    .limit(listId === null ? 500 : 6);
  return rows as Work[];
}

/**
 * The run whose rows are shown: the list's own, or while its first run is under way (or was cancelled, or
 * failed half way) that.
 */
function shownRun(list: ListRecord, work: readonly Work[]): Work | null {
  const runs = work.filter((w) => w.kind === 'readList');
  return (
    runs.find((w) => w.id === list.runId) ??
    (list.runId === null ? (runs.find((w) => (w.data.parts?.length ?? 0) > 0) ?? null) : null)
  );
}

export type ListHead = {
  id: string;
  name: string;
  supplier: string | null;
  file: StoredFile;
  /** Whether it is read from a shop. */
  isCatalogue: boolean;
  country: string | null;
  createdAt: Date;
  state: 'new' | 'working' | 'ready' | 'cancelled' | 'failed';
  done: number;
  total: number;
  valid: number;
  invalid: number;
  error: Fault | null;
};

/** All lists, the newest first. */
export async function loadLists(workspaceId: string): Promise<ListHead[]> {
  return inWorkspace(workspaceId, async (tx) => {
    const lists = await tx
      .select()
      .from(supplierList)
      .where(and(eq(supplierList.workspaceId, workspaceId), isNull(supplierList.deletedAt)))
      .orderBy(desc(supplierList.createdAt))
      .limit(500);
    const suppliers = new Map(
      (
        await tx
          .select({ id: supplier.id, name: supplier.name })
          .from(supplier)
          .where(eq(supplier.workspaceId, workspaceId))
      ).map((s) => [s.id, s.name]),
    );
    const work = await workIn(tx, workspaceId, null);
    return lists.map((l) => {
      const own = work.filter((w) => w.data.listId === l.id);
      const newest = own.find((w) => w.kind === 'readList');
      const shown = shownRun(l, own);
      const state =
        newest === undefined
          ? l.runId === null
            ? 'new'
            : 'ready'
          : newest.state === 'waiting' || newest.state === 'running'
            ? 'working'
            : newest.state === 'done' ||
                (newest.state === 'cancelled' && l.runId !== null && l.runId !== newest.id)
              ? 'ready'
              : newest.state;
      return {
        id: l.id,
        name: l.name,
        supplier: l.supplierId === null ? null : (suppliers.get(l.supplierId) ?? null),
        file: l.file,
        isCatalogue: l.catalogue !== null,
        country: l.settings?.country ?? null,
        createdAt: l.createdAt,
        state,
        done: newest?.done ?? 0,
        total: newest?.total ?? 0,
        valid: shown?.data.valid ?? 0,
        invalid: shown?.data.invalid ?? 0,
        error: newest?.error ?? null,
      };
    });
  });
}

/** What a list keeps as it is, as its rows name it: link, picture, notes, then columns by their headings. */
export const extrasOf = (list: ListRecord): string[] => [
  ...(['link', 'picture', 'notes'] as const).filter((r) => list.map?.columns[r] !== undefined),
  ...(list.map?.extras ?? []),
];

export type ListPage = {
  list: ListRecord;
  work: Work[];
  shown: Work | null;
  settings: Settings;
  supplierName: string;
  screen: ScreenSettings | null;
};

/**
 * A list with its work, and what it is screened with: its own settings, or others tried on it. Null where it
 * is not there.
 */
export async function loadList(
  workspaceId: string,
  id: string,
  tried: ListSettings | null = null,
): Promise<ListPage | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const found = await listIn(tx, workspaceId, id);
    const settings = await settingsIn(tx, workspaceId);
    if (found === null || settings === null) return null;
    const list = tried === null ? found : { ...found, settings: tried };
    const work = await workIn(tx, workspaceId, id);
    const [named] =
      list.supplierId === null
        ? []
        : await tx
            .select({ name: supplier.name })
            .from(supplier)
            .where(and(eq(supplier.workspaceId, workspaceId), eq(supplier.id, list.supplierId)));
    return {
      list,
      work,
      shown: shownRun(list, work),
      settings,
      supplierName: named?.name ?? '',
      screen: list.settings === null ? null : await screenIn(tx, workspaceId, list.settings, settings),
    };
  });
}

/**
 * The one document a list is screened with: its cards, its assumptions, home currency, day and VAT standing
 * of the workspace.
 */
async function screenIn(
  tx: Tx,
  workspaceId: string,
  own: ListSettings,
  settings: Settings,
): Promise<ScreenSettings> {
  const key = JSON.stringify([
    workspaceId,
    own,
    settings.homeCurrency,
    settings.standings[own.country] ?? null,
    today(),
  ]);
  const known = composed.get(key);
  if (known !== undefined) return known;
  const screen = await composeScreen(tx, workspaceId, own, settings);
  if (composed.size >= 50) composed.delete(composed.keys().next().value as string);
  composed.set(key, screen);
  return screen;
}
/** Documents composed lately: card versions never change, so the same ids make the same document. */
const composed = new Map<string, ScreenSettings>();

async function composeScreen(
  tx: Tx,
  workspaceId: string,
  own: ListSettings,
  settings: Settings,
): Promise<ScreenSettings> {
  const cards = await cardData(
    tx,
    workspaceId,
    [own.marketplaceCardId, own.taxCardId, own.exchangeCardId].filter((c) => c !== null),
  );
  const marketplace =
    own.marketplaceCardId === null
      ? null
      : ((cards[own.marketplaceCardId] as MarketplaceCard | undefined) ?? null);
  return screenSettings.parse({
    format: 'bold-margin/screen',
    version: 1,
    country: own.country,
    currency: marketplace?.currency ?? own.assumptions.purchase.currency,
    packs: own.packs,
    taxClass: own.taxClass,
    rates: {
      marketplace,
      tax: own.taxCardId === null ? null : ((cards[own.taxCardId] as TaxCard | undefined) ?? null),
      exchange:
        own.exchangeCardId === null
          ? null
          : ((cards[own.exchangeCardId] as ExchangeTable | undefined) ?? null),
    },
    assumptions: {
      ...own.assumptions,
      homeCurrency: settings.homeCurrency,
      date: today(),
      standing: settings.standings[own.country] ?? null,
    },
  });
}

/** How this list, or the one looked at last, was looked at. */
export async function lookOf(workspaceId: string, list: ListRecord): Promise<ListLook> {
  if (list.look !== null) return list.look;
  const [last] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ look: supplierList.look })
      .from(supplierList)
      .where(and(eq(supplierList.workspaceId, workspaceId), isNotNull(supplierList.look)))
      .orderBy(desc(supplierList.updatedAt))
      .limit(1),
  );
  // The columns are those looked at last; what is shown of a new list is the ready-made short list.
  return last?.look == null ? DEFAULT_LOOK : { columns: last.look.columns, query: DEFAULT_LOOK.query };
}

// ---- work
// ----------------------------------------------------------------------------------------------------------

/** Checks the rows of a list, or reads it for good. Work on it that is under way is stopped first. */
export async function startList(
  workspaceId: string,
  id: string,
  kind: 'checkList' | 'readList',
  by: string,
): Promise<string> {
  const list = await needList(workspaceId, id);
  if (list.map === null || list.settings === null) throw refused('columnsNotChosen');
  const taskId = await inWorkspace(workspaceId, async (tx) => {
    // Of several who start it at once each stops the work of the one before.
    await tx
      .select({ id: supplierList.id })
      .from(supplierList)
      .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, id)))
      .for('update');
    const under = await workIn(tx, workspaceId, id);
    await cancelTasks(
      tx,
      workspaceId,
      under.map((w) => w.id),
    );
    return storeTask(tx, workspaceId, kind, { listId: id }, 0, by);
  });
  await wake(kind, workspaceId, taskId);
  return taskId;
}

/** Path of the file of refused rows of the newest check or run that has one; null where no row was refused. */
export async function refusedFileOf(workspaceId: string, page: ListPage): Promise<string | null> {
  const from = page.work.find(
    (w) => (w.data.refusedBytes ?? 0) > 0 && (w.id === page.shown?.id || w.kind === 'checkList'),
  );
  if (from === undefined) return null;
  const path = storePath(workspaceId, page.list.id, from.id, 'refused.csv');
  return (await stat(path).catch(() => null)) === null ? null : path;
}

/** Rows of the last edition whose goods this one no longer has, piece by piece. */
export async function* goneGoods(
  workspaceId: string,
  page: ListPage,
): AsyncGenerator<(string | number | null)[][]> {
  const { shown, list } = page;
  if (shown === null || list.previousId === null) return;
  const previous = list.previousId;
  let after = 0;
  for (;;) {
    const rows = await inWorkspace(workspaceId, async (tx) => {
      const [before] = await tx
        .select({ runId: supplierList.runId })
        .from(supplierList)
        .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, previous)));
      if (before?.runId == null) return [];
      const here = tx
        .select({ one: sql`1` })
        .from(sql`${listRow} as here`)
        .where(
          sql`here.workspace_id = ${workspaceId} and here.run_id = ${shown.id} and here.key = ${listRow.key}`,
        );
      return tx
        .select({
          line: listRow.line,
          code: listRow.code,
          title: listRow.title,
          brand: listRow.brand,
          cost: listRow.cost,
        })
        .from(listRow)
        .where(
          and(
            eq(listRow.workspaceId, workspaceId),
            eq(listRow.runId, before.runId),
            gt(listRow.line, after),
            notExists(here),
          ),
        )
        .orderBy(listRow.line)
        .limit(5000);
    });
    yield rows.map((r) => [r.line, r.code, r.title, r.brand, r.cost]);
    const last = rows[rows.length - 1];
    if (last === undefined || rows.length < 5000) return;
    after = last.line;
  }
}
