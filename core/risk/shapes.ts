/**
 * Inverse distribution functions of a range (planning, section 3): which value has a given share of all draws below
 * it. Both to 1e-12 of the range's width.
 */
import type { Range } from './schema.ts';

/** Turns a uniform number into a value of the range. */
export type Inverse = (u: number) => number;

/**
 * Triangular between low and high, with its peak at the most likely value.
 *
 * @example triangular({ low: 0, likely: 0, high: 1 })(0.75) // 0.5
 */
export function triangular({ low, likely, high }: Range): Inverse {
  const width = high - low;
  if (width === 0) return () => low;
  const peak = (likely - low) / width;
  return (u) =>
    u < peak ? low + width * Math.sqrt(u * peak) : high - width * Math.sqrt((1 - u) * (1 - peak));
}

/** Terms of the series: each adds about a bit at the middle of the range. */
const TERMS = 60;
/** Points of the table from an end to the middle, and buckets by which the point nearest is found. */
const POINTS = 128;
const BUCKETS = 256;
/** Terms by which the inverse is continued from a point; the last says whether they are enough. */
const DEGREE = 12;
const ENOUGH = 1e-15;

/**
 * A beta distribution whose parameters add up to 6, as far as its middle, seen from one of its ends. Shares are not
 * divided by the whole.
 */
class Half {
  private readonly series = new Float64Array(TERMS);
  /** Shares at the points. */
  private readonly shares = new Float64Array(POINTS + 1);
  private readonly buckets = new Uint8Array(BUCKETS);
  private readonly perBucket: number;
  /** Terms at each point: worked out when it is first needed (1), and too few near an end (2). */
  private readonly terms = new Float64Array((POINTS + 1) * (DEGREE + 1));
  private readonly state = new Uint8Array(POINTS + 1);
  readonly all: number;

  constructor(
    private readonly a: number,
    private readonly b: number,
  ) {
    // x^a (1-x)^(b-1) dx, integrated term by term: x^a * sum of (1-b)_n / n! / (a+n) * x^n.
    let c = 1;
    for (let n = 0; n < TERMS; n++) {
      this.series[n] = c / (a + n);
      c *= (1 - b + n) / (n + 1);
    }
    for (let i = 0; i <= POINTS; i++) this.shares[i] = this.upTo(i / POINTS / 2);
    this.all = this.shares[POINTS] as number;
    this.perBucket = BUCKETS / this.all;
    for (let k = 0, i = 0; k < BUCKETS; k++) {
      while (i < POINTS - 1 && (this.shares[i + 1] as number) * this.perBucket <= k) i++;
      this.buckets[k] = i;
    }
  }

  /** Integral from 0 to x <= 0.5. */
  private upTo(x: number): number {
    let sum = 0;
    for (let n = TERMS - 1; n >= 0; n--) sum = sum * x + (this.series[n] as number);
    return x ** this.a * sum;
  }

  /** Where the share from this end is so much, at most to the middle. */
  inverse(share: number): number {
    const { shares, terms } = this;
    let i = this.buckets[Math.min(BUCKETS - 1, Math.floor(share * this.perBucket))] as number;
    while (i < POINTS - 1 && (shares[i + 1] as number) <= share) i++;
    const [below, above] = [shares[i] as number, shares[i + 1] as number];
    const near = share - below < above - share ? i : i + 1;
    if (this.state[near] === 0) this.expand(near);
    if (this.state[near] === 2) return this.searched(share, i);
    const h = share - (shares[near] as number);
    const first = near * (DEGREE + 1);
    let x = 0;
    for (let n = first + DEGREE; n >= first; n--) x = x * h + (terms[n] as number);
    return x;
  }

