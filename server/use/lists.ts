/** Suppliers' lists: taken in, mapped, checked, run, looked at. */
import { rm, stat, writeFile, readFile } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { and, desc, eq, gt, inArray, isNotNull, isNull, lt, notExists, sql } from 'drizzle-orm';
import { z } from 'zod';
import type { MarketplaceCard, TaxCard } from '../../core/lane/rates.ts';
import { guessMap, headerAmong, listMap, mapIssues } from '../../core/lists/map.ts';
import type { ListMap } from '../../core/lists/map.ts';
import { DEFAULT_LOOK } from '../../core/lists/query.ts';
import type { ListLook } from '../../core/lists/query.ts';
import { CHOICES } from '../../core/lists/reference.ts';
import { listSettings, screenSettings } from '../../core/lists/settings.ts';
import type { ListSettings, ScreenSettings } from '../../core/lists/settings.ts';
import type { ExchangeTable } from '../../core/money/money.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { goodsMark, listRow, listView, supplier, supplierList, task } from '../db/schema.ts';
import type { StoredFile } from '../db/schema.ts';
import { dropRun } from '../db/loader.ts';
import { today } from '../env.ts';
import { firstRows } from '../files/lists.ts';
import { FileRefused, isWorkbook, LARGEST_FILE, receiveFile, removeFolder, storePath } from '../files/store.ts';
import { headsOfWorkbook } from '../files/readApart.ts';
import type { ListTask } from '../jobs/readList.ts';
import { cardData } from './columns.ts';
import { needOwn } from './own.ts';
import { needRoomForList } from './quotas.ts';
import { cancelTask, startTask, taskColumns } from './tasks.ts';
import type { TaskHead } from './tasks.ts';
import { cardsInForce, newId, settingsIn } from './workspaces.ts';

export type ListRecord = typeof supplierList.$inferSelect;

/** Rows of a file that are shown before it is mapped. */
const HEAD_ROWS = 40;

// ---- bringing a file in --------------------------------------------------------------------------------------------

export type Sheet = { readonly name: string; readonly rows: readonly (readonly string[])[] };

async function readHeads(
  workspaceId: string,
  listId: string,
  which: 'source' | 'reference',
  kind: StoredFile['kind'],
): Promise<Sheet[]> {
  const path = storePath(workspaceId, listId, which);
  if (kind === 'csv') return [{ name: '', rows: await firstRows(path, HEAD_ROWS) }];
  return headsOfWorkbook(path, HEAD_ROWS);
}

/** Takes a file into the store and reads its first rows; a file that cannot be a list leaves nothing behind. */
async function takeIn(
  workspaceId: string,
  listId: string,
  which: 'source' | 'reference',
  name: string,
  from: Readable,
): Promise<{ file: StoredFile; sheets: Sheet[] }> {
  const path = storePath(workspaceId, listId, which);
  await rm(path, { force: true });
  const got = await receiveFile(from, path, LARGEST_FILE);
  try {
    const kind = (await isWorkbook(path)) ? 'xlsx' : 'csv';
    const sheets = await readHeads(workspaceId, listId, which, kind);
    await writeFile(storePath(workspaceId, listId, `${which}-heads.json`), JSON.stringify(sheets));
    return { file: { name: name.slice(0, 200), kind, ...got }, sheets };
  } catch (e) {
    await rm(path, { force: true });
    throw e;
  }
}

/** A new list from a stream of bytes. Returns its id, and the name of an earlier list of the very same file. */
export async function receiveList(
  workspaceId: string,
  name: string,
  from: Readable,
  by: string,
): Promise<{ id: string; sameAs: string | null }> {
  await needRoomForList(workspaceId);
  const id = newId();
  try {
    const { file, sheets } = await takeIn(workspaceId, id, 'source', name, from);
    return await inWorkspace(workspaceId, async (tx) => {
      const [same] = await tx
        .select({ name: supplierList.name })
        .from(supplierList)
        .where(
          and(
            eq(supplierList.workspaceId, workspaceId),
            isNull(supplierList.deletedAt),
            sql`${supplierList.file} ->> 'sha256' = ${file.sha256}`,
          ),
        )
        .limit(1);
      const sheet = file.kind === 'xlsx' ? (widest(sheets)?.name ?? null) : null;
      await tx
        .insert(supplierList)
        .values({
          workspaceId,
          id,
          name: name.replace(/\.(csv|xlsx|txt|tsv)$/i, '').slice(0, 200) || 'List',
          file,
          sheet,
          createdBy: by,
        });
      return { id, sameAs: same?.name ?? null };
    });
  } catch (e) {
    await removeFolder(workspaceId, id);
    throw e;
  }
}

