/**
 * `npm run demo:list -- --rows 1000000 [--out list.csv] [--seed 1]`: writes a made-up supplier's list, and
 * beside it a mapping and settings to screen it with, on the example cards of the demo.
 */
import { once } from 'node:events';
import { createWriteStream, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { demoRow, demoScreen, TIDY_HEADER, TIDY_MAP, tidyLine } from './lists.ts';

const { values } = parseArgs({
  options: {
    rows: { type: 'string', default: '1000000' },
    out: { type: 'string', default: 'demo-list.csv' },
    seed: { type: 'string', default: '1' },
  },
});
const rows = Number(values.rows);
if (!Number.isInteger(rows) || rows < 1 || rows > 10_000_000) {
  process.stderr.write('Give --rows between 1 and 10000000.\n');
  process.exit(2);
}
const out = createWriteStream(values.out);
out.write(`${TIDY_HEADER.join(',')}\n`);
for (let i = 0; i < rows; i += 2000) {
  let text = '';
  for (let k = i; k < Math.min(rows, i + 2000); k++) text += `${tidyLine(demoRow(k, Number(values.seed)))}\n`;
  if (!out.write(text)) await once(out, 'drain');
}
out.end();
await once(out, 'close');
const beside = values.out.replace(/\.csv$/i, '');
writeFileSync(`${beside}.map.json`, `${JSON.stringify(TIDY_MAP, null, 2)}\n`);
writeFileSync(`${beside}.settings.json`, `${JSON.stringify(demoScreen(), null, 2)}\n`);
process.stdout.write(
  `${values.out}: ${rows} rows; ${beside}.map.json and ${beside}.settings.json to screen it with.\n`,
);
