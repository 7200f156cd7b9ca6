/** A worker process: takes long work from the queue. Several may run. */
import { closeDatabase } from './db/client.ts';
import { closeQueue } from './jobs/boss.ts';
import { serveLanes } from './jobs/weighLanes.ts';
import { log } from './log.ts';

await serveLanes();
log.info('worker ready');
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    void Promise.all([closeQueue(), closeDatabase()]).finally(() => process.exit(0));
    setTimeout(() => process.exit(0), 3000).unref();
  });
