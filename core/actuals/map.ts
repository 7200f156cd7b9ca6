/** Which column of a settlement says what, guessed from its headings; what a kind of line is, nobody guesses. */
import { decimalOf } from '../lists/amounts.ts';
import { columnsOf, eachOnce, headingFits, namedBy } from '../lists/headings.ts';
import { SETTLED_COLUMNS, settlementMap } from './schema.ts';
import type { SettledColumn, SettlementMap } from './schema.ts';

const HEADINGS: Readonly<Record<SettledColumn | 'amount', readonly string[]>> = {
  line: ['line', 'line number', 'number', 'no', 'entry', 'zeile', 'nummer', 'ligne', 'línea', 'riga'],
  day: [
    'day',
    'date',
    'datum',
    'tag',
    'jour',
    'fecha',
    'día',
    'data',
    'giorno',
    'dzień',
    'booked',
    'posted',
    'week',
    'week to',
  ],
  order: [
    'order',
    'order number',
    'booking',
    'bestellung',
    'auftrag',
    'commande',
    'pedido',
    'ordine',
    'zamówienie',
  ],
  code: [
    'code',
    'item',
    'listing',
    'listing code',
    'own number',
    'article',
    'sku',
    'artikel',
    'article code',
    'stock number',
    'stock no',
    'product',
    'goods',
  ],
  kind: ['kind', 'what', 'type', 'description', 'kind of line', 'art', 'nature', 'tipo', 'rodzaj'],
  units: ['units', 'quantity', 'qty', 'pieces', 'stück', 'menge', 'unités', 'unidades', 'quantità', 'sztuk'],
  clicks: ['clicks', 'klicks', 'clics', 'clic', 'kliknięcia'],
  tax: ['tax', 'vat', 'mwst', 'ust', 'tva', 'iva', 'podatek'],
  currency: ['currency', 'währung', 'devise', 'moneda', 'valuta', 'waluta'],
  country: ['country', 'land', 'pays', 'país', 'paese', 'kraj'],
  amount: ['amount', 'total', 'sum', 'betrag', 'montant', 'importe', 'importo', 'kwota'],
};

/** Headings of an advert report, which is told by its clicks; its orders are units that were sold. */
const ADVERTS = {
  cost: [
    'cost',
    'costs',
    'spend',
    'spent',
    'kosten',
    'ausgaben',
    'coût',
    'coste',
    'gasto',
    'costo',
    'spesa',
    'koszt',
  ],
  sales: ['sales', 'turnover', 'umsatz', 'ventes', 'ventas', 'vendite', 'sprzedaż'],
  units: [
    'orders',
    'units',
    'units sold',
    'sold',
    'bestellungen',
    'commandes',
    'pedidos',
    'ordini',
    'zamówienia',
  ],
} as const;

/** Columns of an advert report; null: it says no clicks, or not what they cost. */
function guessAdverts(
  header: readonly string[],
  { day, code, clicks, currency, country }: SettlementMap['columns'],
): Pick<SettlementMap, 'columns' | 'amounts'> | null {
  const { cost, sales, units } = namedBy(header, columnsOf(header, ADVERTS));
  if (clicks === undefined || cost === undefined) return null;
  const said = Object.entries({ day, code, clicks, units, currency, country }).filter(
    ([, h]) => h !== undefined,
  );
  return {
    columns: Object.fromEntries(said) as SettlementMap['columns'],
    amounts: [
      { column: cost, kind: 'clicks' },
      ...(sales === undefined ? [] : [{ column: sales, kind: 'advertSale' as const }]),
    ],
  };
}

/** Whether two rows say the same in a column, or one says nothing: such a column numbers no lines. */
function repeats(rows: readonly (readonly string[])[], at: number): boolean {
  const seen = new Set<string>();
  for (const row of rows) {
    const text = (row[at] ?? '').trim();
    if (text === '' || seen.has(text)) return true;
    seen.add(text);
  }
  return false;
}

/** A mapping to begin with: each column by the heading that fits best, each heading once. */
export function guessSettlementMap(
  header: readonly string[],
  rows: readonly (readonly string[])[],
): SettlementMap {
  const fits = [...SETTLED_COLUMNS, 'amount' as const].flatMap((key) =>
    header.flatMap((h, at) =>
      key === 'line' && repeats(rows, at) ? [] : [{ key, at, score: headingFits(h, HEADINGS[key]) }],
    ),
  );
  const { amount, ...columns } = namedBy(header, eachOnce(fits));
  // Without a heading that says so nobody knows which figures are the amounts: the first column stands to be changed.
  const amounts = [{ column: amount ?? header.find((h) => h !== '') ?? '' }];
  return settlementMap.parse({
    columns,
    amounts,
    decimal: decimalOf(rows),
    ...guessAdverts(header, columns),
  });
}

/** The headings that a map names. */
const namedIn = (map: SettlementMap): string[] => [
  ...Object.values(map.columns),
  ...map.amounts.map((a) => a.column),
];

/**
 * Of the maps that reports of a place were read by, the newest first, the one for a file of these headings: the newest
 * that fits it, else the newest that says kinds; settlements and advert reports of one place are read each its own way.
 */
export function earlierFor(
  maps: readonly SettlementMap[],
  header: readonly string[],
): SettlementMap | undefined {
  return (
    maps.find((m) => namedIn(m).every((h) => header.includes(h))) ??
    maps.find((m) => Object.keys(m.kinds).length > 0) ??
    maps[0]
  );
}

/**
 * How a report is read where an earlier one of its place was: with the kinds that were said then, and its columns where
 * this one has them all. How figures are written is this report's own.
 */
export function mapLike(
  guessed: SettlementMap,
  earlier: SettlementMap | null,
  header: readonly string[],
): SettlementMap {
  if (earlier === null) return guessed;
  return namedIn(earlier).every((h) => header.includes(h))
    ? { ...earlier, decimal: guessed.decimal, onDay: null }
    : { ...guessed, kinds: guessed.amounts.every((a) => a.kind !== null) ? {} : earlier.kinds };
}
