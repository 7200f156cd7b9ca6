/** The purse solved by a job: what is kept of it, for which purse it stands, and how it ends. */
import { and, eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import loadHighs from 'highs';
import { solverOf } from '../between/solver.ts';
import { purseOf } from '../core/purse/purse.ts';
import type { PurseDocument } from '../core/purse/schema.ts';
import { lantern } from '../core/testing/lantern.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { notice, task } from './db/schema.ts';
import { closeQueue } from './jobs/boss.ts';
import { solvePurseOnServer } from './jobs/solvePurse.ts';
import { makeWorkspace } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { openAsCandidate } from './use/laneDocuments.ts';
import {
  keptPurse,
  loadPurse,
  newestPurseTask,
  purseAnswered,
  purseMark,
  purseWork,
  savePurse,
  startPurse,
  stopPurse,
} from './use/purse.ts';
import type { PurseSource } from '../core/workspace/purse.ts';

async function workspaceOf(cash: number | null, prices: readonly number[]): Promise<TestWorkspace> {
  const w = await makeWorkspace();
  for (const price of prices) await openAsCandidate(w.id, lantern({ price }), w.personId);
  await savePurse(w.id, { cash, weeks: 20, lastStart: 4, seconds: 1 });
  return w;
}
const pieceOf = async (w: TestWorkspace) => ({
  workspaceId: w.id,
  taskId: (await newestPurseTask(w.id))?.id ?? '',
});
const sourceOf = async (w: TestWorkspace): Promise<PurseSource> => (await loadPurse(w.id)) as PurseSource;
const noticesOf = (w: TestWorkspace) =>
  inWorkspace(w.id, (tx) =>
    tx
      .select({ link: notice.link })
      .from(notice)
      .where(and(eq(notice.workspaceId, w.id), eq(notice.kind, 'purseSolved'))),
  );

let mine: TestWorkspace;
let theirs: TestWorkspace;
beforeAll(async () => {
  mine = await workspaceOf(1500, [30, 22, 5]);
  theirs = await workspaceOf(1500, [30]);
});
afterAll(() => Promise.all([closeDatabase(), closeQueue()]));

describe('a purse that the server solves', () => {
  it('is answered as the solver answers it anywhere, with a notice, for this workspace alone', async () => {
    expect(await purseWork(mine.id)).toBeNull();
    expect(await purseAnswered(mine.id, await sourceOf(mine))).toBeNull();
    await startPurse(mine.id, 20, mine.personId);
    expect(await purseWork(mine.id)).toMatchObject({ state: 'working' });
    expect(await solvePurseOnServer(await pieceOf(mine))).toBe(false);
    const document = (await keptPurse(mine.id)) as PurseDocument;
    expect(document.lanes).toHaveLength(3);
    const answered = await purseAnswered(mine.id, await sourceOf(mine));
    expect(answered).toMatchObject({ state: 'done', asked: 20, isCurrent: true });
    const alone = purseOf({ ...document, seconds: 20 }, solverOf(await loadHighs()));
    expect(answered?.said).toEqual(JSON.parse(JSON.stringify(alone)));
    expect(alone.plan).toMatchObject({ feasible: true });
    expect(answered?.done).toBe(answered?.all);
    expect(await noticesOf(mine)).toEqual([{ link: '/fund/purse' }]);
    expect(await purseWork(theirs.id)).toBeNull();
    expect(await noticesOf(theirs)).toEqual([]);
  });
  it('is of another purse once that changes, and of the same however long a solver may think', async () => {
    await savePurse(mine.id, { seconds: 7 });
    expect(await purseAnswered(mine.id, await sourceOf(mine))).toMatchObject({ isCurrent: true });
    await savePurse(mine.id, { most: 1 });
    expect(await purseAnswered(mine.id, await sourceOf(mine))).toMatchObject({ isCurrent: false });
    await savePurse(mine.id, { most: null });
    expect(await purseAnswered(mine.id, await sourceOf(mine))).toMatchObject({ isCurrent: true });
    const document = (await keptPurse(mine.id)) as PurseDocument;
    expect(purseMark(document)).not.toBe(purseMark({ ...document, cash: document.cash + 1 }));
  });
  it('is begun once: whoever asks again waits for the same', async () => {
    await Promise.all([5, 5, 5].map((s) => startPurse(theirs.id, s, theirs.personId)));
    const begun = await inWorkspace(theirs.id, (tx) =>
      tx.select({ id: task.id }).from(task).where(eq(task.workspaceId, theirs.id)),
    );
    expect(begun).toHaveLength(1);
    const first = await pieceOf(theirs);
    await startPurse(theirs.id, 60, theirs.personId);
    expect(await pieceOf(theirs)).toEqual(first);
    await stopPurse(theirs.id);
    expect(await purseWork(theirs.id)).toMatchObject({ state: 'ended' });
    // Nobody wants it any more: nothing is thought, nothing said.
    expect(await solvePurseOnServer(first)).toBe(false);
    expect(await purseAnswered(theirs.id, await sourceOf(theirs))).toMatchObject({
      said: null,
      state: 'ended',
    });
    await startPurse(theirs.id, 5, theirs.personId);
    expect(await pieceOf(theirs)).not.toEqual(first);
    await stopPurse(theirs.id);
  });
  it('is ended while the solver thinks, and leaves nothing behind', async () => {
    // Thirty lanes that differ by little: a solver that may think for minutes does.
    const many = await workspaceOf(
      9000,
      Array.from({ length: 30 }, (_, i) => 20 + 0.37 * i),
    );
    await savePurse(many.id, { weeks: 52, lastStart: 26 });
    await startPurse(many.id, 300, many.personId);
    const began = Date.now();
    const working = solvePurseOnServer(await pieceOf(many));
    await expect.poll(() => purseWork(many.id), { timeout: 30_000 }).toMatchObject({ state: 'working' });
    await stopPurse(many.id);
    expect(await working).toBe(false);
    expect(Date.now() - began).toBeLessThan(60_000);
    expect(await purseWork(many.id)).toMatchObject({ state: 'ended' });
    expect(await noticesOf(many)).toEqual([]);
  });
  it('without cash there is none to solve, and the work does not wait for ever', async () => {
    const none = await workspaceOf(null, [30]);
    expect(await keptPurse(none.id)).toBeNull();
    await startPurse(none.id, 5, none.personId);
    expect(await solvePurseOnServer(await pieceOf(none))).toBe(false);
    expect(await purseWork(none.id)).toMatchObject({ state: 'ended' });
    expect(await solvePurseOnServer({ workspaceId: none.id, taskId: 'unknown' })).toBe(false);
  });
  it('what must be launched and cannot be is said, and done', async () => {
    const poor = await workspaceOf(100, [30]);
    const [candidate] = (await sourceOf(poor)).candidates;
    await savePurse(poor.id, { must: { [`${candidate?.id}/${candidate?.lanes[0]?.id}`]: true } });
    await startPurse(poor.id, 5, poor.personId);
    await solvePurseOnServer(await pieceOf(poor));
    expect(await purseAnswered(poor.id, await sourceOf(poor))).toMatchObject({
      state: 'done',
      isCurrent: true,
      said: { plan: { feasible: false, why: 'cash' } },
    });
  });
});
