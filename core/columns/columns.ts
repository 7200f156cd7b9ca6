/** The rows of a list as typed columns. Unknown is NaN; texts and codes stand elsewhere, by the same row number. */

/**
 * What goes in, one column each: purchase price (list currency), shelf price and units a month, packs, sides
 * (cm), weight (kg), VAT rate, and how it is bought: least order and carton in bought units, and two more
 * prices with the bought units from which they hold.
 */
export const INPUT_COLUMNS = [
  'cost',
  'price',
  'units',
  'soldPack',
  'boughtPack',
  'a',
  'b',
  'c',
  'kg',
  'vatRate',
  'minimumOrder',
  'carton',
  'breakFrom',
  'breakCost',
  'breakFrom2',
  'breakCost2',
] as const;
export type InputColumn = (typeof INPUT_COLUMNS)[number];
/**
 * What comes out; money per unit sold in the sales currency, profit a month too; `paid` per bought unit, as
 * the list writes its prices.
 */
export const RESULT_COLUMNS = [
  'gross',
  'netRevenue',
  'fees',
  'fulfilment',
  'goods',
  'landedCost',
  'landedCash',
  'proceeds',
  'contribution',
  'unitProfit',
  'margin',
  'roi',
  'profitPerMonth',
  'quantity',
  'paid',
] as const;
export type ResultColumn = (typeof RESULT_COLUMNS)[number];

/**
 * What is solved for, where it is asked for: the lowest shelf price at which a unit loses nothing (sales
 * currency), and the most that may be paid for a bought unit, as the list writes its prices.
 */
export const SOLVED_COLUMNS = ['breakEvenPrice', 'mostToPay'] as const;
export type SolvedColumn = (typeof SOLVED_COLUMNS)[number];
export type SolvedColumns = Readonly<Record<SolvedColumn, Float64Array>>;

export type ListColumns = Readonly<Record<InputColumn, Float64Array>> & {
  readonly length: number;
  /** Place of the row's category among the card's; -1: names none; -2: names one the card does not have. */
  readonly category: Int16Array;
  /** Place of the row's tax class in `taxClasses`. */
  readonly taxClass: Uint8Array;
  readonly taxClasses: readonly string[];
};
export type ListResults = Readonly<Record<ResultColumn, Float64Array>> & {
  readonly length: number;
  /** Blank cost lines of each row, as bits (`BIT` of the lane). */
  readonly blanks: Uint32Array;
  /** Why a row has no answer, 0: it has one. */
  readonly trouble: Uint8Array;
};

/** What keeps a row from an answer, by its number in `trouble`. */
export const TROUBLES = [
  '',
  'noMarketplaceCard',
  'cardCurrency',
  'noWarehouse',
  'noSizeTier',
  'categoryNotOnCard',
  'noTaxCard',
  'noTaxClass',
  'standingMissing',
  'noExchangeRate',
  'noPostageStep',
  'noStorageRates',
  'zeroUnits',
] as const;
export type Trouble = (typeof TROUBLES)[number];

function empty<T extends string>(names: readonly T[], length: number): Record<T, Float64Array> {
  return Object.fromEntries(names.map((n) => [n, new Float64Array(length)])) as Record<T, Float64Array>;
}

/** Columns for so many rows, everything unknown, one unit bought for one sold. */
export function makeColumns(length: number, taxClasses: readonly string[] = ['standard']): ListColumns {
  const columns = empty(INPUT_COLUMNS, length);
  for (const name of INPUT_COLUMNS)
    columns[name].fill(name === 'soldPack' || name === 'boughtPack' ? 1 : Number.NaN);
  return {
    ...columns,
    length,
    category: new Int16Array(length).fill(-1),
    taxClass: new Uint8Array(length),
    taxClasses,
  };
}

export function makeSolved(length: number): SolvedColumns {
  return empty(SOLVED_COLUMNS, length);
}

/** Some rows of the columns, in the order given, as columns of their own. */
export function pickRows(columns: ListColumns, rows: readonly number[]): ListColumns {
  const picked = makeColumns(rows.length, columns.taxClasses);
  rows.forEach((from, to) => {
    for (const name of INPUT_COLUMNS) picked[name][to] = columns[name][from] as number;
    picked.category[to] = columns.category[from] as number;
    picked.taxClass[to] = columns.taxClass[from] as number;
  });
  return picked;
}

export function makeResults(length: number): ListResults {
  return {
    ...empty(RESULT_COLUMNS, length),
    length,
    blanks: new Uint32Array(length),
    trouble: new Uint8Array(length),
  };
}
