import { describe, expect, it } from 'vitest';
import { MOST_AHEAD } from '../../../between/ask.ts';
import type { JudgedRow, ListRow } from '../../../between/ask.ts';
import { CHUNK, RowsAtHand } from './rowsAtHand.ts';

const row = (i: number): ListRow =>
  ({ line: i + 2, key: i, figures: { cost: i, margin: 0.1 }, remedies: ['r'] }) as unknown as ListRow;
const window = (from: number, count: number): ListRow[] =>
  Array.from({ length: count }, (_, i) => row(from + i));

const missing = (rows: RowsAtHand, from: number, to: number): number[] => {
  rows.view = [from, to];
  return rows.missing();
};

describe('rows at hand', () => {
  it('are those of the first answer, under what was asked', () => {
    const rows = new RowsAtHand(window(0, 3), 'k', 'q');
    expect([rows.at(0)?.line, rows.at(2)?.line, rows.at(3)]).toEqual([2, 4, undefined]);
    expect([rows.key, rows.query]).toEqual(['k', 'q']);
    expect([new RowsAtHand().at(0), new RowsAtHand().key]).toEqual([undefined, '']);
  });
  it('what is missing in view is asked for by chunks, each once until it has come', () => {
    const rows = new RowsAtHand(window(0, CHUNK));
    expect(missing(rows, 20, 60)).toEqual([]);
    expect(missing(rows, 80, 220)).toEqual([100, 200]);
    expect(missing(rows, 90, 230)).toEqual([]);
    rows.came(100);
    rows.put(100, window(100, CHUNK));
    expect(missing(rows, 90, 230)).toEqual([]);
    // What did not come is asked for again.
    rows.came(200);
    expect(missing(rows, 90, 230)).toEqual([200]);
    expect(rows.view).toEqual([90, 230]);
  });
  it('of a chunk that is there in part only what is in view counts', () => {
    const rows = new RowsAtHand(window(0, 50));
    expect(missing(rows, 0, 49)).toEqual([]);
    expect(missing(rows, 0, 50)).toEqual([0]);
  });
  it('another answer takes the place of all, and what was asked for before may be asked for again', () => {
    const rows = new RowsAtHand(window(0, CHUNK));
    missing(rows, 100, 150);
    rows.replace(200, window(200, 20), 'k2', 'q2');
    expect([rows.at(0), rows.at(200)?.line, rows.key, rows.query]).toEqual([undefined, 202, 'k2', 'q2']);
    expect(missing(rows, 100, 150)).toEqual([100]);
  });
  it('far from view they are let go once there are many', () => {
    const rows = new RowsAtHand();
    missing(rows, 6000, 6060);
    rows.put(0, window(0, 100));
    rows.put(5900, window(5900, 3000));
    expect(rows.at(0)?.line).toBe(2);
    rows.put(9000, window(9000, 1000));
    expect([rows.at(0), rows.at(9500), rows.at(6010)?.line]).toEqual([undefined, undefined, 6012]);
  });
});

describe('rows judged before the whole list', () => {
  it('are those in view, at most as many as may be asked; they keep what is not judged', () => {
    const rows = new RowsAtHand(window(0, 500));
    missing(rows, 0, 499);
    expect(rows.seen()).toHaveLength(Math.min(MOST_AHEAD, 500));
    missing(rows, 10, 11);
    const seen = rows.seen();
    expect(seen.map(([i]) => i)).toEqual([10, 11]);
    rows.judge(seen, [
      { verdict: 'pass', figures: { margin: 0.4 } },
      { verdict: 'fail', figures: { margin: 0.2 } },
    ] as unknown as JudgedRow[]);
    expect(rows.at(10)).toMatchObject({
      line: 12,
      verdict: 'pass',
      figures: { cost: 10, margin: 0.4 },
      remedies: [],
    });
    expect(rows.at(12)).toEqual(row(12));
  });
});
