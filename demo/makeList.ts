/** `npm run demo:list -- --rows 1000000 [--out list.csv] [--seed 1]`: writes a made-up supplier's list. */
import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import { parseArgs } from 'node:util';
import { demoRow, TIDY_HEADER, tidyLine } from './lists.ts';

const { values } = parseArgs({ options: { rows: { type: 'string', default: '1000000' }, out: { type: 'string', default: 'demo-list.csv' }, seed: { type: 'string', default: '1' } } });
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
process.stdout.write(`${values.out}: ${rows} rows.\n`);
