/**
 * Which figures of a row can be shown, each said once. From here follow the columns, units, limits, sums, bounds
 * and exports of a list.
 */
import { BIT } from '../lane/blanks.ts';
import { FIGURE_BLANKS } from '../lane/figures.ts';
import type { Role } from './roles.ts';

type FigureRule = {
  /** Money in the currency the list is bought in, or sells in; a share; else a number with so many decimals. */
  readonly unit: 'purchase' | 'sales' | 'share' | { readonly decimals: number };
  /** Only lists that say one of these have it. */
  readonly of?: readonly Role[];
  /** Only a list that has an edition before it. */
  readonly sinceBefore?: true;
  /** What it is while costs are missing: no more than it says, no less; a price that has to be above, or below it. */
  readonly bound?: 'atMost' | 'atLeast' | 'above' | 'lessThan';
  /** A limit that a cent more would break: rounded down. */
  readonly roundsDown?: true;
  /** Under the grid stands what rows have of it together, beside its median. */
  readonly adds?: true;
};
const pieces = { decimals: 0 } as const;

/**
 * Figures of a row that can be shown, sorted and limited; per unit sold, those in the purchase currency per
 * unit bought.
 */
export const LIST_FIGURE = {
  cost: { unit: 'purchase' },
  price: { unit: 'sales' },
  units: { unit: pieces, adds: true },
  unitProfit: { unit: 'sales', bound: 'atMost' },
  margin: { unit: 'share', bound: 'atMost' },
  roi: { unit: 'share', bound: 'atMost' },
  profitPerMonth: { unit: 'sales', adds: true, bound: 'atMost' },
  breakEvenPrice: { unit: 'sales', bound: 'above' },
  mostToPay: { unit: 'purchase', bound: 'lessThan', roundsDown: true },
  landedCost: { unit: 'sales', bound: 'atLeast' },
  fees: { unit: 'sales' },
  fulfilment: { unit: 'sales' },
  quantity: { unit: pieces, adds: true },
  paid: { unit: 'purchase', of: ['breakCost', 'breakCost2'] },
  minimumOrder: { unit: pieces, of: ['minimumOrder'] },
  carton: { unit: pieces, of: ['carton'] },
  kg: { unit: { decimals: 3 } },
  rank: { unit: pieces, of: ['rank'] },
  offers: { unit: pieces, of: ['offers'] },
  stock: { unit: pieces, of: ['stock'], adds: true },
  pack: { unit: pieces },
  before: { unit: 'purchase', sinceBefore: true },
} as const satisfies Record<string, FigureRule>;
export type ListFigure = keyof typeof LIST_FIGURE;
export const listFigureRule = (figure: ListFigure): FigureRule => LIST_FIGURE[figure];
export const LIST_FIGURES = Object.keys(LIST_FIGURE) as [ListFigure, ...ListFigure[]];
export const isListFigure = (id: string): id is ListFigure => Object.hasOwn(LIST_FIGURE, id);

/** Figures that a list can have: by what its file says, and whether there was an edition before it. */
export const figuresOf = (has: readonly string[], hasPrevious: boolean): ListFigure[] =>
  LIST_FIGURES.filter((f) => {
    const { of, sinceBefore } = listFigureRule(f);
    if (sinceBefore && !hasPrevious) return false;
    return of === undefined || of.some((role) => has.includes(role));
  });

const BOUNDED: Partial<Record<ListFigure, number>> = {
  unitProfit: FIGURE_BLANKS.unitProfit & ~BIT.demand,
  margin: FIGURE_BLANKS.margin & ~BIT.demand,
  roi: FIGURE_BLANKS.roi & ~BIT.demand,
  profitPerMonth: FIGURE_BLANKS.profitPerMonth & ~BIT.demand,
  landedCost: FIGURE_BLANKS.landedCost,
  breakEvenPrice: FIGURE_BLANKS.unitProfit & ~BIT.price,
  mostToPay: FIGURE_BLANKS.unitProfit & ~BIT.goods,
};
/** The blanks (as bits) without which a figure is a bound; 0: it never is. */
export const costsOf = (figure: ListFigure): number => BOUNDED[figure] ?? 0;
