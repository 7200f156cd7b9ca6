/**
 * Stores a part that was read: its columns in the file store, its rows in the database, with how far the task
 * is; all or nothing.
 */
import { createWriteStream } from 'node:fs';
import { finished } from 'node:stream/promises';
import { copyRows } from '../db/copyRows.ts';
import { storePart } from '../db/loader.ts';
import { foldOf, writePart } from '../../between/parts.ts';
import type { Part } from '../../between/parts.ts';
import { needRoom } from '../files/store.ts';
import type { TextColumn } from '../../core/columns/rank.ts';

/** What must be free on the disk before a part is begun. */
export const ROOM = 64 * 1024 * 1024;

/** Rows as they were read; `more`: what else each says, as JSON. */
export type Gathered = Pick<Part, 'rows' | 'numbers' | 'words'> & {
  readonly texts: { readonly title: TextColumn };
  readonly more: TextColumn | null;
};
export type PartJob = {
  /** Parts that are read one after the other, by one worker, share this. */
  readonly reading: string;
  readonly workspaceId: string;
  readonly taskId: string;
  /** Null where only the task moves. */
  readonly gathered: Gathered | null;
  readonly path: string;
  /** Rows that were refused, to be added to a file. */
  readonly refused: { readonly path: string; readonly text: string } | null;
  /** Parts of the task that must have been stored before, and what it comes to with this one. */
  readonly steps: number;
  readonly task: unknown;
  readonly done: number;
  readonly total: number;
};
/** An error that has crossed from one thread to another keeps its code this way. */
export type PartDone =
  | { readonly stored: boolean }
  | { readonly failed: string; readonly code: string | undefined };

/**
 * False where the task goes on elsewhere, was cancelled, or is gone. Files are written at once; what counts
 * follows `before`, the part that was read before, so that parts are stored in their order.
 */
export async function storeGathered(
  { workspaceId, taskId, gathered, path, refused, steps, task, done, total }: PartJob,
  before: Promise<boolean>,
): Promise<boolean> {
  await needRoom(ROOM);
  if (gathered !== null)
    await writePart(path, { ...gathered, texts: { title: gathered.texts.title, fold: foldOf(gathered) } });
  const rows = gathered === null ? null : copyRows(gathered, gathered.more);
  if (!(await before)) return false;
  if (refused !== null) {
    const out = createWriteStream(refused.path, { flags: 'a' });
    out.end(refused.text);
    await finished(out);
  }
  return storePart(workspaceId, taskId, rows, steps, task, done, total);
}
