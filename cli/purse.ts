/** Several launches from one purse at a prompt: which, how many of each, in which week. */
import loadHighs from 'highs';
import { solverOf } from '../between/solver.ts';
import { issuesOf } from '../core/issues.ts';
import { purseOf } from '../core/purse/purse.ts';
import { purseDocument } from '../core/purse/schema.ts';
import { documentIn, NOT_JSON } from './documents.ts';
import type { Report, Write } from './documents.ts';

/** Prints the plan of a purse and what is asked about it. 0: done; 2: something was invalid. */
export async function purse(path: string | undefined, write: Write, report: Report): Promise<number> {
  const given = documentIn(path);
  if (given === undefined) {
    report(NOT_JSON);
    return 2;
  }
  const read = purseDocument.safeParse(given);
  if (!read.success) {
    report(issuesOf(read.error));
    return 2;
  }
  const currency = read.data.lanes[0]?.lane.homeCurrency ?? null;
  const said = purseOf(read.data, solverOf(await loadHighs()));
  write({ format: 'bold-margin/purse-result', version: 1, currency, ...said });
  return 0;
}
