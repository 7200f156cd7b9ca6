import { describe, expect, it } from 'vitest';
import { marketplaceCard, taxCard } from '../cards/rates.ts';
import { marketplaceCardOf, taxCardOf } from '../testing/documents.ts';
import { holdAll, provenFees } from './check.ts';
import { mended, mendsFor } from './mends.ts';
import { proofOfLine, proofsOfRows, rowsOfProofs } from './rows.ts';
import { proof } from './schema.ts';
import type { Proof } from './schema.ts';

const tier = (name: string, maxL: number, divisor: number | null, fees: [number, number][]) => ({
  name,
  maxL,
  maxW: null,
  maxH: null,
  maxKg: null,
  maxLengthGirth: null,
  divisor,
  bands: [
    { upToPrice: null, table: { steps: fees.map(([upToKg, fee]) => ({ upToKg, fee })), stepKg: null } },
  ],
});
const CARD = marketplaceCard.parse({
  ...marketplaceCardOf([{ upTo: null, pct: 0.15 }]),
  categories: [
    ...marketplaceCardOf([{ upTo: null, pct: 0.15 }]).categories,
    {
      key: 'books',
      name: 'Books',
      referral: { base: 'gross', mode: 'whole', tiers: [{ upTo: null, pct: 0.1 }], min: null, max: null },
      itemFee: 0.5,
    },
  ],
  warehouse: {
    tiers: [
      tier('Small', 30, null, [
        [0.5, 2],
        [1, 2.5],
      ]),
      tier('Large', 60, 5000, [
        [1, 4],
        [2, 5],
        [4, 6],
      ]),
    ],
  },
});
const BY = { homeCurrency: 'EUR', standings: {}, today: '2026-11-28' };
const held = (proofs: readonly Proof[]) => holdAll(CARD, null, BY, proofs);
const line = (text: string): Proof => {
  const read = proofOfLine(text, CARD);
  if (!read.ok) throw new Error(read.wrong.code);
  return read.proof;
};
const wrong = (text: string): string => {
  const read = proofOfLine(text, CARD);
  return read.ok ? 'none' : read.wrong.code;
};

describe('a proof on one line', () => {
  it('is size, weight and fee, in any unit', () => {
    expect(line('10 x 8 x 2 in, 1.1 lb, 2.50')).toEqual(
      proof.parse({
        sides: [25.4, 20.32, 5.08],
        kg: 1.1 * 0.45359237,
        charged: { fulfilment: 2.5 },
        note: '10 x 8 x 2 in, 1.1 lb, 2.50',
      }),
    );
    expect(line('30 × 20 × 10 cm; 400 g; €2,00').charged.fulfilment).toBe(2);
  });
  it('is price, category and fees by their names, with a day', () => {
    expect(line('2026-02-03, price 20, Books, referral 2.00, item fee 0.50')).toEqual(
      proof.parse({
        date: '2026-02-03',
        price: 20,
        category: 'books',
        charged: { referral: 2, itemFee: 0.5 },
        note: '2026-02-03, price 20, Books, referral 2.00, item fee 0.50',
      }),
    );
  });
  it('an amount alone is the referral fee where the card has no warehouse', () => {
    const read = proofOfLine('price 20, Books, 2.00', { ...CARD, warehouse: null });
    expect(read.ok && read.proof.charged.referral).toBe(2);
  });
  it.each([
    ['10 x 8 x 2 in, 1.1 lb', 'proofNoFee'],
    ['10 x 8 in, 2.50', 'proofPart'],
    ['hello, 2.50', 'proofPart'],
    ['price twenty, 2.50', 'proofAmount'],
    ['price $20, 2.50', 'proofAmount'],
    ['10 x 0 x 2 in, 2.50', 'proofWrong'],
  ])('%s: %s', (text, code) => expect(wrong(text)).toBe(code));
});

describe('proofs as rows', () => {
  const proofs = [line('10 x 8 x 2 in, 1.1 lb, 2.50'), line('2026-02-03, price 20, Books, referral 2.00')];
  it('read back as they were written', () => {
    expect(proofsOfRows(rowsOfProofs(proofs), CARD)).toEqual({ proofs, wrong: [] });
  });
  it('name row and column of what is wrong; the others are taken', () => {
    const read = proofsOfRows(
      [
        ['Weight', 'Fulfilment', 'Category', 'Date'],
        ['0.4 kg', '2.00', 'Books', '2026-01-02'],
        ['heavy', '2.00', 'Fish', '3 May'],
        ['', '', '', ''],
        ['0.4 kg', '', '', ''],
      ],
      CARD,
    );
    expect(read.proofs).toHaveLength(1);
    expect(read.wrong.map((w) => [w.row, w.column, w.code])).toEqual([
      [3, 'weight', 'proofWeight'],
      [3, 'category', 'proofCategory'],
      [3, 'date', 'notDay'],
      [5, null, 'proofNoFee'],
    ]);
  });
  it('without headings are refused', () => {
    expect(proofsOfRows([['0.4 kg', '2.00']], CARD).wrong[0]?.code).toBe('proofHeadings');
    expect(proofsOfRows([], CARD).wrong[0]?.code).toBe('proofHeadings');
  });
});

