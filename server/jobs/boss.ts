/** The queue of long work, in the database that is there already. The start command makes its tables and queues. */
import PgBoss from 'pg-boss';
import { env } from '../env.ts';
import { log } from '../log.ts';

const kept = globalThis as typeof globalThis & { boldMarginBoss?: Promise<PgBoss> };

/** The queue, opened once. `worker`: this process also does the upkeep. */
export function queue(worker = false): Promise<PgBoss> {
  kept.boldMarginBoss ??= (async () => {
    const boss = new PgBoss({
      connectionString: env().BM_JOBS_URL,
      schema: 'jobs',
      migrate: false,
      schedule: worker,
      supervise: worker,
      max: worker ? 4 : 2,
    });
    boss.on('error', (e) => log.warn({ message: e.message }, 'the queue reports'));
    await boss.start();
    return boss;
  })();
  kept.boldMarginBoss.catch(() => {
    kept.boldMarginBoss = undefined;
  });
  return kept.boldMarginBoss;
}

export async function closeQueue(): Promise<void> {
  const boss = await kept.boldMarginBoss?.catch(() => undefined);
  kept.boldMarginBoss = undefined;
  await boss?.stop({ graceful: false, wait: true });
}
