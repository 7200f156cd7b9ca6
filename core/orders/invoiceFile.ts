/** What a supplier's invoice says of an order's lines, from the rows of a file with any headings. */
import { amountOf, decimalOf } from '../lists/amounts.ts';
import { columnsOf } from '../lists/headings.ts';
import { nonNegative } from '../money/schema.ts';
import type { OrderLine } from './schema.ts';

const COLUMNS = {
  gtin: ['gtin', 'ean', 'barcode', 'strichcode'],
  code: [
    'code',
    'item',
    'item number',
    'reference',
    'artikelnummer',
    'référence',
    'código',
    'codice',
    'indeks',
  ],
  name: ['name', 'description', 'goods', 'product', 'bezeichnung', 'désignation', 'descripción', 'nazwa'],
  units: [
    'units',
    'quantity',
    'qty',
    'pieces',
    'menge',
    'stück',
    'quantité',
    'cantidad',
    'quantità',
    'ilość',
  ],
  unitPrice: ['unit price', 'price', 'einzelpreis', 'preis', 'prix unitaire', 'precio', 'prezzo', 'cena'],
} as const;

/** Bought units and the price of one, in the order's currency, as the invoice writes it; null: it does not say. */
export type InvoiceLine = {
  readonly id: string;
  readonly units: number | null;
  readonly unitPrice: number | null;
};
/** `strange`: goods that the order does not hold; `wrong`: rows whose figures cannot be read. */
export type InvoiceRead = {
  readonly found: readonly InvoiceLine[];
  readonly strange: readonly string[];
  readonly wrong: readonly number[];
};

const folded = (text: string): string => text.trim().replace(/\s+/g, ' ').toLowerCase();

/** Goods are known by barcode, else by the supplier’s number, else by name. Of several rows the last one holds. */
export function readInvoice(
  rows: readonly (readonly string[])[],
  lines: readonly Pick<OrderLine, 'id' | 'name' | 'code' | 'gtin'>[],
): InvoiceRead {
  const [header = [], ...body] = rows;
  const columns = columnsOf(header, COLUMNS);
  const comma = decimalOf(body) === 'comma';
  const found = new Map<string, InvoiceLine>();
  const strange: string[] = [];
  const wrong: number[] = [];
  for (const [i, row] of body.entries()) {
    const cell = (c: keyof typeof COLUMNS): string => folded(row[columns[c] ?? -1] ?? '');
    const [gtin, code, name] = [cell('gtin'), cell('code'), cell('name')];
    if (gtin + code + name === '') continue;
    const line =
      lines.find((l) => gtin !== '' && l.gtin === gtin) ??
      lines.find((l) => code !== '' && folded(l.code) === code) ??
      lines.find((l) => name !== '' && folded(l.name) === name);
    const figures = [cell('units'), cell('unitPrice')].map((text) =>
      text === '' ? null : amountOf(text, comma),
    );
    if (line === undefined) strange.push((row[columns.name ?? columns.code ?? -1] ?? gtin).trim());
    else if (figures.some((x) => x !== null && !nonNegative.safeParse(x).success)) wrong.push(i + 2);
    else found.set(line.id, { id: line.id, units: figures[0] ?? null, unitPrice: figures[1] ?? null });
  }
  return { found: [...found.values()], strange, wrong };
}
