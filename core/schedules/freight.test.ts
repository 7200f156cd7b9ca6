import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readTables } from '../cards/tables.ts';
import type { FreightCard } from '../cards/schema.ts';
import { givenOfText } from './given.ts';
import { freightDraft } from './toCard.ts';
import { understandFreight } from './understand.ts';
import { cases } from '../testing/seed.ts';

const read = (text: string, currency = 'EUR', choices = {}) =>
  understandFreight(givenOfText(text.replaceAll('→', '\t')), currency, choices);
/** `stage basis rate` of each leg. */
const legs = (text: string, currency?: string, choices?: object) =>
  read(text, currency, choices).freight?.legs.map((l) =>
    [l.name, l.stage, l.basis, l.rate ?? l.bands.map((b) => `≤${b.upToKg}: ${b.rate}`).join(' ')].join(' | '),
  );
const marked = (text: string) =>
  read(text).tables.flatMap((t) =>
    t.rows.flatMap((r) => r.cells.flatMap((c) => (c.why === null ? [] : [`${c.text}: ${c.why.code}`]))),
  );
const faults = (text: string) => read(text).faults.map((f) => f.code);
const card = (text: string, currency = 'EUR'): FreightCard => {
  const { freight } = read(text, currency);
  if (freight === null) throw new Error('no freight');
  const about = { name: 'Way', currency, inForceFrom: '2026-11-01' };
  const made = readTables('freight', freightDraft(freight, about, { from: 'CN', to: 'DE', mode: 'sea' }));
  if (!made.ok) throw new Error(JSON.stringify(made.errors));
  return made.data as FreightCard;
};

const QUOTE = `Sea freight, part load

Charge→Amount
Pick-up at factory→60.00 per shipment
Export customs→45.00 per shipment
Ocean freight→$95.00 per CBM
Fuel surcharge→12 %
Destination handling→38.00 / cbm
Import clearance→EUR 75.00 per shipment
Delivery to warehouse→0.28 per kg
Minimum→90.00
Insurance→0.3 %
Transit time→34 days
Total→on request`;

describe('a forwarder’s list of charges', () => {
  it('is a leg each, by its stage and what it is for', () => {
    expect(legs(QUOTE, 'USD')).toEqual([
      'Pick-up at factory | origin | perShipment | 60',
      'Export customs | origin | perShipment | 45',
      'Ocean freight | main | perCbm | 95',
      'Destination handling | destination | perCbm | 38',
      'Import clearance | destination | perShipment | 75',
      'Delivery to warehouse | inbound | perKg | 0.28',
    ]);
    expect(read(QUOTE, 'USD').counts).toMatchObject({ doubtful: 0, notUnderstood: 0 });
  });
  it('becomes a card: currencies as given, fuel on the main leg, what is taken is said', () => {
    const { route } = card(QUOTE, 'USD');
    expect(route.legs.map((l) => l.currency)).toEqual(['USD', 'USD', 'USD', 'USD', 'EUR', 'USD']);
    expect(route.legs.map((l) => l.fuelSurcharge)).toEqual([0, 0, 0.12, 0, 0, 0]);
    expect(route.legs[5]?.minCharge).toBe(90);
    expect(route).toMatchObject({ insuranceRate: 0.003, transitDays: 34 });
    expect(read(QUOTE, 'USD').faults.map((f) => f.code)).toEqual(['freightFuel', 'freightMinimum']);
  });
  it('may say what an amount is for in a column of its own, in other languages', () => {
    expect(
      legs('Leistung;Betrag;Einheit\nAbholung;55,00 €;Sendung\nSeefracht;88,00 €;cbm\nZustellung;0,22 €;kg'),
    ).toEqual([
      'Abholung | origin | perShipment | 55',
      'Seefracht | main | perCbm | 88',
      'Zustellung | destination | perKg | 0.22',
    ]);
    expect(legs('Flete marítimo: 92,00 € por m³\nDespacho de aduana: 60,00 € por envío')).toEqual([
      'Flete marítimo | main | perCbm | 92',
      'Despacho de aduana | destination | perShipment | 60',
    ]);
  });
  it('asks where a charge falls that its name does not say, and takes the answer', () => {
    const text = 'Item→Price\nSea freight→1850 per container\nDocuments→35 flat';
    expect(read(text).counts.doubtful).toBe(1);
    expect(legs(text)).toHaveLength(1);
    const [cell] = read(text).tables.flatMap((t) =>
      t.rows.flatMap((r) => r.cells.filter((c) => c.state === 'doubtful')),
    );
    expect([cell?.said, ...(cell?.or ?? [])].map((s) => s?.is === 'stage' && s.stage)).toEqual([
      'origin',
      'main',
      'destination',
      'inbound',
    ]);
    expect(legs(text, 'EUR', { [cell?.key ?? '']: 2 })?.[1]).toBe(
      'Documents | destination | perShipment | 35',
    );
  });
  it('an amount of which it is not known what it is for is marked', () => {
    expect(marked('Sea freight: 42.00 per m3\nPallets: 15.00 per pallet\nCustoms: 60.00')).toEqual([
      '15.00 per pallet: freightCell',
      '60.00: freightCell',
    ]);
    expect(legs('Sea freight: 42.00 per m3\nPallets: 15.00 per pallet')).toHaveLength(1);
  });
  it('a fuel surcharge without a main leg, and a least charge before any, are marked', () => {
    expect(marked('Fuel surcharge: 12 %\nMinimum: 90.00')).toEqual([
      '12 %: freightCell',
      '90.00: freightCell',
    ]);
  });
});

