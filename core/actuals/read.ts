/** Lines of a settlement from the rows of a file: what counts, what waits for a word, what is wrong and why. */
import { dayIn } from '../evidence/fileRows.ts';
import { fault, isFault } from '../fault.ts';
import type { Fault } from '../fault.ts';
import { dayAfter } from '../money/days.ts';
import { amountOf, UNREADABLE } from '../lists/amounts.ts';
import { foldKind, MOST_AMOUNT, settledRule, STEPS } from './schema.ts';
import type { SettledColumn, SettledKind, SettledLine, SettledPlace, SettlementMap } from './schema.ts';

/** No marketplace settled anything before; what says so is a slip. */
export const EARLIEST = '1995-01-01';
const MOST_UNITS = 1e6;

/** What keeps a mapping from being used: a column that lines cannot do without, or one the file does not have. */
export function settlementMapIssues(map: SettlementMap, header: readonly string[]): Fault[] {
  const issues: Fault[] = [];
  if (map.columns.day === undefined && map.onDay === null)
    issues.push(fault('settledColumnMissing', { column: 'day' }));
  if (map.columns.kind === undefined && map.amounts.some((a) => a.kind === null))
    issues.push(fault('settledColumnMissing', { column: 'kind' }));
  const named = [...Object.values(map.columns), ...map.amounts.map((a) => a.column)];
  for (const column of new Set(named))
    if (!header.includes(column))
      issues.push(fault('settledNoColumn', { column, columns: header.filter(Boolean).slice(0, 40) }));
  return issues;
}

/** What a file comes to, in steps: every amount that can be read is counted, waits or is refused. */
export type SettlementTotals = {
  rows: number;
  lines: number;
  amount: number;
  /** Kinds nobody has said yet: how many lines, and what they come to. */
  readonly waiting: Map<string, { lines: number; amount: number }>;
  refusedRows: number;
  refusedAmount: number;
  first: string | null;
  last: string | null;
};

/**
 * Line numbers that were seen, each with the kind and code it was seen with. Half a million of them are kept by the
 * number alone: nothing is put together for a line but where one number has several kinds.
 */
class LineNumbers {
  private readonly kinds = new Map<string, Map<string, number>>();
  private readonly of = new Map<string, number | Set<number>>();
  private count = 0;

  /** Kind and code as one small number. */
  private pair(kind: string, code: string): number {
    let codes = this.kinds.get(kind);
    if (codes === undefined) {
      codes = new Map();
      this.kinds.set(kind, codes);
    }
    let pair = codes.get(code);
    if (pair === undefined) {
      pair = this.count++;
      codes.set(code, pair);
    }
    return pair;
  }

  has(number: string, kind: string, code: string): boolean {
    const known = this.of.get(number);
    if (known === undefined) return false;
    const pair = this.pair(kind, code);
    return typeof known === 'number' ? known === pair : known.has(pair);
  }

  add(number: string, kind: string, code: string): void {
    const pair = this.pair(kind, code);
    const known = this.of.get(number);
    if (known === undefined) this.of.set(number, pair);
    else if (typeof known === 'number') this.of.set(number, new Set([known, pair]));
    else known.add(pair);
  }
}

/** How a kind stands in an account where amounts have no sign: what comes in is above 0, all else is taken. */
const BARE_IN: ReadonlySet<SettledKind> = new Set(['sale', 'delivery', 'vat', 'reimbursement', 'advertSale']);

/**
 * Reads rows one after the other and adds up what they say. A line is known by the marketplace's own number, kind
 * and code; without a number by all it says, the nth of several equal ones in a file being the nth: so the same
 * lines in two files are the same lines, and equal ones count as often as the file that has most of them.
 */
export class SettlementReader {
  readonly totals: SettlementTotals = {
    rows: 0,
    lines: 0,
    amount: 0,
    waiting: new Map(),
    refusedRows: 0,
    refusedAmount: 0,
    first: null,
    last: null,
  };
  private readonly at: Partial<Record<SettledColumn, number>> = {};
  private readonly amounts: readonly { at: number; kind: SettledKind | null; column: string }[];
  private readonly comma: boolean;
  private readonly latest: string;
  /** The day of rows that say none. */
  private readonly onDay: string | Fault;
  private readonly days = new Map<string, string | null>();
  private readonly kinds = new Map<string, string>();
  private readonly numbers = new LineNumbers();
  /** How often a line without a number was seen, by all it says. */
  private readonly seen = new Map<string, number>();
  /** Kinds of the row at hand that have become lines. */
  private readonly made: string[] = [];
  /** Amounts of the row at hand, in steps as written; NaN: blank. */
  private readonly said: Float64Array;

