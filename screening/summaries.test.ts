import { describe, expect, it } from 'vitest';
import { makeColumns, makeResults, TROUBLES } from '../core/columns/columns.ts';
import { VERDICTS } from '../core/columns/verdicts.ts';
import { BIT, blanksIn } from '../core/lane/blanks.ts';
import type { ListFigure } from '../core/lists/figures.ts';
import { Dictionary } from './room.ts';
import type { Evaluated } from './room.ts';
import { allRows, countsOf, facetOf, statsOf } from './summaries.ts';

const verdict = (v: (typeof VERDICTS)[number]): number => VERDICTS.indexOf(v);

/** Five rows: one pays, one fails, one has no price, one lacks costs, one has a trouble. */
function fiveRows(): Evaluated {
  const columns = makeColumns(5);
  columns.price.set([10, 10, Number.NaN, 10, 10]);
  columns.category.set([0, 0, 0, -1, 0]);
  const results = makeResults(5);
  results.blanks[2] = BIT.price | BIT.prep;
  results.blanks[3] = BIT.prep | BIT.returns;
  results.trouble[4] = TROUBLES.indexOf('noSizeTier');
  const verdicts = Uint8Array.from([
    verdict('pass'),
    verdict('fail'),
    verdict('unknown'),
    verdict('unknown'),
    verdict('unknown'),
  ]);
  return { columns, results, verdicts, counts: null } as unknown as Evaluated;
}

describe('what is said of many rows', () => {
  it('verdicts are counted, and what unknown rows lack, each under what comes first', () => {
    const { verdicts, unknown, lacking } = countsOf(fiveRows(), 5);
    expect(verdicts).toEqual({ pass: 1, near: 0, fail: 1, unknown: 3 });
    expect(unknown).toEqual({ noMarket: 1, noCategory: 1, troubled: 1 });
    // A row without a price lacks that, not its blank costs; one with a trouble is told by it.
    expect(Object.fromEntries(lacking)).toEqual({ price: 1, prep: 1, returns: 1, noSizeTier: 1 });
  });

  it('counted once for an evaluation', () => {
    const e = fiveRows();
    const first = countsOf(e, 5);
    e.verdicts[0] = verdict('fail');
    expect(countsOf(e, 5)).toBe(first);
  });

  it('sums are those of the rows shown, the distribution that of all; unknown is in neither', () => {
    const values = Float64Array.from([1, 2, 3, 4, Number.NaN, 100]);
    const s = statsOf('unitProfit', values, 6, Uint32Array.from([1, 3, 4]), new Uint32Array(6));
    expect(s).toMatchObject({ figure: 'unitProfit', known: 2, sum: 6, unknown: 1 });
    expect(s.from).toBe(1);
    expect(s.to).toBe(100);
    expect(s.counts.reduce((a, b) => a + b, 0) + s.below + s.above).toBe(5);
  });

  it('sums of bounds name the costs that are missing of the rows that count, and no others', () => {
    const values = Float64Array.from([1, 2, Number.NaN, 4]);
    const blanks = Uint32Array.from([BIT.storage, BIT.demand, BIT.prep, BIT.returns | BIT.demand]);
    const lacks = (f: ListFigure, rows: number[]) =>
      blanksIn(statsOf(f, values, 4, Uint32Array.from(rows), blanks).lacks);
    expect(lacks('unitProfit', [0, 1, 2, 3])).toEqual(['storage', 'returns']);
    expect(lacks('unitProfit', [1, 2])).toEqual([]);
    expect(lacks('landedCost', [0, 1, 2, 3])).toEqual([]);
    expect(lacks('price', [0, 3])).toEqual([]);
  });

  it('a figure that no row knows has no distribution', () => {
    const s = statsOf('rank', new Float64Array(3).fill(Number.NaN), 3, allRows(3), new Uint32Array(3));
    expect(s).toMatchObject({ known: 0, from: 0, to: 0, unknown: 3 });
  });

  it('words are counted among the rows asked about, most first, and none that is not there', () => {
    const words = new Dictionary();
    words.take(0, { values: ['Pentlow', 'Larkmoor', ''], codes: Uint32Array.from([0, 1, 1, 2]) });
    words.take(4, { values: ['Larkmoor'], codes: Uint32Array.from([0]) });
    expect(facetOf(words, allRows(5))).toEqual([
      ['Larkmoor', 3],
      ['Pentlow', 1],
      ['', 1],
    ]);
    expect(facetOf(words, Uint32Array.from([0]))).toEqual([['Pentlow', 1]]);
  });

  it('all rows stand in their order, however long the list before was', () => {
    expect([...allRows(4)]).toEqual([0, 1, 2, 3]);
    expect([...allRows(2)]).toEqual([0, 1]);
    expect(allRows(0).length).toBe(0);
  });
});
