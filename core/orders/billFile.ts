/** Bills of the way in from the rows of a file, with any headings: all of them, or none and which row is wrong. */
import { dayIn } from '../evidence/fileRows.ts';
import { fault, isFault } from '../fault.ts';
import type { Fault } from '../fault.ts';
import { amountOf, decimalOf, UNREADABLE } from '../lists/amounts.ts';
import { columnsOf, headingFits } from '../lists/headings.ts';
import { positive } from '../money/schema.ts';
import { SHARED_BY } from './bills.ts';
import type { Bill, SharedBy } from './bills.ts';

const COLUMNS = {
  order: ['order', 'order number', 'bestellung', 'auftrag', 'commande', 'pedido', 'ordine', 'zamówienie'],
  day: ['day', 'date', 'datum', 'tag', 'jour', 'fecha', 'data', 'giorno', 'dzień'],
  kind: ['kind', 'what', 'what for', 'type', 'art', 'nature', 'tipo', 'rodzaj'],
  amount: ['amount', 'net', 'total', 'sum', 'betrag', 'netto', 'montant', 'importe', 'importo', 'kwota'],
  by: ['by', 'shared', 'shared out by', 'verteilt nach', 'réparti par', 'repartido por', 'ripartito per'],
  note: ['note', 'number', 'bill', 'text', 'rechnung', 'notiz', 'facture', 'factura', 'fattura', 'uwagi'],
} as const;
type Column = keyof typeof COLUMNS;
const NEEDED: readonly Column[] = ['day', 'kind', 'amount'];

/** How bills name what they are for. */
const KINDS: Readonly<Record<Bill['kind'], readonly string[]>> = {
  freight: ['freight', 'carriage', 'transport', 'fracht', 'fret', 'flete', 'trasporto'],
  insurance: ['insurance', 'versicherung', 'assurance', 'seguro', 'assicurazione', 'ubezpieczenie'],
  duty: ['duty', 'customs duty', 'zoll', 'droits', 'arancel', 'dazio', 'cło'],
  importCharges: [
    'import charges',
    'clearance',
    'handling',
    'verzollung',
    'dédouanement',
    'despacho',
    'odprawa',
  ],
  prep: ['preparation', 'prep', 'labelling', 'vorbereitung', 'préparation', 'preparación', 'preparazione'],
  buyingCosts: [
    'buying costs',
    'agent',
    'inspection',
    'bank',
    'einkauf',
    'inspección',
    'ispezione',
    'kontrola',
  ],
};
const SHARES: Readonly<Record<SharedBy, readonly string[]>> = {
  value: ['value', 'wert', 'valeur', 'valor', 'valore', 'wartość'],
  units: ['units', 'pieces', 'stück', 'pièces', 'unidades', 'pezzi', 'sztuki'],
  weight: ['weight', 'kg', 'gewicht', 'poids', 'peso', 'waga'],
  volume: ['volume', 'm3', 'cbm', 'volumen', 'objętość'],
};

/** The key whose names fit a text best; null: none does. */
function bestKey<K extends string>(text: string, names: Readonly<Record<K, readonly string[]>>): K | null {
  const scored = (Object.keys(names) as K[])
    .map((key) => ({ key, score: headingFits(text, names[key]) }))
    .filter((s) => s.score > 0);
  return scored.sort((a, b) => b.score - a.score)[0]?.key ?? null;
}

export type BillRow = Omit<Bill, 'id'>;

/**
 * The bills of one order; rows that name another order are none of its. Amounts in the home currency, without VAT that
 * one gets back. A fault says the row that cannot be read, or the column that lacks.
 *
 * @param rows of the file, the headings first
 * @param order number of the order
 */
export function readBills(
  rows: readonly (readonly string[])[],
  order: number,
  today: string,
): readonly BillRow[] | Fault {
  const [header = [], ...body] = rows;
  const columns = columnsOf(header, COLUMNS);
  const lacking = NEEDED.find((c) => columns[c] === undefined);
  if (lacking !== undefined) return fault('billColumn', { column: lacking });
  const comma = decimalOf(body) === 'comma';
  const bills: BillRow[] = [];
  for (const [i, row] of body.entries()) {
    const cell = (c: Column): string => (row[columns[c] ?? -1] ?? '').trim();
    if (row.every((c) => c.trim() === '')) continue;
    if (cell('order') !== '' && Number(cell('order').replace(/\D/g, '')) !== order) continue;
    const read = billOf(cell, i + 2, comma, today);
    if (isFault(read)) return read;
    bills.push(read);
  }
  return bills.length === 0 ? fault('billNone', { order }) : bills;
}

function billOf(cell: (c: Column) => string, row: number, comma: boolean, today: string): BillRow | Fault {
  const day = dayIn(cell('day'), 'dayFirst');
  if (day === null || day > today) return fault('billDay', { row, text: cell('day') });
  const kind = bestKey(cell('kind'), KINDS);
  if (kind === null) return fault('billKind', { row, text: cell('kind') });
  const amount = amountOf(cell('amount'), comma);
  if (amount === UNREADABLE || !positive.safeParse(amount).success)
    return fault('billAmount', { row, text: cell('amount') });
  const by = cell('by') === '' ? 'value' : bestKey(cell('by'), SHARES);
  if (by === null) return fault('billBy', { row, text: cell('by'), ways: SHARED_BY.join(', ') });
  return { day, kind, amount, by, note: cell('note').slice(0, 200) };
}
