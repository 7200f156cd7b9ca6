import { spawn } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { Readable } from 'node:stream';
import { eq } from 'drizzle-orm';
import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { guessMap } from '../core/lists/map.ts';
import { demoRow, messyFile, TIDY_HEADER, TIDY_MAP, tidyLine, windows1252 } from '../demo/lists.ts';
import { inWorkspace } from './db/client.ts';
import { supplierList } from './db/schema.ts';
import { env } from './env.ts';
import { storePath } from './files/store.ts';
import { workOnList } from './jobs/readList.ts';
import { alone, listTests, spawnWorker, tidy } from './testing/lists.ts';
import { loadList, loadLists, startList } from './use/lists.ts';
import { loadSetup } from './use/listSetup.ts';
import { receiveList } from './use/receiveLists.ts';
import { cancelTask } from './use/tasks.ts';
import { text } from 'node:stream/consumers';
import { sayFault } from '../words/index.ts';
import { rowsToMend } from './files/refusedRows.ts';
import { saying } from './testing/saying.ts';

const made = listTests();

const bring = (
  bytes: string | Uint8Array,
  name = 'list.csv',
  previousId: string | null = null,
): Promise<string> => made.tools.bring(bytes, name, { previousId });
const rowsOf = (runId: string) => made.tools.rowsOf(runId);
const columnsOf = (id: string) => made.tools.columnsOf(id);

describe('a list is read', () => {
  it(
    'whole: every row stands once in the columns and in the database, and the counts add up to the ' +
      'rows of the file',
    async () => {
      const id = await bring(tidy(3000));
      const run = await startList(made.w.id, id, 'readList', made.w.personId);
      expect(await workOnList(made.w.id, run, alone)).toBe(false);
      const page = await loadList(made.w.id, id);
      expect(page?.shown).toMatchObject({
        id: run,
        state: 'done',
        done: 3000,
        total: 3000,
        data: { valid: 3000, invalid: 0, ranked: true },
      });
      const stored = await rowsOf(run);
      expect(stored.map((r) => r.line)).toEqual(Array.from({ length: 3000 }, (_, i) => i + 2));
      expect((await columnsOf(id)).lines).toEqual(stored.map((r) => r.line));
      expect((await columnsOf(id)).titles).toBe(3000);
      expect((await loadLists(made.w.id)).find((l) => l.id === id)).toMatchObject({
        state: 'ready',
        valid: 3000,
        supplier: 'Brook and Bell',
      });
    },
  );

  it('a messy one: what is refused can be mended from its own file and read alone', async () => {
    const id = await bring(windows1252(messyFile(500)), 'Preisliste.csv');
    const run = await startList(made.w.id, id, 'readList', made.w.personId);
    await workOnList(made.w.id, run, alone);
    const page = await loadList(made.w.id, id);
    const { valid = 0, invalid = 0 } = page?.shown?.data ?? {};
    expect(valid + invalid).toBe(500);
    expect(invalid).toBeGreaterThan(20);
    const refused = await text(rowsToMend(storePath(made.w.id, id, run, 'refused.csv'), sayFault));
    expect(refused.trim().split('\r\n')).toHaveLength(invalid + 1);
    expect(refused).toContain('Artikelbezeichnung,EAN');
    // Mended here means: the very rows again, which are refused again for the same reasons and no other row
    // with them.
    const again = await bring(refused, 'mended.csv');
    const check = await startList(made.w.id, again, 'checkList', made.w.personId);
    await workOnList(made.w.id, check, alone);
    const checked = (await loadList(made.w.id, again))?.work[0];
    // A row that was refused as a twin stands alone now.
    const twins = page?.shown?.data.troubles?.duplicate ?? 0;
    expect(checked?.data).toMatchObject({ valid: twins, invalid: invalid - twins });
    expect(checked?.data.parts).toEqual([]);
  });

  it('again with another mapping: the new run takes the place of the old, whose rows and files go', async () => {
    const id = await bring(tidy(200));
    const first = await startList(made.w.id, id, 'readList', made.w.personId);
    await workOnList(made.w.id, first, alone);
    const second = await startList(made.w.id, id, 'readList', made.w.personId);
    await workOnList(made.w.id, second, alone);
    expect(await rowsOf(first)).toEqual([]);
    expect(await rowsOf(second)).toHaveLength(200);
    expect(existsSync(storePath(made.w.id, id, first))).toBe(false);
  });

  it("the supplier's next edition says what is new, dearer, cheaper and gone", async () => {
    const lines = Array.from({ length: 100 }, (_, i) => demoRow(i, 3));
    const before = await bring([TIDY_HEADER.join(','), ...lines.map(tidyLine)].join('\n'));
    await workOnList(made.w.id, await startList(made.w.id, before, 'readList', made.w.personId), alone);
    const next = lines
      .slice(10)
      .map((r, i) => ({ ...r, cost: i < 5 ? r.cost + 1 : i < 9 ? r.cost * 0.5 : r.cost }));
    const id = await bring(
      [TIDY_HEADER.join(','), ...next.map(tidyLine), tidyLine(demoRow(5000, 3))].join('\n'),
      'next.csv',
      before,
    );
    await workOnList(made.w.id, await startList(made.w.id, id, 'readList', made.w.personId), alone);
    expect((await loadList(made.w.id, id))?.shown?.data).toMatchObject({
      gone: 10,
      changes: { new: 1, dearer: 5, cheaper: 4, same: 81 },
    });
  });

  it('cancelled half way: what is read stays and is told as a part', async () => {
    const id = await bring(tidy(30_000));
    const run = await startList(made.w.id, id, 'readList', made.w.personId);
    expect(await workOnList(made.w.id, run, { turnMs: 0, othersWait: async () => true })).toBe(true);
    await cancelTask(made.w.id, run);
    expect(await workOnList(made.w.id, run, alone)).toBe(false);
    const page = await loadList(made.w.id, id);
    expect(page?.work[0]?.state).toBe('cancelled');
    const kept = page?.shown?.data.valid ?? 0;
    expect(kept).toBeGreaterThan(0);
    expect(kept).toBeLessThan(30_000);
    expect((await columnsOf(id)).lines).toHaveLength(kept);
  });

  it('a turn ends where others wait, and the next goes on without losing or doubling a row', async () => {
    const id = await bring(tidy(60_000));
    const run = await startList(made.w.id, id, 'readList', made.w.personId);
    let turns = 1;
    while (await workOnList(made.w.id, run, { turnMs: 0, othersWait: async () => true })) turns++;
    expect(turns).toBeGreaterThan(2);
    expect((await rowsOf(run)).map((r) => r.line)).toEqual(Array.from({ length: 60_000 }, (_, i) => i + 2));
  });
});

