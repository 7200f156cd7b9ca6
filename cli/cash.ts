/** A launch over time at a prompt: the money it needs, when it is back, month by month. */
import Papa from 'papaparse';
import { cashOf } from '../core/cash/cash.ts';
import type { CaseCash, CashRuns } from '../core/cash/cash.ts';
import { daysOfRun, monthsOf } from '../core/cash/months.ts';
import { CASH_CASES, cashPlan } from '../core/cash/schema.ts';
import { issuesOf } from '../core/issues.ts';
import { laneDocument } from '../core/lane/schema.ts';
import { cannot } from './files.ts';
import { documentIn, NOT_JSON } from './documents.ts';
import type { Report, Write } from './documents.ts';

export type CashOptions = { readonly plan: string | undefined; readonly csv: string | undefined };

/** Prints the cash of a lane by its plan. 0: done; 2: something was invalid. */
export function cash(
  path: string | undefined,
  { plan: planPath, csv }: CashOptions,
  write: Write,
  report: Report,
): number {
  if (csv !== undefined && csv !== 'days' && csv !== 'months')
    throw cannot('noneOf', { text: csv, choices: 'days, months' });
  const given = documentIn(path);
  const planned = planPath === undefined ? {} : documentIn(planPath);
  if (given === undefined || planned === undefined) {
    report(NOT_JSON);
    return 2;
  }
  const lane = laneDocument.safeParse(given);
  const plan = cashPlan.safeParse(planned);
  for (const read of [lane, plan]) if (!read.success) report(issuesOf(read.error));
  if (!lane.success || !plan.success) return 2;
  const said = cashOf(lane.data, plan.data);
  const head = { format: 'bold-margin/cash-result', version: 1, currency: lane.data.homeCurrency };
  if (!said.known) {
    write({ ...head, cases: null, lacks: said.lacks, problems: said.problems });
    return 0;
  }
  const atHand = plan.data.launch.cash ?? 0;
  if (csv !== undefined) {
    const { run } = said.cases.expected;
    const rows = csv === 'days' ? daysOfRun(run, said.start, atHand) : monthsOf(run, said.start, atHand);
    process.stdout.write(`${Papa.unparse(rows as object[])}\n`);
    return 0;
  }
  write({ ...head, ...told(said, atHand) });
  return 0;
}

function told(
  { cases, perUnit, start, horizon, onSale, contingency, toKeepReady, over, peaks }: CashRuns,
  atHand: number,
): object {
  const { order, sale } = perUnit;
  const caseOf = ({ run, ...own }: CaseCash): object => ({
    ...own,
    toCome: run.toCome,
    orders: run.orders,
    months: monthsOf(run, start, atHand),
  });
  return {
    start,
    horizon,
    onSale,
    perUnit: { cGoods: order.goods, cWay: order.way, cReady: order.ready, ...sale },
    contingency,
    toKeepReady,
    over,
    cases: Object.fromEntries(CASH_CASES.map((c) => [c, caseOf(cases[c])])),
    peaks,
  };
}
