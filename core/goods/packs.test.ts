import { describe, expect, it } from 'vitest';
import { packField, packIn, proposePacks } from './packs.ts';

describe('pack sizes in titles', () => {
  it.each([
    ['Seed pellets, pack of 12', 12], ['Pflanzschilder 4er-Pack', 4], ['Blumentopf 3er Set terracotta', 3], ['Twine 4 x 250 g', 4], ['Lot de 6 bougies', 6], ['Set of 3 clay saucers', 3],
    ['Caja de 24 velas', 24], ['Confezione da 10 sacchetti', 10], ['Etykiety zestaw 50 szt', 50], ['Plant clips 100 pcs', 100], ['Korken 25 Stück', 25], ['Tealights 50-pack', 50], ['Jute bags x 5', 5], ['Karton mit 8 Dosen', 8], ['Napkins 20 count', 20],
  ])('%s', (title, pieces) => expect(packIn(title)?.pieces).toBe(pieces));
  it.each(['Bird bath 40 cm', 'Netting 2 x 10 m', 'Lamp model 2000', 'Trellis 180 x 60 cm', 'Frost fleece 1.5 m × 10 m', 'Just a pot'])('%s says nothing of packs', (title) => expect(packIn(title)).toBeNull());
  it('says which words, and whether they say it outright', () => {
    expect(packIn('Twine 4 x 250 g')).toEqual({ pieces: 4, words: '4 x 250 g', sure: false });
    expect(packIn('Saucers, set of 3')).toEqual({ pieces: 3, words: 'set of 3', sure: true });
  });
  it('fields', () => {
    expect(['6', '6 pcs', 'VE 12', '12.0', '', 'one', '0'].map(packField)).toEqual([6, 6, 12, 12, null, null, null]);
  });
});

describe('the ratio between what is bought and what is sold', () => {
  const side = (title: string, field = '') => ({ title, field });
  it('a single sold as four needs four; a dozen bought fills a dozen singles', () => {
    expect(proposePacks(side('Saucer'), side('Saucers, set of 4'))).toMatchObject({ unitsInSoldPack: 4, unitsInBoughtPack: 1, doubtful: true });
    expect(proposePacks(side('Saucers', '12'), side('Saucer, 1 piece'))).toMatchObject({ unitsInSoldPack: 1, unitsInBoughtPack: 12, doubtful: false });
    expect(proposePacks(side('Saucers pack of 3'), side('Saucers set of 3'))).toMatchObject({ unitsInSoldPack: 3, unitsInBoughtPack: 3, doubtful: false });
  });
});
