/** Files at a prompt: read whole, or say in a sentence why not. */
import { readFileSync } from 'node:fs';
import type { Detail } from '../core/fault.ts';
import { asked, fileErrors, files } from '../words/en/commandLine.ts';
import { fillIn } from '../words/index.ts';

/** What somebody asked for that cannot be done; said with exit code 2, never as a stack trace. */
export class UsageError extends Error {}

/** The same, by its words. */
export const cannot = (what: keyof typeof asked, detail: Detail = {}): UsageError =>
  new UsageError(fillIn(asked[what], detail));

/** An error of the file system in a sentence that names the file; null where it is something else. */
export function fileTrouble(e: unknown, path?: string): string | null {
  const { code, path: named } = e as { code?: string; path?: string };
  const why = fileErrors[code ?? ''];
  return why === undefined ? null : `${path ?? named ?? files.file}: ${why}`;
}

/** The bytes of a file, or of standard input. */
export function readBytes(path: string | undefined): Buffer {
  try {
    return readFileSync(path ?? 0);
  } catch (e) {
    const trouble = fileTrouble(e, path ?? files.standardInput);
    throw trouble === null ? e : new UsageError(trouble);
  }
}

/** The text of a file, or of standard input; a byte-order mark is no part of it. */
export const readText = (path: string | undefined): string =>
  readBytes(path)
    .toString('utf8')
    .replace(/^\ufeff/, '');
