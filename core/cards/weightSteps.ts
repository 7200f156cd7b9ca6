/** Fees by weight as rows of a sheet: steps up to a weight, and what each further step costs. */
import { num, or0 } from './formParts.ts';
import type { Reader, Row } from './reader.ts';

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
    r.fail(
      SHEET,
      first.line,
      'upToKg',
      'There is a further step but no first one',
      `Add a row with a weight and its ${amount}.`,
    );
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
    if (here === null)
      r.fail(
        SHEET,
        s.line,
        'upToKg',
        'The row has neither a weight nor a further step',
        `Write the weight up to which the ${amount} applies.`,
      );
    else if (before !== undefined && last !== null && here <= last)
      r.fail(
        SHEET,
        s.line,
        'upToKg',
        here === last
          ? `This step ends at ${here} kg as row ${before.line} does: the two overlap`
          : `This step ends at ${here} kg, under the ${last} kg of row ${before.line}: they are out of order`,
        'Sort the steps by rising weight, each once.',
      );
  });
}

/** One row at most says what each further step costs, and says nothing else. */
function checkFurther(r: Reader, further: readonly Row[]): void {
  further.forEach((s, k) => {
    if (s.upToKg !== null)
      r.fail(
        SHEET,
        s.line,
        'eachFurtherKg',
        'A row is either a step up to a weight or a further step',
        'Leave one of the two blank.',
      );
    if (k > 0)
      r.fail(
        SHEET,
        s.line,
        'eachFurtherKg',
        `Row ${(further[0] as Row).line} says already what each further step costs`,
        'Keep one of the two rows.',
      );
  });
}
