/**
 * The purse of a workspace solved on the server, for longer than one waits before a screen. Nothing is locked while
 * the solver thinks: what it says is kept with a mark of the purse it was asked about.
 */
import { MessageChannel } from 'node:worker_threads';
import { and, eq, inArray } from 'drizzle-orm';
import { Piscina } from 'piscina';
import type { PurseStep } from '../../between/solvingPurse.ts';
import { inWorkspace } from '../db/client.ts';
import { task } from '../db/schema.ts';
import { keptPurse, purseMark } from '../use/purse.ts';
import type { PurseTask } from '../use/purse.ts';
import { addNotices, cancelTask, isUnderWay, loadTask } from '../use/tasks.ts';
import type { Piece } from './kinds.ts';
import type { Service } from './serve.ts';

/** How often what is known is stored, and whether it is still wanted is asked. */
const LOOK_MS = 500;

let threads: Piscina | null = null;
const thread = (): Piscina =>
  (threads ??= new Piscina({
    filename: new URL('./solveThread.ts', import.meta.url).href,
    minThreads: 0,
    maxThreads: 1,
    execArgv: ['--import', 'tsx'],
  }));

/** Solves the purse as it stands now. False: there is no more to do. */
export async function solvePurseOnServer(piece: Piece): Promise<boolean> {
  const { workspaceId, taskId } = piece;
  const asked = await loadTask(workspaceId, taskId);
  if (asked === null || !isUnderWay(asked.state)) return false;
  const document = await keptPurse(workspaceId);
  if (document === null) {
    // The cash was taken away since: there is nothing to solve.
    await cancelTask(workspaceId, taskId);
    return false;
  }
  const data = asked.data as PurseTask;
  const { port1, port2 } = new MessageChannel();
  const ending = new AbortController();
  let step: PurseStep | null = null;
  port1.on('message', (next: PurseStep) => {
    step = next;
  });
  const looking = setInterval(
    () =>
      void store(piece, data, step, purseMark(document)).then(
        (wanted) => {
          if (!wanted) ending.abort();
        },
        () => undefined,
      ),
    LOOK_MS,
  );
  try {
    await thread().run(
      { document: { ...document, seconds: data.seconds }, port: port2 },
      { transferList: [port2], signal: ending.signal },
    );
  } catch (e) {
    // Somebody cancelled it: the thread is gone, and so is what it thought.
    if (!ending.signal.aborted) throw e;
  } finally {
    clearInterval(looking);
    port1.close();
  }
  if (!ending.signal.aborted) await store(piece, data, step, purseMark(document), true);
  return false;
}

/** Stores how far it is, at the end with what was said and a notice. False: nobody wants it any more. */
async function store(
  { workspaceId, taskId }: Piece,
  data: PurseTask,
  step: PurseStep | null,
  mark: string,
  isOver = false,
): Promise<boolean> {
  return inWorkspace(workspaceId, async (tx) => {
    const stored = await tx
      .update(task)
      .set({
        state: isOver ? 'done' : 'running',
        ...(step !== null && { done: step.done, total: step.all }),
        ...(isOver && step !== null && { data: { ...data, mark, said: step.said, took: step.seconds } }),
        updatedAt: new Date(),
      })
      .where(
        and(
          eq(task.workspaceId, workspaceId),
          eq(task.id, taskId),
          inArray(task.state, ['waiting', 'running']),
        ),
      )
      .returning({ id: task.id });
    if (stored.length > 0 && isOver)
      await addNotices(tx, workspaceId, [{ kind: 'purseSolved', data: {}, link: '/fund/purse' }]);
    return stored.length > 0;
  });
}

/** Work on purses. */
export const pursesWork: Service = { queue: 'purses', work: solvePurseOnServer };
