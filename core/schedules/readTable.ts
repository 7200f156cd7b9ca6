/** One table of a fee schedule: each cell read in the light of its column, each row made into parts of a card. */
import { fault } from '../fault.ts';
import type { Fault } from '../fault.ts';
import { columnsOf } from './columns.ts';
import type { Column, Role } from './columns.ts';
import { moneyIn, percentIn, rangeIn, sidesIn, weightsIn } from './forms.ts';
import type { Around, Heard, Money, Percent, Range, Said, Weights } from './forms.ts';
import type { Block, Line } from './given.ts';
import { lengthUnitIn, volumeUnitIn, weightUnitIn } from './units.ts';
import { COLUMN_WORDS, monthsOf, NO_FIGURE, OVER, TOTAL, UP_TO } from './vocabulary.ts';
import type { CellRead, CellState, RowRead, StepPart, TableKind, TableRead, TierPart } from './understood.ts';
import type { CategoryPart, LongStayPart, StoragePart } from './understood.ts';

/** Readings chosen by hand, by the key of the cell: 0 the first, then the others in their order. */
export type Choices = Readonly<Record<string, number>>;
export type Found = {
  readonly tiers: TierPart[];
  readonly steps: StepPart[];
  readonly categories: CategoryPart[];
  readonly storage: StoragePart[];
  readonly longStay: LongStayPart[];
  readonly faults: (Fault & { line: number | null })[];
};
const ANY =
  /^(?:any|all|no limit|unlimited|alle|beliebig|unbegrenzt|tous|illimité|cualquiera|sin límite|qualsiasi|illimitato|dowoln[aey]|bez limitu|制限なし)$/iu;
const DAYS_A_MONTH = 30.4375;

/** What a fee is for, by the heading over it. */
export type Across =
  | { readonly by: 'months'; readonly months: readonly number[] }
  | { readonly by: 'weight'; readonly weights: Weights }
  | { readonly by: 'price'; readonly upTo: number | null }
  | { readonly by: 'name'; readonly name: string }
  | null;

