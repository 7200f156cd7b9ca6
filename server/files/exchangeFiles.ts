/**
 * Exchange rates from a file: CSV with date, currency, rate; or the daily reference rates that a central bank
 * publishes as XML.
 */
import { XMLParser } from 'fast-xml-parser';
import { readCell } from '../../core/cards/cells.ts';
import { isFault } from '../../core/fault.ts';
import type { CellError } from '../../core/cards/reader.ts';
import type { CardOf } from '../../core/cards/schema.ts';
import { readCsv } from './sheets.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';

type Table = CardOf<'exchange'>;
export type ExchangeRead = { ok: true; tables: Table[] } | { ok: false; errors: CellError[] };
const DAY = { key: 'date', kind: 'day', required: true } as const;
const CURRENCY = { key: 'currency', kind: 'currency', required: true } as const;
const RATE = { key: 'rate', kind: 'number', required: true, aboveZero: true } as const;

/** One table a date, oldest first, from rows of (row number, date, currency, rate). Every wrong cell is said. */
function tablesFrom(
  rows: readonly (readonly [line: number, date: unknown, currency: unknown, rate: unknown])[],
  base: string,
  source: string,
  sheet: string,
  decimalComma: boolean,
): ExchangeRead {
  const errors: CellError[] = [];
  const byDate = new Map<string, Map<string, { rate: number; line: number }>>();
  for (const [line, date, currency, rate] of rows) {
    const [d, c, r] = [
      readCell(DAY, date as string, { decimalComma }),
      readCell(CURRENCY, currency as string, { decimalComma }),
      readCell(RATE, rate as string, { decimalComma }),
    ];
    const wrong = (
      [
        ['date', d],
        ['currency', c],
        ['rate', r],
      ] as const
    ).flatMap(([column, v]) => (isFault(v) ? [{ sheet, row: line, column, ...v }] : []));
    if (wrong.length > 0) {
      errors.push(...wrong);
      continue;
    }
    const table = byDate.get(d as string) ?? new Map<string, { rate: number; line: number }>();
    byDate.set(d as string, table);
    const before = table.get(c as string);
    if (before !== undefined)
      errors.push({
        sheet,
        row: line,
        column: 'currency',
        ...fault('rateTwice', { currency: String(c), date: String(d), row: before.line }),
      });
    else if (c !== base) table.set(c as string, { rate: r as number, line });
  }
  if (errors.length > 0) return { ok: false, errors };
  if (byDate.size === 0)
    return { ok: false, errors: [{ sheet, row: null, column: null, ...fault('noRates') }] };
  return {
    ok: true,
    tables: [...byDate]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([date, rates]) => ({
        date,
        base,
        source,
        rates: Object.fromEntries([...rates].map(([k, v]) => [k, v.rate])),
      })),
  };
}

/**
 * CSV with the columns date, currency and rate (units of the currency per one of `base`), in any order, other
 * columns ignored.
 */
export function readExchangeCsv(text: string, base: string, source: string): ExchangeRead {
  const file = readCsv(text);
  if (!file.ok) return { ok: false, errors: [{ sheet: 'rates', row: null, column: null, ...file.fault }] };
  const [sheet] = file.sheets;
  const header = sheet?.header.map((h) => h.toLowerCase()) ?? [];
  const missing = ['date', 'currency', 'rate'].filter((c) => !header.includes(c));
  if (missing.length > 0)
    return {
      ok: false,
      errors: missing.map((c) => ({
        sheet: 'rates',
        row: 1,
        column: c,
        ...fault('rateColumnMissing', { column: c }),
      })),
    };
  const at = (c: string): number => header.indexOf(c);
  const rows = (sheet?.rows ?? [])
    .map((r, i) => [i + 2, r[at('date')], r[at('currency')], r[at('rate')]] as const)
    .filter(([, ...cells]) => cells.some((c) => c !== undefined && c !== null && String(c).trim() !== ''));
  return tablesFrom(rows, base, source, 'rates', file.delimiter === ';');
}

type Cube = { '@time'?: string; '@currency'?: string; '@rate'?: string; Cube?: Cube | Cube[] };
const listOf = (x: Cube | Cube[] | undefined): Cube[] => (x === undefined ? [] : Array.isArray(x) ? x : [x]);

/**
 * The open layout of a central bank's reference rates: nested Cube elements with time, currency and rate, per
 * one euro.
 */
export function readReferenceXml(text: string, source: string): ExchangeRead {
  const wrong = (what: Fault): ExchangeRead => ({
    ok: false,
    errors: [{ sheet: 'rates', row: null, column: null, ...what }],
  });
  if (!/<\/[\w:]*Envelope>\s*$/.test(text.trim())) return wrong(fault('notReferenceRates'));
  let top: Record<string, unknown>;
  try {
    top = new XMLParser({
      ignoreAttributes: false,
      attributeNamePrefix: '@',
      removeNSPrefix: true,
      processEntities: false,
    }).parse(text) as Record<string, unknown>;
  } catch {
    return wrong(fault('notXml'));
  }
  const outer = (top.Envelope as { Cube?: Cube } | undefined)?.Cube;
  const rows: [number, unknown, unknown, unknown][] = [];
  for (const dayCube of listOf(outer?.Cube))
    for (const c of listOf(dayCube.Cube))
      rows.push([rows.length + 1, dayCube['@time'], c['@currency'], c['@rate']]);
  return tablesFrom(rows, 'EUR', source, 'rates', false);
}