/** The sheet that looks most like a list: the one with the most filled cells among its first rows. */
function widest(sheets: readonly Sheet[]): Sheet | undefined {
  const filled = (s: Sheet): number => s.rows.reduce((n, r) => n + r.filter((c) => c !== '').length, 0);
  return [...sheets].sort((a, b) => filled(b) - filled(a))[0];
}

/** Market figures of one's own beside a list. */
export async function receiveReference(
  workspaceId: string,
  listId: string,
  name: string,
  from: Readable,
): Promise<void> {
  const list = await needList(workspaceId, listId);
  const { file, sheets } = await takeIn(workspaceId, list.id, 'reference', name, from);
  const sheet = file.kind === 'xlsx' ? (widest(sheets)?.name ?? null) : null;
  const rows = (sheets.find((s) => s.name === (sheet ?? '')) ?? sheets[0])?.rows ?? [];
  const at = headerAmong(rows);
  const map = guessMap(
    (rows[at] ?? []).map((c) => c.trim()),
    rows.slice(at + 1),
  );
  const [issue] = mapIssues(
    map,
    (rows[at] ?? []).map((c) => c.trim()),
    ['identifier'],
  );
  if (issue !== undefined)
    throw new FileRefused(
      'The market figures have no column of barcodes',
      'Name that column "Barcode" or "EAN", and send the file again.',
    );
  await inWorkspace(workspaceId, async (tx) => {
    await tx
      .update(supplierList)
      .set({ reference: { file, sheet, map, choice: 'sellsFastest' }, updatedAt: new Date() })
      .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, listId)));
    // What was chosen by hand was a row of the file before.
    await forgetListings(tx, workspaceId, listId);
  });
}

/** Listings of a list's market figures that were chosen by hand go back to its rule. */
async function forgetListings(tx: Tx, workspaceId: string, listId: string): Promise<void> {
  await tx
    .update(goodsMark)
    .set({ listings: sql`${goodsMark.listings} - ${listId}::text`, at: new Date() })
    .where(and(eq(goodsMark.workspaceId, workspaceId), sql`${goodsMark.listings} ? ${listId}`));
}

/** First rows of the file of a list, sheet by sheet. */
export async function headsOf(
  workspaceId: string,
  listId: string,
  which: 'source' | 'reference' = 'source',
): Promise<Sheet[]> {
  return JSON.parse(await readFile(storePath(workspaceId, listId, `${which}-heads.json`), 'utf8')) as Sheet[];
}

// ---- reading what there is -----------------------------------------------------------------------------------------

async function needList(workspaceId: string, id: string): Promise<ListRecord> {
  const list = await inWorkspace(workspaceId, (tx) => listIn(tx, workspaceId, id));
  if (list === null) throw new Response('gone', { status: 404 });
  return list;
}
async function listIn(tx: Tx, workspaceId: string, id: string): Promise<ListRecord | null> {
  const [list] = await tx
    .select()
    .from(supplierList)
    .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, id), isNull(supplierList.deletedAt)));
  return list ?? null;
}

export type Work = Omit<TaskHead, 'data'> & { data: ListTask; updatedAt: Date };
async function workIn(tx: Tx, workspaceId: string, listId: string | null): Promise<Work[]> {
  const rows = await tx
    .select({ ...taskColumns, updatedAt: task.updatedAt })
    .from(task)
    .where(
      and(
        eq(task.workspaceId, workspaceId),
        inArray(task.kind, ['checkList', 'readList']),
        listId === null ? undefined : sql`${task.data} ->> 'listId' = ${listId}`,
      ),
    )
    .orderBy(desc(task.createdAt))
    .limit(listId === null ? 500 : 6);
  return rows as Work[];
}

