/** One thread of the evaluation. */
import { evaluateRange } from './evaluateRange.ts';

export default evaluateRange;
