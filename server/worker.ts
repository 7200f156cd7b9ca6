/** The work of a worker process: takes long work from the queue. Several may run; `app/worker.ts` starts one. */
import { closeDatabase, isDatabaseAway } from './db/client.ts';
import { closeQueue } from './jobs/boss.ts';
import { closeLoader } from './db/loader.ts';
import { closeLeases } from './jobs/leases.ts';
import { feedsWork } from './jobs/serveFeeds.ts';
import { serve } from './jobs/serve.ts';
import { listsWork } from './jobs/serveLists.ts';
import { keepRounds } from './jobs/rounds.ts';
import { keepNoticeMail } from './jobs/mailNotices.ts';
import type { LetterWords } from './jobs/mailNotices.ts';
import { matchesWork } from './jobs/matchList.ts';
import { reportsWork } from './jobs/readReport.ts';
import { mailsWork } from './jobs/sendMail.ts';
import { pursesWork } from './jobs/solvePurse.ts';
import { marketsWork } from './jobs/watchMarkets.ts';
import { keepUp } from './jobs/upkeep.ts';
import { lanesWork } from './jobs/weighLanes.ts';
import { env } from './env.ts';
import { log } from './log.ts';
import { canMail } from './mail.ts';

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

const SERVICES = [lanesWork, listsWork, marketsWork, pursesWork, matchesWork, feedsWork, reportsWork];

/** Works until the process is told to stop. `words`: how notices are said in a mail. */
export async function startWorker(words: LetterWords): Promise<void> {
  await Promise.all(SERVICES.map(serve));
  // Where no mail can go out from here, mail waits for a worker that has a way.
  if (canMail()) await Promise.all([serve(mailsWork), keepNoticeMail(words)]);
  // Where a day stands still (tests, pictures), nothing comes due by the clock.
  if (env().BM_TODAY === undefined) await keepRounds();
  keepUp();
  log.info('worker ready');
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, stop);
}

function stop(): void {
  void Promise.all([closeQueue(), closeDatabase(), closeLoader(), closeLeases()]).finally(() =>
    process.exit(0),
  );
  setTimeout(() => process.exit(0), 3000).unref();
}
