/** The cells of a table, each read in the light of its column. */
import { percentIn } from './percents.ts';
import { isCurrency } from '../cards/cells.ts';
import { fault } from '../fault.ts';
import type { Fault } from '../fault.ts';
import type { Column, Role } from './columns.ts';
import { moneyIn, namedWeightIn, rangeIn, sidesIn, weightsIn } from './forms.ts';
import type { Around, Heard, Percent, Said } from './forms.ts';
import { unknownWords } from './knownWords.ts';
import { limitsIn } from './limits.ts';
import type { Line } from './given.ts';
import { chargeOf, isCommission } from './tableShape.ts';
import type { TableShape } from './tableShape.ts';
import { lengthUnitIn, weightUnitIn } from './units.ts';
import { ANY_SIZE, FREE, HUNDREDTHS, monthsOf, NO_FIGURE, UP_TO } from './vocabulary.ts';
import type { CellRead, CellState, ChargePart } from './understood.ts';

/** Readings chosen by hand, by the key of the cell: 0 the first, then the others in their order. */
export type Choices = Readonly<Record<string, number>>;

/** Reads a cell by the role of its column. */
function hear(text: string, role: Role, around: Around): Heard | null {
  switch (role) {
    case 'weight':
    case 'maxWeight':
    case 'packaging':
      return weightsIn(text, around);
    case 'namedWeight': {
      const said = namedWeightIn(text, around)?.weights;
      return said === undefined ? null : { said, or: [] };
    }
    case 'limits': {
      const said = limitsIn(text, around);
      return said === null ? null : { said, or: [] };
    }
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
      return FREE.test(text) ? onePercent(0) : (percentIn(text, around) ?? barePercent(text, around));
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
  return n < 1 ? { said: onePercent(n).said, or: [onePercent(n / 100).said] } : onePercent(n / 100);
}
const onePercent = (pct: number): Heard<Percent> => ({
  said: { is: 'percent', tiers: [{ upTo: null, pct }], mode: 'whole', min: null, max: null, plus: null },
  or: [],
});

/** Figures that decide what is charged. */
const FIGURES: ReadonlySet<Role> = new Set([
  'weight',
  'maxWeight',
  'fee',
  'percent',
  'price',
  'minimum',
  'maximum',
  'itemFee',
  'age',
  'period',
]);
const MONEY: ReadonlySet<Role> = new Set(['fee', 'minimum', 'maximum', 'itemFee']);
const NAMES: ReadonlySet<Role> = new Set(['tier', 'category', 'unread']);

/** A weight or an amount where names stand: the row is shifted. */
const isShifted = (text: string, around: Around): boolean =>
  /^[\d<≤>]/.test(text) || UP_TO.exec(text)?.index === 0
    ? weightsIn(text, { ...around, kg: null }) !== null || /[€$£¥%]/.test(text)
    : false;

/** Whether a card can hold a charge as it is said: a payment fee has one share and an amount, others an amount. */
function canBe(of: ChargePart['of'] | 'commission', said: Said): boolean {
  if (said.is === 'money') return said.each === null && of !== 'commission';
  if (said.is !== 'percent') return false;
  return of === 'commission'
    ? true
    : of === 'payment' && said.tiers.length === 1 && said.min === null && said.max === null;
}

/** The other currency that a heading ends in; null where it names none, or the card's own. */
function foreignIn(heading: string, currency: string): string | null {
  const code = /(?:^|[\s(,/[])([A-Z]{3})[)\]]?$/u.exec(heading)?.[1] ?? null;
  return code !== null && code !== currency && isCurrency(code) ? code : null;
}

/** Reads the cells of a table's rows. */
export class CellReader {
  constructor(
    private readonly shape: TableShape,
    private readonly choices: Choices,
  ) {}

  /** The cells of a row of the body. */
  row(line: Line): readonly CellRead[] {
    return this.withoutFee(line.cells.map((c, i) => this.readCell(c, i, line)));
  }

  /** A row that is not offered ("heavier: ask us") need not say a weight. */
  private withoutFee(cells: readonly CellRead[]): readonly CellRead[] {
    const fees = this.shape.fees.map((i) => cells[i]?.state);
    if (
      fees.length === 0 ||
      !fees.every((s) => s === 'leftOut' || s === 'blank') ||
      !fees.includes('leftOut')
    )
      return cells;
    return cells.map((c) => (c.state === 'notUnderstood' ? { ...c, state: 'leftOut', why: null } : c));
  }

  /** A cell in a state, as it is. */
  cell(
    text: string,
    at: number,
    state: CellState,
    row: Line,
    heard: Heard | null = null,
    why: Fault | null = null,
  ): CellRead {
    const column = this.shape.columns[at] as Column;
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
    const { role, heading } = this.shape.columns[at] as Column;
    if (text === '') return this.cell(text, at, 'blank', row);
    if (role === 'aside') return this.cell(text, at, 'leftOut', row);
    if (this.shape.kind === 'charges' && at > 0) return this.readCharge(text, at, row);
    if (this.shape.kind === 'unread' && !NAMES.has(role))
      return this.cell(text, at, 'notUnderstood', row, null, this.shape.why);
    if (role === 'unread')
      return this.cell(
        text,
        at,
        'notUnderstood',
        row,
        null,
        fault('scheduleColumn', { heading: heading || at + 1 }),
      );
    if (role === 'elsewhere')
      return this.cell(text, at, 'notUnderstood', row, null, fault('scheduleElsewhere', { what: heading }));
    if (NAMES.has(role))
      return isShifted(text, this.shape.around)
        ? this.cell(text, at, 'notUnderstood', row, null, fault('scheduleShifted', { text }))
        : this.cell(text, at, 'sure', row);
    if (NO_FIGURE.test(text) || ANY_SIZE.test(text))
      return this.cell(text, at, 'leftOut', row, { said: { is: 'none' }, or: [] });
    const foreign = MONEY.has(role) ? foreignIn(heading, this.shape.around.currency) : null;
    if (foreign !== null)
      return this.cell(
        text,
        at,
        'notUnderstood',
        row,
        null,
        fault('scheduleCurrency', { text: `${text} ${foreign}`, currency: this.shape.around.currency }),
      );
    const own: Around = {
      ...this.shape.around,
      kg: weightUnitIn(heading) ?? this.shape.around.kg,
      cm: lengthUnitIn(heading) ?? this.shape.around.cm,
    };
    let heard = hear(HUNDREDTHS.test(heading) && MONEY.has(role) ? `${text} ct` : text, role, own);
    if (heard === null)
      return this.cell(text, at, 'notUnderstood', row, null, fault('scheduleCell', { text, column: role }));
    const wrong = this.wrongIn(heard.said, text);
    if (wrong !== null) return this.cell(text, at, 'notUnderstood', row, null, wrong);
    // Words that no figure has may say more than was read: then its reading is a question.
    if (heard.or.length === 0 && FIGURES.has(role) && unknownWords(text) !== '')
      heard = { said: heard.said, or: [{ is: 'none' }] };
    if (heard.or.length === 0) return this.cell(text, at, 'sure', row, heard);
    const doubtful = this.cell(text, at, 'doubtful', row, heard);
    const chosen = this.choices[doubtful.key];
    const reading = chosen === undefined ? undefined : [heard.said, ...heard.or][chosen];
    return reading === undefined ? doubtful : { ...doubtful, state: 'sure', said: reading };
  }

  /** A charge: a share, an amount, or both. */
  private readCharge(text: string, at: number, row: Line): CellRead {
    const heard = percentIn(text, this.shape.around) ?? moneyIn(text, this.shape.around);
    const name = row.cells[0] ?? '';
    const of = isCommission(name) ? 'commission' : chargeOf(name);
    const wrong =
      heard === null || of === null || !canBe(of, heard.said)
        ? fault('scheduleCell', { text, column: 'fee' })
        : this.wrongIn(heard.said, text);
    return wrong === null
      ? this.cell(text, at, 'sure', row, heard)
      : this.cell(text, at, 'notUnderstood', row, null, wrong);
  }

  /** What cannot be: money of another currency, a percentage over 100. */
  private wrongIn(said: Said, text: string): Fault | null {
    if (said.is === 'money' && said.currency !== null && said.currency !== this.shape.around.currency)
      return fault('scheduleCurrency', { text, currency: this.shape.around.currency });
    if (said.is === 'percent' && said.tiers.some((t) => t.pct > 1)) return fault('schedulePercent', { text });
    return null;
  }
}
