import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { foldText } from '../core/columns/rank.ts';
import { TextWriter } from '../between/parts.ts';
import type { Part } from '../between/parts.ts';
import { Texts } from './texts.ts';
import { cases } from '../core/testing/seed.ts';

/** Texts of rows in parts of the sizes given. */
function textsOf(titles: readonly string[], sizes: readonly number[]): Texts {
  const texts = new Texts();
  let from = 0;
  for (const size of sizes) {
    const [title, fold] = [new TextWriter(), new TextWriter()];
    for (const t of titles.slice(from, from + size)) {
      title.add(t);
      fold.add(foldText(t));
    }
    texts.take(from, { rows: size, texts: { title: title.column(), fold: fold.column() } } as Part);
    from += size;
  }
  return texts;
}
const rowsOf = (mask: Uint8Array): number[] => [...mask].flatMap((x, i) => (x === 1 ? [i] : []));

describe('the texts of a list in memory', () => {
  const titles = ['Bird bath', 'Moss pole', '', 'Bird feeder, larch', 'Tôle d’ardoise', 'Pole for moss'];
  const texts = textsOf(titles, [2, 1, 3]);

  it('titles are found in whatever part they stand', () => {
    expect(titles.map((_, i) => texts.titleAt(i))).toEqual(titles);
  });

  it('rows hold all the words, or any of them', () => {
    expect(rowsOf(texts.holding(['bird'], 'all', 6))).toEqual([0, 3]);
    expect(rowsOf(texts.holding(['moss', 'pole'], 'all', 6))).toEqual([1, 5]);
    expect(rowsOf(texts.holding(['bath', 'larch'], 'any', 6))).toEqual([0, 3]);
    expect(rowsOf(texts.holding([foldText('TÔLE')], 'all', 6))).toEqual([4]);
  });

  it('a word that is blank takes nothing away; one that is nowhere leaves nothing', () => {
    expect(rowsOf(texts.holding([''], 'all', 6))).toEqual([0, 1, 2, 3, 4, 5]);
    expect(rowsOf(texts.holding(['nowhere'], 'all', 6))).toEqual([]);
    expect(rowsOf(texts.holding([], 'any', 6))).toEqual([]);
  });

  it('a text that ends in one row and begins in the next is in neither', () => {
    const two = textsOf(['ab', 'cd'], [2]);
    expect(rowsOf(two.holding(['bc'], 'all', 2))).toEqual([]);
  });

  it('as a plain search finds them, on random titles and cuts', () => {
    const letters = fc.string({ unit: fc.constantFrom('a', 'b', 'ä', ' ', '🌱'), maxLength: 6 });
    fc.assert(
      fc.property(
        fc.array(letters, { minLength: 1, maxLength: 20 }),
        fc.array(letters, { minLength: 1, maxLength: 3 }),
        fc.nat(19),
        fc.constantFrom('all' as const, 'any' as const),
        (rows, words, cut, how) => {
          const at = Math.min(cut, rows.length);
          const sizes = at === 0 || at === rows.length ? [rows.length] : [at, rows.length - at];
          const wanted = words.map(foldText).filter((w) => w !== '');
          const plain = rows.flatMap((r, i) => {
            const has = (w: string): boolean => foldText(r).includes(w);
            return (how === 'all' ? wanted.every(has) : wanted.some(has)) ? [i] : [];
          });
          expect(rowsOf(textsOf(rows, sizes).holding(wanted, how, rows.length))).toEqual(plain);
        },
      ),
      { numRuns: cases(400) },
    );
  });
});
