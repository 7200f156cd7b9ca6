import { faultOf } from '../issues.ts';
import { cellOut, cellText } from './cells.ts';
import type { Cell, CellValue, Column, Style } from './cells.ts';
import { CARD_FORMS } from './forms.ts';
import { CARD_SHEET, Reader } from './reader.ts';
import type { CellError, Sheet, Tables } from './reader.ts';
import { cardKey, cardSchema } from './schema.ts';
import type { CardData, CardKind } from './schema.ts';
import { fault } from '../fault.ts';

/** Rows a card may have in its longest table. */
const MOST_ROWS = 5000;
const POINT: Style = { decimalComma: false };
const FIELD_COLUMNS: readonly Column[] = [
  { key: 'field', kind: 'text' },
  { key: 'value', kind: 'text' },
];

/** The sheets of a kind of card, its single fields first. */
export function sheetsOf(kind: CardKind): readonly Sheet[] {
  return [{ key: CARD_SHEET, columns: FIELD_COLUMNS, identity: 1 }, ...CARD_FORMS[kind].sheets];
}

/** What a cell of a sheet may hold: in the sheet of fields that depends on the row. */
export function columnAt(kind: CardKind, sheet: string, column: number, field: string): Column | null {
  if (sheet === CARD_SHEET)
    return column === 0 ? null : (CARD_FORMS[kind].fields.find((f) => f.key === field) ?? null);
  return CARD_FORMS[kind].sheets.find((s) => s.key === sheet)?.columns[column] ?? null;
}

function written(
  kind: CardKind,
  data: CardData,
  cell: (column: Column, value: CellValue) => Cell,
  but: ReadonlySet<string> = new Set(),
): Tables {
  const form = CARD_FORMS[kind];
  const w = form.write(data);
  return {
    ...(but.has(CARD_SHEET)
      ? {}
      : { [CARD_SHEET]: form.fields.map((f) => [f.key, cell(f, w.fields[f.key] ?? null)]) }),
    ...Object.fromEntries(
      form.sheets
        .filter((s) => !but.has(s.key))
        .map((s) => [
          s.key,
          (w.sheets[s.key] ?? []).map((row) => row.map((v, i) => cell(s.columns[i] as Column, v))),
        ]),
    ),
  };
}

/**
 * The sheets of a card as text, percentages with their sign: what a draft is edited in. Reads back as the
 * same card.
 */
export function draftOf(kind: CardKind, data: CardData): Tables {
  return written(kind, data, cellText);
}

/**
 * The sheets of a card as a spreadsheet keeps them: numbers as numbers, percentages as fractions. Reads back
 * as the same card; `but` names sheets to leave out.
 */
export function tablesOf(kind: CardKind, data: CardData, but?: ReadonlySet<string>): Tables {
  return written(kind, data, (_, value) => cellOut(value), but);
}

export type CardRead =
  | { readonly ok: true; readonly data: CardData }
  | { readonly ok: false; readonly errors: readonly CellError[] };

/**
 * Reads a card from its sheets. Every error names sheet, row (the header is row 1), column and remedy. Rows
 * that are blank throughout are skipped.
 */
export function readTables(kind: CardKind, tables: Tables, style: Style = POINT): CardRead {
  const form = CARD_FORMS[kind];
  const attempt = (marking: boolean) => {
    const reader = new Reader(form.fields, form.sheets, tables, style, marking);
    const input = form.read(reader);
    return { reader, input };
  };
  const first = attempt(false);
  if (first.reader.errors.length > 0) return { ok: false, errors: first.reader.errors };
  const { many } = form;
  const input = first.input as Record<string, unknown>;
  const rows = many === undefined ? null : (input[many] as unknown[]);
  const parsed = cardSchema(kind).safeParse(many === undefined ? input : { ...input, [many]: [] });
  if (rows !== null && rows.length > MOST_ROWS)
    return {
      ok: false,
      errors: [
        {
          sheet: many as string,
          row: MOST_ROWS + 2,
          column: null,
          ...fault('tooManyRows', { rows: rows.length, most: MOST_ROWS }),
        },
      ],
    };
  if (parsed.success)
    return {
      ok: true,
      data: rows === null ? parsed.data : ({ ...parsed.data, [many as string]: rows } as CardData),
    };
  const { reader } = attempt(true);
  return {
    ok: false,
    errors: parsed.error.issues.map((issue) => ({ ...reader.placeOf(issue.path), ...faultOf(issue) })),
  };
}

export type CellChange = { readonly column: string; readonly from: CellValue; readonly to: CellValue };
export type RowChange = {
  readonly sheet: string;
  readonly row: string;
  readonly kind: 'added' | 'removed' | 'changed';
  readonly cells: readonly CellChange[];
};

const sameCell = (x: CellValue | undefined, y: CellValue | undefined): boolean =>
  x === y || (Array.isArray(x) && Array.isArray(y) && x.length === y.length && x.every((v, i) => v === y[i]));

/**
 * What differs between two versions of a card, row by row: rows are the same row where their first columns
 * agree. Fields that only date or name a version (`inForceFrom`, `date`, `note`) are compared too.
 */
