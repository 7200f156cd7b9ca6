/** Break-even price and most to pay of every row of a list: the lane's own searches, put to the columns. */
import { PriceSearch, priceLimits, roundingNoise } from '../lane/priceSearch.ts';
import type { PriceLimit } from '../lane/priceSearch.ts';
import { BREAK_EVEN } from '../lane/solve.ts';
import { minorDigits, powerOfTen } from '../money/money.ts';
import { laneOfRow } from './assumptions.ts';
import type { Assumptions, ListRates } from './assumptions.ts';
import { makeResults } from './columns.ts';
import type { ListColumns, SolvedColumns } from './columns.ts';
import type { ListEvaluator } from './evaluate.ts';
import type { Prepared } from './block.ts';

/** Rows whose profit is worked out at a time when the most to pay is looked for. */
const CHUNK = 8192;
/** More than any price that is looked at. */
const HIGHEST = 1e14;

/**
 * Fills both columns for all rows of the columns, under what `prepared` says of them; unknown is NaN.
 * `breakEvenPrice`: as `priceFor` has it (never reached: NaN); `mostToPay`: as `highestPurchaseCost` has it,
 * the order's quantity as it stands (losing even when it is free: NaN).
 */
export function solveColumns(
  evaluator: ListEvaluator,
  columns: ListColumns,
  prepared: Prepared,
  into: SolvedColumns,
): void {
  if (columns.length === 0) return;
  evaluator.takePrepared(columns, prepared);
  breakEvenPrices(evaluator, columns, into.breakEvenPrice);
  mostToPay(evaluator, columns, prepared, into.mostToPay);
}

/**
 * Profit falls in a straight line with what a bought unit costs, whatever else stands: so two purchase prices
 * tell where it meets 0.
 */
function mostToPay(e: ListEvaluator, columns: ListColumns, prepared: Prepared, into: Float64Array): void {
  const n = columns.length;
  const unknown = new Float64Array(n).fill(Number.NaN);
  const out = makeResults(Math.min(n, CHUNK));
  const at = (cost: number, from: number, to: number, take: (i: number, profit: number) => void): void => {
    const paid = {
      ...columns,
      cost: new Float64Array(n).fill(cost),
      breakCost: unknown,
      breakCost2: unknown,
    };
    e.takePrepared(paid, prepared);
    e.run(paid, out, from, to, columns.price.subarray(from), from);
    for (let i = from; i < to; i++) take(i, out.unitProfit[i - from] as number);
  };
  for (let from = 0; from < n; from += CHUNK) {
    const to = Math.min(n, from + CHUNK);
    at(0, from, to, (i, free) => {
      into[i] = free;
    });
    at(1, from, to, (i, atOne) => {
      const free = into[i] as number;
      into[i] = free < 0 ? Number.NaN : free / (free - atOne);
    });
  }
}

function breakEvenPrices(e: ListEvaluator, columns: ListColumns, into: Float64Array): void {
  const { assumptions: set, rates } = e;
  const power = powerOfTen(minorDigits(rates.currency));
  const one = makeResults(1);
  const bends = new Float64Array(4);
  let row = 0;
  let reckonAt = e.rowAtPrices(columns, row, one);
  const gapAt = (price: number, rounding: boolean): number => {
    reckonAt(price, rounding ? null : bends);
    return one.unitProfit[0] as number;
  };
  const limitsOf = limitsByKind(set, rates, columns, power);
  const search = new PriceSearch({ gapAt, bends }, power, 0);
  for (; row < columns.length; row++) {
    const shelf = columns.price[row] as number;
    reckonAt = e.rowAtPrices(columns, row, one);
    gapAt(shelf, true);
    const landed = one.landedCost[0] as number;
    const highest = Math.max(shelf > 0 ? shelf : 0, landed > 0 ? landed : 0);
    into[row] = Number.NaN;
    if (highest <= 0) continue;
    const top = Math.max(1, Math.min(Math.floor(100 * highest * power), HIGHEST));
    const { ends, noise } = limitsOf(row);
    search.noise = noise;
    const found = search.lowestFrom(1, ends, top);
    if (found >= 0) into[row] = found / power;
  }
}

type Kind = { readonly ends: readonly number[]; readonly noise: number };
/** Where prices jump or bend, the same for all rows of a category and tax class. */
function limitsByKind(
  set: Assumptions,
  rates: ListRates,
  columns: ListColumns,
  power: number,
): (row: number) => Kind {
  const kinds = new Map<number, Kind>();
  const categories = rates.marketplace?.categories ?? [];
  return (row) => {
    const category = columns.category[row] as number;
    const taxClass = columns.taxClass[row] as number;
    const key = category * 256 + taxClass;
    let kind = kinds.get(key);
    if (kind === undefined) {
      const doc = laneOfRow({ ...set, category: null }, rates, {
        ...NOTHING,
        category: categories[category]?.key ?? null,
        taxClass: columns.taxClasses[taxClass] as string,
      });
      const ends = priceLimits(doc, power).map((l: PriceLimit) => l.last);
      const returnRate = doc.returns === null || doc.returns === 'none' ? 0 : (doc.returns.rate ?? 0);
      kind = { ends, noise: roundingNoise(doc, returnRate, power, BREAK_EVEN) };
      kinds.set(key, kind);
    }
    return kind;
  };
}
const NOTHING = {
  cost: null,
  price: null,
  units: null,
  unitsInSoldPack: 1,
  unitsInBoughtPack: 1,
  sides: null,
  kg: null,
  category: null,
  taxClass: '',
  vatRate: null,
  minimumOrder: null,
  carton: null,
  breaks: [],
} as const;
