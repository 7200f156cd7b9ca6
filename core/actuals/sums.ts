/** What the lines of a settlement come to: by code, month and kind; what is of no product shared out. */
import { KIND_AT, SETTLED_KINDS, settledRule } from './schema.ts';
import type { SettledKind, SettledLine } from './schema.ts';

/**
 * What the lines of a kind come to. Amounts in steps, as they reach the account. `back`: of the amount, what belongs to
 * refunds: charges that come back with one of the same order, VAT that was given back; `tax`: of the amount, null where
 * no line says any.
 */
export type KindSum = {
  readonly amount: number;
  readonly back: number;
  readonly tax: number | null;
  readonly units: number;
  readonly lines: number;
};
/** Of each kind that was settled at all. */
export type KindSums = Readonly<Partial<Record<SettledKind, KindSum>>>;
/** Sums by code of the goods ('': of no one product) and month. */
export type SettledSums = ReadonlyMap<string, ReadonlyMap<string, KindSums>>;

/** The sum of no lines. */
export const NO_SUM: KindSum = { amount: 0, back: 0, tax: null, units: 0, lines: 0 };

const plus = (a: KindSum, b: KindSum): KindSum => ({
  amount: a.amount + b.amount,
  back: a.back + b.back,
  tax: a.tax === null ? b.tax : a.tax + (b.tax ?? 0),
  units: a.units + b.units,
  lines: a.lines + b.lines,
});

/** Several sums as one. */
export function addKinds(all: Iterable<KindSums>): KindSums {
  const out: Partial<Record<SettledKind, KindSum>> = {};
  for (const sums of all)
    for (const [kind, sum] of Object.entries(sums) as [SettledKind, KindSum][])
      out[kind] = plus(out[kind] ?? NO_SUM, sum);
  return out;
}

/** What of a line sums go by. */
export type SummedLine = Pick<SettledLine, 'day' | 'order' | 'code' | 'kind' | 'amount' | 'tax' | 'units'>;

// Of each kind: amount, back, tax, lines that say tax, units, lines.
const FIELDS = 6;
type Cell = Float64Array;

/** Adds lines up as they come; half a million of them allocate nothing but their codes and months. */
export class SummingUp {
  private readonly codes = new Map<string, Map<string, Cell>>();
  private readonly months = new Map<string, string>();
  private last: { code: string; month: string; cell: Cell } | null = null;
  private readonly refunded = new Set<string>();
  /** Charges above 0, of which it is not known until the end whether their order was refunded. */
  private readonly above: { order: string; cell: Cell; at: number; amount: number }[] = [];

  add(line: SummedLine): void {
    if (line.kind === null) return;
    const cell = this.cellOf(line.code, this.monthOf(line.day));
    const at = KIND_AT[line.kind] * FIELDS;
    cell[at] = (cell[at] as number) + line.amount;
    if (line.tax !== null) {
      cell[at + 2] = (cell[at + 2] as number) + line.tax;
      cell[at + 3] = (cell[at + 3] as number) + 1;
    }
    cell[at + 4] = (cell[at + 4] as number) + line.units;
    cell[at + 5] = (cell[at + 5] as number) + 1;
    const { is } = settledRule(line.kind);
    if (is === 'back') this.refunded.add(line.order);
    else if (is === 'vat' && line.amount < 0) cell[at + 1] = (cell[at + 1] as number) + line.amount;
    else if (is === 'cost' && line.amount > 0)
      this.above.push({ order: line.order, cell, at: at + 1, amount: line.amount });
  }

  /** Orders with a charge above 0 of which no line was seen yet that gives money back; '' is none. */
  inDoubt(): string[] {
    const orders = new Set(this.above.map((a) => a.order));
    return [...orders].filter((order) => order !== '' && !this.refunded.has(order));
  }

  /** Some line of the order, of another month maybe, gives money back. */
  refundOf(order: string): void {
    this.refunded.add(order);
  }

  private monthOf(day: string): string {
    let month = this.months.get(day);
    if (month === undefined) {
      month = day.slice(0, 7);
      this.months.set(day, month);
    }
    return month;
  }

  private cellOf(code: string, month: string): Cell {
    // The lines of an order stand together in most files.
    const { last } = this;
    if (last !== null && last.code === code && last.month === month) return last.cell;
    let months = this.codes.get(code);
    if (months === undefined) {
      months = new Map();
      this.codes.set(code, months);
    }
    let cell = months.get(month);
    if (cell === undefined) {
      cell = new Float64Array(SETTLED_KINDS.length * FIELDS);
      months.set(month, cell);
    }
    this.last = { code, month, cell };
    return cell;
  }

