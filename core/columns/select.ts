import { isUnknown } from '../rules/numbers.ts';
/**
 * Which rows of a list are shown, and in which order: limits, funnel, sorts, summaries. Written for a million
 * rows at a time.
 */

/** A limit on one column; null is no limit. Rows whose value is not known (NaN) stay only where `keepUnknown`. */
export type Range = {
  readonly values: Float64Array;
  readonly min: number | null;
  readonly max: number | null;
  readonly keepUnknown: boolean;
};
/** A limit that is not about a figure: 1 for the rows that stay. */
export type Mask = { readonly stays: Uint8Array };
export type Limit = Range | Mask;

export type Selected = {
  /** Rows that pass every limit, in their own order. */
  readonly rows: Uint32Array;
  /** Of each row, the limits that take it away, a bit for each (the first 32). */
  readonly removedBy: Uint32Array;
  /** How many rows each limit takes away by itself. */
  readonly alone: readonly number[];
  /** How many are left after each limit in turn: the funnel from all to the few. */
  readonly left: readonly number[];
};

/** Passes rows through limits. At most 32 limits. */
export function selectRows(length: number, limits: readonly Limit[]): Selected {
  const removedBy = new Uint32Array(length);
  const alone: number[] = [];
  const left: number[] = [];
  limits.slice(0, 32).forEach((limit, k) => {
    const bit = (1 << k) >>> 0;
    let gone = 0;
    let here = 0;
    if ('stays' in limit) {
      const { stays } = limit;
      for (let i = 0; i < length; i++) {
        if (stays[i] === 0) {
          removedBy[i] = (removedBy[i] as number) | bit;
          gone++;
        }
        if (removedBy[i] === 0) here++;
      }
    } else {
      const { values, keepUnknown } = limit;
      const min = limit.min ?? Number.NEGATIVE_INFINITY;
      const max = limit.max ?? Number.POSITIVE_INFINITY;
      for (let i = 0; i < length; i++) {
        const x = values[i] as number;
        const stays = isUnknown(x) ? keepUnknown : x >= min && x <= max;
        if (!stays) {
          removedBy[i] = (removedBy[i] as number) | bit;
          gone++;
        }
        if (removedBy[i] === 0) here++;
      }
    }
    alone.push(gone);
    left.push(here);
  });
  const rows = new Uint32Array(left.length === 0 ? length : (left[left.length - 1] as number));
  let n = 0;
  for (let i = 0; i < length; i++) if (removedBy[i] === 0) rows[n++] = i;
  return { rows, removedBy, alone, left };
}

/** One key of an order; values that are not known stand last either way. */
export type SortKey = { readonly values: Float64Array | Uint32Array; readonly down: boolean };

/**
 * Puts rows in order by several keys, the first the strongest; rows that are equal in all keep their order. A
 * radix sort over the bits of the numbers: four passes for a key, whatever the values.
 */
export function sortRows(rows: Uint32Array, keys: readonly SortKey[]): Uint32Array {
  const n = rows.length;
  let from = rows.slice();
  let to = new Uint32Array(n);
  const float = new Float64Array(1);
  const bits = new Uint32Array(float.buffer);
  const high = new Uint32Array(n);
  const low = new Uint32Array(n);
  const counts = new Uint32Array(65_536);
  for (let k = keys.length - 1; k >= 0; k--) {
    const { values, down } = keys[k] as SortKey;
    let lows = 0;
    let inOrder = true;
    for (let i = 0; i < n; i++) {
      const x = values[from[i] as number] as number;
      if (isUnknown(x)) {
        high[i] = 0xffffffff;
        low[i] = 0xffffffff;
        continue;
      }
      // 0 and -0 are one value; the bits of a float order like the number once the sign is turned about.
      float[0] = x === 0 ? 0 : x;
      let h = bits[1] as number;
      let l = bits[0] as number;
      if (h >>> 31 === 1) {
        h = ~h >>> 0;
        l = ~l >>> 0;
      } else h = (h | 0x80000000) >>> 0;
      if (down) {
        h = ~h >>> 0;
        l = ~l >>> 0;
      }
      high[i] = h;
      low[i] = l;
      lows |= l ^ (low[0] as number);
      if (i > 0) {
        const before = high[i - 1] as number;
        if (h < before || (h === before && l < (low[i - 1] as number))) inOrder = false;
      }
    }
    // A file is often in the order asked for: by its own lines, or by a column it was sorted by.
    if (inOrder) continue;
    // Whole numbers and money in cents of one size often share their low bits: those passes are left out.
    for (let pass = lows === 0 ? 2 : 0; pass < 4; pass++) {
      const part = pass < 2 ? low : high;
      const shift = (pass & 1) * 16;
      counts.fill(0);
      for (let i = 0; i < n; i++) (counts[((part[i] as number) >>> shift) & 0xffff] as number)++;
      let sum = 0;
      for (let b = 0; b < 65_536; b++) {
        const c = counts[b] as number;
        counts[b] = sum;
        sum += c;
      }
      scatter(n, part, shift, counts, from, to, high, low);
      [from, to] = [to, from];
    }
  }
  return from;
}

