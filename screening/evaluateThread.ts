/** One thread of the evaluation. */
import { evaluateRange, solveRange } from './evaluateRange.ts';
import type { Range, SolveRange } from './evaluateRange.ts';

export default (range: Range | SolveRange): void =>
  range.task === 'solve' ? solveRange(range) : evaluateRange(range);
