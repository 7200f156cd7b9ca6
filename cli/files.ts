/** Files at a prompt: read whole, or say in a sentence why not. */
import { readFileSync } from 'node:fs';

/** What somebody asked for that cannot be done; said with exit code 2, never as a stack trace. */
export class UsageError extends Error {}

const WHY: Readonly<Record<string, string>> = {
  ENOENT: 'There is no such file. Check the path.',
  EISDIR: 'This is a folder. Name a file in it.',
  EACCES: 'You may not open this file. Ask who owns it, or copy it.',
  EPERM: 'You may not open this file. Ask who owns it, or copy it.',
  ENOTDIR: 'A part of this path is a file, not a folder. Check the path.',
  ENAMETOOLONG: 'This name is too long.',
  EMFILE: 'Too many files are open.',
  ENOSPC: 'There is no room left on the disk.',
  EROFS: 'Nothing can be written there.',
  ELOOP: 'This path leads in a circle.',
};

/** An error of the file system in a sentence that names the file; null where it is something else. */
export function fileTrouble(e: unknown, path?: string): string | null {
  const { code, path: named } = e as { code?: string; path?: string };
  const why = WHY[code ?? ''];
  return why === undefined ? null : `${path ?? named ?? 'The file'}: ${why}`;
}

/** The text of a file, or of standard input; a byte-order mark is no part of it. */
export function readText(path: string | undefined): string {
  try {
    return readFileSync(path ?? 0, 'utf8').replace(/^\ufeff/, '');
  } catch (e) {
    const trouble = fileTrouble(e, path ?? 'Standard input');
    throw trouble === null ? e : new UsageError(trouble);
  }
}
