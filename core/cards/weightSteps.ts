/** Fees by weight as rows of a sheet: steps up to a weight, and what each further step costs. */
import { num, or0 } from './formParts.ts';
import type { Reader, Row } from './reader.ts';
import { fault } from '../fault.ts';

const SHEET = 'weightSteps';

/**
 * Reads the rows of one table of weights, those that are wrong said where they stand; `path` is where the table
 * belongs in the card. `amount` names what a step costs (a fee, the postage).
 */
export function readWeightSteps(r: Reader, rows: readonly Row[], path: string, amount: string) {
  const further = rows.filter((s) => s.eachFurtherKg !== null);
  const plain = rows.filter((s) => s.eachFurtherKg === null);
  checkSteps(r, plain, path, amount);
  checkFurther(r, further);
  const [first] = rows;
  if (first !== undefined && plain.length === 0)
    r.fail(SHEET, first.line, 'upToKg', fault('noFirstStep', { what: amount }));
  return {
    steps: plain.map((s) => ({ upToKg: s.upToKg, fee: s.fee })),
    stepKg: further[0]?.eachFurtherKg ?? null,
    stepFee: or0(further[0]?.fee),
  };
}

/** Steps rise by weight, each once. */
function checkSteps(r: Reader, plain: readonly Row[], path: string, amount: string): void {
  plain.forEach((s, k) => {
    r.mark(`${path}.steps.${k}`, SHEET, s.line);
    const here = num(s.upToKg);
    const before = plain[k - 1];
    const last = num(before?.upToKg);
    if (here === null) r.fail(SHEET, s.line, 'upToKg', fault('emptyStep', { what: amount }));
    else if (before !== undefined && last !== null && here <= last)
      r.fail(
        SHEET,
        s.line,
        'upToKg',
        here === last
          ? fault('sameWeight', { what: 'step', kg: here, row: before.line })
          : fault('weightOrder', { what: 'step', kg: here, before: last, row: before.line }),
      );
  });
}

/** One row at most says what each further step costs, and says nothing else. */
function checkFurther(r: Reader, further: readonly Row[]): void {
  further.forEach((s, k) => {
    if (s.upToKg !== null) r.fail(SHEET, s.line, 'eachFurtherKg', fault('stepOrFurther'));
    if (k > 0)
      r.fail(SHEET, s.line, 'eachFurtherKg', fault('furtherTwice', { row: (further[0] as Row).line }));
  });
}
