/** What a supplier is to be asked about goods: what the candidate does not know yet. */
import { quantitiesToCompare, admissibleOrders } from '../launch/orders.ts';
import type { Hurdle } from '../lane/hurdleSchema.ts';
import { mostToClear } from '../lane/hurdles.ts';
import type { LaneDocument, Quote } from '../lane/schema.ts';
import type { CandidateData } from '../workspace/records.ts';
import type { Question } from './schema.ts';

/**
 * The questions that are open: of the goods themselves, and of the quote that one has of this supplier (null: none).
 * Own goods want branding, samples and certificates besides.
 */
export function openQuestions(
  candidate: Pick<CandidateData, 'way' | 'product'>,
  quote: Quote | null,
  today: string,
): Question[] {
  const isOld = quote !== null && quote.validUntil !== null && quote.validUntil < today;
  const open: Record<Question, boolean> = {
    price: quote === null || isOld || quote.priceBreaks.every((b) => b.unitPrice === null),
    minimumOrder: quote === null,
    size: candidate.product.sides === null,
    weight: candidate.product.kg === null,
    carton: quote === null || quote.carton === null,
    leadDays: quote === null || quote.leadDays === null,
    incoterm: quote === null,
    deposit: quote === null || quote.depositShare === null,
    branding: candidate.way === 'ownBrand',
    samples: candidate.way === 'ownBrand' && quote === null,
    certificates: candidate.way === 'ownBrand' && quote === null,
  };
  return (Object.keys(open) as Question[]).filter((q) => open[q]);
}

/** Quantities a price is asked for, bought units: half, all and twice what the lane orders, as it is sold. */
export function quantitiesAsked(doc: LaneDocument): number[] {
  if (doc.orderQuantity === null) return [];
  const first = Array.isArray(doc.goods) ? doc.goods[0] : undefined;
  const ratio = first === undefined ? 1 : first.unitsInSoldPack / first.unitsInBoughtPack;
  return quantitiesToCompare(admissibleOrders(doc), doc.orderQuantity).map((q) =>
    Math.ceil(q * ratio - 1e-9),
  );
}

/**
 * The unit price as quoted that one can pay and still clear one's hurdles, in the currency of the lane's source; null
 * where it cannot be told. Rounded down to the minor unit: one cent more would not clear them.
 */
export function targetPrice(doc: LaneDocument, hurdles: readonly Hurdle[], power: number): number | null {
  const most = mostToClear(doc, hurdles);
  return most === null ? null : Math.floor(most * power + 1e-9) / power;
}

/** What a mail says for programs about a question. */
export const askedKeys = (
  questions: readonly Question[],
  quantities: readonly number[],
  currency: string,
): string[] =>
  questions.flatMap((q) =>
    q === 'price' && quantities.length > 0 ? quantities.map((n) => `price/${n}/${currency}`) : [q],
  );
