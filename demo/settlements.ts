/**
 * Settlements of made-up marketplaces for lanes of the demo, drawn by one rule: units of a day by the lane's pace and
 * season, each an order of its own; fees as the lane's own card asks; a share sent back within three weeks; adverts by
 * the week, shelf rent by the month, paid out every second week. A story changes some of it from a day on.
 */
import { clickCostOf } from '../core/actuals/takeOver.ts';
import type { LaneDocument } from '../core/lane/schema.ts';
import { evaluate } from '../core/lane/evaluate.ts';
import type { Line } from '../core/lane/costLines.ts';
import { unitsInMonth } from '../core/lane/steps/demand.ts';
import { dayAfter, daysBefore, firstOfNextMonth } from '../core/money/days.ts';
import { minorDigits, powerOfTen } from '../core/money/money.ts';
import { roundMinor } from '../core/rules/numbers.ts';
import { DAYS_A_MONTH } from '../core/rules/result.ts';
import { drawer } from './drawing.ts';
import type { Draw } from './drawing.ts';

/** What goes otherwise than planned, from a day on (`from`; absent: from the start). */
export type Twist = {
  readonly from?: string;
  /** Units, of those planned. */
  readonly pace?: number;
  readonly price?: number;
  /** What comes back, and what adverts take, times what was planned. */
  readonly returns?: number;
  readonly adverts?: number;
  /** More than the card asks for handling, a unit. */
  readonly handling?: number;
  /** Share of orders whose handling is taken twice. */
  readonly twice?: number;
  /** Units that the warehouse loses in this month, each made good with so much. */
  readonly lost?: { readonly month: string; readonly units: number; readonly each: number };
};
export type Selling = {
  readonly code: string;
  readonly document: LaneDocument;
  readonly since: string;
  readonly twists: readonly Twist[];
};

/** Headings of the reports, and what each of their kinds of lines is. */
export const REPORT_HEADINGS = ['Entry no', 'Posted', 'Order', 'Item', 'Entry', 'Amount', 'Pieces'] as const;
export const REPORT_MAP = {
  columns: { line: 'Entry no', day: 'Posted', order: 'Order', code: 'Item', kind: 'Entry', units: 'Pieces' },
  amounts: [{ column: 'Amount', kind: null }],
  kinds: {
    sold: 'sale',
    commission: 'referral',
    'item rate': 'itemFee',
    'card rate': 'payment',
    extra: 'surcharge',
    handling: 'fulfilment',
    'sent back': 'refund',
    'return rate': 'refundFee',
    campaigns: 'adverts',
    'shelf rent': 'storage',
    'made good': 'reimbursement',
    'paid out': 'transfer',
  },
} as const;
type Entry = keyof (typeof REPORT_MAP)['kinds'];
export type ReportRow = {
  day: string;
  order: string;
  item: string;
  entry: Entry;
  amount: number;
  pieces: number;
};

const FEES: readonly (readonly [Line, Entry])[] = [
  ['referral', 'commission'],
  ['itemFee', 'item rate'],
  ['payment', 'card rate'],
  ['surcharges', 'extra'],
  ['fulfilment', 'handling'],
];
const PAYS_EVERY_DAYS = 14;

/** The twists that hold on a day, the later over the earlier. */
function twistOn({ twists }: Selling, day: string): Twist {
  return Object.assign({}, ...twists.filter((t) => (t.from ?? '') <= day)) as Twist;
}

/** How many of something that happens `mean` times on average. */
function howMany(draw: Draw, mean: number): number {
  const limit = Math.exp(-mean);
  let n = 0;
  for (let p = draw(0, 1, 1e-6); p > limit; p *= draw(0, 1, 1e-6)) n++;
  return n;
}

class Writing {
  readonly rows: ReportRow[] = [];
  private orders = 0;
  private readonly draw: Draw;

  constructor(
    private readonly lane: Selling,
    private readonly to: string,
    seed: number,
  ) {
    this.draw = drawer(seed);
  }

  private cents(x: number): number {
    return roundMinor(x, powerOfTen(minorDigits(this.lane.document.currency)));
  }
  private add(day: string, order: string, entry: Entry, amount: number, pieces = 0): void {
    if (day <= this.to && (amount !== 0 || pieces !== 0))
      this.rows.push({ day, order, item: this.lane.code, entry, amount: this.cents(amount), pieces });
  }