/**
 * The run whose rows are shown: the list's own, or while its first run is under way (or was cancelled, or failed half
 * way) that.
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
  country: string | null;
  createdAt: Date;
  state: 'new' | 'working' | 'ready' | 'cancelled' | 'failed';
  done: number;
  total: number;
  valid: number;
  invalid: number;
  error: string | null;
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
            : newest.state === 'done' || (newest.state === 'cancelled' && l.runId !== null && l.runId !== newest.id)
              ? 'ready'
              : newest.state;
      return {
        id: l.id,
        name: l.name,
        supplier: l.supplierId === null ? null : (suppliers.get(l.supplierId) ?? null),
        file: l.file,
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
 * A list with its work, and what it is screened with: its own settings, or others tried on it. Null where it is not
 * there.
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
 * The one document a list is screened with: its cards, its assumptions, home currency, day and VAT standing of the
 * workspace.
 */
async function screenIn(tx: Tx, workspaceId: string, own: ListSettings, settings: Settings): Promise<ScreenSettings> {
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
    own.marketplaceCardId === null ? null : ((cards[own.marketplaceCardId] as MarketplaceCard | undefined) ?? null);
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
      exchange: own.exchangeCardId === null ? null : ((cards[own.exchangeCardId] as ExchangeTable | undefined) ?? null),
    },
    assumptions: {
      ...own.assumptions,
      homeCurrency: settings.homeCurrency,
      date: today(),
      standing: settings.standings[own.country] ?? null,
    },
  });
}

// ---- mapping and settings ------------------------------------------------------------------------------------------

/** What a new list starts with: the marketplace at home, the workspace's defaults and its hurdles for wholesale. */
export async function startingSettings(tx: Tx, workspaceId: string, settings: Settings): Promise<ListSettings> {
  const cards = await cardsInForce(tx, workspaceId, today());
  const market =
    cards.find((c) => c.kind === 'marketplace' && c.key.endsWith(`/${settings.homeCountry}`)) ??
    cards.find((c) => c.kind === 'marketplace');
  const card = (market?.data as MarketplaceCard | undefined) ?? null;
  const country = card?.country ?? settings.homeCountry;
  const d = settings.defaults;
  return listSettings.parse({
    country,
    marketplaceCardId: market?.id ?? null,
    taxCardId: cards.find((c) => c.kind === 'tax' && c.key === country)?.id ?? null,
    exchangeCardId: cards.find((c) => c.kind === 'exchange')?.id ?? null,
    taxClass: 'standard',
    assumptions: {
      method: card !== null && card.warehouse === null ? 'ownDispatch' : 'warehouse',
      purchase: { currency: settings.homeCurrency },
      orderQuantity: 10,
      inbound: { perUnit: d.inboundPerUnit ?? 0, perKg: 0 },
      prep: d.prep,
      returns:
        d.returnRate === null
          ? null
          : d.returnRate === 0
            ? 'none'
            : {
                rate: d.returnRate,
                resaleShare: d.resaleShare,
                handling: { amount: d.returnHandling, currency: settings.homeCurrency },
              },
      advertPerSale: 0,
      unitsShare: 1,
      conversionSpread: d.conversionSpread,
      hurdles: settings.hurdles.wholesale ?? [],
    },
  });
}

export type SetupPage = ListPage & {
  sheets: Sheet[];
  map: ListMap;
  own: ListSettings;
  suppliers: { id: string; name: string; currency: string | null; map: ListMap | null }[];
  markets: {
    id: string;
    key: string;
    name: string;
    country: string;
    currency: string;
    hasWarehouse: boolean;
    categories: { key: string; name: string }[];
  }[];
  earlier: { id: string; name: string }[];
  referenceSheets: Sheet[] | null;
};

