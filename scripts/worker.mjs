// npm run worker: a worker beside others, on whatever machine. It is given DATABASE_URL and the file store; with
// BM_SMTP_URL it sends mail too, and BM_ORIGIN is then the address that links in mails lead to.
import { randomBytes } from 'node:crypto';
import { fail, keepHelper, needModules, roleUrls, say } from './lib/system.mjs';

const { DATABASE_URL, BM_FILES_DIR } = process.env;
if (!DATABASE_URL || !BM_FILES_DIR)
  fail(
    'A worker takes DATABASE_URL (the address the application was started with) and BM_FILES_DIR ' +
      '(the folder that holds its files).',
  );
if (process.env.BM_SMTP_URL && !process.env.BM_ORIGIN)
  fail(
    'A worker that sends mail (BM_SMTP_URL) takes BM_ORIGIN too: the address people have the application at.',
  );
needModules();
const urls = roleUrls(DATABASE_URL);
const { default: pg } = await import('pg');
const client = new pg.Client({ connectionString: urls.BM_JOBS_URL, connectionTimeoutMillis: 5000 });
await client.connect().then(
  () => client.end(),
  (e) =>
    fail(
      e.code === '28P01'
        ? 'The database does not know this worker. Start the application once with the same ' +
            'DATABASE_URL (npm run start), which makes its roles.'
        : `The database does not answer: ${e.message}`,
    ),
);
// Signs nothing: sessions are the web server's.
const worker = keepHelper('app/worker.ts', {
  ...urls,
  BM_FILES_DIR,
  BM_SECRET: randomBytes(24).toString('hex'),
});
say('A worker is at work. Stop it with Ctrl+C; what it was at goes on elsewhere.');
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => void worker.stop().then(() => process.exit(0)));