  all(): ReportRow[] {
    const { document: doc, since } = this.lane;
    const perMonth = evaluate(doc).figures.expectedMonthlyUnits ?? 0;
    let [week, month, seven] = [0, 0, 0];
    for (let day = since; day <= this.to; day = dayAfter(day)) {
      const twist = twistOn(this.lane, day);
      const planned = unitsInMonth(perMonth, doc.season, Number(day.slice(5, 7))) / DAYS_A_MONTH;
      const sold = howMany(this.draw, planned * (twist.pace ?? 1));
      for (let i = 0; i < sold; i++) this.sell(day, twist);
      [week, month, seven] = [week + sold, month + sold, seven + 1];
      const { lines } = evaluate(doc);
      if (seven === 7) {
        this.add(day, '', 'campaigns', -week * (lines.adverts ?? 0) * (twist.adverts ?? 1));
        [week, seven] = [0, 0];
      }
      if (dayAfter(day) === firstOfNextMonth(day)) {
        if (doc.method === 'warehouse') this.add(day, '', 'shelf rent', -month * (lines.storage ?? 0));
        month = 0;
        const { lost } = twist;
        if (lost?.month === day.slice(0, 7))
          this.add(day, '', 'made good', lost.units * lost.each, lost.units);
      }
    }
    return this.rows;
  }

  private sell(day: string, twist: Twist): void {
    const { document: doc, code } = this.lane;
    const price = twist.price ?? (doc.price as number);
    const order = `${code}-${String(++this.orders).padStart(5, '0')}`;
    const { lines } = evaluate({ ...doc, price });
    this.add(day, order, 'sold', price, 1);
    for (const [line, entry] of FEES) {
      const own = line === 'fulfilment' && doc.method !== 'warehouse';
      const more = line === 'fulfilment' ? (twist.handling ?? 0) : 0;
      if (!own) this.add(day, order, entry, -((lines[line] ?? 0) + more));
      if (!own && line === 'fulfilment' && this.draw(0, 1, 1e-6) < (twist.twice ?? 0))
        this.add(dayAfter(day), order, entry, -((lines[line] ?? 0) + more));
    }
    const { returns } = doc;
    const rate = returns === null || returns === 'none' ? 0 : (returns.rate ?? 0);
    if (this.draw(0, 1, 1e-6) >= rate * (twist.returns ?? 1)) return;
    const back = daysBefore(day, -this.draw(5, 21, 1));
    this.add(back, order, 'sent back', -price, 1);
    this.add(back, order, 'commission', lines.referral ?? 0);
    this.add(back, order, 'return rate', -Math.min(2, 0.2 * (lines.referral ?? 0)));
  }
}

/** All lines of a place up to a day, in the order of their days, with what is paid out every second week. */
export function settlementRows(lanes: readonly Selling[], to: string, seed: number): ReportRow[] {
  const rows = lanes
    .flatMap((l, i) => new Writing(l, to, seed + i).all())
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.order < b.order ? -1 : 1));
  const out: ReportRow[] = [];
  let open = 0;
  let next = rows[0] === undefined ? '' : daysBefore(rows[0].day, -PAYS_EVERY_DAYS);
  for (const row of rows) {
    while (next !== '' && row.day > next) {
      const amount = -Math.round(open * 100) / 100;
      if (amount < 0) out.push({ day: next, order: '', item: '', entry: 'paid out', amount, pieces: 0 });
      open = Math.min(0, -amount - open);
      next = daysBefore(next, -PAYS_EVERY_DAYS);
    }
    open += row.amount;
    out.push(row);
  }
  return out;
}

/** Headings of an advert report. */
const ADVERT_HEADINGS = ['Week to', 'Item', 'Clicks', 'Spend', 'Orders', 'Sales'];

/**
 * What adverts took of a lane by the week, as its advert report says it: a click costs what the lane plans, times what
 * its story makes of it, and as many buy as the lane plans. Null: the lane plans no adverts.
 */
export function advertFile(rows: readonly ReportRow[], lane: Selling): string | null {
  const { document: doc, code } = lane;
  const click = clickCostOf(doc);
  if (click === null || doc.adverts === null || doc.adverts === 'none') return null;
  const buy = doc.adverts.keywords[0]?.conversionRate ?? 0;
  const weeks = rows
    .filter((r) => r.item === code && r.entry === 'campaigns')
    .map((r) => {
      const twist = twistOn(lane, r.day);
      const clicks = Math.round(-r.amount / (click * (twist.adverts ?? 1)));
      const orders = Math.round(clicks * buy);
      const sales = orders * (twist.price ?? doc.price ?? 0);
      return [r.day, code, clicks, (-r.amount).toFixed(2), orders, sales.toFixed(2)].join(',');
    });
  return [ADVERT_HEADINGS.join(','), ...weeks].join('\n');
}

/** The lines of some days as the marketplace writes them: day first, a comma for the decimals. */
export function settlementFile(rows: readonly ReportRow[], from: string, to: string): string {
  const lines = rows.flatMap((r, i) =>
    r.day < from || r.day > to
      ? []
      : [
          [
            i + 1,
            r.day.split('-').reverse().join('.'),
            r.order,
            r.item,
            r.entry,
            r.amount.toFixed(2).replace('.', ','),
            r.pieces === 0 ? '' : r.pieces,
          ].join(';'),
        ],
  );
  return [REPORT_HEADINGS.join(';'), ...lines].join('\n');
}
