/**
 * The seed of this run, by which all random tests are drawn: `BM_SEED`, which `npm test` makes anew each time and
 * prints; 0 where nobody gives one.
 */
import fc from 'fast-check';

export const RUN_SEED = Number(process.env.BM_SEED ?? 0) >>> 0;
if (RUN_SEED !== 0) fc.configureGlobal({ seed: RUN_SEED });
