/** What draws are made of: uniform numbers, the shapes they are bent to, and what is said of many. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { uniforms } from './generator.ts';
import type { Range } from './schema.ts';
import { pert, triangular } from './shapes.ts';
import { chanceOf, spreadOf } from './spread.ts';

describe('uniform numbers', () => {
  /** The generator as its authors wrote it down, in integers without end. */
  function plainly(seed: number, count: number): number[] {
    const M = (1n << 64n) - 1n;
    const rotl = (x: bigint, k: bigint): bigint => ((x << k) | (x >> (64n - k))) & M;
    let z = BigInt(seed);
    const split = (): bigint => {
      z = (z + 0x9e3779b97f4a7c15n) & M;
      let r = ((z ^ (z >> 30n)) * 0xbf58476d1ce4e5b9n) & M;
      r = ((r ^ (r >> 27n)) * 0x94d049bb133111ebn) & M;
      return r ^ (r >> 31n);
    };
    let [s0, s1] = [split(), split()];
    return Array.from({ length: count }, () => {
      const sum = (s0 + s1) & M;
      const t = s1 ^ s0;
      s0 = (rotl(s0, 24n) ^ t ^ (t << 16n)) & M;
      s1 = rotl(t, 37n);
      return Number(sum >> 11n) / 2 ** 53;
    });
  }
  it.each([0, 1, 42, 2 ** 32, Number.MAX_SAFE_INTEGER])(
    'seed %d: as written down in plain integers',
    (seed) => {
      expect([...uniforms(seed, 500)]).toEqual(plainly(seed, 500));
    },
  );
  it('lie in [0, 1), fill it evenly, and another seed draws others', () => {
    const all = uniforms(9, 80_000);
    expect(Math.min(...all)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...all)).toBeLessThan(1);
    const tenths = new Array(10).fill(0);
    for (const u of all) tenths[Math.floor(u * 10)]++;
    for (const n of tenths) expect(Math.abs(n - 8000)).toBeLessThan(5 * Math.sqrt(8000));
    expect(uniforms(10, 3)).not.toEqual(uniforms(9, 3));
  });
});

