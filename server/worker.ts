/** A worker process: takes long work from the queue. Several may run. */
import { closeDatabase } from './db/client.ts';
import { closeQueue } from './jobs/boss.ts';
import { closeLoader } from './db/loader.ts';
import { closeLeases } from './jobs/leases.ts';
import { serveLists } from './jobs/serveLists.ts';
import { serveLanes } from './jobs/weighLanes.ts';
import { log } from './log.ts';

await Promise.all([serveLanes(), serveLists()]);
log.info('worker ready');
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    void Promise.all([closeQueue(), closeDatabase(), closeLoader(), closeLeases()]).finally(() => process.exit(0));
    setTimeout(() => process.exit(0), 3000).unref();
  });
