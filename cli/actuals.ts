/** What came of a launch at a prompt: settlement files held against the lane as it was planned. */
import Papa from 'papaparse';
import { standsAt } from '../core/actuals/compare.ts';
import type { Compared } from '../core/actuals/compare.ts';
import { countedOnce } from '../core/actuals/once.ts';
import { monthCompared, placeSettled, soldOf } from '../core/actuals/onSale.ts';
import { SettlementReader, settlementMapIssues } from '../core/actuals/read.ts';
import type { SettlementTotals } from '../core/actuals/read.ts';
import { STEPS, settlementMap } from '../core/actuals/schema.ts';
import type { SettledLine, SettlementMap } from '../core/actuals/schema.ts';
import { SummingUp } from '../core/actuals/sums.ts';
import { isFault } from '../core/fault.ts';
import { issuesOf } from '../core/issues.ts';
import { laneDocument } from '../core/lane/schema.ts';
import type { LaneDocument } from '../core/lane/schema.ts';
import { inWords } from '../words/index.ts';
import { documentIn, NOT_JSON } from './documents.ts';
import type { Report, Write } from './documents.ts';
import { cannot, readText } from './files.ts';

export type ActualsOptions = {
  readonly lane?: string | undefined;
  readonly settlement: readonly string[];
  readonly map?: string | undefined;
  /** Codes by which the settlement names the lane's goods; none: every code in it. */
  readonly code: readonly string[];
  readonly since?: string | undefined;
};

/** Prints plan and actual of a lane, over all months and each by itself. 0: done; 2: something was invalid. */
export function actuals(options: ActualsOptions, write: Write, report: Report): number {
  const { lane: lanePath, map: mapPath, settlement } = options;
  if (lanePath === undefined || mapPath === undefined || settlement.length === 0)
    throw cannot('whichSettlement');
  const [given, mapped] = [documentIn(lanePath), documentIn(mapPath)];
  if (given === undefined || mapped === undefined) {
    report(NOT_JSON);
    return 2;
  }
  const lane = laneDocument.safeParse(given);
  const map = settlementMap.safeParse(mapped);
  for (const read of [lane, map]) if (!read.success) report(issuesOf(read.error));
  if (!lane.success || !map.success) return 2;
  const files = settlement.map((path) => readFile(path, map.data, lane.data));
  const counted = countedOnce(files.map((f) => f.lines));
  const summing = new SummingUp();
  for (const line of counted.lines) summing.add(line);
  const sums = summing.sums();
  const codes = options.code.length > 0 ? options.code : [...sums.keys()].filter((c) => c !== '');
  const since = options.since ?? counted.first ?? lane.data.date;
  const place = placeSettled(sums, counted.last);
  const sold = soldOf({ document: lane.data, codes, since, ramp: [1] }, place);
  write({
    format: 'bold-margin/actuals',
    version: 1,
    currency: lane.data.currency,
    files: files.map((f) => f.said),
    twice: counted.twice,
    codes,
    since,
    months: sold.months.map((m) => ({ month: m.month, ...said(monthCompared(lane.data, m)) })),
    whole: sold.whole === null ? null : said(sold.whole),
    left: [...place.shared.left].map(([month, kinds]) => ({
      month,
      kinds: Object.entries(kinds).map(([kind, s]) => ({ kind, amount: s.amount / STEPS })),
    })),
  });
  return files.some((f) => f.refused) ? 2 : 0;
}

/** The lines of a file; what is wrong with a row is said, and the others count. */
function readFile(path: string, map: SettlementMap, { marketplace, country, currency, date }: LaneDocument) {
  const [header = [], ...rows] = Papa.parse<string[]>(readText(path), { skipEmptyLines: 'greedy' }).data;
  const [issue] = settlementMapIssues(map, header);
  if (issue !== undefined)
    throw cannot('settlementUnfit', { file: path, why: inWords({ path: '', ...issue }) });
  const today = new Date().toISOString().slice(0, 10);
  const place = { marketplace, country, currency };
  const reader = new SettlementReader(map, header, place, today > date ? today : date);
  const lines: SettledLine[] = [];
  rows.forEach((raw, i) => {
    const read = reader.read(raw, i + 2);
    if (isFault(read)) process.stderr.write(`${path}: ${inWords({ path: `row ${i + 2}`, ...read })}\n`);
    else for (const line of read) lines.push(line);
  });
  return { lines, refused: reader.totals.refusedRows > 0, said: totalsSaid(path, reader.totals) };
}

const totalsSaid = (file: string, t: SettlementTotals): object => ({
  file,
  rows: t.rows,
  lines: t.lines,
  amount: t.amount / STEPS,
  waiting: [...t.waiting].map(([kind, w]) => ({ kind, lines: w.lines, amount: w.amount / STEPS })),
  refused: { rows: t.refusedRows, amount: t.refusedAmount / STEPS },
  from: t.first,
  to: t.last,
});

function said(compared: Compared): object {
  const { currency: _, ...rest } = compared;
  return { ...standsAt(compared), ...rest };
}
