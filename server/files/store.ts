/** The file store: one configured folder; a folder for each workspace, in it one for each list. */
import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, open, readdir, rename, rm, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { env } from '../env.ts';
import { fault } from '../../core/fault.ts';
import { Refusal, refused } from '../refusal.ts';

/** Largest file that is taken in, in bytes. */
export const LARGEST_FILE = 500 * 1024 * 1024;
const NAME = /^[\w-]{1,100}(\.[\w-]{1,40})*$/;

/** Path of a file of a list. Names come from us, but are held to letters, digits and hyphens all the same. */
export function storePath(workspaceId: string, listId: string, ...names: readonly string[]): string {
  for (const n of [workspaceId, listId, ...names])
    if (!NAME.test(n)) throw new Error('A name in the file store has a character it may not have');
  return join(env().BM_FILES_DIR, workspaceId, listId, ...names);
}

/** A full disk, known by the code that file systems give it. */
export const diskFull = (): Refusal =>
  Object.assign(new Refusal('noRoom', fault('diskFull')), { code: 'ENOSPC' });
export const isDiskFull = (e: unknown): boolean =>
  ['ENOSPC', 'EDQUOT', '53100'].includes((e as { code?: string }).code ?? '');

export type Received = { readonly bytes: number; readonly sha256: string };
/**
 * Takes a stream into a file: whole or not at all. What breaks off, is longer than `most` or finds no room
 * leaves nothing behind.
 */
export async function receiveFile(from: Readable, path: string, most = LARGEST_FILE): Promise<Received> {
  const folder = join(path, '..');
  await mkdir(folder, { recursive: true });
  const part = `${path}.part`;
  const hash = createHash('sha256');
  let bytes = 0;
  const measure = new Transform({
    transform(piece: Buffer, _encoding, done) {
      bytes += piece.length;
      if (bytes > most)
        return done(
          new Refusal('tooLarge', fault('fileTooLarge', { megabytes: Math.round(most / 1024 / 1024) })),
        );
      hash.update(piece);
      done(null, piece);
    },
  });
  try {
    await pipeline(from, measure, createWriteStream(part, { flags: 'wx' }));
    if (bytes === 0) throw refused('fileEmpty');
    await rename(part, path);
    return { bytes, sha256: hash.digest('hex') };
  } catch (e) {
    await rm(part, { force: true });
    await removeIfEmpty(folder);
    throw isDiskFull(e) ? diskFull() : e;
  }
}

async function removeIfEmpty(folder: string): Promise<void> {
  if ((await readdir(folder).catch(() => ['?'])).length === 0)
    await rm(folder, { recursive: true, force: true });
}

/** Whether a file begins like a workbook (a ZIP archive). */
export async function isWorkbook(path: string): Promise<boolean> {
  const file = await open(path);
  const head = Buffer.alloc(4);
  await file.read(head, 0, 4, 0).finally(() => file.close());
  return head[0] === 0x50 && head[1] === 0x4b && head[2] === 3 && head[3] === 4;
}

/** Refuses to begin where the disk has less than so many bytes free. */
export async function needRoom(bytes: number): Promise<void> {
  await mkdir(env().BM_FILES_DIR, { recursive: true });
  const fs = await statfs(env().BM_FILES_DIR);
  if (fs.bavail * fs.bsize < bytes) throw diskFull();
}

export const removeFolder = (
  workspaceId: string,
  listId: string,
  ...names: readonly string[]
): Promise<void> => rm(storePath(workspaceId, listId, ...names), { recursive: true, force: true });