  /** @param today days after the one that follows it are refused: clocks may be some hours apart */
  constructor(
    private readonly map: SettlementMap,
    header: readonly string[],
    private readonly place: SettledPlace,
    today: string,
  ) {
    this.latest = dayAfter(today);
    for (const [column, heading] of Object.entries(map.columns))
      this.at[column as SettledColumn] = header.indexOf(heading);
    this.amounts = map.amounts.map((a) => ({ ...a, at: header.indexOf(a.column) }));
    this.comma = map.decimal === 'comma';
    this.onDay = map.onDay === null ? fault('settledBlank', { column: 'day' }) : this.fits(map.onDay);
    this.said = new Float64Array(this.amounts.length);
  }

  /** The lines of a row; a fault where it cannot count. A row that is blank has none. */
  read(raw: readonly string[], row: number): readonly SettledLine[] | Fault {
    if (raw.every((c) => c.trim() === '')) return [];
    this.totals.rows++;
    const unread = this.readAmounts(raw);
    const made = unread ?? this.linesOf(raw, row);
    if (isFault(made)) {
      this.totals.refusedRows++;
      for (const x of this.said) if (!Number.isNaN(x)) this.totals.refusedAmount += x;
      return made;
    }
    for (const line of made) this.count(line);
    return made;
  }

  private count(line: SettledLine): void {
    const { totals } = this;
    // The days of a report of one's own say nothing of what the marketplace has settled.
    if (line.kind === null || settledRule(line.kind).is !== 'told') {
      if (totals.first === null || line.day < totals.first) totals.first = line.day;
      if (totals.last === null || line.day > totals.last) totals.last = line.day;
    }
    if (line.kind === null) {
      const waits = totals.waiting.get(line.said) ?? { lines: 0, amount: 0 };
      waits.lines++;
      waits.amount += line.amount;
      totals.waiting.set(line.said, waits);
    } else {
      totals.lines++;
      totals.amount += line.amount;
    }
  }

  private readAmounts(raw: readonly string[]): Fault | null {
    let wrong: Fault | null = null;
    let blank = true;
    for (let i = 0; i < this.amounts.length; i++) {
      const { at, column } = this.amounts[i] as (typeof this.amounts)[number];
      const text = raw[at] ?? '';
      const x = amountOf(text, this.comma);
      this.said[i] = Number.NaN;
      if (x === UNREADABLE) wrong ??= fault('settledNumber', { column, text: text.slice(0, 60) });
      else if (Math.abs(x) > MOST_AMOUNT)
        wrong ??= fault('settledTooLarge', { column, text: text.slice(0, 60) });
      else if (!Number.isNaN(x)) {
        this.said[i] = Math.round(x * STEPS);
        blank = false;
      }
    }
    return wrong ?? (blank ? fault('settledNothing') : null);
  }

  private linesOf(raw: readonly string[], row: number): readonly SettledLine[] | Fault {
    const day = this.at.day === undefined ? this.onDay : this.dayOf(this.cell(raw, 'day'));
    if (isFault(day)) return day;
    const other = this.otherPlace(raw);
    if (other !== null) return other;
    const units = this.unitsOf(this.cell(raw, 'units'));
    if (isFault(units)) return units;
    const clicks = this.unitsOf(this.cell(raw, 'clicks'));
    if (isFault(clicks)) return clicks;
    const tax = this.taxOf(raw);
    if (isFault(tax)) return tax;
    const said: RowSaid = {
      row,
      day,
      units,
      clicks,
      order: this.cell(raw, 'order'),
      code: this.cell(raw, 'code'),
      number: this.cell(raw, 'line'),
      kind: this.folded(this.cell(raw, 'kind')),
    };
    const lines: SettledLine[] = [];
    this.made.length = 0;
    let taxLeft = tax;
    for (let i = 0; i < this.amounts.length; i++) {
      const written = this.said[i] as number;
      const own = (this.amounts[i] as (typeof this.amounts)[number]).kind;
      if (Number.isNaN(written) || (written === 0 && own !== null)) continue;
      const line = this.lineOf(said, i, written, taxLeft);
      if (isFault(line)) return line;
      if (line.tax !== null) taxLeft = Number.NaN;
      lines.push(line);
    }
    if (said.number !== '') for (const at of this.made) this.numbers.add(said.number, at, said.code);
    return lines;
  }