export function compareCards(kind: CardKind, before: CardData | null, after: CardData): RowChange[] {
  const form = CARD_FORMS[kind];
  const a = before === null ? null : form.write(before);
  const b = form.write(after);
  const changes: RowChange[] = [];
  for (const { key } of form.fields) {
    const from = a?.fields[key] ?? null;
    const to = b.fields[key] ?? null;
    if (!sameCell(from, to))
      changes.push({ sheet: CARD_SHEET, row: key, kind: 'changed', cells: [{ column: key, from, to }] });
  }
  for (const s of form.sheets)
    for (const change of compareRows(s, a?.sheets[s.key] ?? [], b.sheets[s.key] ?? [])) changes.push(change);
  return changes;
}

/** What differs between two states of a sheet, in the order in which it stands now; rows that are gone last. */
function compareRows(s: Sheet, old: readonly CellValue[][], now: readonly CellValue[][]): RowChange[] {
  const changes: RowChange[] = [];
  const change = (kind: RowChange['kind'], row: CellValue[], cells: CellChange[]): void => {
    if (kind !== 'changed' || cells.length > 0)
      changes.push({ sheet: s.key, row: rowName(s, row), kind, cells });
  };
  // Rows that stand where they stood need no searching; from the first that does not, rows are found by
  // their key.
  const alike = (x: CellValue[], y: CellValue[]): boolean => {
    for (let i = 0; i < s.identity; i++) if (!sameCell(x[i], y[i])) return false;
    return true;
  };
  const both = Math.min(old.length, now.length);
  let start = 0;
  while (start < both && alike(old[start] as CellValue[], now[start] as CellValue[])) {
    change(
      'changed',
      now[start] as CellValue[],
      cellChanges(s, old[start] as CellValue[], now[start] as CellValue[]),
    );
    start++;
  }
  const rest = new Map<string, CellValue[][]>();
  for (const row of old.slice(start)) {
    const k = rowKey(s, row);
    const rows = rest.get(k);
    if (rows === undefined) rest.set(k, [row]);
    else rows.push(row);
  }
  for (const row of now.slice(start)) {
    const was = rest.get(rowKey(s, row))?.shift();
    if (was === undefined) change('added', row, cellsTold(s, row, 'to'));
    else change('changed', row, cellChanges(s, was, row));
  }
  for (const gone of rest.values()) for (const row of gone) change('removed', row, cellsTold(s, row, 'from'));
  return changes;
}

function rowKey(s: Sheet, row: readonly CellValue[]): string {
  let k = '';
  for (let i = 0; i < s.identity; i++) k += `${row[i] ?? ''}|`;
  return k;
}

const rowName = (s: Sheet, row: readonly CellValue[]): string =>
  row
    .slice(0, s.identity)
    .map((v, i) => cellText(s.columns[i] as Column, v))
    .join(' · ');

/** The cells of a row that says something, beside what tells it from others. */
const cellsTold = (s: Sheet, row: readonly CellValue[], side: 'from' | 'to'): CellChange[] =>
  row.flatMap((v, i) =>
    i < s.identity || v === null || v === ''
      ? []
      : [{ column: (s.columns[i] as Column).key, from: null, to: null, [side]: v }],
  );

function cellChanges(s: Sheet, was: readonly CellValue[], row: readonly CellValue[]): CellChange[] {
  const cells: CellChange[] = [];
  for (let i = 0; i < row.length; i++)
    if (!sameCell(was[i], row[i]))
      cells.push({ column: (s.columns[i] as Column).key, from: was[i] ?? null, to: row[i] as CellValue });
  return cells;
}

/**
 * Problems of a card beside others: its day is taken, or it is about something else than the card it was made
 * from.
 */
export function cannotBeInForce(
  kind: CardKind,
  data: CardData,
  others: readonly { readonly kind: CardKind; readonly key: string; readonly inForceFrom: string }[],
): CellError | null {
  const key = cardKey(kind, data);
  const day = 'inForceFrom' in data ? data.inForceFrom : data.date;
  const taken = others.find((o) => o.kind === kind && o.key === key && o.inForceFrom === day);
  return taken === undefined
    ? null
    : {
        sheet: CARD_SHEET,
        row: null,
        column: 'inForceFrom' in data ? 'inForceFrom' : 'date',
        ...fault('dayTaken', { card: key, day }),
      };
}

/** What most cards say; the rest of a new card is blank. */
const USUAL: Readonly<Record<string, string>> = {
  feeVat: 'none',
  advertVat: 'none',
  backReferral: '100%',
  regime: 'inclusive',
  customsBasis: 'CIF',
  importVatBase: 'cif',
  importVatRates: 'asVat',
  mode: 'sea',
  vat: 'none',
};

/**
 * The cells of a card made from nothing, in force from `day`: its fields, and a first row where a card cannot
 * do without.
 */
export function blankCells(
  kind: CardKind,
  day: string,
  known: Readonly<Record<string, string>> = {},
): Tables {
  const form = CARD_FORMS[kind];
  return {
    [CARD_SHEET]: form.fields.map((f) => [
      f.key,
      f.key === 'inForceFrom' || f.key === 'date' ? day : (known[f.key] ?? USUAL[f.key] ?? ''),
    ]),
    ...Object.fromEntries(form.sheets.map((s) => [s.key, form.first?.[s.key] ?? []])),
  };
}
