/** Other plans for a launch that are worth a look, each run whole. */
import type { LaneDocument } from '../lane/schema.ts';
import { breakQuantities } from '../launch/orders.ts';
import { minorDigits } from '../money/money.ts';
import { dayText } from './calendar.ts';
import { expectedCash } from './cash.ts';
import type { CaseCash } from './cash.ts';
import type { CashPlan, CashTerms } from './schema.ts';

/** What is otherwise: a field of the lane, or fields of the plan. */
export type Otherwise =
  | { readonly what: 'quantity'; readonly lane: { readonly orderQuantity: number } }
  | { readonly what: 'price'; readonly lane: { readonly price: number } }
  | { readonly what: 'start' | 'noReorder' | 'ownCash'; readonly plan: Partial<CashTerms> };
export type OtherPlan = { readonly otherwise: Otherwise; readonly expected: CaseCash };

/** How much later, in days, and how much cheaper, as a share, is tried. */
const LATER = 42;
const CHEAPER = 0.05;

/** The next price break, six weeks later, a twentieth cheaper, no reorder, reorders from own cash: what can be run. */
export function otherPlans(doc: LaneDocument, plan: CashPlan): OtherPlan[] {
  const all: Otherwise[] = [];
  const [, nextBreak] = breakQuantities(doc);
  if (nextBreak !== undefined) all.push({ what: 'quantity', lane: { orderQuantity: nextBreak } });
  all.push({ what: 'start', plan: { start: dayText(plan.start ?? doc.date, LATER) } });
  if (doc.price !== null) {
    const price = Number((doc.price * (1 - CHEAPER)).toFixed(minorDigits(doc.currency)));
    all.push({ what: 'price', lane: { price } });
  }
  if (plan.reorder.kind !== 'none') {
    all.push({ what: 'noReorder', plan: { reorder: { kind: 'none' } } });
    if (!plan.selfFunding) all.push({ what: 'ownCash', plan: { selfFunding: true } });
  }
  return all.flatMap((otherwise) => {
    const expected =
      'lane' in otherwise
        ? expectedCash({ ...doc, ...otherwise.lane }, plan)
        : expectedCash(doc, { ...plan, ...otherwise.plan });
    return expected === null ? [] : [{ otherwise, expected }];
  });
}
