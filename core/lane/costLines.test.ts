import { describe, expect, it } from 'vitest';
import { en } from '../../app/locales/en.ts';
import { plainLane } from '../testing/documents.ts';
import { BLANKS, BIT } from './blanks.ts';
import { amountOf, COST_LINES, FAMILIES, FAMILY_LINES, LINES, LINES_OF, lineValue } from './costLines.ts';
import { OWN_LINES, sourceOf, SUM_LINES } from './costLines.ts';
import type { Line, Sum } from './costLines.ts';
import { reckon } from './reckon.ts';
import { FIGURES } from './figures.ts';
import { Reckoning } from './reckoning.ts';

const SUMS = Object.keys(SUM_LINES) as Sum[];

/** A reckoning in which one line alone has an amount. */
function only(line: Line, amount: number): Reckoning {
  const r = new Reckoning();
  const own = OWN_LINES.indexOf(line);
  if (own >= 0) r.own[own] = amount;
  else (r as unknown as Record<string, number>)[line] = amount;
  return r;
}

describe('the registry of cost lines', () => {
  it('has each line in one family and one sum, in the order of the bar', () => {
    expect(FAMILIES.flatMap((f) => FAMILY_LINES[f]).sort()).toEqual([...LINES].sort());
    expect(SUMS.flatMap((s) => SUM_LINES[s]).sort()).toEqual([...LINES].sort());
    const first = FAMILIES.map((f) => LINES.indexOf(FAMILY_LINES[f][0] as Line));
    expect(first).toEqual([...first].sort((a, b) => a - b));
  });
  it.each(LINES)('%s: moves its own sum by itself, and no other', (line) => {
    const r = only(line, 7);
    expect(amountOf(r, line)).toBe(7);
    for (const sum of SUMS) expect(LINES_OF[sum](r), sum).toBe(COST_LINES[line].sum === sum ? 7 : 0);
    expect(Number.isNaN(LINES_OF[COST_LINES[line].sum](only(line, Number.NaN)))).toBe(true);
  });
  it('shows a blank line as unknown; one that is known in part by what is known', () => {
    for (const line of LINES) {
      const { blank, inPart } = COST_LINES[line] as { blank?: (typeof BLANKS)[number]; inPart?: true };
      if (blank === undefined) continue;
      const r = only(line, 3);
      expect(lineValue(r, line), line).toBe(3);
      r.blanks = BIT[blank];
      expect(lineValue(r, line), line).toBe(inPart ? 3 : Number.NaN);
      const none = only(line, 0);
      none.blanks = BIT[blank];
      expect(lineValue(none, line), line).toBe(Number.NaN);
    }
  });
  it('has words for every line, family, figure and blank', () => {
    for (const line of LINES) expect(en.lines[line], line).toMatch(/\w/);
    for (const family of FAMILIES) expect(en.family[family], family).toMatch(/\w/);
    const words: Record<string, string> = { ...en.lines, ...en.figure };
    for (const figure of FIGURES) expect(words[figure], figure).toMatch(/\w/);
    for (const blank of BLANKS) expect(en.blank[blank], blank).toMatch(/\w/);
  });
});

describe('where a cost line comes from', () => {
  const doc = plainLane({});
  it('is the card unless something was typed over it', () => {
    expect(sourceOf(doc, 'referral')).toBe('card');
    expect(sourceOf({ ...doc, typed: { ...doc.typed, referralPct: 0.1 } }, 'referral')).toBe('typed');
    expect(sourceOf({ ...doc, typed: { ...doc.typed, paymentFixed: 0.3 } }, 'payment')).toBe('typed');
  });
  it('is what the lane notes of the input, or of a part of it', () => {
    const noted = (path: string) => ({ [path]: { source: 'guess' as const, date: null, note: '' } });
    expect(sourceOf({ ...doc, provenance: noted('adverts') }, 'adverts')).toBe('guess');
    expect(sourceOf({ ...doc, provenance: noted('returns.rate') }, 'returns')).toBe('guess');
    expect(sourceOf({ ...doc, provenance: noted('returnsTo') }, 'returns')).toBe('typed');
  });
  it('of sending is the card, the postage or what is said of delivery, as the goods are sent', () => {
    const of = (part: object) => sourceOf({ ...doc, ...part } as typeof doc, 'fulfilment');
    expect(of({ method: 'warehouse' })).toBe('card');
    expect(of({ method: 'ownDispatch' })).toBe('card');
    expect(of({ method: 'supplierShips' })).toBe('typed');
    expect(of({ method: 'warehouse', typed: { ...doc.typed, fulfilmentFee: 3 } })).toBe('typed');
  });
});

describe('lines worked out by themselves', () => {
  it('add up other costs, and take what a free extra brings', () => {
    const doc = plainLane({
      otherPerUnit: [
        { name: 'label', line: { currency: 'EUR', amount: 0.5 } },
        { name: 'insert', line: { currency: 'EUR', amount: 0.25 } },
      ],
      freeExtraProfit: 2,
    });
    const r = reckon(doc, new Reckoning());
    expect([amountOf(r, 'other'), amountOf(r, 'freeExtra')]).toEqual([0.75, -2]);
    expect(lineValue(r, 'freeExtra')).toBe(-2);
  });
  it('leave a blank where an amount is not known, beside what is', () => {
    const line = (amount: number | null) => ({ name: 'x', line: { currency: 'EUR', amount } });
    const both = reckon(plainLane({ otherPerUnit: [line(1), line(null)] }), new Reckoning());
    expect([both.isBlank('other'), lineValue(both, 'other')]).toEqual([true, 1]);
    const none = reckon(plainLane({ otherPerUnit: [line(null)] }), new Reckoning());
    expect(lineValue(none, 'other')).toBe(Number.NaN);
  });
});