describe('a worker that is killed', () => {
  it(
    'at three random moments: every list is whole in the end, no row lost or doubled, and others take ' +
      'it up within seconds',
    async () => {
      const rows = 100_000;
      const moments = 3;
      let killed = 0;
      let worker = spawnWorker();
      // One list after another, until all moments have come while one was being read.
      for (let seed = 20; killed < moments; seed++) {
        const id = await bring(`${tidy(rows, seed)}\n${tidyLine(demoRow(7, seed))}\n`);
        const run = await startList(made.w.id, id, 'readList', made.w.personId);
        const started = Date.now();
        for (;;) {
          await new Promise((done) => setTimeout(done, killed < moments ? 300 + Math.random() * 700 : 100));
          const work = (await loadList(made.w.id, id))?.work[0];
          if (work?.state === 'done' || Date.now() - started > 110_000) break;
          if (killed < moments && (work?.done ?? 0) > 0) {
            worker.kill('SIGKILL');
            killed++;
            worker = spawnWorker();
          }
        }
        const page = await loadList(made.w.id, id);
        expect(page?.shown).toMatchObject({
          state: 'done',
          data: { valid: rows, invalid: 1, troubles: { duplicate: 1 } },
        });
        const lines = Array.from({ length: rows }, (_, i) => i + 2);
        expect((await rowsOf(run)).map((r) => r.line)).toEqual(lines);
        expect((await columnsOf(id)).lines).toEqual(lines);
        expect(
          readFileSync(storePath(made.w.id, id, run, 'refused.csv'), 'utf8')
            .trim()
            .split('\r\n'),
        ).toHaveLength(2);
        expect(readdirSync(storePath(made.w.id, id, run)).filter((f) => f.startsWith('part-'))).toHaveLength(
          page?.shown?.data.parts?.length ?? -1,
        );
      }
      worker.kill('SIGKILL');
    },
  );
});