  sums(): SettledSums {
    for (const { order, cell, at, amount } of this.above.splice(0))
      if (order !== '' && this.refunded.has(order)) cell[at] = (cell[at] as number) + amount;
    return new Map(
      [...this.codes].map(([code, months]) => [code, new Map([...months].map(([m, c]) => [m, kindsOf(c)]))]),
    );
  }
}

function kindsOf(cell: Cell): KindSums {
  const out: Partial<Record<SettledKind, KindSum>> = {};
  for (const kind of SETTLED_KINDS) {
    const [amount = 0, back = 0, tax = 0, taxed = 0, units = 0, lines = 0] = cell.subarray(
      KIND_AT[kind] * FIELDS,
      (KIND_AT[kind] + 1) * FIELDS,
    );
    if (lines > 0) out[kind] = { amount, back, tax: taxed > 0 ? tax : null, units, lines };
  }
  return out;
}

/**
 * A whole number of steps shared out by weights, so that the parts add up to it: each gets its share rounded down,
 * and what is left goes, a step each, to those that lost most by it. None where no weight is above 0.
 *
 * @example shareOut(10, [1, 1, 1]) // [4, 3, 3]
 * @example shareOut(-10, [1, 0]) // [-10, 0]
 * @example shareOut(5, [0, 0]) // null
 */
export function shareOut(total: number, weights: readonly number[]): number[] | null {
  const whole = weights.reduce((s, w) => s + Math.max(0, w), 0);
  if (whole <= 0) return null;
  const sign = total < 0 ? -1 : 1;
  const exact = weights.map((w) => (Math.abs(total) * Math.max(0, w)) / whole);
  const parts = exact.map(Math.floor);
  let left = Math.abs(total) - parts.reduce((s, p) => s + p, 0);
  const order = exact
    .map((x, i) => [x - Math.floor(x), i] as const)
    .sort((a, b) => b[0] - a[0] || a[1] - b[1]);
  for (const [, i] of order) {
    if (left < 1) break;
    parts[i] = (parts[i] as number) + 1;
    left--;
  }
  return parts.map((p) => (p === 0 ? 0 : sign * p));
}

const inSales = (sums: KindSums): number =>
  Math.max(0, (sums.sale?.amount ?? 0) + (sums.delivery?.amount ?? 0) + (sums.discount?.amount ?? 0));

/** What of `sums` was shared out to each code by month, and what no code could take. */
export type SharedOut = { readonly by: SettledSums; readonly left: ReadonlyMap<string, KindSums> };

/**
 * Charges of the account that are of no one product, shared out over all codes by what each sold in that month, to
 * the last step. Where nothing was sold they are left, and are named.
 */
export function sharedOut(sums: SettledSums): SharedOut {
  const by = new Map<string, Map<string, KindSums>>();
  const left = new Map<string, KindSums>();
  const codes = [...sums.keys()].filter((c) => c !== '');
  for (const [month, kinds] of sums.get('') ?? []) {
    const weights = codes.map((c) => inSales(sums.get(c)?.get(month) ?? {}));
    for (const [kind, sum] of Object.entries(kinds) as [SettledKind, KindSum][]) {
      const { is, line } = settledRule(kind);
      if (is === 'aside') continue;
      const isCharge = is === 'cost' || (is === 'told' && line !== undefined);
      const parts = isCharge ? shareOut(sum.amount, weights) : null;
      if (parts === null) {
        left.set(month, addKinds([left.get(month) ?? {}, { [kind]: sum }]));
        continue;
      }
      const taxes = sum.tax === null ? null : shareOut(sum.tax, weights);
      codes.forEach((code, i) => {
        if (parts[i] === 0) return;
        const months = by.get(code) ?? new Map<string, KindSums>();
        by.set(code, months);
        const own: KindSum = { ...NO_SUM, amount: parts[i] as number, tax: taxes?.[i] ?? null };
        months.set(month, addKinds([months.get(month) ?? {}, { [kind]: own }]));
      });
    }
  }
  return { by, left };
}

/** What codes were settled, in one month or in all. */
export function kindsOfCodes(
  sums: SettledSums,
  codes: readonly string[],
  month: string | null = null,
): KindSums {
  return addKinds(
    codes.flatMap((code) =>
      [...(sums.get(code) ?? [])].flatMap(([m, kinds]) => (month === null || m === month ? [kinds] : [])),
    ),
  );
}

/** The kinds that anything was settled of in a month: only of these is it known what was not charged. */
export function kindsSettled(sums: SettledSums, month: string): ReadonlySet<SettledKind> {
  const kinds = new Set<SettledKind>();
  for (const months of sums.values())
    for (const kind of Object.keys(months.get(month) ?? {})) kinds.add(kind as SettledKind);
  return kinds;
}
