/** What the reading of a list goes by: its task, its source, where its file lies. */
import { createHash } from 'node:crypto';
import { stat } from 'node:fs/promises';
import type { CataloguePlace } from '../../core/shops/place.ts';
import type { ListMap } from '../../core/lists/map.ts';
import type { StoredReference } from '../db/schema.ts';
import type { Position } from '../files/lists.ts';
import { needRoom, storePath } from '../files/store.ts';
import { sheetAsCsv } from '../files/readApart.ts';
import { ROOM } from './storeGathered.ts';

/** How far a shop's catalogue has been taken into the files of a list. */
export type CatalogueWork = CataloguePlace & {
  /** Listings found for goods; searches for those without a barcode: made, and to be made (null: not counted). */
  readonly listings: number;
  readonly searches: number;
  readonly toSearch: number | null;
  /** Since when the shop has not answered; null: it does. */
  readonly awaySince: string | null;
  /** Bytes of the files that count. */
  readonly sourceBytes: number;
  readonly referenceBytes: number;
};

/** Rows whose titles are ranked faster than a thread starts. */
export const RANKED_HERE = 60_000;

/** Parts that may wait to be stored. */
export const MOST_WAITING = 3;

/** What a task on a list keeps: where it stands, what it has found. */
export type ListTask = {
  listId: string;
  /** Rises with every part stored; a part is stored only where it fits on. */
  steps?: number;
  at?: Position | null;
  /** Parts in the file store, in the order of the rows. */
  parts?: { name: string; rows: number }[];
  valid?: number;
  invalid?: number;
  repaired?: number;
  completed?: number;
  /** Rows with letters that the file's encoding does not have. */
  garbled?: number;
  troubles?: Record<string, number>;
  changes?: Record<string, number>;
  /** Goods of the last edition that this one no longer has. */
  gone?: number;
  /** Bytes of the file of refused rows that count. */
  refusedBytes?: number;
  /** All rows are read; what is left is indexing. */
  read?: boolean;
  /** Titles are ranked. */
  ranked?: boolean;
  startedAt?: string;
  /** How far a shop's catalogue has been taken into the list's file. */
  catalogue?: CatalogueWork;
};

/** The CSV to read: the file as it came, or the chosen sheet of a workbook, written out once. */
export async function sourceOf(
  workspaceId: string,
  listId: string,
  name: 'source' | 'reference',
  kind: 'csv' | 'xlsx',
  sheet: string | null,
): Promise<string> {
  const path = storePath(workspaceId, listId, name);
  if (kind === 'csv') return path;
  const csv = storePath(
    workspaceId,
    listId,
    `${name}-${createHash('sha256')
      .update(sheet ?? '')
      .digest('hex')
      .slice(0, 16)}.csv`,
  );
  if ((await stat(csv).catch(() => null)) === null) {
    await needRoom(ROOM);
    await sheetAsCsv(path, sheet, csv);
  }
  return csv;
}

export const refusedPath = (workspaceId: string, listId: string, taskId: string): string =>
  storePath(workspaceId, listId, taskId, 'refused.csv');

export type Source = {
  readonly map: ListMap;
  readonly storing: boolean;
  readonly reference: StoredReference | null;
  readonly previous: { listId: string; runId: string; parts: { name: string }[] } | null;
  readonly path: string;
  /** Barcodes of goods that were matched, by what they are known by. */
  readonly matched: ReadonlyMap<string, number>;
  readonly listId: string;
  /** Whether more will be written to the file, and to that of its market figures. */
  readonly grows: boolean;
};

/** Half of a pair of characters, cut off, is no text that a database takes. */
export const wellFormed = (text: string): string => text.replace(/[\ud800-\udbff]$/, '');

/** A text as it is kept. */
export const cut = (text: string): string => (text.length > 2000 ? text.slice(0, 2000) : text);

/** How far a reading is, every count of it there. */
export type Tally = Required<Omit<ListTask, 'gone' | 'read' | 'ranked' | 'catalogue'>> &
  Pick<ListTask, 'gone' | 'read' | 'ranked' | 'catalogue'>;

/** What a task has come to before, or the beginning. */
export const tallyOf = (before: ListTask): Tally => ({
  steps: 0,
  at: null,
  parts: [],
  valid: 0,
  invalid: 0,
  repaired: 0,
  completed: 0,
  garbled: 0,
  troubles: {},
  changes: {},
  refusedBytes: 0,
  startedAt: new Date().toISOString(),
  ...before,
});
