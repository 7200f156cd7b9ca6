import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { histogram, limitWarning, selectRows, sortRows, summarise } from './select.ts';

const numbers = fc
  .array(
    fc.oneof(
      { weight: 6, arbitrary: fc.double({ min: -1e6, max: 1e6, noNaN: true }) },
      { weight: 3, arbitrary: fc.integer({ min: -3, max: 3 }) },
      { weight: 1, arbitrary: fc.constant(Number.NaN) },
    ),
    { maxLength: 300 },
  )
  .map((a) => Float64Array.from(a));
const all = (n: number): Uint32Array => Uint32Array.from({ length: n }, (_, i) => i);

describe('limits', () => {
  it('keep what every limit keeps; each says what it takes alone and in turn, and each row by which it went', () => {
    fc.assert(
      fc.property(
        numbers,
        fc.array(
          fc.record({
            min: fc.option(fc.integer({ min: -5, max: 5 })),
            max: fc.option(fc.integer({ min: -5, max: 5 })),
            keepUnknown: fc.boolean(),
          }),
          { maxLength: 4 },
        ),
        (values, asked) => {
          const limits = asked.map((l) => ({ ...l, values }));
          const got = selectRows(values.length, limits);
          const stays = (x: number, l: (typeof limits)[number]): boolean =>
            Number.isNaN(x)
              ? l.keepUnknown
              : (l.min === null || x >= l.min) && (l.max === null || x <= l.max);
          expect([...got.rows]).toEqual(
            [...values.keys()].filter((i) => limits.every((l) => stays(values[i] as number, l))),
          );
          limits.forEach((l, k) => {
            expect(got.alone[k]).toBe([...values].filter((x) => !stays(x, l)).length);
            expect(got.left[k]).toBe(
              [...values].filter((x) => limits.slice(0, k + 1).every((y) => stays(x, y))).length,
            );
          });
          for (const [i, x] of values.entries())
            for (const [k, l] of limits.entries())
              expect(((got.removedBy[i] as number) >>> k) & 1).toBe(stays(x, l) ? 0 : 1);
        },
      ),
    );
  });
  it('warn where they sit just past a cluster, and where they leave nearly nothing', () => {
    const prices = Float64Array.from({ length: 1000 }, (_, i) => (i < 400 ? 19.99 : 5 + (i % 60)));
    expect(limitWarning(all(1000), prices, 'min', 20)).toBe('cluster');
    expect(limitWarning(all(1000), prices, 'min', 12)).toBeNull();
    expect(limitWarning(all(1000), prices, 'min', 64.5)).toBe('nearlyAll');
    expect(limitWarning(all(0), prices, 'max', 1)).toBeNull();
  });
});

describe('orders', () => {
  const compare = (a: number, b: number, down: boolean): number =>
    Number.isNaN(a)
      ? Number.isNaN(b)
        ? 0
        : 1
      : Number.isNaN(b)
        ? -1
        : a === b
          ? 0
          : (a < b ? -1 : 1) * (down ? -1 : 1);
  it('by several keys, both ways, as a plain stable sort puts them; what is not known stands last', () => {
    fc.assert(
      fc.property(
        numbers,
        fc.array(fc.tuple(fc.nat(2), fc.boolean()), { minLength: 1, maxLength: 3 }),
        (values, asked) => {
          const coarse = values.map((x) => Math.sign(x));
          const other = values.map((x) => Math.round(x * 7) % 5);
          const keys = asked.map(([which, down]) => ({
            values: [values, coarse, other][which] as Float64Array,
            down,
          }));
          const got = sortRows(all(values.length), keys);
          const want = [...values.keys()].sort((a, b) =>
            keys.reduce((c, k) => c || compare(k.values[a] as number, k.values[b] as number, k.down), 0),
          );
          expect([...got]).toEqual(want);
        },
      ),
    );
  });
  it('of a part of the rows, leaving what it was given', () => {
    const values = Float64Array.from([5, 1, 4, Number.NaN, -0, 0, -7, Number.POSITIVE_INFINITY]);
    const rows = Uint32Array.from([7, 5, 4, 3, 0]);
    expect([...sortRows(rows, [{ values, down: false }])]).toEqual([5, 4, 0, 7, 3]);
    expect([...rows]).toEqual([7, 5, 4, 3, 0]);
  });
});

describe('summaries', () => {
  it('median, sum and ends of what is known', () => {
    fc.assert(
      fc.property(numbers, (values) => {
        const known = [...values]
          .filter((x) => !Number.isNaN(x))
          .map((x) => x + 0)
          .sort((a, b) => a - b);
        const got = summarise(all(values.length), values);
        expect(got.known).toBe(known.length);
        expect(got.median).toEqual(
          known.length === 0
            ? null
            : known.length % 2 === 1
              ? known[(known.length - 1) / 2]
              : // Halves of the smallest numbers there are fall to -0; a median never says so.
                ((known[known.length / 2 - 1] as number) + (known[known.length / 2] as number)) / 2 + 0,
        );
        expect([got.min, got.max]).toEqual([known[0] ?? null, known[known.length - 1] ?? null]);
      }),
    );
  });
  it('the median of many equal values, in whatever order they come', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(0, 1, 1, 2, 1e9), { minLength: 1, maxLength: 400 }),
        fc.constantFrom('as drawn', 'rising', 'falling', 'rising and falling'),
        (drawn, order) => {
          const up = [...drawn].sort((a, b) => a - b);
          const values =
            order === 'as drawn'
              ? drawn
              : order === 'rising'
                ? up
                : order === 'falling'
                  ? [...up].reverse()
                  : [...up.filter((_, i) => i % 2 === 0), ...up.filter((_, i) => i % 2 === 1).reverse()];
          const half = up.length >> 1;
          const want = up.length % 2 === 1 ? up[half] : ((up[half - 1] as number) + (up[half] as number)) / 2;
          expect(summarise(all(values.length), Float64Array.from(values)).median).toBe(want);
        },
      ),
    );
  });
  it('a histogram counts every row once', () => {
    fc.assert(
      fc.property(numbers, (values) => {
        const h = histogram(all(values.length), values, -2, 2, 8);
        expect(h.counts.reduce((a, b) => a + b, 0) + h.below + h.above + h.unknown).toBe(values.length);
      }),
    );
    expect(histogram(all(5), Float64Array.from([0, 1, 2, 3, 4]), 0, 4, 4).counts).toEqual([1, 1, 1, 2]);
  });
});
