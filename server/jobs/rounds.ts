/**
 * The clock of long work: every hour each workspace with a feed has its watched markets brought up to date, once
 * a day, is reminded of suppliers who have not answered, and is told of lanes on sale that have left their plan.
 */
import { and, eq, inArray, sql } from 'drizzle-orm';
import { organization } from '../db/authSchema.ts';
import { authDb, inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { task, watched } from '../db/schema.ts';
import { log } from '../log.ts';
import { remindOfEnquiries } from '../use/enquiries.ts';
import { feedOf } from '../use/feeds.ts';
import { keepBooks } from '../use/laneBooks.ts';
import { storeTask, wake } from '../use/tasks.ts';
import { queue } from './boss.ts';
import type { TaskKind } from './kinds.ts';
import { sellersDue } from './watchSellers.ts';

const ROUNDS = 'rounds';
const EVERY_HOUR = '17 * * * *';
const BY = 'schedule';

/** Starts what is due in one workspace; null: nothing is, or it is under way already. */
export async function startDue(workspaceId: string): Promise<string | null> {
  if ((await feedOf(workspaceId)) === null) return null;
  await startSellers(workspaceId);
  const id = await inWorkspace(workspaceId, async (tx) => {
    const [due] = await tx
      .select({ n: sql<number>`count(*)::int` })
      .from(watched)
      .where(
        and(
          eq(watched.workspaceId, workspaceId),
          sql`coalesce(${watched.askedAt}, '-infinity') < now() - interval '20 hours'`,
        ),
      );
    if ((due?.n ?? 0) === 0 || (await isRunning(tx, workspaceId, 'watchMarkets'))) return null;
    return storeTask(tx, workspaceId, 'watchMarkets', {}, due?.n ?? 0, BY);
  });
  if (id !== null) await wake('watchMarkets', workspaceId, id);
  return id;
}

async function isRunning(tx: Tx, workspaceId: string, kind: TaskKind): Promise<boolean> {
  const running = await tx
    .select({ id: task.id })
    .from(task)
    .where(
      and(
        eq(task.workspaceId, workspaceId),
        eq(task.kind, kind),
        inArray(task.state, ['waiting', 'running']),
      ),
    )
    .limit(1);
  return running.length > 0;
}

/** Has shops that are followed looked at again, once they are due. */
async function startSellers(workspaceId: string): Promise<void> {
  const id = await inWorkspace(workspaceId, async (tx) => {
    const n = await sellersDue(tx, workspaceId);
    if (n === 0 || (await isRunning(tx, workspaceId, 'watchSellers'))) return null;
    return storeTask(tx, workspaceId, 'watchSellers', {}, n, BY);
  });
  if (id !== null) await wake('watchSellers', workspaceId, id);
}

/** One round over all workspaces. Returns how many have work. */
export async function oneRound(): Promise<number> {
  let started = 0;
  for (const { id } of await authDb().select({ id: organization.id }).from(organization)) {
    if ((await startDue(id)) !== null) started++;
    await remindOfEnquiries(id);
    await keepBooks(id);
  }
  return started;
}

/** Has a round every hour, in whichever worker is free. */
export async function keepRounds(): Promise<void> {
  const boss = await queue(true);
  await boss.work(ROUNDS, { batchSize: 1 }, async () => {
    const started = await oneRound();
    if (started > 0) log.info({ started }, 'watched markets are being brought up to date');
  });
  await boss.schedule(ROUNDS, EVERY_HOUR);
}
