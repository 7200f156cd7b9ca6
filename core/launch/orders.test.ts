import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { LaneDocumentInput } from '../lane/schema.ts';
import { plainLane } from '../testing/documents.ts';
import { admissibleOrders, breakQuantities, quantitiesToCompare } from './orders.ts';

type Goods = Exclude<LaneDocumentInput['goods'], 'none' | null | undefined>;
type Part = { sold?: number; bought?: number; carton?: number; minimum?: number; breaks?: number[] };
/** A lane whose components come in such packs, cartons and least orders. */
const lane = (...parts: Part[]) =>
  plainLane({
    orderQuantity: 100,
    goods: parts.map((p) => ({
      unitsInSoldPack: p.sold ?? 1,
      unitsInBoughtPack: p.bought ?? 1,
      source: {
        kind: 'quote',
        currency: 'EUR',
        minimumOrder: p.minimum ?? 0,
        carton: p.carton === undefined ? null : { units: p.carton, kg: null, volumeM3: null },
        priceBreaks: (p.breaks ?? [0]).map((minQty, i) => ({ minQty, unitPrice: 5 - i / 10 })),
      },
    })) as Goods,
  });

describe('orders that a supplier takes', () => {
  it('are whole cartons, from the minimum on', () => {
    expect(admissibleOrders(lane({ carton: 12, minimum: 100 }))).toEqual({ step: 12, first: 108 });
    expect(admissibleOrders(lane({ carton: 12 }))).toEqual({ step: 12, first: 12 });
    expect(admissibleOrders(lane({}))).toEqual({ step: 1, first: 1 });
  });
  it('begin where the first price does', () => {
    expect(admissibleOrders(lane({ breaks: [50, 200] }))).toEqual({ step: 1, first: 50 });
    expect(admissibleOrders(lane({ breaks: [50], minimum: 80, carton: 25 }))).toEqual({
      step: 25,
      first: 100,
    });
  });
  it('come out even for every component of a bundle', () => {
    expect(admissibleOrders(lane({ carton: 12 }, { carton: 8 })).step).toBe(24);
    // Two of a kind in a sold pack: cartons of 12 hold six of them.
    expect(admissibleOrders(lane({ sold: 2, carton: 12, minimum: 100 }))).toEqual({ step: 6, first: 54 });
    // Bought by the half dozen and sold singly.
    expect(admissibleOrders(lane({ bought: 6 })).step).toBe(6);
  });
  it('of a shop are single pieces; without goods anything goes', () => {
    expect(admissibleOrders(plainLane({ goods: 'none' }))).toEqual({ step: 1, first: 1 });
    expect(admissibleOrders(plainLane({ goods: null }))).toEqual({ step: 1, first: 1 });
  });
  it('hold whole cartons of each component, whatever the packs', () => {
    const size = fc.integer({ min: 1, max: 24 });
    const part = fc.record({
      sold: fc.integer({ min: 1, max: 6 }),
      bought: size,
      carton: size,
      minimum: fc.nat(500),
    });
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 3 }), (parts) => {
        const { step, first } = admissibleOrders(lane(...parts));
        expect(first % step).toBe(0);
        for (const p of parts) {
          const cartons = (first * p.sold) / p.bought / p.carton;
          expect(Math.abs(cartons - Math.round(cartons))).toBeLessThan(1e-9);
          expect((first * p.sold) / p.bought).toBeGreaterThanOrEqual(p.minimum - 1e-9);
        }
      }),
    );
  });
});

describe('quantities worth a look', () => {
  it("the lane's own, and the least order that reaches each further price break, rising, each once", () => {
    expect(breakQuantities(lane({ breaks: [0, 100, 500], carton: 30 }))).toEqual([100, 120, 510]);
    expect(breakQuantities(lane({ breaks: [0, 150, 160, 500], carton: 90 }))).toEqual([100, 180, 540]);
    expect(breakQuantities(lane({}))).toEqual([100]);
    expect(breakQuantities(plainLane({ goods: null, orderQuantity: null }))).toEqual([]);
  });
  it('to compare: half, the same and twice as much, each as it may be ordered, each once', () => {
    expect(quantitiesToCompare({ step: 12, first: 24 }, 100)).toEqual([48, 96, 204]);
    expect(quantitiesToCompare({ step: 1, first: 1 }, 1)).toEqual([1, 2]);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 50 }), fc.integer({ min: 1, max: 5000 }), (step, quantity) => {
        const found = quantitiesToCompare({ step, first: step * 3 }, quantity);
        expect(new Set(found).size).toBe(found.length);
        for (const q of found) expect([q % step, q >= step * 3]).toEqual([0, true]);
      }),
    );
  });
});
