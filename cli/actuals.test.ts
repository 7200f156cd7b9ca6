/** Settlements at a prompt: several files, rows that cannot count, and what is asked for wrongly. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it, vi } from 'vitest';
import type { Issue } from '../core/issues.ts';
import { plainLane } from '../core/testing/documents.ts';
import { actuals } from './actuals.ts';
import type { ActualsOptions } from './actuals.ts';
import { UsageError } from './files.ts';

const folder = mkdtempSync(join(tmpdir(), 'bold-margin-actuals-'));
afterAll(() => rmSync(folder, { recursive: true }));
const file = (name: string, text: string | object): string => {
  const path = join(folder, name);
  writeFileSync(path, typeof text === 'string' ? text : JSON.stringify(text));
  return path;
};
const lane = file('lane.json', { ...plainLane(), demand: { kind: 'typed', units: 30.4375 } });
const map = file('map.json', {
  columns: { line: 'No', day: 'Day', code: 'Item', kind: 'What', units: 'Units' },
  amounts: [{ column: 'Amount' }],
  kinds: { sold: 'sale', ads: 'adverts' },
});
const HEAD = 'No,Day,Item,What,Amount,Units\n';
const first = file(
  'first.csv',
  `${HEAD}1,2026-10-01,A,Sold,30,1\n2,2026-10-02,A,Sold,30,1\n3,2026-10-02,B,Sold,60,2\n`,
);
const second = file(
  'second.csv',
  `${HEAD}2,2026-10-02,A,Sold,28,1\n4,2026-11-03,A,Sold,30,1\n5,2026-11-03,,Ads,-9,\n`,
);

function run(over: Partial<ActualsOptions> = {}) {
  const issues: Issue[] = [];
  let out: Record<string, unknown> = {};
  const said = vi.spyOn(process.stderr, 'write').mockImplementation(() => true);
  const code = actuals(
    { lane, map, settlement: [first], code: [], ...over },
    (value) => {
      out = value as Record<string, unknown>;
    },
    (more) => issues.push(...more),
  );
  const told = said.mock.calls.map(([text]) => String(text)).join('');
  said.mockRestore();
  return { code, out: out as never as Out, issues, told };
}
type Out = {
  twice: number;
  codes: string[];
  months: { month: string; actual: { shipped: number; gross: number }; planned: { units: number } }[];
  whole: { actual: { shipped: number; gross: number } } | null;
  left: { month: string; kinds: { kind: string; amount: number }[] }[];
};

describe('bm actuals', () => {
  it('counts lines of overlapping files once, the later one as it stands there, by month and code', () => {
    const { code, out } = run({ settlement: [first, second], code: ['A'] });
    expect(code).toBe(0);
    expect(out.twice).toBe(1);
    expect(out.months.map((m) => [m.month, m.actual.shipped, m.actual.gross])).toEqual([
      ['2026-10', 2, 58],
      ['2026-11', 1, 30],
    ]);
    // November is planned up to the last day that a report speaks of.
    expect(out.months.map((m) => Math.round(m.planned.units))).toEqual([31, 3]);
    expect(out.whole?.actual).toMatchObject({ shipped: 3, gross: 88 });
  });
  it('without codes every code is the lane’s; what is of no product and could not be shared is named', () => {
    expect(run().out.codes).toEqual(['A', 'B']);
    const ads = file('ads.csv', `${HEAD}9,2026-10-02,,Ads,-9,\n`);
    const { out } = run({ settlement: [ads] });
    expect(out.whole).toBeNull();
    expect(out.left).toEqual([{ month: '2026-10', kinds: [{ kind: 'adverts', amount: -9 }] }]);
  });
  it('a row that cannot count is said with its row; the others count', () => {
    const { code, told, out } = run({
      settlement: [file('odd.csv', `${HEAD}1,soon,A,Sold,30,1\n2,2026-10-02,A,Sold,30,1\n`)],
    });
    expect(code).toBe(2);
    expect(told).toContain('row 2: "soon" is no day');
    expect(out.whole?.actual.shipped).toBe(1);
  });
  it('an empty file comes to nothing', () => {
    expect(run({ settlement: [file('none.csv', HEAD)] }).out).toMatchObject({ months: [], whole: null });
  });
  it('says what it lacks, and what the file lacks that the map names', () => {
    expect(() => run({ map: undefined })).toThrow(UsageError);
    expect(() => run({ settlement: [] })).toThrow(/--settlement/);
    expect(() => run({ settlement: [file('other.csv', 'a,b\n1,2\n')] })).toThrow(/no column "No"/);
    const bad = run({ lane: file('bad.json', '{"format":'), map });
    expect([bad.code, bad.issues[0]?.code]).toEqual([2, 'notJson']);
    const wrong = run({ map: file('wrong.json', { columns: { when: 'Day' }, amounts: [] }) });
    expect(wrong.code).toBe(2);
    expect(wrong.issues.length).toBeGreaterThan(0);
  });
});
