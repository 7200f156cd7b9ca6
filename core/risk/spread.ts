/** How draws are spread: mean, percentiles, bars, the chance of a loss. */
import { percentileOfSorted } from '../evidence/statistics.ts';

export type Chance = { readonly chance: number; readonly standardError: number };
export type Spread = {
  readonly mean: number;
  readonly p5: number;
  readonly p50: number;
  readonly p95: number;
  readonly lowest: number;
  readonly highest: number;
  readonly loss: Chance;
  /** Draws in bars of the same width from the lowest to the highest. */
  readonly bars: readonly number[];
};
const BARS = 40;
const LOSS = -1e-9;

/** A share of draws, with its standard error sqrt(p (1 - p) / n). */
export function chanceOf(count: number, draws: number): Chance {
  const chance = count / draws;
  return { chance, standardError: Math.sqrt((chance * (1 - chance)) / draws) };
}

/** Sorts the draws where they stand. One draw at least; none of them unknown. */
export function spreadOf(draws: Float64Array): Spread {
  draws.sort();
  const n = draws.length;
  const [lowest, highest] = [draws[0] as number, draws[n - 1] as number];
  const bars = new Array<number>(BARS).fill(0);
  let sum = 0;
  let losses = 0;
  for (const x of draws) {
    sum += x;
    if (x < LOSS) losses++;
    const bar =
      highest > lowest ? Math.min(BARS - 1, Math.floor(((x - lowest) / (highest - lowest)) * BARS)) : 0;
    bars[bar] = (bars[bar] as number) + 1;
  }
  const at = (p: number): number => percentileOfSorted(draws, p) as number;
  return {
    mean: sum / n,
    p5: at(0.05),
    p50: at(0.5),
    p95: at(0.95),
    lowest,
    highest,
    loss: chanceOf(losses, n),
    bars,
  };
}
