/** A range of a list's rows evaluated and held against the hurdles, in memory that threads may share. */
import type { ListColumns, ListResults, SolvedColumns } from '../core/columns/columns.ts';
import { INPUT_COLUMNS, RESULT_COLUMNS, SOLVED_COLUMNS } from '../core/columns/columns.ts';
import { ListEvaluator } from '../core/columns/evaluate.ts';
import type { Prepared } from '../core/columns/block.ts';
import { solveColumns } from '../core/columns/solve.ts';
import { judgeRows } from '../core/columns/verdicts.ts';
import type { ScreenSettings } from '../core/lists/settings.ts';

type Rows = { readonly from: number; readonly to: number };
/** What size and weight decide, shared; `ready`: it stands there already. */
type SharedPrepared = Prepared & { readonly width: number; readonly ready: boolean };
export type Range = Rows & {
  readonly task: 'evaluate';
  readonly settings: ScreenSettings;
  readonly columns: ListColumns;
  readonly results: ListResults;
  readonly verdicts: Uint8Array;
  readonly prepared: SharedPrepared;
};
export type SolveRange = Rows & {
  readonly task: 'solve';
  readonly settings: ScreenSettings;
  readonly columns: ListColumns;
  readonly prepared: SharedPrepared;
  readonly solved: SolvedColumns;
};

const ratesOf = (s: ScreenSettings) => ({ ...s.rates, country: s.country, currency: s.currency });
const columnsOf = (columns: ListColumns, { from, to }: Rows): ListColumns => ({
  ...columns,
  ...Object.fromEntries(INPUT_COLUMNS.map((n) => [n, columns[n].subarray(from, to)])),
  length: to - from,
  category: columns.category.subarray(from, to),
  taxClass: columns.taxClass.subarray(from, to),
});
const preparedOf = (p: SharedPrepared, { from, to }: Rows): Prepared => ({
  bandFees: p.bandFees.subarray(from * p.width, to * p.width),
  tiers: p.tiers.subarray(from, to),
});

export function evaluateRange(range: Range): void {
  const { settings, columns, results, verdicts, prepared, from, to } = range;
  const part = columnsOf(columns, range);
  const out = {
    ...Object.fromEntries(RESULT_COLUMNS.map((n) => [n, results[n].subarray(from, to)])),
    length: to - from,
    blanks: results.blanks.subarray(from, to),
    trouble: results.trouble.subarray(from, to),
  } as ListResults;
  const rates = ratesOf(settings);
  const evaluator = new ListEvaluator(settings.assumptions, rates);
  const own = preparedOf(prepared, range);
  if (prepared.ready) evaluator.takePrepared(part, own);
  else evaluator.prepare(part, own);
  evaluator.run(part, out, 0, to - from);
  judgeRows(settings.assumptions, rates, part, out, verdicts.subarray(from, to), 0, to - from);
}

/** Break-even price and most to pay of a range, whose sizes and weights are prepared. */
export function solveRange(range: SolveRange): void {
  const { settings, columns, prepared, solved, from, to } = range;
  const into = Object.fromEntries(SOLVED_COLUMNS.map((n) => [n, solved[n].subarray(from, to)]));
  solveColumns(
    new ListEvaluator(settings.assumptions, ratesOf(settings)),
    columnsOf(columns, range),
    preparedOf(prepared, range),
    into as unknown as SolvedColumns,
  );
}
