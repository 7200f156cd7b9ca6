import { loadSheet } from '../server/use/candidates.ts';
import { authDb, closeDatabase, inWorkspace } from '../server/db/client.ts';
import { organization } from '../server/db/authSchema.ts';
import { candidate } from '../server/db/schema.ts';
import { env } from '../server/env.ts';
import type { Measure } from './core.ts';
import { measureCore } from './core.ts';
import { closeLoader } from '../server/db/loader.ts';
import { closeQueue } from '../server/jobs/boss.ts';
import { closeLeases } from '../server/jobs/leases.ts';
import { measureActuals } from './actuals.ts';
import { measureColumns } from './columns.ts';
import { measureLists } from './lists.ts';
import { measureEvidence } from './evidence.ts';
import { measureFind } from './find.ts';
import { measureGrid } from './grid.ts';
import { measureMany } from './many.ts';
import { measurePlan } from './plan.ts';
import { measureSheet } from './sheet.ts';
import { statementsOf } from './tools.ts';
import { measureWeigh } from './weigh.ts';

/** Business statements that the sheet's loader sends, for the candidate with the most lanes. */
async function measureLoader(): Promise<Measure> {
  const [w] = await authDb().select({ id: organization.id }).from(organization).limit(1);
  if (w === undefined) throw new Error('no workspace');
  const rows = await inWorkspace(w.id, (tx) =>
    tx.select({ id: candidate.id, data: candidate.data }).from(candidate),
  );
  const bee = rows.find((r) => r.data.name.startsWith('Bee house'));
  const started = performance.now();
  const statements = await statementsOf(() => loadSheet(w.id, bee?.id ?? ''));
  const ms = performance.now() - started;
  return {
    name: `Business statements of the sheet's loader (the candidate with most lanes)`,
    value: statements,
    unit: 'statements',
    aim: 'at most 5',
    yardstick: `${ms.toFixed(1)} ms in all`,
    ratio: null,
  };
}

const origin = env().BM_ORIGIN;
/** Groups of measures, each by the word that asks for it alone; without a word all of them are taken. */
const GROUPS: Readonly<Record<string, () => Measure[] | Promise<Measure[]>>> = {
  core: measureCore,
  columns: measureColumns,
  import: measureLists,
  loader: async () => [await measureLoader()],
  sheet: () => measureSheet(origin),
  grid: () => measureGrid(origin),
  weigh: () => measureWeigh(origin),
  many: () => measureMany(origin),
  evidence: measureEvidence,
  plan: () => measurePlan(origin),
  find: () => measureFind(origin),
  actuals: () => measureActuals(origin),
};
const words = process.argv.slice(2).filter((a) => !a.startsWith('--'));
const unknown = words.filter((w) => GROUPS[w] === undefined);
if (unknown.length > 0)
  throw new Error(`${unknown.join(', ')}: use any of ${Object.keys(GROUPS).join(', ')}`);
const measures: Measure[] = [];
for (const [name, take] of Object.entries(GROUPS))
  if (words.length === 0 || words.includes(name)) measures.push(...(await take()));
await Promise.all([closeQueue(), closeLoader(), closeLeases()]);
await closeDatabase();
if (process.argv.includes('--json')) process.stdout.write(`${JSON.stringify(measures, null, 2)}\n`);
else {
  const shown = (x: number): string => x.toLocaleString('en', { maximumFractionDigits: x < 100 ? 2 : 0 });
  const rows = [
    ['measure', 'value', 'aim', 'ratio', 'beside'],
    ...measures.map((m) => [
      m.name,
      `${shown(m.value)} ${m.unit}`,
      m.aim || '–',
      m.ratio === null ? '–' : m.ratio.toPrecision(3),
      m.yardstick,
    ]),
  ];
  const widths = [0, 1, 2, 3].map((c) => Math.max(...rows.map((r) => (r[c] as string).length)));
  for (const r of rows)
    process.stdout.write(
      `${r.map((cell, c) => (c < 4 ? cell.padEnd(widths[c] as number) : cell)).join('  ')}\n`,
    );
}