  /** One amount of a row as a line, its sign and tax as they reach the account. */
  private lineOf(said: RowSaid, i: number, written: number, tax: number): SettledLine | Fault {
    const { kind: own, column } = this.amounts[i] as (typeof this.amounts)[number];
    const text = own === null ? said.kind : this.folded(column);
    const kind = own ?? this.map.kinds[said.kind] ?? null;
    const rule = kind === null ? null : settledRule(kind);
    // What is told beside an account has no sign of one.
    const bare = this.map.signs === 'bare' || rule?.is === 'told';
    const turned = bare && kind !== null && !BARE_IN.has(kind) ? -written : written;
    const bears = !Number.isNaN(tax) && (rule === null || (rule.is !== 'vat' && rule.is !== 'aside'));
    const ownTax = bears ? Math.sign(turned) * Math.abs(tax) : null;
    if (ownTax !== null && this.map.tax === 'included' && Math.abs(ownTax) > Math.abs(turned))
      return fault('settledTax', { tax: ownTax / STEPS, amount: turned / STEPS });
    const units = countOf(kind, kind === 'clicks' ? said.clicks : said.units);
    if (isFault(units)) return units;
    const key = this.keyOf(said, this.amounts.length > 1 ? `${text}|${column}` : text, written);
    if (isFault(key)) return key;
    return {
      row: said.row,
      key,
      day: said.day,
      order: said.order,
      code: said.code,
      kind,
      said: text,
      amount: turned + (ownTax !== null && this.map.tax === 'beside' ? ownTax : 0),
      tax: ownTax,
      units,
    };
  }

  private keyOf(said: RowSaid, text: string, written: number): string | Fault {
    if (said.number !== '') {
      if (this.numbers.has(said.number, text, said.code)) return fault('settledTwice', { line: said.number });
      this.made.push(text);
      return `#${said.number}|${text}|${said.code}`;
    }
    const all = `${said.day}|${said.order}|${said.code}|${text}|${written}|${said.units ?? ''}`;
    const nth = (this.seen.get(all) ?? 0) + 1;
    this.seen.set(all, nth);
    return `${all}|${nth}`;
  }

  private cell(raw: readonly string[], column: SettledColumn): string {
    const at = this.at[column];
    return at === undefined ? '' : (raw[at] ?? '').trim().slice(0, 200);
  }

  private folded(text: string): string {
    let found = this.kinds.get(text);
    if (found === undefined) {
      found = foldKind(text);
      this.kinds.set(text, found);
    }
    return found;
  }

  private dayOf(text: string): string | Fault {
    let day = this.days.get(text);
    if (day === undefined) {
      day = dayIn(text, this.map.days);
      this.days.set(text, day);
    }
    if (text === '') return fault('settledBlank', { column: 'day' });
    return day === null ? fault('settledDay', { text }) : this.fits(day);
  }
  private fits(day: string): string | Fault {
    if (day < EARLIEST) return fault('settledOutside', { text: day });
    return day > this.latest ? fault('settledFuture', { text: day }) : day;
  }

  private otherPlace(raw: readonly string[]): Fault | null {
    if (this.at.currency === undefined && this.at.country === undefined) return null;
    const currency = this.cell(raw, 'currency').toUpperCase();
    if (currency !== '' && currency !== this.place.currency)
      return fault('settledCurrency', { text: currency, currency: this.place.currency });
    const country = this.cell(raw, 'country').toUpperCase();
    return country !== '' && country !== this.place.country
      ? fault('settledCountry', { text: country, country: this.place.country })
      : null;
  }

  private unitsOf(text: string): number | null | Fault {
    if (text === '') return null;
    const x = amountOf(text, this.comma);
    if (Number.isNaN(x)) return null;
    return Number.isInteger(x) && Math.abs(x) <= MOST_UNITS ? x : fault('settledUnits', { text });
  }

  /** Tax of the row in steps; NaN: none is said. */
  private taxOf(raw: readonly string[]): number | Fault {
    if (this.at.tax === undefined) return Number.NaN;
    const text = this.cell(raw, 'tax');
    const x = amountOf(text, this.comma);
    if (x === UNREADABLE || Math.abs(x) > MOST_AMOUNT) return fault('settledNumber', { column: 'tax', text });
    return Number.isNaN(x) ? x : Math.round(x * STEPS);
  }
}

type RowSaid = {
  readonly row: number;
  readonly day: string;
  readonly order: string;
  readonly code: string;
  readonly number: string;
  readonly kind: string;
  readonly units: number | null;
  readonly clicks: number | null;
};

/** Kinds of which a line that says no units is of one. */
const OF_ONE: ReadonlySet<SettledKind> = new Set(['sale', 'refund']);
/**
 * Units that a line counts: a sale or a refund that says none is of one; of what came back a sign says nothing;
 * a sale of fewer than none is no sale.
 */
function countOf(kind: SettledKind | null, units: number | null): number | Fault {
  if (kind === null || settledRule(kind).units !== true) return units === null ? 0 : Math.abs(units);
  if (kind === 'sale' && units !== null && units < 0) return fault('settledNegativeUnits', { text: units });
  return Math.abs(units ?? (OF_ONE.has(kind) ? 1 : 0));
}
