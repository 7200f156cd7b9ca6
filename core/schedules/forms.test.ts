import { describe, expect, it } from 'vitest';
import { givenOfText } from './given.ts';
import { understand } from './understand.ts';
import { moneyIn, namedWeightIn, sidesIn, weightsIn } from './forms.ts';
import type { Around } from './forms.ts';
import { limitsIn } from './limits.ts';
import { percentIn } from './percents.ts';
import { unknownWords } from './knownWords.ts';

const AROUND: Around = { mark: '.', currency: 'GBP', kg: null, cm: null };
const amount = (text: string): number | null => {
  const said = moneyIn(text, AROUND)?.said;
  return said?.is === 'money' ? said.amount : null;
};

describe('an amount', () => {
  it.each([
    ['2.50', 2.5],
    ['£2.50*', 2.5],
    ['45p', 0.45],
    ['45 p', 0.45],
    ['145p', 1.45],
    ['45¢', 0.45],
    ['389 ct', 3.89],
    ['12 pence', 0.12],
    ['free', 0],
    ['26.00 per m³', 26],
    ['hello', null],
    ['-3.00', null],
    ['2.50 3.50 4.50', null],
  ])('%s', (text, expected) => expect(amount(text)).toBe(expected));
  it.each([
    ['5.26 and 0.31 for each 12 oz over 4 lb', 5.26, 12 * 0.028349523125, 0.31, 4 * 0.45359237],
    ['4.25 (first lb) + 0.35 each additional lb', 4.25, 0.45359237, 0.35, 0.45359237],
    ['9.10 (first 2 lb) + 0.41 each additional lb', 9.1, 0.45359237, 0.41, 2 * 0.45359237],
    ['5.40 + 0.11 per half-pound above first 3 lb', 5.4, 0.5 * 0.45359237, 0.11, 3 * 0.45359237],
    ['4.80 + 0.60 per kg over 5 kg', 4.8, 1, 0.6, 5],
  ])('%s: a fee, and what each further step costs', (text, fee, kg, more, over) => {
    const said = moneyIn(text, AROUND)?.said;
    if (said?.is !== 'money' || said.each === null) throw new Error('no step');
    expect(said.amount).toBe(fee);
    expect(said.each.fee).toBe(more);
    expect(said.each.kg).toBeCloseTo(kg, 12);
    expect(said.each.over).toBeCloseTo(over, 12);
  });
});

describe('a weight', () => {
  const OZ = 0.028349523125;
  it.each([
    ['up to 0.5 kg', null, 0.5, null],
    ['not over 8 oz', null, 8 * OZ, null],
    ['1 lb 9 oz', null, 25 * OZ, null],
    ['over 0.5 to 1 kg', 0.5, 1, null],
    ['2 kg and more', 2, null, null],
    ['each additional 0.5 kg', null, null, 0.5],
    ['each kg over 5 kg', 5, null, 1],
  ])('%s', (text, from, upTo, each) => {
    const said = weightsIn(text, AROUND)?.said;
    for (const [x, wanted] of [
      [said?.from, from],
      [said?.upTo, upTo],
      [said?.each, each],
    ])
      if (wanted === null || wanted === undefined) expect(x).toBeNull();
      else expect(x).toBeCloseTo(wanted, 12);
  });
  it('behind a name', () => {
    expect(namedWeightIn('Small parcel up to 1 kg', AROUND)).toMatchObject({ name: 'Small parcel' });
    expect(namedWeightIn('up to 1 kg', AROUND)).toBeNull();
    expect(namedWeightIn('Not over 1 kg', AROUND)).toBeNull();
  });
});

describe('sides and limits', () => {
  it('feet and inches are one length', () => {
    expect(sidesIn('1 ft 6 in', AROUND)?.said.cm).toEqual([18 * 2.54]);
  });
  it('in sentences, each clause understood; a side of which nothing is said is as long as the one before', () => {
    expect(
      limitsIn('20 kg or less, longest side 60 cm or less, shortest side 20 cm or less', AROUND),
    ).toEqual({ is: 'limits', sides: [60, 60, 20], maxKg: 20, girth: null });
    for (const text of [
      '20 kg or less',
      '20 kg or less, over 60 cm',
      'sum of sides 90 cm or less, 5 kg or less',
      'longest side 60 cm or less, longest side 50 cm or less',
      'shortest side 20 cm or less, 5 kg or less',
    ])
      expect(limitsIn(text, AROUND), text).toBeNull();
  });
});

describe('a percentage', () => {
  it.each([
    ['15%', '15'],
    ['12% (max 80)', '12 max 80'],
    ['the greater of 12% or 0.30', '12 min 0.3'],
    ['the lesser of 12% or 3.00', '12 max 3'],
    ['15% + 1.80', '15 plus 1.8'],
    ['15% (10% over 75)', '15≤75/10'],
    ['20% for the portion up to 250, 5% for any portion above 250', '20≤250/5'],
    ['12% or 3 or 4', null],
    ['12% of 3.00', null],
    ['15%, 10%', null],
  ])('%s', (text, expected) => {
    const p = percentIn(text, AROUND)?.said;
    const said =
      p === undefined
        ? null
        : [
            p.tiers
              .map((t) => `${Math.round(1e4 * t.pct) / 100}${t.upTo === null ? '' : `≤${t.upTo}`}`)
              .join('/'),
            p.plus === null ? '' : `plus ${p.plus}`,
            p.min === null ? '' : `min ${p.min}`,
            p.max === null ? '' : `max ${p.max}`,
          ]
            .filter(Boolean)
            .join(' ');
    expect(said).toBe(expected);
  });
});

describe('words of a figure', () => {
  it.each([
    ['over 0.5 to 1 kg', ''],
    ['jede weiteren 500 g', ''],
    ['De 250 g à 500 g', ''],
    ['2kgまで', ''],
    ['kostenlos', ''],
    ['12 % for new sellers', 'new sellers'],
    ['tot 2 kg', 'tot'],
    ['up to 1 kg per pallet', 'pallet'],
  ])('%s', (text, left) => expect(unknownWords(text)).toBe(left));
});

describe('a charge in a list of percentages', () => {
  const parts = (text: string) => understand(givenOfText(text), 'EUR');
  it('is one by its whole name, and a category otherwise', () => {
    const { charges, categories } = parts('Payment fee: 2 %\nPayment terminals: 8 %\nGarden: 12 %').parts;
    expect(charges).toMatchObject([{ of: 'payment', pct: 0.02 }]);
    expect(categories.map((c) => c.name)).toEqual(['Payment terminals', 'Garden']);
  });
  it('of more than one share becomes part of nothing, and is marked', () => {
    const u = parts('Payment: 2 % up to 100, 1 % of the rest\nGarden: 12 %\nBooks: 10 %');
    expect(u.parts.charges).toEqual([]);
    expect(u.counts.notUnderstood).toBeGreaterThan(0);
  });
});
