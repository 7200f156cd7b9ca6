/**
 * Set up before each file of tests of the database: files run side by side, each worker's on a database and in a folder
 * of files of its own, which `npm test` made (`databasesForWorkers`).
 */
const worker = process.env.VITEST_POOL_ID ?? '1';
for (const name of ['BM_APP_URL', 'BM_AUTH_URL', 'BM_JOBS_URL', 'BM_LOADER_URL', 'BM_OWNER_URL']) {
  const url = process.env[name];
  if (url === undefined) throw new Error('Run tests of the database with npm test, which starts one.');
  const own = new URL(url);
  own.pathname += `_${worker}`;
  process.env[name] = own.href;
}
process.env.BM_FILES_DIR += `/${worker}`;
