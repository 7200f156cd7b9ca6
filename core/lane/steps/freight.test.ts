import { describe, expect, it } from 'vitest';
import { laneDocument } from '../schema.ts';
import { leg, route } from '../../cards/carriage.ts';
import type { LaneDocument } from '../schema.ts';
import { plainLane } from '../../testing/documents.ts';
import { shipmentOf, unitVolume } from './shipment.ts';
import { buyerPaysLeg, chargedKg, incotermOf } from './wayIn.ts';
import { baseDuty } from './customs.ts';

const way = route.parse({ legs: [], packingAllowance: 0.1 });
const product = { sides: [20, 10, 5] as [number, number, number], kg: 0.5 };
const goods = (...list: object[]): LaneDocument['goods'] =>
  laneDocument.shape.goods.parse(
    list.map((c) => ({
      ...c,
      source: {
        kind: 'quote',
        currency: 'EUR',
        priceBreaks: [{ minQty: 0, unitPrice: 1 }],
        ...(c as { source?: object }).source,
      },
    })),
  );
const shipment = (lane: LaneDocument, quantity: number) =>
  shipmentOf(lane, way, quantity, { cartons: 0, kg: 0, m3: 0 });

describe('the shipment of an order', () => {
  it('whole cartons, with their weight and volume', () => {
    const lane = plainLane({
      product,
      goods: goods({ source: { carton: { units: 24, volumeM3: 0.05, kg: 13 } } }) as never,
    });
    expect(shipment(lane, 100)).toEqual({ cartons: 5, kg: 65, m3: 0.25 });
    expect(shipment(lane, 96)).toEqual({ cartons: 4, kg: 52, m3: 0.2 });
  });
  it('packs need so many more pieces', () => {
    const lane = plainLane({
      product,
      goods: goods({
        unitsInSoldPack: 3,
        source: { carton: { units: 24, volumeM3: 0.05, kg: 13 } },
      }) as never,
    });
    expect(shipment(lane, 100).cartons).toBe(13);
  });
  it(
    'without a carton, loose units with the packing allowance; what a carton does not state is taken ' +
      'from them',
    () => {
      const lane = plainLane({ product, goods: goods({}) as never });
      expect(unitVolume(lane)).toBeCloseTo(0.001, 12);
      const s = shipment(lane, 100);
      expect([s.cartons, s.kg, s.m3].map((x) => Number(x.toFixed(9)))).toEqual([Number.NaN, 55, 0.11]);
      const half = shipment(
        plainLane({
          product,
          goods: goods({ source: { carton: { units: 24, volumeM3: null, kg: 13 } } }) as never,
        }),
        100,
      );
      expect([half.cartons, half.kg, Number(half.m3.toFixed(9))]).toEqual([5, 65, 0.11]);
    },
  );
  it('without size or weight what depends on them is not known', () => {
    const s = shipment(plainLane({ goods: goods({}) as never }), 10);
    expect([s.kg, s.m3].every(Number.isNaN)).toBe(true);
  });
});

describe('legs', () => {
  const at = (stage: string) => leg.parse({ stage, basis: 'perUnit', rate: 1, currency: 'EUR' });
  it('the rule of the quote says from where on the buyer pays', () => {
    const pays = (rule: 'EXW' | 'FOB' | 'CIF' | 'DAP') =>
      ['origin', 'main', 'destination', 'inbound'].map((s) => buyerPaysLeg(at(s), rule));
    expect(pays('EXW')).toEqual([true, true, true, true]);
    expect(pays('FOB')).toEqual([false, true, true, true]);
    expect(pays('CIF')).toEqual([false, false, true, true]);
    expect(pays('DAP')).toEqual([false, false, false, true]);
    expect(buyerPaysLeg({ ...at('origin'), buyerPays: true }, 'DAP')).toBe(true);
  });
  it('goods from a shop are taken away from there', () => {
    expect(
      incotermOf(plainLane({ goods: [{ source: { kind: 'retail', currency: 'EUR', shelfPrice: 1 } }] })),
    ).toBe('EXW');
    expect(incotermOf(plainLane({ goods: goods({ source: { incoterm: 'FOB' } }) as never }))).toBe('FOB');
  });
  it('chargeable weight: the scales, the volume by its divisor, the minimum', () => {
    const s = { cartons: 1, kg: 10, m3: 0.1 };
    expect(
      [
        leg.parse({ stage: 'main', basis: 'perKg', rate: 1, currency: 'EUR' }),
        leg.parse({ stage: 'main', basis: 'perKg', rate: 1, currency: 'EUR', divisor: 5000 }),
        leg.parse({ stage: 'main', basis: 'perKg', rate: 1, currency: 'EUR', divisor: 6000, minKg: 45 }),
      ].map((l) => chargedKg(l, s)),
    ).toEqual([10, 20, 45]);
  });
});

describe('duty rows', () => {
  const rows = [
    { heading: '', origins: null, additional: false },
    { heading: '4421', origins: null, additional: false },
    { heading: '4421', origins: ['CN'], additional: false },
    { heading: '442199', origins: ['TR'], additional: false },
    { heading: '4421', origins: ['CN'], additional: true },
  ];
  it('the longest heading; among equals the one for the origin; additional ones never replace it', () => {
    expect([
      baseDuty(rows, '442199', 'CN'),
      baseDuty(rows, '442199', 'IN'),
      baseDuty(rows, '442199', 'TR'),
      baseDuty(rows, '950300', 'CN'),
      baseDuty(rows.slice(1), '950300', 'CN'),
    ]).toEqual([2, 1, 3, 0, -1]);
  });
});
