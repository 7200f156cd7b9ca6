/** Lists brought in and read as anybody's are, for tests. */
import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { Readable } from 'node:stream';
import { eq } from 'drizzle-orm';
import { demoRow, TIDY_HEADER, tidyLine } from '../../demo/lists.ts';
import { afterAll, beforeAll } from 'vitest';
import { closeDatabase, inWorkspace } from '../db/client.ts';
import { closeLoader } from '../db/loader.ts';
import { listRow } from '../db/schema.ts';
import { readPart } from '../../between/parts.ts';
import { storePath } from '../files/store.ts';
import { closeQueue } from '../jobs/boss.ts';
import { closeLeases } from '../jobs/leases.ts';
import { workOnList } from '../jobs/readList.ts';
import { loadList, startList } from '../use/lists.ts';
import { loadSetup, saveSetup } from '../use/listSetup.ts';
import { receiveList, receiveReference } from '../use/receiveLists.ts';
import type { ListPage } from '../use/lists.ts';
import { makeWorkspace } from './workspaces.ts';
import type { TestWorkspace } from './workspaces.ts';

/** A tidy list of so many rows. */
export const tidy = (rows: number, seed = 1): string =>
  [TIDY_HEADER.join(','), ...Array.from({ length: rows }, (_, i) => tidyLine(demoRow(i, seed)))].join('\n');
/** A turn in which nobody waits. */
export const alone = { turnMs: 60_000, othersWait: async () => false };
export const spawnWorker = (): ChildProcess =>
  spawn(process.execPath, ['--import', 'tsx', 'app/worker.ts'], { stdio: 'ignore', env: process.env });

/**
 * A workspace for a file of tests, its lists, and the end of every connection after them. Called at the top
 * of the file.
 */
export function listTests(): { readonly w: TestWorkspace; readonly tools: ListTools } {
  const made = {} as { w: TestWorkspace; tools: ListTools };
  beforeAll(async () => {
    made.w = await makeWorkspace();
    made.tools = new ListTools(made.w);
  });
  afterAll(() => Promise.all([closeDatabase(), closeLoader(), closeQueue(), closeLeases()]));
  return made;
}

export class ListTools {
  constructor(private readonly w: TestWorkspace) {}

  /** A list as somebody brings it in, with the guessed mapping and the starting settings. */
  async bring(
    bytes: string | Uint8Array,
    name = 'list.csv',
    more: { previousId?: string | null; figures?: string; extras?: string[] } = {},
  ): Promise<string> {
    const { id: workspaceId, personId } = this.w;
    const { id } = await receiveList(workspaceId, name, Readable.from([Buffer.from(bytes)]), personId);
    if (more.figures !== undefined)
      await receiveReference(workspaceId, id, 'figures.csv', Readable.from([Buffer.from(more.figures)]));
    const setup = await loadSetup(workspaceId, id, null);
    if (setup === null) throw new Error('no set-up');
    const { reference } = setup.list;
    await saveSetup(workspaceId, id, {
      name: setup.list.name,
      supplier: 'Brook and Bell',
      sheet: setup.list.sheet,
      map: { ...setup.map, extras: more.extras ?? [] },
      settings: setup.own,
      previousId: more.previousId ?? null,
      reference:
        reference === null ? null : { map: reference.map, sheet: reference.sheet, choice: reference.choice },
    });
    return id;
  }

  /** Reads a list here and now. */
  async read(id: string): Promise<ListPage> {
    await workOnList(this.w.id, await startList(this.w.id, id, 'readList', this.w.personId), alone);
    const page = await loadList(this.w.id, id);
    if (page === null) throw new Error('the list is gone');
    return page;
  }

  /** Rows of a run in the database, in the order of the file. */
  rowsOf(runId: string) {
    return inWorkspace(this.w.id, (tx) =>
      tx.select().from(listRow).where(eq(listRow.runId, runId)).orderBy(listRow.line),
    );
  }

  /** Lines of the shown run in its column files, and how many titles these have. */
  async columnsOf(id: string): Promise<{ lines: number[]; titles: number }> {
    const page = await loadList(this.w.id, id);
    const lines: number[] = [];
    let titles = 0;
    for (const p of page?.shown?.data.parts ?? []) {
      const part = await readPart(storePath(this.w.id, id, page?.shown?.id as string, p.name));
      lines.push(...part.numbers.line);
      titles += part.texts.title.offsets.length - 1;
    }
    return { lines, titles };
  }

  /** Waits until the newest work on a list has come to a state; returns when. */
  async until(id: string, what: (state: string | undefined) => boolean): Promise<number> {
    const started = Date.now();
    while (!what((await loadList(this.w.id, id).catch(() => null))?.work[0]?.state)) {
      if (Date.now() - started > 90_000) throw new Error('it took too long');
      await new Promise((done) => setTimeout(done, 100));
    }
    return Date.now();
  }
}
