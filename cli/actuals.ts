/** What came of a launch at a prompt: settlement files held against the lane as it was planned. */
import Papa from 'papaparse';
import { compare, standsAt, unitsPlanned } from '../core/actuals/compare.ts';
import type { Compared } from '../core/actuals/compare.ts';
import { countedOnce } from '../core/actuals/once.ts';
import { isFault, SettlementReader, settlementMapIssues } from '../core/actuals/read.ts';
import type { SettlementTotals } from '../core/actuals/read.ts';
import { STEPS, settlementMap } from '../core/actuals/schema.ts';
import type { SettledLine, SettlementMap } from '../core/actuals/schema.ts';
import { kindsOfCodes, kindsSettled, sharedOut, SummingUp } from '../core/actuals/sums.ts';
import type { SettledSums, SharedOut } from '../core/actuals/sums.ts';
import { issuesOf } from '../core/issues.ts';
import { laneDocument } from '../core/lane/schema.ts';
import type { LaneDocument } from '../core/lane/schema.ts';
import { evaluate } from '../core/lane/evaluate.ts';
import { daysBefore, firstOfNextMonth } from '../core/money/days.ts';
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
  const since = options.since ?? counted.first;
  write({
    format: 'bold-margin/actuals',
    version: 1,
    currency: lane.data.currency,
    files: files.map((f) => f.said),
    twice: counted.twice,
    codes,
    ...(since === null
      ? { months: [], whole: null }
      : comparedBy(lane.data, sums, codes, since, counted.last)),
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

function comparedBy(
  doc: LaneDocument,
  sums: SettledSums,
  codes: readonly string[],
  since: string,
  last: string | null,
): object {
  const out = sharedOut(sums);
  const first = since.slice(0, 7);
  const months = [...new Set(codes.flatMap((c) => [...(sums.get(c)?.keys() ?? [])]))].sort();
  const units = evaluate(doc).figures.expectedMonthlyUnits;
  const planned = (from: string, to: string): number => {
    const start = `${from}-01` < since ? since : `${from}-01`;
    const end = daysBefore(firstOfNextMonth(`${to}-01`), 1);
    return unitsPlanned(units, doc.season, [1], since, start, last !== null && last < end ? last : end) ?? 0;
  };
  const over = (from: string, to: string): object => {
    const settled = settledOf(sums, out, codes, from, to);
    return said(compare(doc, settled, planned(from, to)));
  };
  return {
    since,
    months: months.map((month) => ({ month, ...over(month, month) })),
    whole: months.length === 0 ? null : over(first, months.at(-1) as string),
    left: [...out.left].map(([month, kinds]) => ({
      month,
      kinds: Object.entries(kinds).map(([kind, s]) => ({ kind, amount: s.amount / STEPS })),
    })),
  };
}

const settledOf = (
  sums: SettledSums,
  out: SharedOut,
  codes: readonly string[],
  from: string,
  to: string,
) => ({
  own: kindsOfCodes(sums, codes, from, to),
  shared: kindsOfCodes(out.by, codes, from, to),
  kinds: kindsSettled(sums),
});

function said(compared: Compared): object {
  const { currency: _, ...rest } = compared;
  return { ...standsAt(compared), ...rest };
}