describe('a card held against its proofs', () => {
  const meets = line('25 x 20 x 5 cm, 0.4 kg, 2.00');
  it('meets those it says to the cent, and says by how much others fail', () => {
    const all = held([meets, line('25 x 20 x 5 cm, 0.4 kg, 2.31')]);
    expect([all.met, all.fails, all.open]).toEqual([1, 1, 0]);
    expect(all.held[1]?.fees).toEqual([{ fee: 'fulfilment', charged: 2.31, says: 2, meets: false }]);
  });
  it('every fee that is named is held', () => {
    const all = held([
      line('price 20, Books, referral 2.00, item fee 0.50'),
      line('price 20, Books, referral 2.00, item fee 0.60'),
    ]);
    expect(all.held.map((h) => h.state)).toEqual(['met', 'fails']);
  });
  it('one that lacks what its fee takes is open: neither met nor failed', () => {
    const all = held([
      line('0.4 kg, 2.00'),
      line('Books, referral 2.00'),
      line('90 x 20 x 5 cm, 0.4 kg, 2.00'),
    ]);
    expect(all.held.map((h) => h.state)).toEqual(['open', 'open', 'open']);
  });
  it('a card without a warehouse is not wrong about its fee', () => {
    const all = holdAll({ ...CARD, warehouse: null }, null, BY, [meets]);
    expect(all.open).toBe(1);
  });
  it('a fee is proven where all proofs that can be told agree, disputed where one does not', () => {
    expect(provenFees(held([meets, line('price 20, Books, referral 2.00')]))).toEqual({
      fulfilment: 'proven',
      referral: 'proven',
    });
    const over = line('25 x 20 x 5 cm, 0.4 kg, 2.31');
    expect(provenFees(held([over, meets]))).toEqual({ fulfilment: 'disputed' });
    expect(provenFees(held([meets, over, line('0.4 kg, 2.00')]))).toEqual({ fulfilment: 'disputed' });
    expect(provenFees(held([line('0.4 kg, 2.00')]))).toEqual({});
  });
  it('the month of a proof decides what is charged in the peak', () => {
    const peak = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1];
    const card = marketplaceCard.parse({ ...CARD, warehouse: { ...CARD.warehouse, peak } });
    const on = (date: string, fee: string) => proofOfLine(`${date}, 25 x 20 x 5 cm, 0.4 kg, ${fee}`, card);
    const proofs = [on('2026-12-03', '3.00'), on('2026-06-03', '2.00')].flatMap((r) =>
      r.ok ? [r.proof] : [],
    );
    expect(holdAll(card, null, BY, proofs).met).toBe(2);
  });
});

