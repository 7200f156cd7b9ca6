/** Rows of a file of evidence into an observation: each row is good, or says why not and how to put it right. */
import type { z } from 'zod';
import { fault, isFault } from '../fault.ts';
import type { Fault } from '../fault.ts';
import { amountOf, UNREADABLE } from '../lists/amounts.ts';
import { FILE_COLUMNS, monthOfHeading, YES_WORDS } from './fileMap.ts';
import type { EvidenceMap, FileColumn, FileKind } from './fileMap.ts';
import { OBSERVED } from './observed.ts';
import type { ObservedValue } from './observed.ts';
import { dayRow, MAX_RIVALS, rival } from './schema.ts';
import type { DayRow } from './schema.ts';
import { packDays } from './series.ts';

export type RowFault = Fault & { readonly row: number; readonly column: string };
export type FileRead = {
  /** What the good rows say; null where there is none, or none that fits together. */
  readonly value: ObservedValue<FileKind> | null;
  readonly good: number;
  readonly faults: readonly RowFault[];
  /** What keeps the whole file from being read. */
  readonly stops: readonly Fault[];
  /** Latest day or month that it speaks of; null: it names none. */
  readonly asOf: string | null;
};

const MOST_ROWS = 60_000;
const MOST_FAULTS = 1000;
/** Nothing was sold on a marketplace before; what says so is a slip. */
const EARLIEST = '1990-01-01';
const two = (n: number): string => String(n).padStart(2, '0');

