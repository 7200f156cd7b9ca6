import { issuesOf } from '../issues.ts';
import { cellOut, cellText } from './cells.ts';
import type { Cell, CellValue, Column, Style } from './cells.ts';
import { CARD_FORMS } from './forms.ts';
import { CARD_SHEET, Reader } from './reader.ts';
import type { CellError, Sheet, Tables } from './reader.ts';
import { CARD_SCHEMAS, cardKey } from './schema.ts';
import type { CardData, CardKind } from './schema.ts';

const POINT: Style = { decimalComma: false };
const FIELD_COLUMNS: readonly Column[] = [{ key: 'field', kind: 'text' }, { key: 'value', kind: 'text' }];

/** The sheets of a kind of card, its single fields first. */
export function sheetsOf(kind: CardKind): readonly Sheet[] {
  return [{ key: CARD_SHEET, columns: FIELD_COLUMNS, identity: 1 }, ...CARD_FORMS[kind].sheets];
}

/** What a cell of a sheet may hold: in the sheet of fields that depends on the row. */
export function columnAt(kind: CardKind, sheet: string, column: number, field: string): Column | null {
  if (sheet === CARD_SHEET) return column === 0 ? null : (CARD_FORMS[kind].fields.find((f) => f.key === field) ?? null);
  return CARD_FORMS[kind].sheets.find((s) => s.key === sheet)?.columns[column] ?? null;
}

function written(kind: CardKind, data: CardData, cell: (column: Column, value: CellValue) => Cell): Tables {
  const form = CARD_FORMS[kind];
  const w = form.write(data);
  return {
    [CARD_SHEET]: form.fields.map((f) => [f.key, cell(f, w.fields[f.key] ?? null)]),
    ...Object.fromEntries(form.sheets.map((s) => [s.key, (w.sheets[s.key] ?? []).map((row) => row.map((v, i) => cell(s.columns[i] as Column, v)))])),
  };
}

/** The sheets of a card as text, percentages with their sign: what a draft is edited in. Reads back as the same card. */
export function draftOf(kind: CardKind, data: CardData): Tables {
  return written(kind, data, cellText);
}

/** The sheets of a card as a spreadsheet keeps them: numbers as numbers, percentages as fractions. Reads back as the same card. */
export function tablesOf(kind: CardKind, data: CardData): Tables {
  return written(kind, data, (_, value) => cellOut(value));
}

export type CardRead = { readonly ok: true; readonly data: CardData } | { readonly ok: false; readonly errors: readonly CellError[] };

/**
 * Reads a card from its sheets. Every error names sheet, row (the header is row 1), column and remedy. Rows that are blank
 * throughout are skipped.
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
  const parsed = CARD_SCHEMAS[kind].safeParse(first.input);
  if (parsed.success) return { ok: true, data: parsed.data };
  const { reader } = attempt(true);
  return { ok: false, errors: parsed.error.issues.map((issue, i) => ({ ...reader.placeOf(issue.path), ...(({ problem, remedy }) => ({ problem, remedy }))(issuesOf({ issues: [issue] } as never)[0] ?? { problem: parsed.error.issues[i]?.message ?? '', remedy: '' }) })) };
}

export type CellChange = { readonly column: string; readonly from: CellValue; readonly to: CellValue };
export type RowChange = { readonly sheet: string; readonly row: string; readonly kind: 'added' | 'removed' | 'changed'; readonly cells: readonly CellChange[] };

/**
 * What differs between two versions of a card, row by row: rows are the same row where their first columns agree. Fields that
 * only date or name a version (`inForceFrom`, `date`, `note`) are compared too.
 */
