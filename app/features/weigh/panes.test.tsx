import { render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { describe, expect, it } from 'vitest';
import { evaluate } from '../../../core/lane/evaluate.ts';
import { judgeHurdles, remedyFor } from '../../../core/lane/hurdles.ts';
import type { Hurdle } from '../../../core/lane/hurdleSchema.ts';
import type { LaneDocumentInput } from '../../../core/lane/schema.ts';
import { highestPurchaseCost, priceFor } from '../../../core/lane/solve.ts';
import { launch } from '../../../core/launch/launch.ts';
import { launchPlan } from '../../../core/launch/schema.ts';
import type { LaunchPlan } from '../../../core/launch/schema.ts';
import { plainLane } from '../../../core/testing/documents.ts';
import { HurdlesPane, LaunchPane } from './panes.tsx';
import type { Answers, LaneView } from './useFigures.ts';

const QUOTE = {
  source: {
    kind: 'quote' as const,
    currency: 'EUR',
    priceBreaks: [{ minQty: 0, unitPrice: 20 }],
    minimumOrder: 0,
  },
};
const bought = (over: Partial<LaneDocumentInput> = {}) =>
  plainLane({ goods: [QUOTE], orderQuantity: 100, demand: { kind: 'typed', units: 50 }, ...over });

function about(
  doc: ReturnType<typeof bought>,
  hurdles: readonly Hurdle[],
  plan: Partial<LaunchPlan> = {},
): { view: LaneView; answers: Answers } {
  const result = evaluate(doc);
  const whole = launchPlan.parse(plan);
  return {
    view: { id: 'l', state: {} as never, doc, result, home: result },
    answers: {
      breakEven: priceFor(doc),
      mostToPay: highestPurchaseCost(doc),
      launch: launch(doc, whole),
      plan: whole,
      hurdles: judgeHurdles(doc, hurdles).map((r) => ({
        result: r,
        remedy: r.verdict === 'near' || r.verdict === 'fail' ? remedyFor(doc, r.hurdle) : null,
      })),
    },
  };
}
const UNIT_PROFIT: Hurdle = { figure: 'unitProfit', bound: 'atLeast', level: 15, near: 0.1 };

describe('hurdles on the sheet', () => {
  const shown = (doc: ReturnType<typeof bought>): string =>
    render(<HurdlesPane {...about(doc, [UNIT_PROFIT])} />).container.textContent ?? '';
  it('one that is missed says which price or quote alone would clear it', () => {
    const text = shown(bought());
    expect(text).toContain('Unit profit at least €15.00');
    // 30 for 20 keeps 10: 35 would keep 15, and so would 15 to the supplier.
    expect(text).toContain('a price of €35.00');
    expect(text).toContain('€15.00');
    expect(text).not.toContain('over €35.00');
  });
  it('of a lane that lacks a cost, what would clear it is a bound as well', () => {
    const text = shown(bought({ prep: null }));
    expect(text).toContain('a price of over €35.00');
    expect(text).toContain('less than €15.00');
  });
  it('one that is cleared asks for nothing', () => {
    expect(shown(bought({ price: 60 }))).not.toContain('a price of');
  });
});

describe('the launch beside the sheet', () => {
  const shown = (over: Partial<LaneDocumentInput>, plan: Partial<LaunchPlan>): void => {
    const { view, answers } = about(bought(over), [], plan);
    render(
      <MemoryRouter>
        <LaunchPane view={view} answers={answers} base="/w/shop/fund" candidateId="c" />
      </MemoryRouter>,
    );
  };
  const adverts = { kind: 'daily' as const, perDay: 0, days: 0 };
  it('adds up: goods, contingency, and what is left of the cash', () => {
    shown({}, { cash: 5000, contingency: 0.1, advertising: adverts });
    const text = document.body.textContent ?? '';
    for (const amount of ['2,000.00', '200.00', '2,200.00']) expect(text).toContain(amount);
    expect(text).not.toMatch(/over/);
  });
  it('goods whose way in is not known are a bound, and so is what rests on them', () => {
    shown({ route: null }, { cash: 5000, contingency: 0.1, advertising: adverts });
    const text = document.body.textContent ?? '';
    expect(text).toContain('over 2,000.00');
    expect(text).toContain('over 200.00');
  });
  it('leads to Fund with the lane', () => {
    shown({}, {});
    expect(screen.getAllByRole('link').map((a) => a.getAttribute('href'))).toContainEqual(
      expect.stringContaining('/w/shop/fund'),
    );
  });
});
