// npm test: the set-up of the start command, then every check and test there is. Ends with one line: N
// passed, N failed.
//   npm test -- fast           types, lint, arrows, and all tests that need no database
//   npm test -- changed [ref]  checks, and the tests of what differs from `ref` (by default where the branch left main)
//   npm test -- core/cash app  only the unit tests whose path contains one of the words
//   npm test -- e2e [account]  only the browser tests (whose path contains the word)
//   npm test -- checks         only the checks
//   npm run test:deep          everything, with all random cases, and the branches of the core that these reach
//   BM_SEED=7 npm test         random tests as in the run that printed this seed
import { spawn, spawnSync } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import {
  databasesForWorkers,
  needBuild,
  needChromium,
  needModules,
  needPostgres,
  root,
  say,
  throwawayCluster,
} from './lib/system.mjs';

const [first, ...more] = process.argv.slice(2);
const mode = ['fast', 'changed', 'e2e', 'checks'].includes(first)
  ? first
  : first === undefined
    ? 'all'
    : 'words';
const words = mode === 'words' ? [first, ...more] : more;
const needsDatabase = mode !== 'fast' && mode !== 'checks';
needModules();
if (needsDatabase) needPostgres();

/** Seconds that a file (of browser tests: one test) and the whole may take before the run says so. */
const SLOW = { file: 60, whole: 25 * 60 };
const WORKERS = 2;
const started = Date.now();
const secondsSince = (from) => (Date.now() - from) / 1000;
/** What each part took and counted, and how long each file of tests took. */
const parts = [];
const files = [];
const scratch = mkdtempSync(join(tmpdir(), 'bold-margin-tests-'));

/** Runs a program to its end; what it says is printed as it comes, or `quiet`ly handed back. */
function run(args, { env = {}, quiet = false } = {}) {
  return new Promise((done) => {
    const child = spawn(process.execPath, args, {
      cwd: root,
      stdio: ['ignore', quiet ? 'pipe' : 2, quiet ? 'pipe' : 2],
      env: { ...process.env, NO_COLOR: '1', ...env },
    });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream?.on('data', (text) => (said += text));
    child.once('close', (code) => done({ isOk: code === 0, said }));
  });
}
const bin = (name) => {
  const pkg = JSON.parse(readFileSync(join(root, 'node_modules', name, 'package.json'), 'utf8'));
  const entry =
    typeof pkg.bin === 'string' ? pkg.bin : (pkg.bin[name.split('/').pop()] ?? Object.values(pkg.bin)[0]);
  return join(root, 'node_modules', name, entry);
};

/** Notes how a part ended, under what it said. */
function note(name, from, passed, failed, said = '') {
  const seconds = secondsSince(from);
  parts.push({ name, seconds, passed, failed });
  say(
    `\n== ${name}: ${passed} passed, ${failed} failed (${seconds.toFixed(1)} s)${said === '' ? '' : `\n${said}`}`,
  );
}

async function check(name, work) {
  const from = Date.now();
  const { isOk, said } = await work();
  note(name, from, isOk ? 1 : 0, isOk ? 0 : 1, said.trim());
}

/** Runs a test runner that writes a JSON report, and counts what it reports. A run without a report is a failure. */
async function count(name, args, env, read) {
  const report = join(scratch, `${name.replaceAll(' ', '-')}.json`);
  const from = Date.now();
  const { isOk } = await run(args(report), { env: { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: report } });
  let got = { passed: 0, failed: 0, files: [] };
  if (existsSync(report)) got = read(JSON.parse(readFileSync(report, 'utf8')));
  const ranNothing = got.passed + got.failed === 0 && mode !== 'changed';
  if (ranNothing || (!isOk && got.failed === 0)) got.failed++;
  files.push(...got.files);
  note(name, from, got.passed, got.failed);
}

/** Skipped tests count as failed: nothing is skipped silently. */
const readVitest = (r) => ({
  passed: r.numPassedTests,
  failed:
    r.numTotalTests -
    r.numPassedTests +
    r.testResults.filter((f) => f.status === 'failed' && f.assertionResults.length === 0).length,
  files: r.testResults.map((f) => ({
    name: relative(root, f.name),
    seconds: (f.endTime - f.startTime) / 1000,
  })),
});
function readPlaywright(r) {
  const specs = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(specs)];
  const took = (spec) =>
    spec.tests.flatMap((t) => t.results).reduce((sum, result) => sum + result.duration / 1000, 0);
  return {
    passed: r.stats.expected,
    failed: r.stats.unexpected + r.stats.flaky + r.stats.skipped + r.errors.length,
    files: r.suites.map((suite) => ({
      name: `e2e/${suite.file}`,
      seconds: specs(suite).reduce((sum, spec) => sum + took(spec), 0),
      tests: specs(suite).map((spec) => ({ name: `e2e/${suite.file}: ${spec.title}`, seconds: took(spec) })),
    })),
  };
}

