/** Rows of a list that have no proven barcode, matched to the listings of its market figures. */
import { createReadStream } from 'node:fs';
import { rename, writeFile } from 'node:fs/promises';
import { and, eq, inArray } from 'drizzle-orm';
import Papa from 'papaparse';
import type { ListingSeen, MatchedRow } from '../../between/matching.ts';
import { makeColumns } from '../../core/columns/columns.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { readGtin } from '../../core/goods/gtin.ts';
import type { ListMap } from '../../core/lists/map.ts';
import { RowReader } from '../../core/lists/rows.ts';
import type { Goods, Listing } from '../../core/match/match.ts';
import { goodsSaid } from '../../core/match/remembered.ts';
import { LISTING_CODE, SHOP_CODE } from '../../core/shops/catalogue.ts';
import { inWorkspace } from '../db/client.ts';
import { supplierList, task } from '../db/schema.ts';
import type { StoredReference } from '../db/schema.ts';
import { readList } from '../files/lists.ts';
import { unsafe } from '../files/sheets.ts';
import { storePath } from '../files/store.ts';
import { isUnderWay, loadTask } from '../use/tasks.ts';
import { settingsIn } from '../use/workspaces.ts';
import type { Asked, Piece } from './kinds.ts';
import { refusedPath, sourceOf } from './listTask.ts';
import { matchedGoods } from './matchingGoods.ts';
import type { Service } from './serve.ts';

/** Rows that are matched of one list. */
const MOST_ROWS = 100_000;

/** Where what was found lies. */
export const matchesPath = (workspaceId: string, listId: string): string =>
  storePath(workspaceId, listId, 'matches.jsonl');

type Listed = ListingSeen & { readonly pack: number };

/** The listings of market figures that have a proven barcode; `ours`: the file is one that we wrote of a feed. */
async function listingsOf(
  workspaceId: string,
  listId: string,
  stored: StoredReference,
  ours: boolean,
): Promise<Listed[]> {
  const out: Listed[] = [];
  let reader: RowReader | null = null;
  let columns = makeColumns(0);
  let codeAt = -1;
  const known = (x: number | undefined): number | null => (x === undefined || Number.isNaN(x) ? null : x);
  await readList(
    await sourceOf(workspaceId, listId, 'reference', stored.file.kind, stored.sheet),
    Object.values(stored.map.columns),
    ({ header }) => {
      codeAt = ours ? header.indexOf(LISTING_CODE) : -1;
      reader = new RowReader(stored.map, header, 'reference');
    },
    (batch, lines) => {
      if (batch.length > columns.length) columns = makeColumns(batch.length);
      const r = reader as unknown as RowReader;
      for (const [i, cells] of batch.entries()) {
        const row = r.read(cells, lines[i] as number, columns, i, () => -1);
        if (row.troubles.length > 0) continue;
        out.push({
          key: row.key,
          code: (cells[codeAt] ?? '').slice(0, 64),
          title: r.text(cells, 'title').slice(0, 500),
          brand: r.text(cells, 'brand').slice(0, 200),
          price: known(columns.price[i]),
          units: known(columns.units[i]),
          pack: row.pack,
        });
      }
    },
  );
  return out;
}

type Unproven = Omit<MatchedRow, 'confidence' | 'reason' | 'alike' | 'packs' | 'listing' | 'others'> & {
  readonly pack: string;
};

/** Rows of a run that nothing but their barcode keeps out, as they stood. */
async function unprovenRows(path: string, map: ListMap, ours: boolean): Promise<Unproven[]> {
  const out: Unproven[] = [];
  const file = createReadStream(path, { encoding: 'utf8', start: 3 });
  const rows = file.pipe(Papa.parse(Papa.NODE_STREAM_INPUT, { delimiter: ',' }));
  let reader: RowReader | null = null;
  let codeAt = -1;
  try {
    for await (const row of rows as AsyncIterable<string[]>) {
      if (reader === null) {
        const header = row.slice(0, -2).map(unsafe);
        reader = new RowReader(map, header);
        codeAt = ours ? header.indexOf(SHOP_CODE) : -1;
        continue;
      }
      const troubles = JSON.parse(row.at(-1) ?? '[]') as Fault[];
      if (troubles.length !== 1 || !/^barcode/.test(troubles[0]?.code ?? '')) continue;
      const cells = row.slice(0, -2).map(unsafe);
      const [title, brand] = [reader.text(cells, 'title'), reader.text(cells, 'brand')];
      if (title === '' || out.length >= MOST_ROWS) continue;
      out.push({
        line: Number(row.at(-2)),
        said: goodsSaid(brand, title),
        brand: brand.slice(0, 200),
        title: title.slice(0, 500),
        cost: reader.text(cells, 'cost').slice(0, 40),
        barcode: reader.text(cells, 'identifier').slice(0, 40),
        shopCode: (cells[codeAt] ?? '').slice(0, 64),
        picture: reader.text(cells, 'picture').slice(0, 2000),
        pack: reader.text(cells, 'packSize').slice(0, 40),
      });
    }
  } finally {
    file.destroy();
  }
  return out;
}

