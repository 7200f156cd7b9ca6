import { describe, expect, it } from 'vitest';
import { packField, packIn, packsAsNamed } from './packs.ts';

describe('pack sizes in titles', () => {
  it.each([
    ['Seed pellets, pack of 12', 12],
    ['Pflanzschilder 4er-Pack', 4],
    ['Blumentopf 3er Set terracotta', 3],
    ['Twine 4 x 250 g', 4],
    ['Lot de 6 bougies', 6],
    ['Set of 3 clay saucers', 3],
    ['Caja de 24 velas', 24],
    ['Confezione da 10 sacchetti', 10],
    ['Etykiety zestaw 50 szt', 50],
    ['Plant clips 100 pcs', 100],
    ['Korken 25 Stück', 25],
    ['Tealights 50-pack', 50],
    ['Jute bags x 5', 5],
    ['Karton mit 8 Dosen', 8],
    ['Napkins 20 count', 20],
  ])('%s', (title, pieces) => expect(packIn(title)?.pieces).toBe(pieces));
  it.each([
    'Bird bath 40 cm',
    'Netting 2 x 10 m',
    'Lamp model 2000',
    'Trellis 180 x 60 cm',
    'Frost fleece 1.5 m × 10 m',
    'Just a pot',
  ])('%s says nothing of packs', (title) => expect(packIn(title)).toBeNull());
  it('says which words, and whether they say it outright', () => {
    expect(packIn('Twine 4 x 250 g')).toEqual({ pieces: 4, words: '4 x 250 g', sure: false });
    expect(packIn('Saucers, set of 3')).toEqual({ pieces: 3, words: 'set of 3', sure: true });
  });
  it('fields', () => {
    expect(['6', '6 pcs', '12.0', '', 'one', '0'].map(packField)).toEqual([6, 6, 12, null, null, null]);
    // What a carton holds is ordered together; it is no pack.
    expect(['VE 12', 'VE: 12', 'Karton 24', 'case 6', 'ctn 48'].map(packField)).toEqual([
      null,
      null,
      null,
      null,
      null,
    ]);
  });
});

describe('the packs on both sides', () => {
  it('what is bought is sold as it comes, unless the pack of the listing is known', () => {
    expect([
      packsAsNamed(4, 0),
      packsAsNamed(0, 0),
      packsAsNamed(12, 1),
      packsAsNamed(0, 4),
      packsAsNamed(3, 3),
    ]).toEqual([
      { sold: 4, bought: 4 },
      { sold: 1, bought: 1 },
      { sold: 1, bought: 12 },
      { sold: 4, bought: 1 },
      { sold: 3, bought: 3 },
    ]);
  });
});
