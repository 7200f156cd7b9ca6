/** A rate card as a file, and a file as the sheets of a card. */
import type { Cell } from '../../core/cards/cells.ts';
import { CARD_SHEET } from '../../core/cards/reader.ts';
import type { CellError, Tables } from '../../core/cards/reader.ts';
import type { CardData, CardKind } from '../../core/cards/schema.ts';
import { sheetsOf, tablesOf } from '../../core/cards/tables.ts';
import type { FileSheet, OutSheet } from './sheets.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';

/** The sheets of a card for a file, or the one that is asked for. */
export function outSheets(kind: CardKind, data: CardData, only: string | null = null): OutSheet[] {
  const tables = tablesOf(kind, data);
  return sheetsOf(kind)
    .filter((s) => only === null || s.key === only)
    .map((s) => ({
      name: s.key,
      columns: s.columns.map((c) => ({ title: c.key, percent: c.kind === 'share' || c.kind === 'rate' })),
      rows: tables[s.key] ?? [],
    }));
}

export type CellsRead = { ok: true; cells: Tables } | { ok: false; errors: CellError[] };
const fail = (sheet: string, row: number | null, column: string | null, wrong: Fault): CellError => ({
  sheet,
  row,
  column,
  ...wrong,
});

/**
 * The sheets of a file as those of a card. A workbook has to hold all sheets that the version it follows has
 * rows in; a single CSV table is recognised by its header, and the other sheets stay as they are in that
 * version. Columns may stand in any order; one that is missing, unknown or given twice is said.
 */
export function cellsFrom(kind: CardKind, file: readonly FileSheet[], base: CardData | null): CellsRead {
  const known = sheetsOf(kind);
  const errors: CellError[] = [];
  const cells: Record<string, readonly (readonly Cell[])[]> = {};
  const csv = file.length === 1 && (file[0] as FileSheet).name === '';
  const headers = known.map((k) => `${k.key} (${k.columns.map((c) => c.key).join(', ')})`).join('; ');
  for (const s of file) {
    const named = csv
      ? bestMatch(known, s.header)
      : known.find((k) => k.key.toLowerCase() === s.name.trim().toLowerCase());
    if (named === undefined) {
      errors.push(
        csv
          ? fail('', 1, null, fault('noTableWith', { headers, columns: s.header }))
          : fail(s.name, null, null, fault('noSheet', { sheet: s.name, sheets: known.map((k) => k.key) })),
      );
      continue;
    }
    const at = new Map<string, number>();
    s.header.forEach((h, i) => {
      if (h === '') return;
      const column = named.columns.find((c) => c.key.toLowerCase() === h.toLowerCase());
      if (column === undefined)
        errors.push(
          fail(named.key, 1, h, fault('noColumn', { column: h, columns: named.columns.map((c) => c.key) })),
        );
      else if (at.has(column.key)) errors.push(fail(named.key, 1, h, fault('columnTwice', { column: h })));
      else at.set(column.key, i);
    });
    for (const c of named.columns)
      if (!at.has(c.key)) errors.push(fail(named.key, 1, c.key, fault('columnMissing', { column: c.key })));
    const order = named.columns.map((c) => at.get(c.key) ?? -1);
    const width = s.header.length;
    // Columns in their own order, as exported, need no moving.
    cells[named.key] = order.every((at, i) => at === i)
      ? s.rows
      : s.rows.map((row) => [...order.map((i) => (i < 0 ? null : (row[i] ?? null))), ...row.slice(width)]);
    // A row that ends before its line does: the file was cut off there.
    const last = s.rows[s.rows.length - 1];
    if (csv && last !== undefined && last.length > 1 && last.length < width)
      errors.push(
        fail(
          named.key,
          s.rows.length + 1,
          null,
          fault('lastRowShort', { cells: last.length, columns: width }),
        ),
      );
  }
  const old: Tables = base === null ? {} : tablesOf(kind, base, new Set(Object.keys(cells)));
  for (const k of known) {
    if (cells[k.key] !== undefined) continue;
    const rows = old[k.key]?.length ?? 0;
    if (csv) cells[k.key] = old[k.key] ?? [];
    else if (k.key === CARD_SHEET || rows > 0)
      errors.push(
        fail(k.key, null, null, rows > 0 ? fault('sheetMissingRows', { rows }) : fault('sheetMissing')),
      );
    else cells[k.key] = [];
  }
  return errors.length > 0 ? { ok: false, errors } : { ok: true, cells };
}

/** The sheet whose columns a header names most completely; none where it names fewer than half. */
function bestMatch(
  known: ReturnType<typeof sheetsOf>,
  header: readonly string[],
): ReturnType<typeof sheetsOf>[number] | undefined {
  const has = new Set(header.map((h) => h.toLowerCase()));
  const scored = known.map((k) => ({
    k,
    hits:
      k.columns.filter((c) => has.has(c.key.toLowerCase())).length /
      Math.max(k.columns.length, header.filter((h) => h !== '').length),
  }));
  scored.sort((a, b) => b.hits - a.hits);
  const [best] = scored;
  return best !== undefined && best.hits > 0.5 ? best.k : undefined;
}
