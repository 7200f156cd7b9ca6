/**
 * What somebody gave, as tables of cells and the sentences around them: pasted from a spreadsheet, a web page
 * or a PDF's text, or the rows of a CSV or XLSX file. Every cell keeps the line it stood in; nothing is
 * dropped.
 */
import { plain } from './numbers.ts';

export type Line = { readonly line: number; readonly cells: readonly string[] };
/** A table: lines that belong together, all as wide as the widest. */
export type Block = { readonly title: string; readonly rows: readonly Line[] };
export type Note = { readonly line: number; readonly text: string };
export type Given = {
  readonly blocks: readonly Block[];
  readonly notes: readonly Note[];
  /** Lines and columns that are left out, since no fee table has so many. */
  readonly left: { readonly lines: number; readonly columns: number };
};
const NOTHING_LEFT = { lines: 0, columns: 0 };

/** A table beyond this is no fee schedule; what is left out is said. */
export const MOST_LINES = 5000;
export const MOST_COLUMNS = 200;

/** Splits a line of values between `mark`; one in quotation marks may hold the mark. */
function valuesBetween(text: string, mark: string): string[] {
  const out: string[] = [];
  let cell = '';
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const c = text[i] as string;
    if (quoted && c === '"' && text[i + 1] === '"') {
      cell += '"';
      i++;
    } else if (c === '"' && (quoted || cell.trim() === '')) quoted = !quoted;
    else if (c === mark && !quoted) {
      out.push(cell.trim());
      cell = '';
    } else cell += c;
  }
  out.push(cell.trim());
  return out;
}

/** Columns of text that is aligned with blanks: where no line has a letter for two places or more. */
function aligned(lines: readonly string[]): string[][] {
  const wide = lines.filter((l) => /\S\s{2,}\S/.test(l));
  if (wide.length < 2) return lines.map((l) => [l.trim()]);
  const length = Math.max(...wide.map((l) => l.length));
  const taken = new Uint16Array(length + 2);
  for (const l of wide)
    for (let i = 0; i < l.length; i++) if (l[i] !== ' ') taken[i] = (taken[i] as number) + 1;
  const starts: number[] = [];
  for (let i = 0; i < length; i++) {
    const gap = i === 0 || (taken[i - 1] === 0 && (i === 1 || taken[i - 2] === 0));
    if (taken[i] !== 0 && gap) starts.push(i);
  }
  return lines.map((l) => starts.map((from, k) => l.slice(from, starts[k + 1] ?? l.length).trim()));
}

type Cut = (lines: readonly string[]) => string[][] | null;
const held = (lines: readonly string[], mark: string): number => lines.filter((l) => l.includes(mark)).length;
/** Longer lines are sentences or worse: no pattern is tried on them. */
const isShort = (line: string): boolean => line.length <= 2000;
/** So many of the lines of a block say what they are cut by. */
const many = (lines: readonly string[]): number => Math.max(2, lines.length * 0.6);

const byTabs: Cut = (lines) =>
  held(lines, '\t') > 0 ? lines.map((l) => l.split('\t').map((c) => c.trim())) : null;
const byBars: Cut = (lines) =>
  held(lines, '|') < 2
    ? null
    : lines
        .filter((l) => !/^[\s|:+=-]+$/.test(l))
        .map((l) => valuesBetween(l.replace(/^\s*\|/, '').replace(/\|\s*$/, ''), '|'));
const bySemicolons: Cut = (lines) =>
  held(lines, ';') >= Math.max(2, lines.length / 2) ? lines.map((l) => valuesBetween(l, ';')) : null;

/** Dots that lead the eye to a figure. */
const LEADER = /\s*(?:\.\s?){2,}(?=\s*[\p{Sc}\d])|\s*…+\s*/u;
const byLeaders: Cut = (lines) => {
  const led = lines.map((l) => (isShort(l) ? l.replace(LEADER, '\t') : l));
  return held(led, '\t') >= 2 ? byTabs(led) : null;
};

const byBlanks: Cut = (lines) => {
  if (lines.filter((l) => /\S\s{2,}\S/.test(l)).length < 2) return null;
  const cut = aligned(lines);
  // Columns that most lines do not reach are none: these lines are ragged.
  if (cut.filter((c) => filled(c) > 1).length >= lines.length * 0.5) return cut;
  const apart = lines.map((l) => l.trim().split(/\s{2,}/));
  const [width = 1] = apart.map((c) => c.length).sort((a, b) => b - a);
  return apart.filter((c) => c.length === width).length >= lines.length * 0.6 ? apart : cut;
};

/** "Garden: 15 %". */
const byColons: Cut = (lines) => {
  const named = lines.map((l) => (isShort(l) ? /^([^:：]{1,60})(?:：|:\s)\s*(\S.*)$/u.exec(l.trim()) : null));
  const figures = named.filter((m) => m !== null && /\d/.test(m[2] as string)).length;
  return figures < many(lines)
    ? null
    : lines.map((l, i) => (named[i] == null ? [l.trim()] : [named[i][1] as string, named[i][2] as string]));
};

