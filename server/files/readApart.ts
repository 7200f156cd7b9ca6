/**
 * Workbooks are read in a process of their own, with bounds of memory and time: what one unpacks to is not
 * known before.
 */
import { fork } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { FileRead } from './sheets.ts';
import type { SheetHead } from './workbook.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { Refusal } from '../refusal.ts';

export type WorkbookJob =
  | { readonly what: 'tables'; readonly bytes: Buffer }
  | { readonly what: 'heads'; readonly path: string; readonly rows: number }
  | { readonly what: 'convert'; readonly path: string; readonly sheet: string | null; readonly to: string };
export type WorkbookSaid =
  | { readonly found: unknown }
  | { readonly fault: Fault }
  | { readonly failed: string; readonly code?: string | undefined };

/** Memory that reading a workbook may take, in bytes, the process itself included. */
const MOST_MEMORY = 512 * 1024 ** 2;
/** Time it may take while somebody waits for it, and in a worker, ms. */
const WHILE_WAITED_FOR = 30_000;
const IN_A_WORKER = 15 * 60_000;
const PAGE = 4096;
const tooLarge: Fault = fault('workbookTooLarge');
const tooSlow: Fault = fault('workbookTooSlow');

/** Bytes of memory that a process holds; 0 where that cannot be seen. */
function memoryOf(pid: number): number {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * PAGE;
  } catch {
    return 0;
  }
}

function readApart(job: WorkbookJob, within: number): Promise<unknown> {
  return new Promise((done, no) => {
    // The application is started in its own folder; bundled or not, the source of this process lies there. No
    // secret goes along.
    const child = fork(join(process.cwd(), 'server/files/workbookProcess.ts'), {
      execArgv: ['--import', 'tsx', '--max-old-space-size=400'],
      serialization: 'advanced',
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      env: { PATH: process.env.PATH ?? '', NODE_ENV: 'production' },
    });
    let why: Fault | null = null;
    const end = (said: Fault): void => {
      why = said;
      child.kill('SIGKILL');
    };
    const watch = setInterval(() => memoryOf(child.pid ?? 0) > MOST_MEMORY && end(tooLarge), 50);
    const limit = setTimeout(() => end(tooSlow), within);
    let said: WorkbookSaid | null = null;
    child.once('message', (m) => {
      said = m as WorkbookSaid;
    });
    child.once('error', no);
    child.once('exit', () => {
      clearInterval(watch);
      clearTimeout(limit);
      // A process that ended by itself without a word ran out of the memory it was given.
      if (said === null) return no(new Refusal('invalid', why ?? tooLarge));
      if ('found' in said) return done(said.found);
      no(
        'fault' in said
          ? new Refusal('invalid', said.fault)
          : Object.assign(new Error(said.failed), { code: said.code }),
      );
    });
    child.send(job);
  });
}

/** Names of the sheets of a workbook and their first rows, as many as asked for. Throws Refusal. */
export async function headsOfWorkbook(path: string, rows: number): Promise<SheetHead[]> {
  return (await readApart({ what: 'heads', path, rows }, WHILE_WAITED_FOR)) as SheetHead[];
}

/** Writes a sheet (null: the first) as CSV, whole or not at all. Throws Refusal; a full disk keeps its code. */
export async function sheetAsCsv(path: string, sheet: string | null, to: string): Promise<void> {
  await readApart({ what: 'convert', path, sheet, to }, IN_A_WORKER);
}

/** Tables of a workbook that is in hand as bytes. */
export async function tablesOfWorkbook(bytes: Buffer): Promise<FileRead> {
  try {
    return (await readApart({ what: 'tables', bytes }, WHILE_WAITED_FOR)) as FileRead;
  } catch (e) {
    if (e instanceof Refusal && e.fault !== null) return { ok: false, fault: e.fault };
    throw e;
  }
}
