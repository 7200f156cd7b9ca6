/** The demo's settlements: drawn by their rule, the same each time, and readable as any report is. */
import { describe, expect, it } from 'vitest';
import { guessSettlementMap } from '../core/actuals/map.ts';
import { SettlementReader } from '../core/actuals/read.ts';
import { settlementMap, STEPS } from '../core/actuals/schema.ts';
import type { SettledLine, SettlementMap } from '../core/actuals/schema.ts';
import { SummingUp } from '../core/actuals/sums.ts';
import { isFault } from '../core/fault.ts';
import { BASE, PLACE } from '../core/testing/settled.ts';
import { advertFile, REPORT_MAP, settlementFile, settlementRows } from './settlements.ts';
import type { Selling } from './settlements.ts';

const TO = '2026-10-31';
const lane = (twists: Selling['twists']): Selling => ({
  code: 'A',
  document: BASE,
  since: '2026-06-01',
  twists,
});
const rowsOf = (twists: Selling['twists'] = []) => settlementRows([lane(twists)], TO, 7);
const read = (text: string, map: SettlementMap, between: string): SettledLine[] => {
  const [header = [], ...rows] = text.split('\n').map((l) => l.split(between));
  const reader = new SettlementReader(map, header, PLACE, TO);
  return rows.flatMap((r, i) => {
    const said = reader.read(r, i + 2);
    if (isFault(said)) throw new Error(said.code);
    return said;
  });
};
const MAP = settlementMap.parse({ ...REPORT_MAP, decimal: 'comma' });
const kindsOf = (lines: readonly SettledLine[], month: string) => {
  const summing = new SummingUp();
  for (const l of lines) summing.add(l);
  return summing.sums().get('A')?.get(month) ?? {};
};

describe('settlements of the demo', () => {
  it('are the same each time, and in the order of their days', () => {
    const rows = rowsOf();
    expect(rows).toEqual(rowsOf());
    expect(rows.map((r) => r.day)).toEqual(rows.map((r) => r.day).sort());
    expect(rows.every((r) => r.day >= '2026-06-01' && r.day <= TO)).toBe(true);
  });
  it('sell what the lane plans, at its price and its fees, and are paid out up to two weeks before the end', () => {
    const lines = read(settlementFile(rowsOf(), '2026-06-01', TO), MAP, ';');
    const july = kindsOf(lines, '2026-07');
    const units = july.sale?.units ?? 0;
    expect(units).toBeGreaterThan(70);
    expect(units).toBeLessThan(130);
    expect(july.sale?.amount).toBe(units * 24 * STEPS);
    expect((july.fulfilment?.amount ?? 0) / units).toBeCloseTo(-3.1 * STEPS, 6);
    const all = lines.filter((l) => l.kind !== 'transfer').reduce((s, l) => s + l.amount, 0);
    const out = lines.filter((l) => l.kind === 'transfer').reduce((s, l) => s - l.amount, 0);
    expect(out).toBeGreaterThan(0.8 * all);
    expect(out).toBeLessThanOrEqual(all);
  });
  it('of some days leave the others out, and two parts are the whole', () => {
    const rows = rowsOf();
    const part = (from: string, to: string) => read(settlementFile(rows, from, to), MAP, ';');
    const keys = (lines: readonly SettledLine[]) => lines.map((l) => l.key);
    expect([...keys(part('2026-06-01', '2026-08-31')), ...keys(part('2026-09-01', TO))]).toEqual(
      keys(part('2026-06-01', TO)),
    );
  });
  it('follow the story from its day on: price, handling, returns, lost goods, fees taken twice', () => {
    const of = (twists: Selling['twists'], month: string) =>
      kindsOf(read(settlementFile(rowsOf(twists), '2026-06-01', TO), MAP, ';'), month);
    const story = [{ from: '2026-09-01', price: 20, handling: 1, returns: 8, pace: 2 }];
    const [july, october] = [of(story, '2026-07'), of(story, '2026-10')];
    expect(july.sale?.amount).toBe((july.sale?.units ?? 0) * 24 * STEPS);
    const units = october.sale?.units ?? 0;
    expect(october.sale?.amount).toBe(units * 20 * STEPS);
    expect(units).toBeGreaterThan(150);
    expect((october.fulfilment?.amount ?? 0) / units).toBeCloseTo(-4.1 * STEPS, 6);
    expect(october.refund?.units).toBeGreaterThan(4 * (july.refund?.units ?? 0));
    const lost = of([{ lost: { month: '2026-08', units: 6, each: 3 } }], '2026-08');
    expect(lost.reimbursement).toMatchObject({ units: 6, amount: 18 * STEPS });
    const twice = of([{ twice: 0.5 }], '2026-07');
    expect(twice.fulfilment?.lines).toBeGreaterThan(1.2 * (twice.sale?.units ?? 0));
  });
  it('have an advert report that tells the same money, by what a click costs', () => {
    const told = lane([{ from: '2026-09-01', adverts: 3 }]);
    const rows = settlementRows([told], TO, 7);
    const text = advertFile(rows, told) ?? '';
    const cells = text.split('\n').map((l) => l.split(','));
    const map = guessSettlementMap(cells[0] ?? [], cells.slice(1));
    const lines = read(text, map, ',');
    const charged = rows.filter((r) => r.entry === 'campaigns').reduce((s, r) => s + r.amount, 0);
    const clicks = lines.filter((l) => l.kind === 'clicks');
    expect(clicks.reduce((s, l) => s + l.amount, 0) / STEPS).toBeCloseTo(charged, 6);
    const each = (month: string): number => {
      const of = clicks.filter((l) => l.day.startsWith(month));
      return -of.reduce((s, l) => s + l.amount, 0) / STEPS / of.reduce((s, l) => s + l.units, 0);
    };
    expect(each('2026-07')).toBeCloseTo(0.5, 2);
    expect(each('2026-10')).toBeCloseTo(1.5, 1);
    expect(advertFile(rows, { ...told, document: { ...BASE, adverts: 'none' } })).toBeNull();
  });
});