describe('shapes', () => {
  const range = (low: number, likely: number, high: number): Range => ({ low, likely, high });
  const ranges = fc
    .tuple(fc.double({ min: 0, max: 100, noNaN: true }), fc.double({ min: 0.01, max: 50, noNaN: true }))
    .chain(([low, width]) =>
      fc
        .constantFrom(0, 0.1, 0.25, 0.5, 0.9, 1)
        .map((k) => range(low, Math.min(low + width, low + k * width), low + width)),
    );
  const share = fc.double({ min: 0, max: 1, noNaN: true, maxExcluded: true });

  it('triangular: the share below the answer is the number it was asked for', () => {
    fc.assert(
      fc.property(ranges, share, (r, u) => {
        const x = triangular(r)(u);
        const { low, likely, high } = r;
        const below =
          x <= likely && likely > low
            ? (x - low) ** 2 / ((high - low) * (likely - low))
            : 1 - (high - x) ** 2 / ((high - low) * Math.max(high - likely, 1e-300));
        expect(Math.abs(below - u)).toBeLessThan(1e-9);
      }),
    );
  });
  /** Beta with parameters that are whole numbers adding up to 6: its share below x, as a sum of binomials. */
  function betaBelow(a: number, x: number): number {
    const choose = [1, 5, 10, 10, 5, 1];
    let sum = 0;
    for (let j = a; j <= 5; j++) sum += (choose[j] as number) * x ** j * (1 - x) ** (5 - j);
    return sum;
  }
  it.each([
    [0, 1],
    [0.25, 2],
    [0.5, 3],
    [0.75, 4],
    [1, 5],
  ])('PERT with its peak at %d of the range: as the sum of binomials says', (k, a) => {
    const inverse = pert(range(0, k, 1));
    for (let i = 0; i < 2000; i++) {
      const u = (i + 0.5) / 2000;
      expect(Math.abs(betaBelow(a, inverse(u)) - u), `at ${u}`).toBeLessThan(1e-12);
    }
    expect(inverse(0)).toBe(0);
    expect(betaBelow(a, inverse(1e-9))).toBeCloseTo(1e-9, 15);
  });
  it.each([
    [0, 1],
    [0.25, 2],
    [0.75, 4],
    [1, 5],
  ])('PERT with its peak at %d: the value itself to 1e-12 of the range, near both ends too', (k, a) => {
    const inverse = pert(range(0, k, 1));
    for (const u of [1e-9, 1e-5, 0.003, 0.02, 0.31, 0.5, 0.77, 0.98, 0.9999, 1 - 1e-7]) {
      let [low, high] = [0, 1];
      for (let n = 0; n < 60; n++) {
        const middle = (low + high) / 2;
        if (betaBelow(a, middle) < u) low = middle;
        else high = middle;
      }
      // Where hardly anything lies above, a share is not known any better than numbers are.
      const near = 1e-12 + 2e-15 / Math.max(1e-6, 1 - u);
      expect(Math.abs(inverse(u) - low), `at ${u}`).toBeLessThan(near);
    }
  });
  it('PERT anywhere: the area under its density up to the answer, over the whole area', () => {
    fc.assert(
      fc.property(ranges, share, (r, u) => {
        const x = (pert(r)(u) - r.low) / (r.high - r.low);
        const k = (r.likely - r.low) / (r.high - r.low);
        const density = (t: number): number => t ** (4 * k) * (1 - t) ** (4 - 4 * k);
        // Simpson's rule; where the exponent is no whole number the ends are rough.
        const area = (to: number): number => {
          let sum = 0;
          const n = 2000;
          for (let i = 0; i < n; i++) {
            const [p, q] = [(to * i) / n, (to * (i + 1)) / n];
            sum += ((q - p) / 6) * (density(p) + 4 * density((p + q) / 2) + density(q));
          }
          return sum;
        };
        expect(Math.abs(area(x) / area(1) - u)).toBeLessThan(2e-5);
      }),
      { numRuns: 60 },
    );
  });
  it('a range of no width is what it is', () => {
    for (const shape of [triangular, pert]) expect(shape(range(3, 3, 3))(0.7)).toBe(3);
  });
  it('both rise with the number they are asked for', () => {
    for (const shape of [triangular, pert])
      for (const k of [0, 0.13, 0.5, 0.97, 1]) {
        const inverse = shape(range(10, 10 + 5 * k, 15));
        let last = 10 - 1e-12;
        for (let i = 0; i < 1000; i++) {
          const x = inverse(i / 1000);
          expect(x).toBeGreaterThanOrEqual(last);
          expect(x).toBeLessThanOrEqual(15);
          last = x;
        }
      }
  });
});

describe('spread', () => {
  it('percentiles between ranks, mean, losses and their standard error', () => {
    const s = spreadOf(Float64Array.of(4, -2, 10, 0));
    expect(s).toMatchObject({ mean: 3, p50: 2, lowest: -2, highest: 10 });
    expect(s.p5).toBeCloseTo(-2 + 0.15 * 2, 12);
    expect(s.p95).toBeCloseTo(4 + 0.85 * 6, 12);
    expect(s.loss).toEqual({ chance: 0.25, standardError: Math.sqrt((0.25 * 0.75) / 4) });
    expect(s.bars.reduce((a, b) => a + b)).toBe(4);
    expect(s.bars.at(-1)).toBe(1);
  });
  it('float noise is no loss, and draws that are all one stand in one bar', () => {
    const s = spreadOf(Float64Array.of(-1e-10, -1e-10));
    expect(s.loss.chance).toBe(0);
    expect(s.bars[0]).toBe(2);
    expect(chanceOf(0, 10)).toEqual({ chance: 0, standardError: 0 });
  });
});