/** A fee alone under a heading such as "Fee, EUR" is for nothing but its row. */
const isGeneric = (heading: string): boolean => {
  const rest = heading
    .replace(new RegExp(COLUMN_WORDS.fee.source, 'giu'), ' ')
    .replace(new RegExp(COLUMN_WORDS.storage.source, 'giu'), ' ')
    .replace(
      /[(),.:/*]|(?<!\p{L})(?:[A-Z]{3}|per|pro|par|por|za|a|the|in|für|pour|each|item|unit|piece|parcel|net|fulfilment|monthly)(?!\p{L})|[€$£¥円]|zł/giu,
      ' ',
    );
  return !/[\p{L}\d]/u.test(rest);
};

export function acrossOf(column: Column, fees: number, around: Around): Across {
  const { of, heading } = column;
  const months = monthsOf(of);
  if (months !== null) return { by: 'months', months };
  const bare = { ...around, kg: weightUnitIn(heading) };
  const weights =
    /\d/.test(of) && (/\p{L}/u.test(of) || bare.kg !== null)
      ? weightsIn(of, { ...around, kg: bare.kg })
      : null;
  if (weights !== null && (weightUnitIn(of) !== null || bare.kg !== null))
    return { by: 'weight', weights: weights.said };
  const range = /\d/.test(of) ? rangeIn(of, around) : null;
  if (range !== null && (COLUMN_WORDS.price.test(heading) || /[€$£¥<>≤–-]|\d\s*\+/u.test(of)))
    return { by: 'price', upTo: range.said.upTo };
  return isGeneric(of) || (fees === 1 && COLUMN_WORDS.fee.test(of)) ? null : { by: 'name', name: of };
}

/** Reads a cell by the role of its column. */
function hear(text: string, role: Role, around: Around): Heard | null {
  switch (role) {
    case 'weight':
    case 'maxWeight':
    case 'packaging':
      return weightsIn(text, around);
    case 'sides':
      return sidesIn(text, around);
    case 'length':
    case 'width':
    case 'height':
    case 'girth':
      return sidesIn(text, around, true);
    case 'fee':
    case 'minimum':
    case 'maximum':
    case 'itemFee':
      return moneyIn(text, around);
    case 'percent':
      return percentIn(text, around) ?? barePercent(text, around);
    case 'price':
    case 'divisor':
    case 'age':
      return rangeIn(text, around);
    case 'period': {
      const months = monthsOf(text);
      return months === null ? null : { said: { is: 'months', months }, or: [] };
    }
    default:
      return null;
  }
}
/** A number alone under a heading of percentages: per cent from 1 on, a fraction below. */
function barePercent(text: string, around: Around): Heard<Percent> | null {
  const n = rangeIn(text, around)?.said.upTo ?? null;
  if (n === null || !/^[\d.,\s]+$/.test(text)) return null;
  const make = (pct: number): Percent => ({
    is: 'percent',
    tiers: [{ upTo: null, pct }],
    mode: 'whole',
    min: null,
    max: null,
  });
  return n < 1 ? { said: make(n), or: [make(n / 100)] } : { said: make(n / 100), or: [] };
}

const NAMES: ReadonlySet<Role> = new Set(['tier', 'category', 'unread']);
const says = (cell: CellRead | undefined): Said | null =>
  cell === undefined || cell.state === 'notUnderstood' ? null : cell.said;

/** A weight or an amount where names stand: the row is shifted. */
const isShifted = (text: string, around: Around): boolean =>
  /^[\d<≤>]/.test(text) || UP_TO.exec(text)?.index === 0
    ? weightsIn(text, { ...around, kg: null }) !== null || /[€$£¥%]/.test(text)
    : false;

/** One table while it is read: its columns, what its headings say, and the parts it has come to. */
export class TableReader {
  private readonly columns: readonly Column[];
  private readonly heads: readonly Line[];
  private readonly across: readonly Across[];
  private readonly fees: readonly number[];
  readonly kind: TableKind;
  private above: string[] = [];

  constructor(
    private readonly block: Block,
    private readonly around: Around,
    private readonly choices: Choices,
    private readonly volume: number | null,
    private readonly found: Found,
  ) {
    const headed = columnsOf(block, around);
    this.columns = headed.columns;
    this.heads = headed.heads;
    this.fees = this.at('fee');
    this.across = this.columns.map((c) => (c.role === 'fee' ? acrossOf(c, this.fees.length, around) : null));
    this.kind = this.kindOf();
  }

  private at(role: Role): number[] {
    return this.columns.flatMap((c, i) => (c.role === role ? [i] : []));
  }
  private has(...roles: Role[]): boolean {
    return roles.some((r) => this.columns.some((c) => c.role === r));
  }

  private kindOf(): TableKind {
    const words = `${this.block.title} ${this.columns.map((c) => c.heading).join(' ')}`;
    if (this.has('percent')) return 'referral';
    const months = this.across.some((a) => a?.by === 'months') || this.has('period', 'age');
    if (this.fees.length > 0 && (months || COLUMN_WORDS.storage.test(words))) return 'storage';
    if (
      this.fees.length > 0 &&
      (this.has('weight', 'price', 'sides', 'maxWeight') || this.across.some((a) => a?.by === 'weight'))
    )
      return 'fees';
    if (this.has('sides', 'length', 'girth', 'maxWeight')) return 'tiers';
    return this.fees.length > 0 && this.has('tier') ? 'fees' : 'unread';
  }

  read(): TableRead {
    const heads = new Set(this.heads);
    const rows = this.block.rows.map((line): RowRead => {
      if (heads.has(line))
        return { line: line.line, cells: line.cells.map((c, i) => this.cell(c, i, 'heading', line)) };
      if (TOTAL.test(line.cells[0] ?? ''))
        return { line: line.line, cells: line.cells.map((c, i) => this.cell(c, i, 'leftOut', line)) };
      const cells = this.withoutFee(line.cells.map((c, i) => this.readCell(c, i, line)));
      this.take(cells, line);
      return { line: line.line, cells };
    });
    return { kind: this.kind, title: this.block.title, rows };
  }

  /** A row that is not offered ("heavier: ask us") need not say a weight. */
  private withoutFee(cells: readonly CellRead[]): readonly CellRead[] {
    const fees = this.fees.map((i) => cells[i]?.state);
    if (
      fees.length === 0 ||
      !fees.every((s) => s === 'leftOut' || s === 'blank') ||
      !fees.includes('leftOut')
    )
      return cells;
    return cells.map((c) => (c.state === 'notUnderstood' ? { ...c, state: 'leftOut', why: null } : c));
  }

  private cell(
    text: string,
    at: number,
    state: CellState,
    row: Line,
    heard: Heard | null = null,
    why: Fault | null = null,
  ): CellRead {
    const column = this.columns[at] as Column;
    const key =
      `${row.cells.slice(0, at).filter(Boolean).join(' ') || row.cells[0]}|${column.heading}|${text}`.slice(
        0,
        300,
      );
    return {
      text,
      state: text === '' ? 'blank' : state,
      role: column.role,
      said: heard?.said ?? null,
      or: heard?.or ?? [],
      why,
      key,
    };
  }

  private readCell(text: string, at: number, row: Line): CellRead {
    const { role, heading } = this.columns[at] as Column;
    if (text === '') return this.cell(text, at, 'blank', row);
    if (role === 'unread')
      return this.cell(
        text,
        at,
        'notUnderstood',
        row,
        null,
        fault('scheduleColumn', { heading: heading || at + 1 }),
      );
    if (NAMES.has(role))
      return isShifted(text, this.around)
        ? this.cell(text, at, 'notUnderstood', row, null, fault('scheduleShifted', { text }))
        : this.cell(text, at, 'sure', row);
    if (NO_FIGURE.test(text) || ANY.test(text))
      return this.cell(text, at, 'leftOut', row, { said: { is: 'none' }, or: [] });
    const own: Around = {
      ...this.around,
      kg: weightUnitIn(heading) ?? this.around.kg,
      cm: lengthUnitIn(heading) ?? this.around.cm,
    };
    const heard = hear(text, role, own);
    if (heard === null)
      return this.cell(text, at, 'notUnderstood', row, null, fault('scheduleCell', { text, column: role }));
    const wrong = this.wrongIn(heard.said, text);
    if (wrong !== null) return this.cell(text, at, 'notUnderstood', row, null, wrong);
    if (heard.or.length === 0) return this.cell(text, at, 'sure', row, heard);
    const doubtful = this.cell(text, at, 'doubtful', row, heard);
    const chosen = this.choices[doubtful.key];
    const reading = chosen === undefined ? undefined : [heard.said, ...heard.or][chosen];
    return reading === undefined ? doubtful : { ...doubtful, state: 'sure', said: reading };
  }

  /** What cannot be: money of another currency, a percentage over 100. */
  private wrongIn(said: Said, text: string): Fault | null {
    if (said.is === 'money' && said.currency !== null && said.currency !== this.around.currency)
      return fault('scheduleCurrency', { text, currency: this.around.currency });
    if (said.is === 'percent' && said.tiers.some((t) => t.pct > 1)) return fault('schedulePercent', { text });
    return null;
  }

  private fail(line: number, wrong: Fault): void {
    this.found.faults.push({ ...wrong, line });
  }

  /** The name a row has in a column, or that of the row above where it is blank. */
  private nameOf(cells: readonly CellRead[], role: Role): string {
    const parts = this.at(role).map((i) => {
      const own = cells[i]?.state === 'notUnderstood' ? '' : (cells[i]?.text ?? '');
      if (own !== '') this.above[i] = own;
      return this.above[i] ?? '';
    });
    return parts.filter(Boolean).join(', ');
  }

  private take(cells: readonly CellRead[], line: Line): void {
    const tier = this.nameOf(cells, 'tier');
    if (this.kind === 'referral') this.takeCategory(cells, line);
    else if (this.kind === 'storage') this.takeStorage(cells, line);
    else if (this.kind === 'fees' || this.kind === 'tiers') {
      this.takeTier(cells, tier);
      if (this.kind === 'fees') this.takeFees(cells, tier, line);
    }
  }

  private one<S extends Said['is']>(
    cells: readonly CellRead[],
    role: Role,
    is: S,
  ): Extract<Said, { is: S }> | null {
    for (const i of this.at(role)) {
      const said = says(cells[i]);
      if (said?.is === is) return said as Extract<Said, { is: S }>;
    }
    return null;
  }

  private takeTier(cells: readonly CellRead[], tier: string): void {
    const sides = this.one(cells, 'sides', 'sides');
    const [l, w, h] = (['length', 'width', 'height'] as const).map(
      (r) => this.one(cells, r, 'sides')?.cm[0] ?? null,
    );
    const apart = [l, w, h].filter((x): x is number => x != null);
    const all = sides?.cm ?? (apart.length > 0 ? apart : null);
    const girth = this.one(cells, 'girth', 'sides')?.cm[0] ?? null;
    const maxKg = this.one(cells, 'maxWeight', 'weight')?.upTo ?? null;
    const divisor = this.one(cells, 'divisor', 'range')?.upTo ?? null;
    const packagingKg = this.one(cells, 'packaging', 'weight')?.upTo ?? null;
    if (all === null && girth === null && maxKg === null && divisor === null && packagingKg === null) return;
    this.found.tiers.push({
      name: tier,
      sides: all === null ? null : [...all].sort((a, b) => b - a),
      maxKg,
      girth,
      divisor,
      packagingKg,
    });
  }

  /** From and up to, of one cell or of two side by side. */
  private weightsOf(cells: readonly CellRead[]): Weights | null {
    const at = this.at('weight');
    const [first, second] = at.map((i) => says(cells[i])).filter((s): s is Weights => s?.is === 'weight');
    if (first === undefined) return null;
    if (second === undefined) {
      const alone = this.columns[at[0] as number] as Column;
      return at.length === 2 && OVER.test(alone.heading) && first.upTo !== null
        ? { ...first, from: first.upTo, upTo: null }
        : first;
    }
    return { is: 'weight', from: first.upTo ?? first.from, upTo: second.upTo, each: null };
  }

  private takeFees(cells: readonly CellRead[], tier: string, line: Line): void {
    const own = this.weightsOf(cells);
    const price = this.one(cells, 'price', 'range');
    for (const i of this.fees) {
      const money = says(cells[i]);
      if (money?.is !== 'money') continue;
      const a = this.across[i] ?? null;
      const weights = a?.by === 'weight' ? a.weights : own;
      const named = a?.by === 'name' ? (tier === '' ? a.name : `${tier}, ${a.name}`) : tier;
      const priceUpTo = a?.by === 'price' ? a.upTo : (price?.upTo ?? null);
      this.addSteps({ tier: named, priceUpTo, line: line.line }, weights, money, line);
    }
  }

  private addSteps(
    of: Pick<StepPart, 'tier' | 'priceUpTo' | 'line'>,
    weights: Weights | null,
    money: Money,
    line: Line,
  ): void {
    const step = (upToKg: number | null, each: number | null, fee: number): void => {
      this.found.steps.push({ ...of, upToKg, each, fee });
    };
    if (weights?.each != null) {
      step(null, weights.each, money.amount);
      return;
    }
    const last = this.found.steps.findLast(
      (s) => s.tier === of.tier && s.priceUpTo === of.priceUpTo && s.upToKg !== null,
    );
    const from = weights?.from ?? null;
    if (
      from !== null &&
      last !== undefined &&
      Math.abs((last.upToKg as number) - from) > 0.02 * from + 0.0011
    )
      this.fail(line.line, apart(of.tier, last.upToKg as number, from));
    if (money.each === null) {
      step(weights?.upTo ?? null, null, money.amount);
      return;
    }
    const over = money.each.over ?? from ?? last?.upToKg ?? weights?.upTo ?? null;
    const base =
      last !== undefined && over !== null && Math.abs((last.upToKg as number) - over) < 0.02 * over + 0.0011
        ? last
        : undefined;
    if (base !== undefined && Math.abs(base.fee - money.amount) > 1e-9)
      this.fail(line.line, fault('scheduleStepBase', { base: money.amount, last: base.fee }));
    else {
      if (base === undefined && over !== null) step(over, null, money.amount);
      step(null, money.each.kg, money.each.fee);
      if (weights?.upTo != null && weights.upTo !== over)
        this.found.tiers.push({
          name: of.tier,
          sides: null,
          maxKg: weights.upTo,
          girth: null,
          divisor: null,
          packagingKg: null,
        });
    }
  }

  private takeCategory(cells: readonly CellRead[], line: Line): void {
    const name =
      this.nameOf(cells, 'category') ||
      this.nameOf(cells, 'tier') ||
      (this.columns[0]?.role === 'unread' ? '' : (cells[0]?.text ?? ''));
    const percents = this.at('percent')
      .map((i) => says(cells[i]))
      .filter((s): s is Percent => s?.is === 'percent');
    const [percent] = percents;
    if (percent === undefined) return;
    const itemFee = this.one(cells, 'itemFee', 'money')?.amount ?? null;
    const min = this.one(cells, 'minimum', 'money')?.amount ?? percent.min;
    const max = this.one(cells, 'maximum', 'money')?.amount ?? percent.max;
    const upTo = this.one(cells, 'price', 'range');
    const whole = { ...percent, min, max };
    const last = this.found.categories[this.found.categories.length - 1];
    const pct = percent.tiers[0]?.pct ?? 0;
    // Rows of one category by price are its tiers.
    if (upTo !== null && percent.tiers.length === 1) {
      const tier = { upTo: upTo.upTo, pct };
      if (last !== undefined && last.name === name)
        this.found.categories[this.found.categories.length - 1] = {
          ...last,
          percent: { ...last.percent, tiers: [...last.percent.tiers, tier] },
        };
      else
        this.found.categories.push({ name, percent: { ...whole, tiers: [tier] }, itemFee, line: line.line });
      return;
    }
    this.found.categories.push({ name, percent: whole, itemFee, line: line.line });
  }

  private takeStorage(cells: readonly CellRead[], line: Line): void {
    const words = `${this.block.title} ${this.columns.map((c) => c.heading).join(' ')} ${line.cells.join(' ')}`;
    const volume = volumeUnitIn(words) ?? this.volume;
    for (const i of this.fees) {
      const money = says(cells[i]);
      if (money?.is !== 'money') continue;
      if (volume === null) {
        this.fail(line.line, fault('scheduleVolume'));
        return;
      }
      const perM3 = money.amount / volume;
      const a = this.across[i] ?? null;
      const age = this.one(cells, 'age', 'range');
      const months = a?.by === 'months' ? a.months : (this.one(cells, 'period', 'months')?.months ?? null);
      if (age !== null)
        this.found.longStay.push({
          fromMonths: monthsIn(olderThan(age)),
          toMonths: age.upTo === null ? null : monthsIn(age.upTo),
          rate: perM3,
          line: line.line,
        });
      else
        this.found.storage.push({
          months: months ?? [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12],
          perM3,
          line: line.line,
        });
    }
  }
}
/** "181 to 270 days" begins where 180 days end. */
const olderThan = ({ from, upTo }: Range): number =>
  from === null ? 0 : upTo === null ? from : Math.max(0, from - 1);
/** Days as months, whole where they are nearly so. */
const monthsIn = (days: number): number => {
  const months = days / DAYS_A_MONTH;
  return Math.abs(months - Math.round(months)) < 0.06 ? Math.round(months) : months;
};
/** Steps that do not meet: `last` kg is where the one ends, `from` where the next begins. */
function apart(name: string, last: number, from: number): Fault {
  const of = { tier: name || '–', from: grams(last), to: grams(from) };
  return last < from ? fault('scheduleGap', of) : fault('scheduleOverlap', of);
}
const grams = (kg: number): number => Math.round(kg * 1e4) / 1e4;