/** A day in any of the usual writings as year-month-day; null: none, or no such day. */
export function dayIn(text: string, days: EvidenceMap['days']): string | null {
  const t = text.trim();
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[T ].*)?$/.exec(t);
  const other = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4}|\d{2})$/.exec(t);
  const [, a = '', b = '', c = ''] = iso ?? other ?? [];
  if (a === '') return null;
  const [year, month, day] = iso !== null ? [a, b, c] : days === 'dayFirst' ? [c, b, a] : [c, a, b];
  const whole = year.length === 2 ? `20${year}` : year;
  const made = `${whole}-${two(Number(month))}-${two(Number(day))}`;
  const at = new Date(`${made}T00:00:00Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().startsWith(made) ? made : null;
}

type Value = string | number | boolean | null;
/** A cell in the light of its column: its value, or what is wrong with it. A blank is null. */
function readCell(column: FileColumn, text: string, map: EvidenceMap): Value | Fault {
  const t = text.trim();
  if (t === '') return null;
  switch (column.cell) {
    case 'text':
      return t.slice(0, 200);
    case 'day':
      return dayIn(t, map.days) ?? fault('evidenceDay', { text: t });
    case 'month': {
      const day = dayIn(t, map.days);
      return monthOfHeading(t) ?? (day === null ? fault('evidenceMonth', { text: t }) : day.slice(0, 7));
    }
    case 'yes': {
      const said = t.toLowerCase();
      if ((YES_WORDS.yes as readonly string[]).includes(said)) return true;
      return (YES_WORDS.no as readonly string[]).includes(said) ? false : fault('evidenceYes', { text: t });
    }
    case 'choice': {
      const said = t.toLowerCase();
      const found = Object.entries(column.choices ?? {}).find(
        ([key, words]) => key.toLowerCase() === said || words.includes(said),
      );
      return found?.[0] ?? fault('evidenceChoice', { text: t, choices: Object.keys(column.choices ?? {}) });
    }
    default: {
      // A share may be written as a fraction or in per cent: only the sign tells 0.5 from half of one per cent.
      const inPerCent = column.cell === 'share' && t.endsWith('%');
      const read = amountOf(inPerCent ? t.slice(0, -1) : t, map.decimal === 'comma');
      if (Number.isNaN(read)) return null;
      if (read === UNREADABLE) return fault('evidenceNumber', { text: t });
      const x = inPerCent ? read / 100 : read;
      if (x < 0) return fault('evidenceNegative', { text: t });
      return x > 1e12 ? fault('evidenceTooLarge', { text: t }) : x;
    }
  }
}

type Row = {
  readonly row: number;
  readonly cells: Readonly<Record<string, Value>>;
  readonly raw: readonly string[];
};

/** What keeps a mapping from being used: a column that a row cannot do without, or one the file does not have. */
export function evidenceMapIssues(kind: FileKind, map: EvidenceMap, header: readonly string[]): Fault[] {
  const issues: Fault[] = [];
  for (const c of FILE_COLUMNS[kind])
    if (c.required && map.columns[c.key] === undefined)
      issues.push(fault('evidenceColumnMissing', { column: c.key }));
  for (const [key, heading] of Object.entries(map.columns))
    if (!header.includes(heading))
      issues.push(fault('noSuchColumn', { column: heading, role: key, columns: header.filter(Boolean) }));
  const months = header.some((h) => monthOfHeading(h) !== null);
  if (kind === 'rivals' && map.columns.title === undefined && map.columns.listing === undefined)
    issues.push(fault('evidenceColumnMissing', { column: 'title' }));
  if (kind === 'units' && !['units', 'code', 'name'].some((c) => map.columns[c] !== undefined))
    issues.push(fault('evidenceColumnMissing', { column: 'units' }));
  if (kind === 'history' && map.columns.price === undefined)
    issues.push(fault('evidenceColumnMissing', { column: 'price' }));
  if (kind === 'terms' && !months && map.columns.volume === undefined && map.columns.sales === undefined)
    issues.push(fault('evidenceColumnMissing', { column: 'volume' }));
  return issues;
}

/**
 * Reads the rows under a header by a mapping.
 *
 * @param today days and months after it are refused, a day's grace for clocks that run ahead
 */
export function readEvidence(
  kind: FileKind,
  header: readonly string[],
  rows: readonly (readonly string[])[],
  map: EvidenceMap,
  firstRow: number,
  currency: string,
  today: string,
): FileRead {
  const stops = evidenceMapIssues(kind, map, header);
  if (rows.length > MOST_ROWS)
    stops.push(fault('evidenceTooManyRows', { rows: rows.length, most: MOST_ROWS }));
  if (stops.length > 0) return { value: null, good: 0, faults: [], stops, asOf: null };
  const faults: RowFault[] = [];
  const say = (row: number, column: string, f: Fault): void => {
    if (faults.length < MOST_FAULTS) faults.push({ row, column, ...f });
  };
  const columns = FILE_COLUMNS[kind].flatMap((c) => {
    const at = map.columns[c.key] === undefined ? -1 : header.indexOf(map.columns[c.key] as string);
    return at < 0 ? [] : [{ ...c, at }];
  });
  const good: Row[] = [];
  rows.forEach((raw, i) => {
    if (raw.every((c) => c.trim() === '')) return;
    const row = firstRow + i;
    const cells: Record<string, Value> = {};
    let wrong = false;
    for (const c of columns) {
      const value = readCell(c, raw[c.at] ?? '', map);
      if (isFault(value)) {
        say(row, c.key, value);
        wrong = true;
      } else if (value === null && c.required) {
        say(row, c.key, fault('evidenceBlank'));
        wrong = true;
      } else cells[c.key] = value;
    }
    if (!wrong) good.push({ row, cells, raw });
  });
  const made = MAKERS[kind]({ rows: good, header, map, currency, today, say });
  faults.sort((a, b) => a.row - b.row);
  return { stops, faults, ...made };
}

type Making = {
  readonly rows: readonly Row[];
  readonly header: readonly string[];
  readonly map: EvidenceMap;
  readonly currency: string;
  readonly today: string;
  readonly say: (row: number, column: string, f: Fault) => void;
};
type Made = { value: ObservedValue<FileKind> | null; good: number; asOf: string | null };
const NOTHING: Made = { value: null, good: 0, asOf: null };

/** Keeps a row that its schema takes; else says which field it does not. */
function fitting<S extends z.ZodType>(m: Making, schema: S, r: Row, value: unknown): z.output<S> | null {
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  const [first] = read.error.issues;
  const column = String(first?.path[0] ?? '');
  m.say(r.row, column, fault('evidenceOutside', { text: String(r.cells[column] ?? '') }));
  return null;
}

/** The rows that a schema takes, no more than so many. */
const allFitting = <S extends z.ZodType>(m: Making, schema: S, most: number): z.output<S>[] =>
  m.rows.slice(0, most).flatMap((r) => {
    const made = fitting(m, schema, r, withoutNulls(r.cells));
    return made === null ? [] : [made];
  });

const MAKERS: Readonly<Record<FileKind, (m: Making) => Made>> = {
  terms: makeTerms,
  bids: (m) => {
    const schema = OBSERVED.bids.shape.bids.element;
    const bids = m.rows.flatMap((r) => {
      const { low, high } = r.cells;
      if ((low ?? null) === null && (high ?? null) === null) {
        m.say(r.row, 'low', fault('evidenceBlank'));
        return [];
      }
      const made = fitting(m, schema, r, withoutNulls(r.cells));
      return made === null ? [] : [made];
    });
    return bids.length === 0 ? NOTHING : { value: { bids }, good: bids.length, asOf: null };
  },
  rivals: (m) => {
    const rows: ObservedValue<'rivals'>['rows'] = [];
    for (const r of m.rows) {
      if (rows.length === MAX_RIVALS)
        m.say(r.row, 'title', fault('evidenceTooManyRivals', { most: MAX_RIVALS }));
      else if ((r.cells.title ?? '') === '' && (r.cells.listing ?? '') === '')
        m.say(r.row, 'title', fault('evidenceBlank'));
      else {
        const made = fitting(m, rival.omit({ struck: true }), r, withoutNulls(r.cells));
        if (made !== null) rows.push(made);
      }
    }
    return rows.length === 0
      ? NOTHING
      : { value: { currency: m.currency, tax: 'included', from: '', rows }, good: rows.length, asOf: null };
  },
  history: makeHistory,
  offers: (m) => {
    const list = allFitting(m, OBSERVED.offers.shape.list.element, 1000);
    return list.length === 0
      ? NOTHING
      : { value: { currency: m.currency, list }, good: list.length, asOf: null };
  },
  units: makeUnits,
  complaints: (m) => {
    const complaints = allFitting(m, OBSERVED.complaints.shape.complaints.element, 200);
    return complaints.length === 0
      ? NOTHING
      : { value: { complaints, returnRate: null }, good: complaints.length, asOf: null };
  },
  permission: (m) => {
    const [first, ...others] = m.rows;
    if (first === undefined) return NOTHING;
    for (const r of others) m.say(r.row, 'state', fault('evidenceOnePermission'));
    const { listing: _, ...cells } = withoutNulls(first.cells);
    const made = fitting(m, OBSERVED.permission, first, cells);
    return made === null ? NOTHING : { value: made, good: 1, asOf: made.answered };
  },
};
const withoutNulls = (cells: Row['cells']): Record<string, Value> =>
  Object.fromEntries(Object.entries(cells).filter(([, v]) => v !== null));

/** Terms with a month to a column, or with a row for each month. */
function makeTerms(m: Making): Made {
  const columns = m.header.flatMap((h, at) => {
    const month = monthOfHeading(h);
    return month === null || Object.values(m.map.columns).includes(h) ? [] : [{ month, at, heading: h }];
  });
  const thisMonth = m.today.slice(0, 7);
  const terms = new Map<string, { head: Record<string, Value>; volumes: Map<string, number> }>();
  let good = 0;
  for (const r of m.rows) {
    const { month, volume, ...cells } = r.cells;
    const head = withoutNulls(cells);
    const key = `${head.language ?? ''}:${head.term}`;
    const own = terms.get(key) ?? { head, volumes: new Map<string, number>() };
    Object.assign(own.head, head);
    let wrong = false;
    const note = (of: string, value: number, column: string): void => {
      if (of <= thisMonth) own.volumes.set(of, value);
      else {
        m.say(r.row, column, fault('evidenceFuture', { text: of }));
        wrong = true;
      }
    };
    for (const c of columns) {
      const value = readCell({ key: c.heading, cell: 'count', headings: [] }, r.raw[c.at] ?? '', m.map);
      if (isFault(value)) {
        m.say(r.row, c.heading, value);
        wrong = true;
      } else if (typeof value === 'number') note(c.month, value, c.heading);
    }
    if (typeof volume === 'number')
      note(typeof month === 'string' ? month : lastMonth(thisMonth), volume, 'volume');
    if (wrong) continue;
    terms.set(key, own);
    good++;
  }
  const list = [...terms.values()]
    .slice(0, 20_000)
    .map(({ head, volumes }) => ({
      ...OBSERVED.terms.shape.terms.element.parse({
        language: '',
        ...head,
        freePlace: null,
        paidPlace: null,
      }),
      freePlace: place(head.freePlace),
      paidPlace: place(head.paidPlace),
      volumes: [...volumes]
        .map(([month, value]) => ({ month, value }))
        .sort((a, b) => (a.month < b.month ? -1 : 1)),
    }));
  const months = list.flatMap((t) => t.volumes.at(-1)?.month ?? []);
  const last = months.length === 0 ? null : months.reduce((a, b) => (a > b ? a : b));
  return list.length === 0
    ? NOTHING
    : { value: { terms: list }, good, asOf: last === null ? null : `${last}-28` };
}
const place = (x: Value | undefined): number | null =>
  typeof x === 'number' && Number.isInteger(x) && x >= 1 ? x : null;
const lastMonth = (month: string): string => {
  const n = 12 * Number(month.slice(0, 4)) + Number(month.slice(5, 7)) - 2;
  return `${Math.floor(n / 12)}-${two((n % 12) + 1)}`;
};

/**
 * Units of a listing by month, and its variations with their ratings: a row is the one or the other. What the last
 * whole month sold is what is stated for the listing.
 */
function makeUnits(m: Making): Made {
  const months = new Map<string, number>();
  const variations: ObservedValue<'units'>['variations'] = [];
  let good = 0;
  for (const r of m.rows) {
    const { month, units, ...own } = withoutNulls(r.cells);
    if (typeof month === 'string' && typeof units === 'number') {
      if (own.code !== undefined || own.name !== undefined)
        m.say(r.row, 'month', fault('evidenceMonthOrVariation'));
      else if (month > m.today.slice(0, 7)) m.say(r.row, 'month', fault('evidenceFuture', { text: month }));
      else {
        months.set(month, units);
        good++;
      }
    } else if (own.code === undefined && own.name === undefined)
      m.say(r.row, month === undefined ? 'month' : 'units', fault('evidenceBlank'));
    else if (units !== undefined || month !== undefined)
      m.say(r.row, units === undefined ? 'month' : 'units', fault('evidenceMonthOrVariation'));
    else {
      const code = own.code ?? own.name;
      const made = fitting(m, OBSERVED.units.shape.variations.unwrap().element, r, { ...own, code });
      if (made !== null && variations.length < 2000) {
        variations.push(made);
        good++;
      }
    }
  }
  if (good === 0) return NOTHING;
  const unitsByMonth = [...months]
    .map(([month, value]) => ({ month, value }))
    .sort((a, b) => (a.month < b.month ? -1 : 1));
  const ratings = variations.map((v) => v.ratings);
  const value = OBSERVED.units.parse({
    units: {
      statedListing: months.get(lastMonth(m.today.slice(0, 7))) ?? null,
      hasVariations: variations.length > 1,
      ratingsListing:
        ratings.length === 0 || ratings.includes(null)
          ? null
          : ratings.reduce((a, b) => (a ?? 0) + (b ?? 0), 0),
    },
    unitsByMonth,
    variations,
  });
  return { value, good, asOf: null };
}

/**
 * Days of a listing: one currency, none in the future; of two rows of one day the later stands and the first is
 * said.
 */
function makeHistory(m: Making): Made {
  const named = [
    ...new Set(
      m.rows.flatMap((r) => (typeof r.cells.currency === 'string' ? [r.cells.currency.toUpperCase()] : [])),
    ),
  ];
  const days = new Map<string, { row: number; day: DayRow }>();
  for (const r of m.rows) {
    const { currency, ...cells } = r.cells;
    const day = String(cells.day);
    if (day < EARLIEST) m.say(r.row, 'day', fault('evidenceOutside', { text: day }));
    else if (day > dayOn(m.today)) m.say(r.row, 'day', fault('evidenceFuture', { text: day }));
    else if (typeof currency === 'string' && currency.toUpperCase() !== m.currency)
      m.say(r.row, 'currency', fault('evidenceCurrency', { text: currency, currency: m.currency }));
    else {
      const made = fitting(m, dayRow, r, { price: null, ...withoutNulls(cells) });
      if (made === null) continue;
      const before = days.get(day);
      if (before !== undefined)
        m.say(before.row, 'day', fault('evidenceDayTwice', { text: day, row: r.row }));
      days.set(day, { row: r.row, day: made });
    }
  }
  if (named.length > 1)
    m.say(m.rows[0]?.row ?? 0, 'currency', fault('evidenceTwoCurrencies', { currencies: named }));
  const list = [...days.values()].map((d) => d.day);
  const packed = packDays(list, m.currency);
  const last = list.reduce((a, d) => (d.day > a ? d.day : a), '');
  return packed === null ? NOTHING : { value: packed, good: list.length, asOf: last };
}
/** A day later: clocks may be some hours apart. */
const dayOn = (day: string): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + 86_400_000).toISOString().slice(0, 10);
