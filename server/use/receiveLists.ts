/** Files of lists as they come in: stored whole or not at all, their heads read. */
import { rm, writeFile, readFile } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { guessMap, headerAmong, mapIssues } from '../../core/lists/map.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { goodsMark, supplierList } from '../db/schema.ts';
import type { StoredFile } from '../db/schema.ts';
import { firstRows } from '../files/lists.ts';
import { isWorkbook, LARGEST_FILE, receiveFile, removeFolder, storePath } from '../files/store.ts';
import { headsOfWorkbook } from '../files/readApart.ts';
import { needRoomForList } from './quotas.ts';
import { newId } from './workspaces.ts';
import { HEAD_ROWS, needList } from './lists.ts';
import type { Sheet } from '../../core/lists/setup.ts';
import { refused } from '../refusal.ts';

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
export async function takeIn(
  workspaceId: string,
  listId: string,
  which: 'source' | 'reference',
  name: string,
  from: Readable,
  most = LARGEST_FILE,
): Promise<{ file: StoredFile; sheets: Sheet[] }> {
  const path = storePath(workspaceId, listId, which);
  await rm(path, { force: true });
  const got = await receiveFile(from, path, most);
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
export function widest(sheets: readonly Sheet[]): Sheet | undefined {
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
  if (issue !== undefined) throw refused('referenceNoBarcode');
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
export async function forgetListings(tx: Tx, workspaceId: string, listId: string): Promise<void> {
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
