import { render } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { evaluate } from '../../core/lane/evaluate.ts';
import { FIGURES } from '../../core/lane/figures.ts';
import type { LaneDocumentInput } from '../../core/lane/schema.ts';
import type { LaneResult } from '../../core/lane/result.ts';
import { plainLane } from '../../core/testing/documents.ts';
import { randomLane } from '../../core/testing/lanes.ts';
import { loses, ProfitCell } from './ProfitCell.tsx';
import { useBoundColumn, useResultFigures } from './resultFigures.ts';

type Words = { said: ReturnType<typeof useResultFigures>; bound: ReturnType<typeof useBoundColumn> };
function words(): Words {
  let found: Words | null = null;
  function Take() {
    found = { said: useResultFigures(), bound: useBoundColumn() };
    return null;
  }
  render(<Take />);
  return found as unknown as Words;
}
const QUOTE = {
  source: {
    kind: 'quote' as const,
    currency: 'EUR',
    priceBreaks: [{ minQty: 0, unitPrice: 20 }],
    minimumOrder: 0,
  },
};
const bought = (over: Partial<LaneDocumentInput> = {}): LaneResult =>
  evaluate(plainLane({ goods: [QUOTE], demand: { kind: 'typed', units: 50 }, ...over }));

describe('figures of a result in words', () => {
  it('of a lane that lacks nothing stand in their own units', () => {
    const { said } = words();
    const whole = bought();
    expect(said(whole, 'unitProfit')).toBe('€10.00');
    expect(said(whole, 'unitProfit', 'plain')).toBe('10.00');
    expect(said(whole, 'margin')).toBe('33.3%');
    // Returns on cost are read whole.
    expect(said(whole, 'roi')).toBe('50%');
    expect(said(whole, 'expectedMonthlyUnits')).toBe('50');
  });
  it('are under what stands where a cost is missing, and over it where they are costs themselves', () => {
    const { said } = words();
    const lacking = bought({ prep: null });
    expect(said(lacking, 'unitProfit')).toBe('under €10.00');
    expect(said(lacking, 'margin')).toBe('under 33.3%');
    expect(said(lacking, 'roi')).toBe('under 50%');
    expect(said(lacking, 'landedCost', 'plain')).toBe('over 20.00');
    // Units sold do not hang on what prep costs.
    expect(said(lacking, 'expectedMonthlyUnits')).toBe('50');
  });
  it('stand before returns where returns are what is missing', () => {
    expect(words().said(bought({ returns: null }), 'unitProfit')).toBe('€10.00 before returns');
  });
  it('are as far as known where what is missing may move them either way', () => {
    // Below -100 % a return on cost is no bound: a dearer unit loses less of what it costs.
    const { said } = words();
    const deep = bought({
      prep: null,
      adverts: { keywords: [{ low: 60, high: 60, conversionRate: 1 }], adShare: 1 },
    });
    expect(deep.bounds.roi).toBe('notKnown');
    expect(said(deep, 'roi')).toBe('−250% as far as known');
    expect(said(deep, 'unitProfit')).toMatch(/^under /);
  });
  it('are a dash where there is no result, or the figure is not known', () => {
    const { said } = words();
    expect(said(null, 'margin')).toBe('–');
    expect(said(evaluate(plainLane({ price: null })), 'margin')).toBe('–');
  });
  it('of random lanes carry a word if and only if the result says that they are bounds', () => {
    const { said } = words();
    let whole = 0;
    let bounds = 0;
    for (let seed = 1; seed <= 120; seed++) {
      const result = evaluate(randomLane(seed));
      for (const figure of FIGURES) {
        const text = said(result, figure, 'plain');
        if (result.figures[figure] === null) expect(text).toBe('–');
        else if (result.bounds[figure] === undefined) {
          expect(text).not.toMatch(/[a-z]{3}/);
          whole++;
        } else {
          expect(text, `${figure} of lane ${seed}`).toMatch(/under|over|before returns|as far as known/);
          bounds++;
        }
      }
    }
    expect(whole).toBeGreaterThan(100);
    expect(bounds).toBeGreaterThan(100);
  });
});

describe('the column that says what a profit is, in tables that are taken along', () => {
  it('says whole, at most, before returns, and nothing where there is no profit', () => {
    const { bound } = words();
    expect(bound.title).toBe('What the profit is');
    expect(bound.of(bought())).toBe('whole');
    expect(bound.of(bought({ prep: null }))).toBe('at most');
    expect(bound.of(bought({ returns: null }))).toBe('before returns');
    expect(bound.of(bought({ price: null }))).toBe('');
    expect(bound.of(null)).toBe('');
  });
});

describe('the cell of a profit', () => {
  const cell = (result: LaneResult | null): string => {
    const { container } = render(
      <table>
        <tbody>
          <tr>
            <ProfitCell result={result} />
          </tr>
        </tbody>
      </table>,
    );
    return container.textContent ?? '';
  };
  it('says in a word that a unit loses', () => {
    expect(cell(bought())).toBe('€10.00');
    expect(cell(bought({ price: 15 }))).toBe('−€5.00 loses');
    expect(cell(null)).toBe('–');
  });
  it('a rounded nothing is no loss', () => {
    expect([loses(null), loses(0), loses(-0.004), loses(-0.005), loses(-3)]).toEqual([
      false,
      false,
      false,
      true,
      true,
    ]);
  });
});
