/** What rows come to under assumptions: of a list that is evaluated, or of a few rows ahead of it. */
import {
  makeResults,
  makeSolved,
  pickRows,
  RESULT_COLUMNS,
  SOLVED_COLUMNS,
  TROUBLES,
} from '../core/columns/columns.ts';
import type { ListColumns, ListResults, SolvedColumn, SolvedColumns } from '../core/columns/columns.ts';
import { ListEvaluator } from '../core/columns/evaluate.ts';
import { makePrepared } from '../core/columns/prepare.ts';
import { solveColumns } from '../core/columns/solve.ts';
import { judgeRows, VERDICTS } from '../core/columns/verdicts.ts';
import { LIST_FIGURES } from '../core/lists/figures.ts';
import type { ListFigure } from '../core/lists/figures.ts';
import type { ScreenSettings } from '../core/lists/settings.ts';
import type { JudgedRow } from '../between/ask.ts';

/** Rows as the assumptions take them and what they come to. */
export type Judged = {
  readonly columns: ListColumns;
  readonly results: ListResults;
  readonly verdicts: Uint8Array;
};
export type Solved = Readonly<Record<SolvedColumn, number | null>>;

export const known = (x: number): number | null => (Number.isFinite(x) ? x : null);

const RESULTS = new Set<string>(RESULT_COLUMNS);
/** Figures that hang on the assumptions, break-even price and most to pay aside. */
const JUDGED_FIGURES = LIST_FIGURES.filter(
  (f) => f === 'price' || f === 'units' || f === 'kg' || RESULTS.has(f),
);

/** The column of a figure that hangs on the assumptions; null: it stands in the file. */
export function judgedColumn(f: ListFigure, j: Judged): Float64Array | null {
  if (f === 'price' || f === 'units' || f === 'kg') return j.columns[f];
  return RESULTS.has(f) ? j.results[f as (typeof RESULT_COLUMNS)[number]] : null;
}

/** What row i of these comes to. */
export function judgedAt(j: Judged, i: number, solved: Solved): JudgedRow {
  return {
    figures: {
      ...Object.fromEntries(JUDGED_FIGURES.map((f) => [f, known(judgedColumn(f, j)?.[i] as number)])),
      ...solved,
    },
    gross: known(j.results.gross[i] as number),
    families: familiesOf(j.results, i),
    verdict: VERDICTS[j.verdicts[i] as number] as JudgedRow['verdict'],
    trouble: TROUBLES[j.results.trouble[i] as number] as string,
    blanks: j.results.blanks[i] as number,
  };
}

function familiesOf(r: ListResults, i: number): (number | null)[] {
  const at = (c: (typeof RESULT_COLUMNS)[number]): number => r[c][i] as number;
  return [
    at('gross') - at('netRevenue'),
    at('goods'),
    at('landedCost') - at('goods'),
    at('fees'),
    at('netRevenue') - at('fees') - at('proceeds'),
    at('proceeds') - at('landedCost') - at('contribution'),
    at('contribution') - at('unitProfit'),
  ].map(known);
}

/** Break-even price and most to pay of some rows of the columns. */
export function solveRows(
  columns: ListColumns,
  settings: ScreenSettings,
  rows: readonly number[],
): SolvedColumns {
  const picked = pickRows(columns, rows);
  const evaluator = evaluatorOf(settings);
  const prepared = makePrepared(rows.length, evaluator.width);
  evaluator.prepare(picked, prepared);
  const into = makeSolved(rows.length);
  solveColumns(evaluator, picked, prepared, into);
  return into;
}

export const solvedAt = (solved: SolvedColumns, k: number): Solved =>
  Object.fromEntries(SOLVED_COLUMNS.map((f) => [f, known(solved[f][k] as number)])) as Solved;

export const evaluatorOf = ({ assumptions, rates, country, currency }: ScreenSettings): ListEvaluator =>
  new ListEvaluator(assumptions, { ...rates, country, currency });

/** A few rows under other assumptions, ahead of the list; the columns as they stand. */
export function judgeAhead(
  columns: ListColumns,
  settings: ScreenSettings,
  rows: readonly number[],
): JudgedRow[] {
  const picked = pickRows(columns, rows);
  const results = makeResults(rows.length);
  const verdicts = new Uint8Array(rows.length);
  const evaluator = evaluatorOf(settings);
  evaluator.run(picked, results);
  judgeRows(settings.assumptions, evaluator.rates, picked, results, verdicts);
  const solved = solveRows(columns, settings, rows);
  return rows.map((_, k) => judgedAt({ columns: picked, results, verdicts }, k, solvedAt(solved, k)));
}