const asListing = (l: Listed, i: number): Listing => ({
  key: l.key,
  code: String(i),
  model: '',
  brand: l.brand,
  title: l.title,
  pack: l.pack > 0 ? String(l.pack) : '',
  units: l.units,
});
function asGoods({ barcode, brand, title, pack }: Unproven): Goods {
  const read = readGtin(barcode);
  return { key: read.ok ? read.key : '', model: '', brand, title, pack };
}

/** Works on a list's matching. False: there is no more to do. */
export async function matchListed(piece: Piece): Promise<boolean> {
  const { workspaceId, taskId } = piece;
  const asked = await loadTask(workspaceId, taskId);
  if (asked === null || !isUnderWay(asked.state)) return false;
  const { listId } = asked.data as Asked<'matchList'>;
  const about = await inWorkspace(workspaceId, async (tx) => {
    const [list] = await tx
      .select()
      .from(supplierList)
      .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, listId)));
    return { list, settings: await settingsIn(tx, workspaceId) };
  });
  const { list, settings } = about;
  if (list?.map == null || list.runId === null || list.reference === null || settings === null)
    return end(piece, 'failed', 0, fault('matchNothing'));
  const listed = await listingsOf(workspaceId, listId, list.reference, list.catalogue !== null);
  const rows = await unprovenRows(
    refusedPath(workspaceId, listId, list.runId),
    list.map,
    list.catalogue !== null,
  ).catch((e: NodeJS.ErrnoException) => (e.code === 'ENOENT' ? [] : Promise.reject(e)));
  const known = { listings: listed.map(asListing), noise: settings.noiseWords };
  const seen = (i: number): ListingSeen | null => {
    const l = listed[i];
    if (l === undefined) return null;
    const { pack: _, ...shown } = l;
    return shown;
  };
  const found: MatchedRow[] = [];
  for await (const lot of matchedGoods(rows.map(asGoods), known)) {
    for (const { confidence, reason, alike, packs, listing, others } of lot) {
      const { pack: _, ...row } = rows[found.length] as Unproven;
      const more = others.flatMap((i) => seen(i) ?? []);
      found.push({ ...row, confidence, reason, alike, packs, listing: seen(listing), others: more });
    }
    // The worker stays alive, says how far it is, and hears that nobody wants it.
    if (!(await stillWanted(piece, found.length, rows.length))) return false;
  }
  const path = matchesPath(workspaceId, listId);
  const whole = found.map((r) => `${JSON.stringify(r)}\n`).join('');
  await writeFile(`${path}.${taskId}`, whole);
  await rename(`${path}.${taskId}`, path);
  return end(piece, 'done', rows.length, null);
}

/** Says how far it is. False: nobody wants it any more. */
async function stillWanted({ workspaceId, taskId }: Piece, done: number, total: number): Promise<boolean> {
  const [row] = await inWorkspace(workspaceId, (tx) =>
    tx
      .update(task)
      .set({ state: 'running', done, total, updatedAt: new Date() })
      .where(
        and(
          eq(task.workspaceId, workspaceId),
          eq(task.id, taskId),
          inArray(task.state, ['waiting', 'running']),
        ),
      )
      .returning({ id: task.id }),
  );
  return row !== undefined;
}

async function end(
  { workspaceId, taskId }: Piece,
  state: 'done' | 'failed',
  rows: number,
  error: Fault | null,
): Promise<false> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .update(task)
      .set({ state, error, done: rows, total: rows, updatedAt: new Date() })
      .where(
        and(
          eq(task.workspaceId, workspaceId),
          eq(task.id, taskId),
          inArray(task.state, ['waiting', 'running']),
        ),
      ),
  );
  return false;
}

/** Work on matching. */
export const matchesWork: Service = { queue: 'matches', work: matchListed };
