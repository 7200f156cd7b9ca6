/**
 * What the random tests of this run draw. `BM_SEED` is the seed, which `npm test` makes anew each time and prints;
 * 0 where nobody gives one. `BM_DEEP` draws all cases (`npm run test:deep`); a quick run draws a tenth of them.
 */
import fc from 'fast-check';

export const RUN_SEED = Number(process.env.BM_SEED ?? 0) >>> 0;
if (RUN_SEED !== 0) fc.configureGlobal({ seed: RUN_SEED });

const DEEP = process.env.BM_DEEP === '1';

/** How many of `all` random cases this run draws. */
export const cases = (all: number): number => (DEEP ? all : Math.ceil(all / 10));

/**
 * How often a random test must have met something that all its cases meet `often` times. Few cases spread wider; a test
 * that may still miss it goes on until it is met.
 */
export const enough = (often: number): number => (DEEP ? often : Math.floor(often / 50));