const byCommas: Cut = (lines) => {
  if (lines.some((l) => /^\s*[*†‡¹²³]/u.test(l))) return null;
  const commas = lines.map((l) => valuesBetween(l, ',').length);
  const [most = 1] = [...commas].sort((a, b) => b - a);
  const same = commas.filter((n) => n === most).length;
  return most >= 2 && same >= many(lines) ? lines.map((l) => valuesBetween(l, ',')) : null;
};

/** "up to 1 kg 3.20": words, then an amount or a percentage behind the last blank or the one before. */
const LAST_FIGURE = /^(?:\p{Sc}\s?)?\d+(?:[.,]\d{2}|(?=\s?[%€]))(?:\s?(?:\p{Sc}|zł|%|[A-Z]{3}))?$/u;
const byLastFigure: Cut = (lines) => {
  const cut = lines.map((l): string[] => {
    const words = isShort(l) ? l.trim().split(/\s+/) : [];
    const n = [1, 2].find((k) => k < words.length && LAST_FIGURE.test(words.slice(-k).join(' '))) ?? 0;
    const before = words.slice(0, words.length - Math.max(1, n)).join(' ');
    return n > 0 && /\p{L}/u.test(before) ? [before, words.slice(-n).join(' ')] : [];
  });
  const ended = cut.filter((c) => c.length > 0).length;
  if (lines.length < 2 || ended < many(lines)) return null;
  // A heading is cut at its last blank.
  return lines.map((l, i) => {
    const at = l.trim().lastIndexOf(' ');
    return cut[i]?.length === 2
      ? cut[i]
      : at < 0
        ? [l.trim()]
        : [l.trim().slice(0, at), l.trim().slice(at + 1)];
  });
};

const CUTS: readonly Cut[] = [
  byTabs,
  byBars,
  bySemicolons,
  byLeaders,
  byBlanks,
  byColons,
  byCommas,
  byLastFigure,
];
/** How the lines of a block are cut into cells: by the first mark that its lines have. */
function cellsOf(lines: readonly string[]): string[][] {
  for (const cut of CUTS) {
    const cells = cut(lines);
    if (cells !== null) return cells;
  }
  return lines.map((l) => [l.trim()]);
}

/** A cell as it is read: on one line, without runs of blanks; what is longer than any figure is cut. */
const MOST_CELL = 500;
function tidy(text: string): string {
  // A mark before an item of a list is no part of it.
  const t = plain(text)
    .replace(/\s+/g, ' ')
    .replace(/^(?:[•▪◦·]|[A-Za-z0-9]{1,2}[)])\s+(?=\p{L})/u, '');
  return t.length > MOST_CELL ? `${t.slice(0, MOST_CELL)}…` : t;
}

const filled = (cells: readonly string[]): number => cells.reduce((n, c) => n + (c === '' ? 0 : 1), 0);

/** Puts what was wrapped onto the next line back to the cell it belongs to. */
function unwrapped(rows: readonly Line[]): Line[] {
  const out: { line: number; cells: string[] }[] = [];
  for (const row of rows) {
    const above = out[out.length - 1];
    const at = row.cells.findIndex((c) => c !== '');
    const text = row.cells[at] ?? '';
    const goesOn =
      filled(row.cells) === 1 && at > 0 && /^\p{Ll}/u.test(text) && (above?.cells[at] ?? '') !== '';
    if (goesOn && above !== undefined) above.cells[at] = `${above.cells[at]} ${text}`;
    else out.push({ line: row.line, cells: [...row.cells] });
  }
  return out;
}

