import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { referral, sizeTier, weightSteps } from '../../cards/rates.ts';
import { agedShare } from '../../rules/storage.ts';
import { countedKg, fitsTier, parcelOf, priceBandOf, sizeTierOf, stepFee } from '../../rules/parcel.ts';
import { referralBeforeBounds } from '../../rules/fees.ts';

describe('referral tiers', () => {
  const tiers = [
    { upTo: 10, pct: 0.08 },
    { upTo: 50, pct: 0.12 },
    { upTo: null, pct: 0.15 },
  ];
  const rule = (mode: 'whole' | 'sliced') =>
    referral.parse({ base: 'gross', mode, tiers, min: null, max: null });
  it('whole: the first tier that holds the amount takes all of it, its limit included', () => {
    expect(
      [10, 10.01, 50, 50.01].map((x) => Number(referralBeforeBounds(rule('whole'), x).toFixed(6))),
    ).toEqual([0.8, 1.2012, 6, 7.5015]);
  });
  it('sliced: each tier its slice', () => {
    expect([10, 20, 60].map((x) => Number(referralBeforeBounds(rule('sliced'), x).toFixed(6)))).toEqual([
      0.8, 2, 7.1,
    ]);
  });
  it('sliced never falls as the price rises; whole falls only past a limit', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 200, noNaN: true }),
        fc.double({ min: 0, max: 5, noNaN: true }),
        (x, more) => {
          expect(referralBeforeBounds(rule('sliced'), x + more)).toBeGreaterThanOrEqual(
            referralBeforeBounds(rule('sliced'), x) - 1e-9,
          );
        },
      ),
    );
  });
  it('tiers that do not rise, or leave a gap at the top, are no rule', () => {
    const broken = (t: object[]) =>
      referral.safeParse({ base: 'gross', mode: 'whole', tiers: t, min: null, max: null }).success;
    expect([
      broken([
        { upTo: 50, pct: 0.1 },
        { upTo: 10, pct: 0.1 },
        { upTo: null, pct: 0.1 },
      ]),
      broken([{ upTo: 10, pct: 0.1 }]),
      broken([
        { upTo: null, pct: 0.1 },
        { upTo: null, pct: 0.2 },
      ]),
      broken([{ upTo: null, pct: 1.1 }]),
    ]).toEqual([false, false, false, false]);
  });
});

describe('size tiers', () => {
  const tier = (over: object) =>
    sizeTier.parse({
      name: 't',
      bands: [
        { upToPrice: 10, table: { steps: [{ upToKg: 1, fee: 2 }] } },
        {
          upToPrice: null,
          table: {
            steps: [
              { upToKg: 1, fee: 3 },
              { upToKg: 2, fee: 4 },
            ],
            stepKg: 0.5,
            stepFee: 0.25,
          },
        },
      ],
      ...over,
    });
  const parcel = (a: number, b: number, c: number, kg: number) =>
    parcelOf(a, b, c, kg, { L: 0, W: 0, H: 0, kg: 0 });
  it('sides are sorted whatever their order', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 200, noNaN: true }),
        fc.double({ min: 0.1, max: 200, noNaN: true }),
        fc.double({ min: 0.1, max: 200, noNaN: true }),
        (a, b, c) => {
          const [x, y, z] = [a, b, c].sort((p, q) => q - p);
          for (const s of [
            [a, b, c],
            [c, a, b],
            [b, c, a],
          ] as const) {
            const p = parcel(...s, 1);
            expect([p.L, p.H]).toEqual([x, z]);
            expect(p.W).toBeCloseTo(y as number, 6);
          }
        },
      ),
    );
  });
  it('volume counts as weight where the tier says by which divisor', () => {
    expect(countedKg(tier({ divisor: 5000 }), parcel(50, 40, 30, 2))).toBe(12);
    expect(countedKg(tier({ divisor: null }), parcel(50, 40, 30, 2))).toBe(2);
    expect(countedKg(tier({ divisor: 5000 }), parcel(5, 4, 3, 2))).toBe(2);
  });
  it('each limit binds by itself; a blank one does not; the first tier that takes the parcel is its tier', () => {
    const p = parcel(40, 30, 10, 3);
    expect(
      [
        {},
        { maxL: 40 },
        { maxL: 39.9 },
        { maxW: 29 },
        { maxH: 9 },
        { maxKg: 2.9 },
        { maxLengthGirth: 119 },
        { maxLengthGirth: 120 },
      ].map((o) => fitsTier(tier(o), p)),
    ).toEqual([true, true, false, false, false, false, false, true]);
    expect(sizeTierOf([tier({ maxL: 20 }), tier({ maxL: 45 }), tier({})], p)).toBe(1);
    expect(sizeTierOf([tier({ maxL: 20 })], p)).toBe(-1);
  });
  it('price bands hold their upper limit', () => {
    expect([9.99, 10, 10.01, 500].map((x) => priceBandOf(tier({}).bands, x))).toEqual([0, 0, 1, 1]);
  });
  it('weight steps: the first that holds it, then so much for each begun step, then no answer', () => {
    const open = weightSteps.parse({
      steps: [
        { upToKg: 1, fee: 3 },
        { upToKg: 2, fee: 4 },
      ],
      stepKg: 0.5,
      stepFee: 0.25,
    });
    expect([0.5, 1, 1.0000000001, 1.2, 2, 2.1, 2.5, 2.51, 3].map((kg) => stepFee(open, kg))).toEqual([
      3, 3, 3, 4, 4, 4.25, 4.25, 4.5, 4.5,
    ]);
    expect(stepFee(weightSteps.parse({ steps: [{ upToKg: 1, fee: 3 }] }), 1.1)).toBeNaN();
  });
  it('months past an age while a cover sells off evenly', () => {
    // twelve months of cover: past the sixth month a unit stays (12 - 6)² / 24 = 1.5 months on average
    expect([
      agedShare(12, 6),
      agedShare(12, 12),
      agedShare(6, 12),
      agedShare(0, 0),
      agedShare(12, 0),
    ]).toEqual([1.5, 0, 0, 0, 6]);
  });
});
