/**
 * The database is stopped and started again while a list is read; on a cluster of its own, since others are
 * at work on theirs.
 */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { throwawayCluster } from '../scripts/lib/system.mjs';

let cluster: Awaited<ReturnType<typeof throwawayCluster>>;
beforeAll(async () => {
  cluster = await throwawayCluster();
  Object.assign(process.env, cluster.urls);
}, 60_000);
afterAll(() => cluster.stop());

it('a list goes on when the database comes back, with no row lost or doubled', async () => {
  // Read only now, so that they speak to this cluster.
  const { makeWorkspace } = await import('./testing/workspaces.ts');
  const { ListTools, spawnWorker, tidy } = await import('./testing/lists.ts');
  const { closeDatabase } = await import('./db/client.ts');
  const { closeQueue } = await import('./jobs/boss.ts');
  const { loadList, startList } = await import('./use/lists.ts');
  const w = await makeWorkspace();
  const tools = new ListTools(w);
  const rows = 120_000;
  const id = await tools.bring(tidy(rows, 3), 'long.csv');
  const run = await startList(w.id, id, 'readList', w.personId);
  const worker = spawnWorker();
  try {
    let done = 0;
    while (done < 20_000) {
      await new Promise((next) => setTimeout(next, 50));
      done = (await loadList(w.id, id))?.work[0]?.done ?? 0;
    }
    expect(done).toBeLessThan(rows);
    await cluster.restart();
    await tools.until(id, (s) => s === 'done' || s === 'failed');
    const page = await loadList(w.id, id);
    expect(page?.work[0]).toMatchObject({ state: 'done', error: null });
    const lines = Array.from({ length: rows }, (_, i) => i + 2);
    expect((await tools.rowsOf(run)).map((r) => r.line)).toEqual(lines);
    expect((await tools.columnsOf(id)).lines).toEqual(lines);
  } finally {
    worker.kill('SIGKILL');
    await Promise.all([closeDatabase(), closeQueue()]);
  }
}, 150_000);
