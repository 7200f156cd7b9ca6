// npm test: the set-up of the start command, then every check and test there is. Ends with one line: N
// passed, N failed.
//   npm test -- core app       only the unit tests whose path contains one of the words
//   npm test -- e2e [account]  only the browser tests (whose path contains the word)
//   npm test -- checks         only the checks
//   BM_SEED=7 npm test         random tests as in the run that printed this seed
import { spawnSync } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  needBuild,
  needChromium,
  needModules,
  needPostgres,
  root,
  say,
  throwawayCluster,
} from './lib/system.mjs';

const only = process.argv.slice(2);
const wants = (part) => only.length === 0 || only.includes(part);
needModules();
needPostgres();
needChromium();

let passed = 0;
let failed = 0;
const failures = [];
const scratch = mkdtempSync(join(tmpdir(), 'bold-margin-tests-'));
const node = (args, env = {}) =>
  spawnSync(process.execPath, args, {
    cwd: root,
    stdio: ['ignore', 2, 2],
    env: { ...process.env, NO_COLOR: '1', ...env },
  }).status === 0;
const bin = (name) => {
  const pkg = JSON.parse(readFileSync(join(root, 'node_modules', name, 'package.json'), 'utf8'));
  const entry =
    typeof pkg.bin === 'string' ? pkg.bin : (pkg.bin[name.split('/').pop()] ?? Object.values(pkg.bin)[0]);
  return join(root, 'node_modules', name, entry);
};

function check(name, run) {
  say(`\n== ${name}`);
  const started = Date.now();
  const ok = run();
  if (ok) passed++;
  else {
    failed++;
    failures.push(name);
  }
  say(`== ${name}: ${ok ? 'passed' : 'FAILED'} (${((Date.now() - started) / 1000).toFixed(1)} s)`);
}

/** Runs a test runner that writes a JSON report, and counts what it reports. A run without a report is a failure. */
function count(name, report, run, read) {
  say(`\n== ${name}`);
  const started = Date.now();
  const ok = run();
  let got = { passed: 0, failed: 0 };
  if (existsSync(report)) got = read(JSON.parse(readFileSync(report, 'utf8')));
  if (got.passed + got.failed === 0 || (!ok && got.failed === 0)) {
    got.failed++;
    failures.push(`${name} did not run to its end`);
  } else if (got.failed > 0) failures.push(`${name}: ${got.failed}`);
  passed += got.passed;
  failed += got.failed;
  say(
    `== ${name}: ${got.passed} passed, ${got.failed} failed (${((Date.now() - started) / 1000).toFixed(1)} s)`,
  );
}

/** Skipped tests count as failed: nothing is skipped silently. */
const readVitest = (r) => ({
  passed: r.numPassedTests,
  failed:
    r.numTotalTests -
    r.numPassedTests +
    r.testResults.filter((f) => f.status === 'failed' && f.assertionResults.length === 0).length,
});
const readPlaywright = (r) => ({
  passed: r.stats.expected,
  failed: r.stats.unexpected + r.stats.flaky + r.stats.skipped + r.errors.length,
});

/** The formatter leaves comments and texts as they are: nobody reads a wide one beside a second file. */
function saysNoWideLine() {
  const wide = sourceFiles().flatMap((file) =>
    readFileSync(join(root, file), 'utf8')
      .split('\n')
      .flatMap((line, i) => (line.length > 120 ? [`${file}:${i + 1} is ${line.length} wide`] : [])),
  );
  for (const place of wide) say(place);
  return wide.length === 0;
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

/** How much of the code is tests, by lines; nothing where the files are not under version control. */
function sayShareOfTests() {
  const lines = { tests: 0, all: 0 };
  for (const file of sourceFiles()) {
    const n = readFileSync(join(root, file), 'utf8').split('\n').length;
    lines.all += n;
    if (/\.(test|spec)\.tsx?$|(^|\/)(testing|e2e)\//.test(file)) lines.tests += n;
  }
  if (lines.all > 0)
    say(`\nTests are ${((100 * lines.tests) / lines.all).toFixed(1)} % of ${lines.all} lines.`);
}

// Random tests are drawn anew each time; the same ones come again with this seed.
process.env.BM_SEED ??= String(randomInt(1, 2 ** 31));
say(`Random tests by BM_SEED=${process.env.BM_SEED}`);
const cluster = await throwawayCluster();
try {
  if (wants('checks')) {
    sayShareOfTests();
    check(
      'types',
      () =>
        node([join(root, 'node_modules/@react-router/dev/bin.js'), 'typegen']) && node([bin('typescript')]),
    );
    check('biome', () => node([bin('@biomejs/biome'), 'check', '--error-on-warnings', '.']));
    check('no line wider than 120', saysNoWideLine);
    check('arrows of the house', () =>
      node([
        bin('dependency-cruiser'),
        '--config',
        '.dependency-cruiser.cjs',
        '--output-type',
        'err',
        'core',
        'server',
        'app',
        'screening',
        'between',
        'words',
        'cli',
        'demo',
        'scripts',
        'bench',
        'e2e',
        'simulator',
      ]),
    );
    check('nothing unused', () => node([bin('knip'), '--no-progress']));
  }
  const words = only.filter((w) => w !== 'checks' && w !== 'e2e');
  if (only.length === 0 || (words.length > 0 && !only.includes('e2e'))) {
    const report = join(scratch, 'vitest.json');
    count(
      'unit, property and database tests',
      report,
      () =>
        node(
          [
            bin('vitest'),
            'run',
            '--reporter=default',
            '--reporter=json',
            `--outputFile.json=${report}`,
            ...words,
          ],
          { ...cluster.urls, BM_OWNER_URL: cluster.ownerUrl },
        ),
      readVitest,
    );
  }
  if (wants('e2e')) {
    check('build', () => {
      needBuild();
      return true;
    });
    const report = join(scratch, 'playwright.json');
    count(
      'browser tests',
      report,
      () =>
        node([bin('@playwright/test'), 'test', ...words], {
          ...cluster.urls,
          PLAYWRIGHT_JSON_OUTPUT_NAME: report,
        }),
      readPlaywright,
    );
  }
} finally {
  await cluster.stop();
  rmSync(scratch, { recursive: true, force: true });
}
if (failures.length > 0) say(`\nFailed: ${failures.join('; ')}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
