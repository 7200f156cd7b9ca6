/** A worker process: takes long work from the queue. Several may run. */
import { closeDatabase, isDatabaseAway } from './db/client.ts';
import { closeQueue } from './jobs/boss.ts';
import { closeLoader } from './db/loader.ts';
import { closeLeases } from './jobs/leases.ts';
import { feedsWork } from './jobs/serveFeeds.ts';
import { serve } from './jobs/serve.ts';
import { listsWork } from './jobs/serveLists.ts';
import { keepRounds } from './jobs/rounds.ts';
import { matchesWork } from './jobs/matchList.ts';
import { mailsWork } from './jobs/sendMail.ts';
import { pursesWork } from './jobs/solvePurse.ts';
import { marketsWork } from './jobs/watchMarkets.ts';
import { keepUp } from './jobs/upkeep.ts';
import { lanesWork } from './jobs/weighLanes.ts';
import { log } from './log.ts';

// The queue's library does not wait for some of its own statements: where the database goes away under one,
// that must not end the worker. The job comes back by itself, and so does the work, by its lease.
process.on('unhandledRejection', (e) => {
  if (isDatabaseAway(e))
    return log.warn(
      { message: e instanceof Error ? e.message : String(e) },
      'the queue lost its database for a moment',
    );
  log.fatal({ err: e }, 'an error that nobody awaited');
  process.exit(1);
});

await Promise.all(
  [lanesWork, listsWork, marketsWork, pursesWork, mailsWork, matchesWork, feedsWork].map(serve),
);
await keepRounds();
keepUp();
log.info('worker ready');
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    void Promise.all([closeQueue(), closeDatabase(), closeLoader(), closeLeases()]).finally(() =>
      process.exit(0),
    );
    setTimeout(() => process.exit(0), 3000).unref();
  });