export function compareCards(kind: CardKind, before: CardData | null, after: CardData): RowChange[] {
  const form = CARD_FORMS[kind];
  const a = before === null ? null : form.write(before);
  const b = form.write(after);
  const changes: RowChange[] = [];
  const same = (x: CellValue | undefined, y: CellValue | undefined): boolean => x === y || (Array.isArray(x) && Array.isArray(y) && x.join(' ') === y.join(' '));
  const fields: CellChange[] = [];
  for (const f of form.fields) {
    const from = a?.fields[f.key] ?? null;
    const to = b.fields[f.key] ?? null;
    if (!same(from, to)) fields.push({ column: f.key, from, to });
  }
  for (const cell of fields) changes.push({ sheet: CARD_SHEET, row: cell.column, kind: 'changed', cells: [cell] });
  for (const s of form.sheets) {
    const keyed = (rows: CellValue[][]): Map<string, CellValue[]> => {
      const out = new Map<string, CellValue[]>();
      for (const row of rows) {
        const key = row.slice(0, s.identity).map((v, i) => cellText(s.columns[i] as Column, v)).join(' · ');
        let free = key;
        for (let n = 2; out.has(free); n++) free = `${key} (${n})`;
        out.set(free, row);
      }
      return out;
    };
    const old = keyed(a?.sheets[s.key] ?? []);
    const now = keyed(b.sheets[s.key] ?? []);
    for (const [key, row] of now) {
      const was = old.get(key);
      if (was === undefined) changes.push({ sheet: s.key, row: key, kind: 'added', cells: row.flatMap((v, i) => (i < s.identity || v === null || v === '' ? [] : [{ column: (s.columns[i] as Column).key, from: null, to: v }])) });
      else {
        const cells = row.flatMap((v, i) => (same(was[i], v) ? [] : [{ column: (s.columns[i] as Column).key, from: was[i] ?? null, to: v }]));
        if (cells.length > 0) changes.push({ sheet: s.key, row: key, kind: 'changed', cells });
      }
    }
    for (const [key, row] of old) if (!now.has(key)) changes.push({ sheet: s.key, row: key, kind: 'removed', cells: row.flatMap((v, i) => (i < s.identity || v === null || v === '' ? [] : [{ column: (s.columns[i] as Column).key, from: v, to: null }])) });
  }
  return changes;
}

/** Problems of a card beside others: its day is taken, or it is about something else than the card it was made from. */
export function cannotBeInForce(kind: CardKind, data: CardData, others: readonly { readonly kind: CardKind; readonly key: string; readonly inForceFrom: string }[]): CellError | null {
  const key = cardKey(kind, data);
  const day = 'inForceFrom' in data ? data.inForceFrom : data.date;
  const taken = others.find((o) => o.kind === kind && o.key === key && o.inForceFrom === day);
  return taken === undefined ? null : { sheet: CARD_SHEET, row: null, column: 'inForceFrom' in data ? 'inForceFrom' : 'date', problem: `Another version of ${key} is in force from ${day} already`, remedy: 'Choose another day, or withdraw that version first.' };
}

/** What most cards say; the rest of a new card is blank. */
const USUAL: Readonly<Record<string, string>> = { feeVat: 'none', advertVat: 'none', backReferral: '100%', regime: 'inclusive', customsBasis: 'CIF', importVatBase: 'cif', importVatRates: 'asVat', mode: 'sea', vat: 'none' };

/** The cells of a card made from nothing, in force from `day`: its fields, and a first row where a card cannot do without. */
export function blankCells(kind: CardKind, day: string): Tables {
  const form = CARD_FORMS[kind];
  const first: Readonly<Record<string, Cell[][]>> = kind === 'marketplace' ? { categories: [['all', 'Everything', 'gross', 'whole', '', '', '']], referralTiers: [['all', '', '']] } : kind === 'tax' ? { vatRates: [['standard', '', '']], duties: [['', '', 'no', '0%', '', '']] } : kind === 'postage' ? { zones: [['all', '100%', '']], weightSteps: [['all', '', '', '']] } : kind === 'freight' ? { legs: [['1', 'Main leg', 'main', 'perCbm', '', '', 'none', '', '', '', '', '', '', '', '', '']] } : { rates: [['', '']] };
  return {
    [CARD_SHEET]: form.fields.map((f) => [f.key, f.key === 'inForceFrom' || f.key === 'date' ? day : (USUAL[f.key] ?? '')]),
    ...Object.fromEntries(form.sheets.map((s) => [s.key, first[s.key] ?? []])),
  };
}
