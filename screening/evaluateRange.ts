/** A range of a list's rows evaluated and held against the hurdles, in memory that threads may share. */
import type { ListColumns, ListResults } from '../core/columns/columns.ts';
import { INPUT_COLUMNS, RESULT_COLUMNS } from '../core/columns/columns.ts';
import { ListEvaluator } from '../core/columns/evaluate.ts';
import type { Prepared } from '../core/columns/evaluate.ts';
import { judgeRows } from '../core/columns/verdicts.ts';
import type { ScreenSettings } from '../core/lists/settings.ts';

export type Range = {
  readonly settings: ScreenSettings;
  readonly columns: ListColumns;
  readonly results: ListResults;
  readonly verdicts: Uint8Array /** What size and weight decide, shared; `ready`: it stands there already. */;
  readonly prepared: Prepared & { readonly width: number; readonly ready: boolean };
  readonly from: number;
  readonly to: number;
};

export function evaluateRange({ settings, columns, results, verdicts, prepared, from, to }: Range): void {
  const part = {
    ...columns,
    ...Object.fromEntries(INPUT_COLUMNS.map((n) => [n, columns[n].subarray(from, to)])),
    length: to - from,
    category: columns.category.subarray(from, to),
    taxClass: columns.taxClass.subarray(from, to),
  } as ListColumns;
  const out = {
    ...Object.fromEntries(RESULT_COLUMNS.map((n) => [n, results[n].subarray(from, to)])),
    length: to - from,
    blanks: results.blanks.subarray(from, to),
    trouble: results.trouble.subarray(from, to),
  } as ListResults;
  const rates = { ...settings.rates, country: settings.country, currency: settings.currency };
  const evaluator = new ListEvaluator(settings.assumptions, rates);
  const own = {
    bandFees: prepared.bandFees.subarray(from * prepared.width, to * prepared.width),
    tiers: prepared.tiers.subarray(from, to),
  };
  if (prepared.ready) evaluator.takePrepared(part, own);
  else evaluator.prepare(part, own);
  evaluator.run(part, out, 0, to - from);
  judgeRows(settings.assumptions, rates, part, out, verdicts.subarray(from, to), 0, to - from);
}