/** All that choosing columns and assumptions takes; guesses where nothing has been chosen yet. */
export async function loadSetup(workspaceId: string, id: string, sheet: string | null): Promise<SetupPage | null> {
  const page = await loadList(workspaceId, id);
  if (page === null) return null;
  const sheets = await headsOf(workspaceId, id);
  const referenceSheets =
    page.list.reference === null ? null : await headsOf(workspaceId, id, 'reference').catch(() => null);
  return inWorkspace(workspaceId, async (tx) => {
    const suppliers = await tx
      .select({ id: supplier.id, name: supplier.name, currency: supplier.currency, map: supplier.listMap })
      .from(supplier)
      .where(eq(supplier.workspaceId, workspaceId))
      .orderBy(supplier.name);
    const cards = (await cardsInForce(tx, workspaceId, today())).filter((c) => c.kind === 'marketplace');
    const earlier = await tx
      .select({ id: supplierList.id, name: supplierList.name })
      .from(supplierList)
      .where(
        and(
          eq(supplierList.workspaceId, workspaceId),
          isNull(supplierList.deletedAt),
          isNotNull(supplierList.runId),
          lt(supplierList.createdAt, page.list.createdAt),
        ),
      )
      .orderBy(desc(supplierList.createdAt))
      .limit(100);
    const chosen = sheet ?? page.list.sheet;
    const rows = (sheets.find((s) => s.name === (chosen ?? '')) ?? sheets[0])?.rows ?? [];
    const header = (rows[headerAmong(rows)] ?? []).map((c) => c.trim());
    const remembered = suppliers.find((s) => s.id === page.list.supplierId)?.map ?? null;
    const fits = (m: ListMap | null): m is ListMap => m !== null && mapIssues(m, header).length === 0;
    const map = fits(page.list.map)
      ? page.list.map
      : fits(remembered)
        ? remembered
        : guessMap(header, rows.slice(headerAmong(rows) + 1));
    return {
      ...page,
      sheets,
      referenceSheets,
      map,
      own: page.list.settings ?? (await startingSettings(tx, workspaceId, page.settings)),
      suppliers,
      earlier,
      markets: cards.map((c) => {
        const m = c.data as MarketplaceCard;
        return {
          id: c.id,
          key: c.key,
          name: c.name,
          country: m.country,
          currency: m.currency,
          hasWarehouse: m.warehouse !== null,
          categories: m.categories.map(({ key, name }) => ({ key, name })),
        };
      }),
    };
  });
}

export const listSetup = z.strictObject({
  name: z.string().trim().min(1).max(200),
  supplier: z.string().trim().max(200),
  sheet: z.string().max(200).nullable(),
  map: listMap,
  settings: listSettings,
  previousId: z.string().max(100).nullable(),
  reference: z
    .strictObject({ map: listMap, sheet: z.string().max(200).nullable(), choice: z.enum(CHOICES) })
    .nullable(),
});
export type ListSetup = z.output<typeof listSetup>;

/** Stores how a list is read and weighed; the supplier keeps the mapping for the next one. */
export async function saveSetup(workspaceId: string, id: string, setup: ListSetup): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const list = await listIn(tx, workspaceId, id);
    if (list === null) throw new Response('gone', { status: 404 });
    await needOwn(tx, workspaceId, { card: [setup.settings.marketplaceCardId], list: [setup.previousId] });
    let supplierId: string | null = null;
    if (setup.supplier !== '') {
      const [known] = await tx
        .select({ id: supplier.id })
        .from(supplier)
        .where(and(eq(supplier.workspaceId, workspaceId), sql`lower(${supplier.name}) = lower(${setup.supplier})`));
      supplierId = known?.id ?? newId();
      if (known === undefined)
        await tx
          .insert(supplier)
          .values({
            workspaceId,
            id: supplierId,
            name: setup.supplier,
            currency: setup.settings.assumptions.purchase.currency,
          });
      await tx
        .update(supplier)
        .set({ listMap: setup.map })
        .where(and(eq(supplier.workspaceId, workspaceId), eq(supplier.id, supplierId)));
    }
    const cards = await cardsInForce(tx, workspaceId, today());
    const settings = {
      ...setup.settings,
      taxCardId: cards.find((c) => c.kind === 'tax' && c.key === setup.settings.country)?.id ?? null,
      exchangeCardId: cards.find((c) => c.kind === 'exchange')?.id ?? null,
    };
    const reference =
      list.reference === null || setup.reference === null ? null : { ...list.reference, ...setup.reference };
    // What was chosen by hand is a row of the sheet before.
    if (reference !== null && reference.sheet !== list.reference?.sheet) await forgetListings(tx, workspaceId, id);
    await tx
      .update(supplierList)
      .set({
        name: setup.name,
        supplierId,
        sheet: setup.sheet,
        map: setup.map,
        settings,
        previousId: setup.previousId === id ? null : setup.previousId,
        reference,
        updatedAt: new Date(),
      })
      .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, id)));
  });
}

/** Assumptions changed beside the grid. */
export async function saveListSettings(workspaceId: string, id: string, settings: ListSettings): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    await needOwn(tx, workspaceId, { card: [settings.marketplaceCardId, settings.taxCardId, settings.exchangeCardId] });
    await tx
      .update(supplierList)
      .set({ settings, updatedAt: new Date() })
      .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, id)));
  });
}