describe('prices a kilogram by bands of weight', () => {
  const AIR = `Air freight
Weight→USD per kg
up to 45 kg→6.20
45 - 100 kg→5.40
over 100 kg→4.55
Minimum→75.00`;
  it('are the bands of one leg with its least charge; one without an end gets one, which is said', () => {
    expect(legs(AIR, 'USD')).toEqual(['Air freight | main | perKg | ≤45: 6.2 ≤100: 5.4 ≤100000: 4.55']);
    expect(card(AIR, 'USD').route.legs[0]).toMatchObject({ minCharge: 75, rate: null, basis: 'perKg' });
    expect(read(AIR, 'USD').faults.map((f) => f.code)).toEqual(['freightNoEnd']);
  });
  it('from and to in columns of their own', () => {
    expect(legs('From kg→To kg→Price per kg\n0→10→2.40\n10→30→1.95')).toEqual([
      ' | main | perKg | ≤10: 2.4 ≤30: 1.95',
    ]);
    expect(faults('From kg→To kg→Price per kg\n0→10→2.40\n10→30→1.95')).toEqual(['freightMain']);
  });
  it('prices for a band, not a kilogram, are marked, and so is a second column', () => {
    expect(marked('Weight→Price\nup to 5 kg→24.00\nup to 10 kg→31.00')).toEqual([
      '24.00: freightBand',
      '31.00: freightBand',
    ]);
    expect(marked('Weight→Sea, per kg→Air, per kg\nup to 45 kg→1.20→6.20')).toEqual(['6.20: scheduleUnused']);
  });
});

describe('whatever is pasted', () => {
  it('is read without a fall; every amount of a leg stands in the text, and nothing is below nothing', () => {
    const word = fc.constantFrom(
      ...['Ocean freight', 'Delivery', 'THC', 'Minimum', 'Fuel', 'Insurance', 'Transit time', 'Weight', ''],
      ...[
        '95.00 per cbm',
        '60 per shipment',
        '0.28/kg',
        '12 %',
        '34 days',
        'up to 45 kg',
        'n/a',
        '-4 per kg',
      ],
      ...['per container', '9'.repeat(400), '€', 'over 100 kg', '1,5 per m3', 'kg', 'Sendung'],
    );
    fc.assert(
      fc.property(fc.array(fc.array(word, { minLength: 1, maxLength: 4 }), { maxLength: 8 }), (rows) => {
        const text = rows.map((r) => r.join('\t')).join('\n');
        const { freight } = read(text);
        for (const l of freight?.legs ?? []) {
          const amounts = [l.rate ?? 0, l.minCharge ?? 0, l.fuel ?? 0, ...l.bands.map((b) => b.rate)];
          expect(amounts.every((x) => Number.isFinite(x) && x >= 0)).toBe(true);
        }
      }),
      { numRuns: cases(300) },
    );
  });
});