let spareHigh = new Uint32Array(0);
let spareLow = new Uint32Array(0);
/** Moves rows and their keys to their places by one digit. */
function scatter(
  n: number,
  part: Uint32Array,
  shift: number,
  places: Uint32Array,
  from: Uint32Array,
  to: Uint32Array,
  high: Uint32Array,
  low: Uint32Array,
): void {
  if (spareHigh.length < n) {
    spareHigh = new Uint32Array(n);
    spareLow = new Uint32Array(n);
  }
  for (let i = 0; i < n; i++) {
    const digit = ((part[i] as number) >>> shift) & 0xffff;
    const at = places[digit] as number;
    places[digit] = at + 1;
    to[at] = from[i] as number;
    spareHigh[at] = high[i] as number;
    spareLow[at] = low[i] as number;
  }
  high.set(spareHigh.subarray(0, n));
  low.set(spareLow.subarray(0, n));
}

export type Summary = {
  readonly known: number;
  readonly sum: number;
  readonly median: number | null;
  readonly min: number | null;
  readonly max: number | null;
};

/** Count, sum, median and ends of a column over rows; what is not known stays out. */
export function summarise(rows: Uint32Array, values: Float64Array): Summary {
  const known = new Float64Array(rows.length);
  let n = 0;
  let sum = 0;
  let min = Number.POSITIVE_INFINITY;
  let max = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < rows.length; i++) {
    const x = values[rows[i] as number] as number;
    if (isUnknown(x)) continue;
    known[n++] = x;
    sum += x;
    if (x < min) min = x;
    if (x > max) max = x;
  }
  if (n === 0) return { known: 0, sum: 0, median: null, min: null, max: null };
  // Adding 0 makes 0 of -0.
  return { known: n, sum: sum + 0, median: medianOf(known.subarray(0, n)) + 0, min: min + 0, max: max + 0 };
}

/** Median of numbers of which all are known; puts them in another order. */
function medianOf(values: Float64Array): number {
  const half = values.length >> 1;
  const upper = settle(values, half);
  if (values.length % 2 === 1) return upper;
  // What stands before the settled place is no larger; the largest of it is the other middle.
  let lower = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < half; i++) if ((values[i] as number) > lower) lower = values[i] as number;
  return (lower + upper) / 2;
}

/**
 * Brings the value that would stand at `place` of the ordered values there, no larger ones before it and no
 * smaller ones after it, and returns it: Hoare's selection about the middle of three, linear for what lists
 * hold, many equal values among it.
 */
function settle(values: Float64Array, place: number): number {
  let lo = 0;
  let hi = values.length - 1;
  while (lo < hi) {
    const pivot = middleOf(values[lo] as number, values[(lo + hi) >> 1] as number, values[hi] as number);
    let i = lo;
    let j = hi;
    while (i <= j) {
      while ((values[i] as number) < pivot) i++;
      while ((values[j] as number) > pivot) j--;
      if (i > j) break;
      const swapped = values[i] as number;
      values[i++] = values[j] as number;
      values[j--] = swapped;
    }
    if (place <= j) hi = j;
    else if (place >= i) lo = i;
    else break;
  }
  return values[place] as number;
}

const middleOf = (a: number, b: number, c: number): number =>
  Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));

export type Histogram = {
  readonly from: number;
  readonly to: number;
  readonly counts: readonly number[];
  readonly below: number;
  readonly above: number;
  readonly unknown: number;
};

/** How the values of a column lie between two ends, in bins of one width; what lies outside is counted apart. */
export function histogram(
  rows: Uint32Array,
  values: Float64Array,
  from: number,
  to: number,
  bins: number,
): Histogram {
  const counts = new Array<number>(bins).fill(0);
  let below = 0;
  let above = 0;
  let unknown = 0;
  const scale = to > from ? bins / (to - from) : 0;
  for (let i = 0; i < rows.length; i++) {
    const x = values[rows[i] as number] as number;
    if (isUnknown(x)) unknown++;
    else if (x < from) below++;
    else if (x > to) above++;
    else {
      const b = Math.min(bins - 1, Math.floor((x - from) * scale));
      counts[b] = (counts[b] as number) + 1;
    }
  }
  return { from, to, counts, below, above, unknown };
}

/**
 * Whether a limit takes away nearly all that is known, or sits just past a cluster: more than twenty rows,
 * over a third of those it takes, lie within a twentieth of the limit beyond it (the trap just below a round
 * price).
 */
export function limitWarning(
  rows: Uint32Array,
  values: Float64Array,
  bound: 'min' | 'max',
  level: number,
): 'cluster' | 'nearlyAll' | null {
  let known = 0;
  let gone = 0;
  let close = 0;
  const reach = Math.max(Math.abs(level) * 0.05, 1e-9);
  for (let i = 0; i < rows.length; i++) {
    const x = values[rows[i] as number] as number;
    if (isUnknown(x)) continue;
    known++;
    const past = bound === 'min' ? level - x : x - level;
    if (past > 0) {
      gone++;
      if (past <= reach) close++;
    }
  }
  if (known === 0) return null;
  if (gone / known > 0.98) return 'nearlyAll';
  return close > 20 && close / gone > 0.35 ? 'cluster' : null;
}