export async function saveLook(workspaceId: string, id: string, look: ListLook): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .update(supplierList)
      .set({ look })
      .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, id))),
  );
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

// ---- work ----------------------------------------------------------------------------------------------------------

/** Checks the rows of a list, or reads it for good. Work on it that is under way is stopped first. */
export async function startList(
  workspaceId: string,
  id: string,
  kind: 'checkList' | 'readList',
  by: string,
): Promise<string> {
  const list = await needList(workspaceId, id);
  if (list.map === null || list.settings === null)
    throw new FileRefused('The columns of this list have not been chosen', 'Choose them first.');
  const under = await inWorkspace(workspaceId, (tx) => workIn(tx, workspaceId, id));
  for (const w of under) if (w.state === 'waiting' || w.state === 'running') await cancelTask(workspaceId, w.id);
  return startTask(workspaceId, kind, { listId: id } satisfies ListTask, 0, by);
}

/** Deletes a list, or takes that back. Its files and rows stay until it is cleared away for good. */
export async function setListDeleted(workspaceId: string, id: string, deleted: boolean): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .update(supplierList)
      .set({ deletedAt: deleted ? new Date() : null })
      .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, id))),
  );
}

/** Days for which a deleted list can be brought back; after that its file leaves the disk. */
const KEPT_DAYS = 30;

/** Clears away for good what was deleted longer ago: files, rows, record. Returns how many lists. */
export async function clearDeletedLists(workspaceId: string, days = KEPT_DAYS): Promise<number> {
  const gone = await inWorkspace(workspaceId, (tx) =>
    tx
      .select()
      .from(supplierList)
      .where(
        and(
          eq(supplierList.workspaceId, workspaceId),
          lt(supplierList.deletedAt, new Date(Date.now() - days * 86_400_000)),
        ),
      ),
  );
  for (const l of gone) {
    const work = await inWorkspace(workspaceId, (tx) => workIn(tx, workspaceId, l.id));
    for (const w of work) if (w.kind === 'readList') await dropRun(workspaceId, w.id);
    await removeFolder(workspaceId, l.id);
    await inWorkspace(workspaceId, (tx) =>
      tx.delete(supplierList).where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, l.id))),
    );
  }
  return gone.length;
}

/** Path and name of the file of refused rows of the newest check or run that has one; null where no row was refused. */
export async function refusedFileOf(
  workspaceId: string,
  page: ListPage,
): Promise<{ path: string; name: string } | null> {
  const from = page.work.find(
    (w) => (w.data.refusedBytes ?? 0) > 0 && (w.id === page.shown?.id || w.kind === 'checkList'),
  );
  if (from === undefined) return null;
  const path = storePath(workspaceId, page.list.id, from.id, 'refused.csv');
  return (await stat(path).catch(() => null)) === null ? null : { path, name: `${page.list.name} to mend.csv` };
}

// ---- views ---------------------------------------------------------------------------------------------------------

export async function loadViews(workspaceId: string): Promise<(typeof listView.$inferSelect)[]> {
  return inWorkspace(workspaceId, (tx) =>
    tx.select().from(listView).where(eq(listView.workspaceId, workspaceId)).orderBy(listView.name),
  );
}

/** Keeps a look under a name; the same name again replaces it. */
export async function saveView(
  workspaceId: string,
  name: string,
  look: ListLook,
  assumptions: ListSettings['assumptions'] | null,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    await tx
      .delete(listView)
      .where(and(eq(listView.workspaceId, workspaceId), sql`lower(${listView.name}) = lower(${name})`));
    await tx.insert(listView).values({ workspaceId, id: newId(), name, look, assumptions });
  });
}

export async function removeView(workspaceId: string, id: string): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx.delete(listView).where(and(eq(listView.workspaceId, workspaceId), eq(listView.id, id))),
  );
}

/** Rows of the last edition whose goods this one no longer has, piece by piece. */
export async function* goneGoods(workspaceId: string, page: ListPage): AsyncGenerator<(string | number | null)[][]> {
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
        .where(sql`here.workspace_id = ${workspaceId} and here.run_id = ${shown.id} and here.key = ${listRow.key}`);
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
