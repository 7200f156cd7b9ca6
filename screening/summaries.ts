/** What is said of many rows at once: sums and distributions, how the rows stand, words with their counts. */
import { isKnown } from '../core/rules/numbers.ts';
import { TROUBLES } from '../core/columns/columns.ts';
import { histogram, summarise } from '../core/columns/select.ts';
import { VERDICTS } from '../core/columns/verdicts.ts';
import { BLANKS } from '../core/lane/blanks.ts';
import { costsOf } from '../core/lists/figures.ts';
import type { ListFigure } from '../core/lists/figures.ts';
import type { Answer, FigureStats } from '../between/ask.ts';
import type { Counts, Dictionary, Evaluated } from './room.ts';

const BINS = 24;

let every = new Uint32Array(0);
/** All rows in their order; made once for the longest list. */
export function allRows(n: number): Uint32Array {
  if (every.length < n) every = Uint32Array.from({ length: n }, (_, i) => i);
  return every.subarray(0, n);
}

/** Sum, median and distribution of a figure: `rows` are those that are shown, the distribution is that of all. */
/** A figure of some rows summed up, its spread over all. `blanks`: of each row, as bits. */
export function statsOf(
  f: ListFigure,
  values: Float64Array,
  all: number,
  rows: Uint32Array,
  blanks: Uint32Array,
): FigureStats {
  const s = summarise(rows, values);
  const [from, to] = spread(values, all);
  return {
    figure: f,
    known: s.known,
    sum: s.sum,
    median: s.median,
    lacks: lacksOf(costsOf(f), values, rows, blanks),
    ...histogram(allRows(all), values, from, to, BINS),
  };
}

/** Which costs are missing of those whose figure counts; 0: each is whole. */
function lacksOf(costs: number, values: Float64Array, rows: Uint32Array, blanks: Uint32Array): number {
  if (costs === 0) return 0;
  let missing = 0;
  for (let k = 0; k < rows.length && missing !== costs; k++) {
    const i = rows[k] as number;
    if (isKnown(values[i] as number)) missing |= (blanks[i] as number) & costs;
  }
  return missing;
}

/** Where nearly all of a column lies, from a sample: its first and ninety-eighth hundredth. */
function spread(values: Float64Array, all: number): [number, number] {
  const step = Math.max(1, Math.floor(all / 5000));
  const sample: number[] = [];
  for (let i = 0; i < all; i += step) if (isKnown(values[i] as number)) sample.push(values[i] as number);
  if (sample.length === 0) return [0, 0];
  sample.sort((a, b) => a - b);
  return [
    sample[Math.floor(sample.length * 0.01)] as number,
    sample[Math.min(sample.length - 1, Math.floor(sample.length * 0.98))] as number,
  ];
}

/** How the rows stand, counted once for an evaluation. */
export function countsOf(e: Evaluated, all: number): Counts {
  if (e.counts !== null) return e.counts;
  const verdicts = [0, 0, 0, 0];
  const troubles = TROUBLES.map(() => 0);
  const blanks = new Array<number>(32).fill(0);
  let [noMarket, noCategory, troubled, noPrice] = [0, 0, 0, 0];
  const { price, category } = e.columns;
  const unknown = VERDICTS.indexOf('unknown');
  for (let i = 0; i < all; i++) {
    const v = e.verdicts[i] as number;
    (verdicts[v] as number)++;
    const priced = isKnown(price[i] as number);
    const trouble = e.results.trouble[i] as number;
    if (!priced) noMarket++;
    if ((category[i] as number) < 0) noCategory++;
    if (trouble !== 0) troubled++;
    if (v !== unknown) continue;
    if (trouble !== 0) (troubles[trouble] as number)++;
    else if (!priced) noPrice++;
    else
      for (let bits = e.results.blanks[i] as number; bits !== 0; bits &= bits - 1)
        (blanks[31 - Math.clz32(bits & -bits)] as number)++;
  }
  const lacking = [
    ...TROUBLES.map((t, k) => [t, troubles[k] as number] as [string, number]),
    ['price', noPrice] as [string, number],
    ...BLANKS.map((b, k) => [b, blanks[k] as number] as [string, number]),
  ]
    .filter(([what, n]) => what !== '' && n > 0)
    .sort((x, y) => y[1] - x[1]);
  e.counts = {
    verdicts: Object.fromEntries(VERDICTS.map((v, k) => [v, verdicts[k] as number])) as Answer['verdicts'],
    unknown: { noMarket, noCategory, troubled },
    lacking,
  };
  return e.counts;
}

/** The words of a column with how many of the rows have each, most first, two hundred at most. */
export function facetOf(dictionary: Dictionary, rows: Uint32Array): [string, number][] {
  const counts = new Uint32Array(dictionary.values.length);
  for (const i of rows) (counts[dictionary.codes[i] as number] as number)++;
  return dictionary.values
    .map((v, k): [string, number] => [v, counts[k] as number])
    .filter(([, n]) => n > 0)
    .sort((a, b) => b[1] - a[1])
    .slice(0, 200);
}
