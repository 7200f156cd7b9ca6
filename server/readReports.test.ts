/** Long settlement reports on the real database: read by a job, whole or not at all. */
import { Readable } from 'node:stream';
import { eq } from 'drizzle-orm';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { settlementMap } from '../core/actuals/schema.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { notice, settledMonth, task } from './db/schema.ts';
import { closeQueue } from './jobs/boss.ts';
import { readReportOnServer } from './jobs/readReport.ts';
import { Refusal } from './refusal.ts';
import { spawnWorker } from './testing/lists.ts';
import { makeWorkspace } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { readingOf, readReport } from './use/readReports.ts';
import { readSettlement, receiveSettlement, takeBackSettlement } from './use/settlements.ts';
import { cancelTask } from './use/tasks.ts';

let w: TestWorkspace;
beforeEach(async () => {
  w = await makeWorkspace();
});
afterAll(() => Promise.all([closeDatabase(), closeQueue()]));

const PLACE = { marketplace: 'Alderway', country: 'DE', currency: 'EUR' };
const MAP = settlementMap.parse({
  columns: { line: 'No', day: 'Date', order: 'Order', code: 'Item', kind: 'What', units: 'Qty' },
  amounts: [{ column: 'Amount' }],
  kinds: { sold: 'sale' },
});
const refusalOf = (working: Promise<unknown>): Promise<string> =>
  working.then(
    () => 'nothing was refused',
    (e: unknown) => (e instanceof Refusal ? (e.fault?.code ?? e.reason) : String(e)),
  );

describe('a long report', () => {
  const long = (rows: number): string =>
    [
      'No,Date,Order,Item,What,Amount,Qty',
      ...Array.from({ length: rows }, (_, i) => `L${rows}-${i},2026-10-05,Q${rows}-${i},BB,sold,29.9,1`),
    ].join('\n');
  const receive = async (rows: number) =>
    (await receiveSettlement(w.id, 'long.csv', Readable.from([Buffer.from(long(rows))]), w.personId)).id;
  const how = { place: PLACE, map: MAP, sheet: null };
  const sold = async (): Promise<number> => {
    const months = await inWorkspace(w.id, (tx) => tx.select().from(settledMonth));
    return months.reduce((s, m) => s + (m.sums.sale?.units ?? 0), 0);
  };
  const taskOf = async (): Promise<string> => {
    const [t] = await inWorkspace(w.id, (tx) =>
      tx.select({ id: task.id }).from(task).where(eq(task.kind, 'readReport')),
    );
    return t?.id ?? '';
  };
  it('is read on the server, told of when it is done, and by one at a time', async () => {
    const id = await receive(45_000);
    expect(await readReport(w.id, id, how, w.personId)).toBe('reading');
    expect(await refusalOf(readReport(w.id, id, how, w.personId))).toBe('reportBeingRead');
    expect(await readingOf(w.id, id)).toMatchObject({ state: 'waiting', done: 0 });
    expect(await readReportOnServer({ workspaceId: w.id, taskId: await taskOf() })).toBe(false);
    expect(await readingOf(w.id, id)).toMatchObject({ state: 'done', done: 45_000, error: null });
    expect(await sold()).toBe(45_000);
    const told = await inWorkspace(w.id, (tx) =>
      tx.select().from(notice).where(eq(notice.kind, 'reportRead')),
    );
    expect(told).toMatchObject([{ data: { count: 45_000 }, link: `/selling/reports/${id}` }]);
  });
  it('that breaks off at any step, is ended or does not fit, leaves what was there', async () => {
    const first = await receive(4);
    await readSettlement(w.id, first, how);
    const id = await receive(45_000);
    for (const at of [1, 2]) {
      let calls = 0;
      const breaks = async (): Promise<boolean> => {
        if (++calls === at) throw new Error('killed');
        return true;
      };
      await expect(readSettlement(w.id, id, how, breaks)).rejects.toThrow('killed');
      expect(await sold()).toBe(4);
    }
    await readReport(w.id, id, how, w.personId);
    const taskId = await taskOf();
    const reading = readReportOnServer({ workspaceId: w.id, taskId });
    await cancelTask(w.id, taskId);
    expect(await reading).toBe(false);
    expect(await readingOf(w.id, id)).toMatchObject({ state: 'cancelled' });
    expect(await sold()).toBe(4);
    const unfit = { ...how, map: { ...MAP, amounts: [{ column: 'Sum', kind: null }] } };
    await inWorkspace(w.id, (tx) => tx.delete(task).where(eq(task.kind, 'readReport')));
    await readReport(w.id, id, unfit, w.personId);
    await readReportOnServer({ workspaceId: w.id, taskId: await taskOf() });
    expect(await readingOf(w.id, id)).toMatchObject({ state: 'failed', error: { code: 'headingsNotFound' } });
    // Taken back while it waited.
    await inWorkspace(w.id, (tx) => tx.delete(task).where(eq(task.kind, 'readReport')));
    await readReport(w.id, id, how, w.personId);
    await takeBackSettlement(w.id, id);
    await readReportOnServer({ workspaceId: w.id, taskId: await taskOf() });
    expect(await readingOf(w.id, id)).toMatchObject({ state: 'failed', error: { code: 'reportGone' } });
    expect(await sold()).toBe(4);
  });
  it('a worker that is killed while it reads loses and doubles nothing: another reads it whole', async () => {
    const first = await receive(4);
    await readSettlement(w.id, first, how);
    const id = await receive(40_000);
    await readReport(w.id, id, how, w.personId);
    const until = async (is: (r: NonNullable<Awaited<ReturnType<typeof readingOf>>>) => boolean) => {
      for (;;) {
        const reading = await readingOf(w.id, id);
        if (reading !== null && is(reading)) return;
        await new Promise((next) => setTimeout(next, 50));
      }
    };
    const killed = spawnWorker();
    await until((r) => r.done > 0);
    killed.kill('SIGKILL');
    expect(await sold()).toBe(4);
    const other = spawnWorker();
    try {
      await until((r) => r.state === 'done');
      expect(await sold()).toBe(40_004);
    } finally {
      other.kill('SIGKILL');
    }
  }, 120_000);
});