/** Lines with the same number of cells become a table; those of one cell are its title before it, notes behind it. */
function blockOf(rows: readonly Line[]): Given {
  const notes: Note[] = [];
  const table: Line[] = [];
  let title = '';
  for (const row of rows) {
    const text = row.cells.filter((c) => c !== '').join(' ');
    if (filled(row.cells) > 1 || (table.length > 0 && isPartOfTable(row))) table.push(row);
    else if (table.length === 0) {
      if (title !== '') notes.push({ line: row.line, text: title });
      title = text;
    } else notes.push({ line: row.line, text });
  }
  if (table.length < 2)
    return {
      blocks: [],
      notes: rows.map((r) => ({ line: r.line, text: r.cells.filter(Boolean).join('  ') })),
      left: NOTHING_LEFT,
    };
  const width = Math.min(MOST_COLUMNS, Math.max(...table.map((r) => r.cells.length)));
  const even = table.map((r) => ({
    line: r.line,
    cells: Array.from({ length: width }, (_, i) => r.cells[i] ?? ''),
  }));
  const widest = Math.max(...table.map((r) => r.cells.length));
  const left = { lines: 0, columns: Math.max(0, widest - MOST_COLUMNS) };
  return { blocks: [{ title, rows: even }], notes, left };
}
/** A lone cell that is no sentence: a size tier over its rows, or a figure under its neighbours. */
const isPartOfTable = ({ cells }: Line): boolean => {
  const text = cells.find((c) => c !== '') ?? '';
  return (
    text.length <= 40 &&
    !/^[*†‡¹²³[(]|[.:!?]$/u.test(text) &&
    text.split(/\s+/).length <= 5 &&
    (cells[0] === '' || cells.length > 1 || !/\d/.test(text))
  );
};

/** A line by itself over a table is its title; parts in the order in which they were given. */
function together(parts: readonly Given[]): Given {
  const blocks: Block[] = [];
  const notes: Note[] = [];
  parts.forEach((p, i) => {
    const [block, ...others] = p.blocks;
    const [alone, ...more] = parts[i - 1]?.blocks.length === 0 ? (parts[i - 1]?.notes ?? []) : [];
    const named = block?.title === '' && alone !== undefined && more.length === 0 && isTitle(alone.text);
    if (named) notes.pop();
    if (block !== undefined)
      blocks.push(named && alone !== undefined ? { ...block, title: alone.text } : block);
    blocks.push(...others);
    notes.push(...p.notes);
  });
  const columns = Math.max(0, ...parts.map((p) => p.left.columns));
  return { blocks, notes: notes.sort((a, b) => a.line - b.line), left: { lines: 0, columns } };
}
const isTitle = (text: string): boolean => text.length <= 120 && !/^[*†‡¹²³[(]/u.test(text);

/** Rows of pasted text as they stand: cells between tabs, semicolons, bars, commas or blanks. */
export const rowsOfText = (text: string): string[][] =>
  cellsOf(
    text
      .replace(/\r\n?/g, '\n')
      .split('\n')
      .filter((l) => l.trim() !== ''),
  ).map((r) => r.map(tidy));

/** The sheets of a workbook as text: cells between tabs, a blank line between sheets. */
export const textOfSheets = (
  sheets: readonly { header: readonly string[]; rows: readonly (readonly unknown[])[] }[],
): string =>
  sheets
    .map((s) =>
      [s.header, ...s.rows]
        .map((r) => r.map((c) => String(c ?? '').replace(/[\t\n\r]+/g, ' ')).join('\t'))
        .join('\n'),
    )
    .join('\n\n');

/** The tables and sentences of pasted text; lines are numbered from 1. */
export function givenOfText(text: string): Given {
  const all = text.replace(/\r\n?/g, '\n').split('\n');
  const lines = all.slice(0, MOST_LINES);
  const parts: Given[] = [];
  let from = 0;
  const close = (to: number): void => {
    const own = lines.slice(from, to);
    if (own.some((l) => l.trim() !== '')) parts.push(partOf(own, from + 1));
    from = to + 1;
  };
  lines.forEach((l, i) => {
    if (l.trim() === '') close(i);
  });
  close(lines.length);
  const given = together(parts);
  return { ...given, left: { ...given.left, lines: all.length - lines.length } };
}

/**
 * So many cells a row, where each stands on a line of its own: as many lines without a figure come first, and
 * every column has figures throughout, or none. Null where lines are no such cells.
 */
function periodOf(lines: readonly string[]): number | null {
  const figures = lines.map((l) => /\d/.test(l));
  for (let width = 2; width <= 8 && width * 3 <= lines.length; width++) {
    if (lines.length % width !== 0 || figures.slice(0, width).includes(true)) continue;
    const columns = Array.from({ length: width }, (_, i) =>
      figures.filter((_f, k) => k >= width && k % width === i),
    );
    const isEven = columns.every((c) => c.every((f) => f === c[0]));
    if (isEven && columns[width - 1]?.[0] === true && lines.every((l) => l.trim().length <= 60)) return width;
  }
  return null;
}

/** Lines without a blank one between them; what only rules off is left out of the count of cells, not of lines. */
function partOf(lines: readonly string[], first: number): Given {
  const kept = lines.map((text, i) => ({
    text: plain(text.replace(/^\s+/, (s) => s.replace(/\u00a0/g, ' '))) === '' ? '' : text,
    line: first + i,
  }));
  const said = kept.filter((l) => l.text !== '' && !/^[\s|:+=_-]+$/.test(l.text));
  const period = said.some((l) => /\S\s{2,}\S|\t/.test(l.text)) ? null : periodOf(said.map((l) => l.text));
  if (period !== null)
    return blockOf(
      Array.from({ length: said.length / period }, (_, k) => ({
        line: said[k * period]?.line ?? first,
        cells: said.slice(k * period, (k + 1) * period).map((l) => tidy(l.text)),
      })),
    );
  const cells = cellsOf(said.map((l) => l.text));
  return blockOf(unwrapped(said.map((l, i) => ({ line: l.line, cells: (cells[i] ?? []).map(tidy) }))));
}