describe('a worker process', () => {
  const until = (id: string, what: (state: string | undefined) => boolean): Promise<number> =>
    made.tools.until(id, what);
  it('lets a small list go before the rest of a large one', async () => {
    const large = await bring(tidy(120_000, 8), 'large.csv');
    const small = await bring(tidy(500, 9), 'small.csv');
    await startList(made.w.id, large, 'readList', made.w.personId);
    const worker = spawnWorker();
    try {
      await until(large, (s) => s === 'running');
      await startList(made.w.id, small, 'readList', made.w.personId);
      const [smallAt, largeAt] = await Promise.all([
        until(small, (s) => s === 'done'),
        until(large, (s) => s === 'done'),
      ]);
      expect(smallAt).toBeLessThan(largeAt);
    } finally {
      worker.kill('SIGKILL');
    }
  });

  it('on another machine is given the address of the database and the file store, and nothing else', async () => {
    const id = await bring(tidy(3000, 12), 'elsewhere.csv');
    await startList(made.w.id, id, 'readList', made.w.personId);
    const worker = spawn(process.execPath, ['scripts/worker.mjs'], {
      stdio: 'ignore',
      env: {
        PATH: process.env.PATH,
        HOME: process.env.HOME,
        DATABASE_URL: process.env.BM_OWNER_URL,
        BM_FILES_DIR: process.env.BM_FILES_DIR,
      },
    });
    try {
      await until(id, (s) => s === 'done');
    } finally {
      worker.kill('SIGTERM');
    }
    expect((await columnsOf(id)).lines).toHaveLength(3000);
  });
  it('goes on when the database has thrown it out half way', async () => {
    const rows = 60_000;
    const id = await bring(tidy(rows, 6), 'interrupted.csv');
    const run = await startList(made.w.id, id, 'readList', made.w.personId);
    const owner = new pg.Client(process.env.BM_OWNER_URL);
    await owner.connect();
    const worker = spawnWorker();
    try {
      await until(id, (s) => s === 'running');
      await owner.query(
        'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and ' +
          "usename in ('bm_loader', 'bm_jobs') and pid <> pg_backend_pid()",
      );
      await until(id, (s) => s === 'done');
    } finally {
      worker.kill('SIGKILL');
      await owner.end();
    }
    expect((await rowsOf(run)).map((r) => r.line)).toEqual(Array.from({ length: rows }, (_, i) => i + 2));
    expect((await columnsOf(id)).lines).toHaveLength(rows);
  });
});
describe('what cannot be a list', () => {
  const send = (bytes: string | Uint8Array) =>
    receiveList(made.w.id, 'bad.csv', Readable.from([Buffer.from(bytes)]), made.w.personId);
  const nothingLeft = async (before: number): Promise<void> => {
    expect(readdirSync(`${env().BM_FILES_DIR}/${made.w.id}`)).toHaveLength(before);
    expect((await loadLists(made.w.id)).filter((l) => l.name === 'bad')).toEqual([]);
  };
  it.each([
    ['an empty file', '', /empty/],
    ['binary junk', Uint8Array.from({ length: 5000 }, (_, i) => (i * 7919) % 31), /not CSV text/],
    ['half a workbook', Uint8Array.from([0x50, 0x4b, 3, 4, 9, 9, 9]), /not a whole XLSX/],
  ])('%s is refused and leaves nothing behind', async (_, bytes, says) => {
    const before = readdirSync(`${env().BM_FILES_DIR}/${made.w.id}`).length;
    await expect(send(bytes)).rejects.toEqual(saying(says));
    await nothingLeft(before);
  });
  it('an upload that breaks off leaves nothing behind', async () => {
    const before = readdirSync(`${env().BM_FILES_DIR}/${made.w.id}`).length;
    async function* half() {
      yield Buffer.from('Barcode,Net price\n');
      throw new Error('the line went dead');
    }
    await expect(receiveList(made.w.id, 'bad.csv', Readable.from(half()), made.w.personId)).rejects.toThrow(
      'the line went dead',
    );
    await nothingLeft(before);
  });
  it('the same file twice is two lists, and the second says so', async () => {
    const text = tidy(3, 11);
    const first = await receiveList(
      made.w.id,
      'One.csv',
      Readable.from([Buffer.from(text)]),
      made.w.personId,
    );
    expect(first.sameAs).toBeNull();
    expect(
      (await receiveList(made.w.id, 'Two.csv', Readable.from([Buffer.from(text)]), made.w.personId)).sameAs,
    ).toBe('One');
  });
  it('columns that the file does not have end in a message, not in half a list', async () => {
    const id = await bring(tidy(5));
    await inWorkspace(made.w.id, (tx) =>
      tx
        .update(supplierList)
        .set({ map: { ...guessMap([], []), columns: { identifier: 'Strichcode', cost: 'Preis' } } })
        .where(eq(supplierList.id, id)),
    );
    await workOnList(made.w.id, await startList(made.w.id, id, 'readList', made.w.personId), alone);
    const page = await loadList(made.w.id, id);
    expect(page?.work[0]).toMatchObject({
      state: 'failed',
      error: { code: 'headingsNotFound', detail: { columns: '"Preis", "Strichcode"' } },
    });
    expect(page?.shown).toBeNull();
  });
});

describe('the ready mapping of a tidy list', () => {
  it('is what is guessed from its headings', async () => {
    const id = (
      await receiveList(made.w.id, 'tidy.csv', Readable.from([Buffer.from(tidy(20))]), made.w.personId)
    ).id;
    expect((await loadSetup(made.w.id, id, null))?.map.columns).toEqual(TIDY_MAP.columns);
  });
});