  /**
   * Terms of the inverse around a point. With f = dx/dshare = x^(1-a) (1-x)^(1-b) and v = f * (1 - a + 4x),
   * x (1-x) df/dshare = f * v, from which each term follows from those before it.
   */
  private expand(point: number): void {
    const x = new Float64Array(DEGREE + 1);
    const f = new Float64Array(DEGREE + 1);
    const v = new Float64Array(DEGREE + 1);
    const g = new Float64Array(DEGREE + 1);
    const x0 = point / POINTS / 2;
    x[0] = x0;
    f[0] = x0 ** (1 - this.a) * (1 - x0) ** (1 - this.b);
    const at = (of: Float64Array, n: number): number => of[n] as number;
    for (let n = 0; n < DEGREE; n++) {
      x[n + 1] = at(f, n) / (n + 1);
      // v and x (1-x), their n-th terms.
      let [vn, xx] = [(1 - this.a) * at(f, n), 0];
      for (let j = 0; j <= n; j++) {
        vn += 4 * at(f, j) * at(x, n - j);
        xx += at(x, j) * at(x, n - j);
      }
      v[n] = vn;
      g[n] = at(x, n) - xx;
      let next = 0;
      for (let j = 0; j <= n; j++) next += at(f, j) * at(v, n - j);
      for (let j = 1; j <= n; j++) next -= at(g, j) * (n + 1 - j) * at(f, n + 1 - j);
      f[n + 1] = next / ((n + 1) * x0 * (1 - x0));
    }
    this.terms.set(x, point * (DEGREE + 1));
    const reach = Math.max(
      at(this.shares, point) - at(this.shares, Math.max(0, point - 1)),
      at(this.shares, Math.min(POINTS, point + 1)) - at(this.shares, point),
    );
    const last = Math.abs(at(x, DEGREE)) * (reach / 2) ** DEGREE;
    this.state[point] = last < ENOUGH ? 1 : 2;
  }

  /** The same by Newton's steps between a point and the next. */
  private searched(share: number, point: number): number {
    let [from, to] = [point / POINTS / 2, (point + 1) / POINTS / 2];
    const [below, above] = [this.shares[point] as number, this.shares[point + 1] as number];
    let x = above > below ? from + ((share - below) / (above - below)) * (to - from) : from;
    for (let n = 0; n < 60; n++) {
      const off = this.upTo(x) - share;
      if (off > 0) to = x;
      else from = x;
      const next = x - off / (x ** (this.a - 1) * (1 - x) ** (this.b - 1));
      const x1 = next > from && next < to ? next : (from + to) / 2;
      if (Math.abs(x1 - x) <= 1e-14) return x1;
      x = x1;
    }
    return x;
  }
}

/** The inverse of a beta distribution with a = 1 + 4 k, b = 5 - 4 k, on [0, 1]. */
function betaInverse(k: number): Inverse {
  const [left, right] = [new Half(1 + 4 * k, 5 - 4 * k), new Half(5 - 4 * k, 1 + 4 * k)];
  const whole = left.all + right.all;
  const middle = left.all / whole;
  // Near the upper end the share above is the smaller number, and so the better one to go by.
  return (u) => (u <= middle ? left.inverse(u * whole) : 1 - right.inverse((1 - u) * whole));
}

/**
 * PERT with shape 4: Beta(1 + 4(m-l)/(h-l), 1 + 4(h-m)/(h-l)) on [l, h].
 *
 * @example Number(pert({ low: 0, likely: 0.5, high: 1 })(0.5).toFixed(12)) // 0.5
 */
export function pert({ low, likely, high }: Range): Inverse {
  const width = high - low;
  if (width === 0) return () => low;
  const inverse = betaInverse((likely - low) / width);
  return (u) => (u <= 0 ? low : low + width * inverse(u));
}

export const SHAPES = { triangular, pert } as const;

/** Share of all draws above a value, by halving the share below it; 0 above the range, 1 below it. */
export function shareAbove(range: Range, shape: keyof typeof SHAPES, value: number): number {
  if (value >= range.high) return 0;
  if (value < range.low) return 1;
  const inverse = SHAPES[shape](range);
  let [low, high] = [0, 1];
  for (let n = 0; n < 50; n++) {
    const middle = (low + high) / 2;
    if (inverse(middle) > value) high = middle;
    else low = middle;
  }
  return 1 - low;
}