/** Source files under version control; none where there is no such control. */
function sourceFiles() {
  const listed = spawnSync('git', ['ls-files', '*.ts', '*.tsx', '*.mjs', '*.cjs'], {
    cwd: root,
    encoding: 'utf8',
  });
  return listed.status === 0
    ? listed.stdout.split('\n').filter((f) => f !== '' && existsSync(join(root, f)))
    : [];
}
const isTest = (file) => /\.(test|spec)\.tsx?$|(^|\/)(testing|e2e)\//.test(file);

/** What no linter here says: wide lines, since nobody reads one beside a second file, and tests that only wait. */
function plainFaults() {
  const waits = /waitForTimeout\(|networkidle|\b(it|test|describe)\.(skip|only)\(/;
  const faults = sourceFiles().flatMap((file) =>
    readFileSync(join(root, file), 'utf8')
      .split('\n')
      .flatMap((line, i) => [
        ...(line.length > 120 ? [`${file}:${i + 1} is ${line.length} wide`] : []),
        ...(isTest(file) && waits.test(line) ? [`${file}:${i + 1} waits for nothing, or is left out`] : []),
      ]),
  );
  return { isOk: faults.length === 0, said: faults.join('\n') };
}

/** How much of the code is tests, by lines; nothing where the files are not under version control. */
function sayShareOfTests() {
  const lines = { tests: 0, all: 0 };
  for (const file of sourceFiles()) {
    const n = readFileSync(join(root, file), 'utf8').split('\n').length;
    lines.all += n;
    if (isTest(file)) lines.tests += n;
  }
  if (lines.all > 0)
    say(`Tests are ${((100 * lines.tests) / lines.all).toFixed(1)} % of ${lines.all} lines.`);
}

const ROOMS = ['core', 'server', 'app', 'screening', 'between', 'words', 'cli', 'demo', 'scripts', 'bench'];

async function checks() {
  sayShareOfTests();
  // What was checked is remembered, so that the next run looks only at what changed since.
  const types = ['--incremental', '--tsBuildInfoFile', 'node_modules/.cache/types.tsbuildinfo'];
  mkdirSync(join(root, 'node_modules/.cache'), { recursive: true });
  await check('types', async () => {
    const made = await run([join(root, 'node_modules/@react-router/dev/bin.js'), 'typegen'], { quiet: true });
    return made.isOk ? run([bin('typescript'), ...types], { quiet: true }) : made;
  });
  await check('biome', () =>
    run([bin('@biomejs/biome'), 'check', '--error-on-warnings', '.'], { quiet: true }),
  );
  await check('plain faults', plainFaults);
  const arrows = ['--config', '.dependency-cruiser.cjs', '--output-type', 'err'];
  await check('arrows of the house', () =>
    run([bin('dependency-cruiser'), ...arrows, ...ROOMS, 'e2e', 'simulator'], { quiet: true }),
  );
  if (mode !== 'fast')
    await check('nothing unused', () => run([bin('knip'), '--no-progress'], { quiet: true }));
}

const git = (...args) => spawnSync('git', args, { cwd: root, encoding: 'utf8' }).stdout.trim();

/** Where this branch left main: what stands there was tested; on main itself, the last commit. */
function changedSince() {
  if (words.length > 0) return words[0];
  return git('rev-parse', '--abbrev-ref', 'HEAD') === 'main' ? 'HEAD' : git('merge-base', 'HEAD', 'main');
}

const REACH_FILE = join(root, 'core/testing/reach.json');
const isDeep = process.env.BM_DEEP === '1';

/** Tests without a browser. Those of the core count which of its branches they reach. */
async function unitTests(cluster) {
  const projects = ['core', 'screens', 'screens apart', ...(needsDatabase ? ['database'] : [])];
  const reach = join(scratch, 'reach');
  const measures = mode === 'all';
  await count(
    'unit, property and database tests',
    (report) => [
      bin('vitest'),
      'run',
      ...projects.map((name) => `--project=${name}`),
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${report}`,
      ...(measures ? ['--coverage.enabled', `--coverage.reportsDirectory=${reach}`] : []),
      ...(mode === 'changed' ? [`--changed=${changedSince()}`, '--passWithNoTests'] : []),
      ...(mode === 'words' ? words : []),
    ],
    {
      BM_TEST_WORKERS: String(WORKERS),
      ...(cluster === null ? {} : await databasesForWorkers(cluster, WORKERS)),
    },
    readVitest,
  );
  if (measures) sayReach(join(reach, 'coverage-summary.json'));
}

const leftOut = ([reached, all]) => all - reached;

/** Says how many branches of the core were reached, and which files less than in the last deep run. */
function sayReach(file) {
  if (!existsSync(file)) return;
  const { total: _, ...byFile } = JSON.parse(readFileSync(file, 'utf8'));
  const now = Object.fromEntries(
    Object.entries(byFile)
      .map(([path, { branches }]) => [relative(root, path), [branches.covered, branches.total]])
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  );
  const deep = existsSync(REACH_FILE) ? JSON.parse(readFileSync(REACH_FILE, 'utf8')) : {};
  const share = (of) => {
    const [reached, all] = Object.values(of).reduce((s, [r, n]) => [s[0] + r, s[1] + n], [0, 0]);
    return `${((100 * reached) / all).toFixed(2)} % (${reached} of ${all})`;
  };
  const before = existsSync(REACH_FILE)
    ? `by the last deep run: ${share(deep)}`
    : 'there was no deep run yet';
  say(`\nBranches of the core reached: ${share(now)}; ${before}.`);
  const less = Object.entries(now)
    .map(([path, of]) => [path, leftOut(of) - leftOut(deep[path] ?? [0, 0])])
    .filter(([path, n]) => path in deep && n > 0);
  for (const [path, n] of less) say(`  ${path}: ${n} fewer`);
  if (!isDeep) return;
  say('Files of which the least is reached:');
  const least = Object.entries(now).sort(([, a], [, b]) => a[0] / a[1] - b[0] / b[1]);
  for (const [path, [r, n]] of least.slice(0, 10)) say(`  ${path}: ${r} of ${n}`);
  const lines = Object.entries(now).map(([path, of]) => `  ${JSON.stringify(path)}: ${JSON.stringify(of)}`);
  writeFileSync(REACH_FILE, `{\n${lines.join(',\n')}\n}\n`);
}

/** Whether this run has browser tests: all, those named, or those whose own steps were changed. */
const hasBrowserTests =
  mode === 'all' ||
  mode === 'e2e' ||
  (mode === 'changed' && git('diff', '--name-only', changedSince(), 'e2e') !== '');

const browserTests = (cluster) =>
  count(
    'browser tests',
    () => [
      bin('@playwright/test'),
      'test',
      ...(mode === 'e2e' ? words : []),
      ...(mode === 'changed' ? [`--only-changed=${changedSince()}`, '--pass-with-no-tests'] : []),
    ],
    cluster.urls,
    readPlaywright,
  );

const build = () =>
  check('build', async () => {
    await needBuild();
    return { isOk: true, said: '' };
  });

function sayTimes() {
  say('\nPart by part, seconds:');
  for (const p of parts) say(`${p.seconds.toFixed(1).padStart(8)}  ${p.name}`);
  const slowest = files.toSorted((a, b) => b.seconds - a.seconds);
  if (slowest.length > 0) say('The ten slowest files:');
  for (const f of slowest.slice(0, 10)) say(`${f.seconds.toFixed(1).padStart(8)}  ${f.name}`);
  for (const f of slowest.flatMap((f) => f.tests ?? [f]).filter((f) => f.seconds > SLOW.file))
    say(`SLOW: ${f.name} took ${f.seconds.toFixed(0)} s, more than ${SLOW.file}.`);
  const whole = secondsSince(started);
  say(`The whole took ${whole.toFixed(0)} s.`);
  if (whole > SLOW.whole && !isDeep) say(`SLOW: the whole took more than ${SLOW.whole} s.`);
}

// Random tests are drawn anew each time; the same ones come again with this seed.
process.env.BM_SEED ??= String(randomInt(1, 2 ** 31));
say(`Random tests by BM_SEED=${process.env.BM_SEED}${isDeep ? ', all cases' : ''}`);
if (hasBrowserTests) needChromium();
const cluster = needsDatabase ? await throwawayCluster() : null;
try {
  // Checks use one core, and tests of the database wait a good deal: together they fill both.
  const prepared = async () => {
    if (['all', 'fast', 'changed', 'checks'].includes(mode)) await checks();
    if (hasBrowserTests) await build();
  };
  await Promise.all([
    prepared(),
    ['all', 'fast', 'changed', 'words'].includes(mode) ? unitTests(cluster) : null,
  ]);
  if (hasBrowserTests) await browserTests(cluster);
} finally {
  await cluster?.stop();
  rmSync(scratch, { recursive: true, force: true });
}
sayTimes();
const sum = (what) => parts.reduce((n, p) => n + p[what], 0);
const failures = parts.filter((p) => p.failed > 0);
if (failures.length > 0) say(`\nFailed: ${failures.map((p) => `${p.name}: ${p.failed}`).join('; ')}`);
console.log(`\n${sum('passed')} passed, ${sum('failed')} failed`);
process.exit(failures.length === 0 ? 0 : 1);