describe('what would mend a card', () => {
  const mends = (texts: readonly string[]) => mendsFor(CARD, null, BY, texts.map(line));
  it('a step that all its proofs say otherwise', () => {
    const [best] = mends([
      '25 x 20 x 5 cm, 0.4 kg, 2.20',
      '28 x 20 x 5 cm, 0.45 kg, 2.20',
      '25 x 20 x 5 cm, 0.8 kg, 2.50',
    ]);
    expect(best).toEqual({
      at: { of: 'step', tier: 'Small', band: 0, upToKg: 0.5 },
      from: 2,
      to: 2.2,
      asks: [0, 1],
      mends: 2,
      breaks: 0,
    });
  });
  it('a step that another proof needs as it is, says what it breaks', () => {
    const [best] = mends(['25 x 20 x 5 cm, 0.4 kg, 2.20', '28 x 20 x 5 cm, 0.45 kg, 2.00']);
    expect([best?.mends, best?.breaks]).toEqual([1, 1]);
  });
  it('a percentage, round where a round one meets', () => {
    const [best] = mends(['price 20, Books, referral 2.40', 'price 55, Books, referral 6.60']);
    expect(best).toMatchObject({
      at: { of: 'percent', category: 'books', tier: 0 },
      from: 0.1,
      to: 0.12,
      mends: 2,
      breaks: 0,
    });
  });
  it('the divisor of a tier, the roundest that meets all', () => {
    // 12,000 cm3: 2.4 kg by 5,000, 2 kg and less from 6,000 on; the second is in its step from 5,000 to 10,000.
    const [best] = mends(['40 x 20 x 15 cm, 0.5 kg, 5.00', '50 x 20 x 10 cm, 0.5 kg, 5.00']);
    expect(best).toMatchObject({
      at: { of: 'divisor', tier: 'Large' },
      from: 5000,
      to: 6000,
      asks: [0],
      mends: 1,
      breaks: 0,
    });
  });
  it('where no divisor meets all, the one that a failing proof asks for, with what it breaks', () => {
    const found = mends(['40 x 20 x 15 cm, 0.5 kg, 6.00', '50 x 20 x 10 cm, 0.5 kg, 4.00']);
    expect(found.find((m) => m.at.of === 'divisor')).toMatchObject({
      to: 10_000,
      asks: [1],
      mends: 1,
      breaks: 1,
    });
  });
  it('a divisor for a fee past the last step', () => {
    const card = marketplaceCard.parse({
      ...CARD,
      warehouse: {
        tiers: [
          {
            ...tier('Big', 100, 4000, [[1, 4]]),
            bands: [
              { upToPrice: null, table: { steps: [{ upToKg: 1, fee: 4 }], stepKg: 0.5, stepFee: 0.3 } },
            ],
          },
        ],
      },
    });
    // 12,000 cm3: 3 kg by 4,000, four steps past 1 kg; two were charged: over 1.5 up to 2 kg.
    const proof = proofOfLine('40 x 20 x 15 cm, 0.5 kg, 4.60', card);
    if (!proof.ok) throw new Error('no proof');
    expect(mendsFor(card, null, BY, [proof.proof])[0]).toMatchObject({ from: 4000, to: 6000, mends: 1 });
  });
  it('so much more on every step of a tier', () => {
    const [best] = mends(['25 x 20 x 5 cm, 0.4 kg, 2.30', '25 x 20 x 5 cm, 0.8 kg, 2.80']);
    expect(best).toMatchObject({ at: { of: 'addition', tier: 'Small' }, to: 0.3, mends: 2 });
  });
  it('an item fee', () => {
    const [best] = mends(['price 20, Books, item fee 0.75']);
    expect(best).toMatchObject({ at: { of: 'itemFee', category: 'books' }, from: 0.5, to: 0.75, mends: 1 });
  });
  it('a percentage of one slice, and the other manner of taking several', () => {
    const sliced = (mode: 'whole' | 'sliced') =>
      marketplaceCard.parse({
        ...CARD,
        categories: [
          {
            key: 'watches',
            name: 'Watches',
            referral: {
              base: 'gross',
              mode,
              tiers: [
                { upTo: 100, pct: 0.15 },
                { upTo: null, pct: 0.08 },
              ],
              min: null,
              max: null,
            },
            itemFee: null,
          },
        ],
      });
    const mendsOf = (mode: 'whole' | 'sliced', text: string) => {
      const read = proofOfLine(text, sliced(mode));
      if (!read.ok) throw new Error(read.wrong.code);
      return mendsFor(sliced(mode), null, BY, [read.proof]);
    };
    // 15 % of 100 and 5 % of 50.
    expect(mendsOf('sliced', 'price 150, referral 17.50')[0]).toMatchObject({
      at: { of: 'percent', category: 'watches', tier: 1 },
      from: 0.08,
      to: 0.05,
      mends: 1,
    });
    // 8 % of 150 is what the whole price would cost.
    expect(mendsOf('sliced', 'price 150, referral 12.00')).toContainEqual(
      expect.objectContaining({ at: { of: 'mode', category: 'watches', mode: 'whole' }, mends: 1 }),
    );
    expect(mendsOf('whole', 'price 150, referral 19.00')).toContainEqual(
      expect.objectContaining({ at: { of: 'mode', category: 'watches', mode: 'sliced' }, mends: 1 }),
    );
  });
  it('a percentage of what the card takes it from: without VAT', () => {
    const net = marketplaceCard.parse({
      ...CARD,
      categories: [
        {
          key: 'toys',
          name: 'Toys',
          referral: { base: 'net', mode: 'whole', tiers: [{ upTo: null, pct: 0.1 }], min: null, max: null },
          itemFee: null,
        },
      ],
    });
    const tax = taxCard.parse(taxCardOf('inclusive', 0.2));
    const read = proofOfLine('price 120, referral 12.00', net);
    if (!read.ok) throw new Error(read.wrong.code);
    expect(mendsFor(net, tax, BY, [read.proof])[0]).toMatchObject({ from: 0.1, to: 0.12, mends: 1 });
  });
  it('nothing where all are met, and nothing of a card is changed by asking', () => {
    const before = JSON.stringify(CARD);
    expect(mends(['25 x 20 x 5 cm, 0.4 kg, 2.00'])).toEqual([]);
    const [best] = mends(['25 x 20 x 5 cm, 0.4 kg, 2.20']);
    if (best === undefined) throw new Error('no mend');
    expect(holdAll(mended(CARD, best), null, BY, [line('25 x 20 x 5 cm, 0.4 kg, 2.20')]).met).toBe(1);
    expect(JSON.stringify(CARD)).toBe(before);
  });
});
