/** Rows of a list through the columns, a batch at a time: what they come to, and what is counted on the way. */
import { makeColumns, makeResults, makeSolved, SOLVED_COLUMNS, TROUBLES } from '../core/columns/columns.ts';
import { ListEvaluator } from '../core/columns/evaluate.ts';
import { makePrepared } from '../core/columns/prepare.ts';
import { solveColumns } from '../core/columns/solve.ts';
import { judgeRows, VERDICTS } from '../core/columns/verdicts.ts';
import { packsAsNamed } from '../core/goods/packs.ts';
import { blanksIn } from '../core/lane/blanks.ts';
import { boundOf } from '../core/lane/bounds.ts';
import type { LastEdition } from '../core/lists/editions.ts';
import type { Choice, Reference } from '../core/lists/reference.ts';
import { faultOfRow } from '../core/lists/rows.ts';
import type { RowRead, RowReader } from '../core/lists/rows.ts';
import type { ScreenSettings } from '../core/lists/settings.ts';
import { sayFault } from '../words/index.ts';

const FIGURES = [
  'quantity',
  'paid',
  'landedCost',
  'fees',
  'fulfilment',
  'unitProfit',
  'margin',
  'roi',
  'profitPerMonth',
] as const;
const HEAD = [
  'row',
  'barcode',
  'title',
  'brand',
  'purchasePrice',
  'shelfPrice',
  'unitsAMonth',
  'pack',
  ...FIGURES,
  'verdict',
  'why',
  'bound',
];

/** Cells of a row that is written. */
export type Line = readonly (string | number | null)[];
/** Shown to six decimals at most; unknown is blank, never 0. */
const figure = (x: number | undefined): number | null =>
  x === undefined || !Number.isFinite(x) ? null : Math.round(x * 1e6) / 1e6;

/** What stands beside the list: market figures of one's own, the supplier's last edition. */
export type Beside = { readonly reference: Reference | null; readonly last: LastEdition | null };
type Wanted = {
  /** Verdicts that are written; empty: all. */
  readonly only: readonly string[];
  readonly reference?: string | undefined;
  readonly previous?: string | undefined;
  readonly choose?: Choice;
  readonly solve?: boolean;
  readonly invalid: string | undefined;
};
type Found = RowRead & { readonly listings: number };
/** Counts by name. */
class Tally {
  private readonly counts = new Map<string, number>();
  add(what: string): void {
    this.counts.set(what, (this.counts.get(what) ?? 0) + 1);
  }
  toString(): string {
    return [...this.counts].map(([k, n]) => `${n} ${k}`).join(', ');
  }
}

export class Screening {
  readonly head: readonly string[];
  beside: Beside = { reference: null, last: null };
  private readonly evaluator: ListEvaluator;
  private readonly rates: ConstructorParameters<typeof ListEvaluator>[1];
  private readonly places = new Map<string, number>();
  private capacity = 0;
  private columns = makeColumns(0);
  private results = makeResults(0);
  private verdicts = new Uint8Array(0);
  private prepared;
  private solved = makeSolved(0);
  private readonly counts = { completed: 0, valid: 0, invalid: 0, repaired: 0 };
  private readonly tallies = { troubles: new Tally(), verdicts: new Tally(), changes: new Tally() };

  constructor(
    private readonly settings: ScreenSettings,
    private readonly wanted: Wanted,
  ) {
    this.rates = { ...settings.rates, country: settings.country, currency: settings.currency };
    this.evaluator = new ListEvaluator(settings.assumptions, this.rates);
    this.prepared = makePrepared(0, this.evaluator.width);
    this.head = [
      ...HEAD,
      ...(wanted.solve ? SOLVED_COLUMNS : []),
      ...(wanted.reference === undefined ? [] : ['listings']),
      ...(wanted.previous === undefined ? [] : ['change', 'priceBefore']),
    ];
  }

  /** Place of a category on the card; one that the card does not have is the list's own, where it names one. */
  readonly categoryAt = (text: string): number => {
    let at = this.places.get(text);
    if (at === undefined) {
      at = this.evaluator.categoryAt(text === '' ? null : text);
      if (at === -2 && this.settings.assumptions.category !== null) at = this.evaluator.categoryAt(null);
      this.places.set(text, at);
    }
    return at;
  };

  /** Screens a batch; rows that can be used, as they are written, and those that cannot, with why. */
  screen(
    reader: RowReader,
    batch: readonly (readonly string[])[],
    lines: ArrayLike<number>,
  ): { good: Line[]; bad: Line[] } {
    this.need(batch.length);
    const { columns, results, verdicts, evaluator } = this;
    const rows = batch.map((cells, i) => this.read(reader, cells, lines[i] as number, i));
    evaluator.prepare(columns, this.prepared);
    evaluator.run(columns, results, 0, batch.length);
    if (this.wanted.solve) solveColumns(evaluator, columns, this.prepared, this.solved);
    judgeRows(this.settings.assumptions, this.rates, columns, results, verdicts, 0, batch.length);
    const good: Line[] = [];
    const bad: Line[] = [];
    rows.forEach((row, i) => {
      const cells = batch[i] as readonly string[];
      const at = lines[i] as number;
      if (row.troubles.length > 0) this.refuse(row, cells, at, bad);
      else this.take(row, reader, cells, at, i, good);
    });
    return { good, bad };
  }

  /** What was counted, in the words of the command line. */
  told() {
    const { reference, last } = this.beside;
    const { completed, ...counts } = this.counts;
    const { troubles, verdicts, changes } = this.tallies;
    return {
      ...counts,
      troubles: String(troubles),
      verdicts: String(verdicts),
      completed: reference === null ? null : { rows: completed, listings: reference.count },
      changes: last === null ? null : { what: String(changes), gone: last.gone },
    };
  }

  private need(rows: number): void {
    if (rows <= this.capacity) return;
    this.capacity = rows;
    this.columns = makeColumns(rows, [this.settings.taxClass]);
    this.results = makeResults(rows);
    this.verdicts = new Uint8Array(rows);
    this.prepared = makePrepared(rows, this.evaluator.width);
    this.solved = makeSolved(rows);
  }

  private read(reader: RowReader, cells: readonly string[], line: number, i: number): Found {
    const { columns } = this;
    const row = reader.read(cells, line, columns, i, this.categoryAt);
    const { reference } = this.beside;
    const found =
      reference === null || row.key === ''
        ? null
        : reference.complete(row.key, columns, i, this.wanted.choose ?? 'sellsFastest');
    if (found?.filled) this.counts.completed++;
    if (this.settings.packs === 'bought') {
      const packs = packsAsNamed(row.pack, row.listingPack > 0 ? row.listingPack : (found?.pack ?? 0));
      columns.soldPack[i] = packs.sold;
      columns.boughtPack[i] = packs.bought;
    }
    return { ...row, listings: found?.matches ?? 0 };
  }

  private refuse(row: Found, cells: readonly string[], line: number, bad: Line[]): void {
    this.counts.invalid++;
    for (const t of row.troubles) this.tallies.troubles.add(t.what);
    if (this.wanted.invalid === undefined) return;
    const said = row.troubles.map((t) => sayFault(faultOfRow(t)));
    bad.push([...cells, line, said.map((x) => x.problem).join('; '), said.map((x) => x.remedy).join(' ')]);
  }

  private take(
    row: Found,
    reader: RowReader,
    cells: readonly string[],
    line: number,
    i: number,
    good: Line[],
  ): void {
    const { columns, results } = this;
    this.counts.valid++;
    if (row.repaired) this.counts.repaired++;
    const verdict = VERDICTS[this.verdicts[i] as number] as string;
    this.tallies.verdicts.add(verdict);
    if (this.wanted.only.length > 0 && !this.wanted.only.includes(verdict)) return;
    const trouble = TROUBLES[results.trouble[i] as number] as string;
    const blanks = blanksIn(results.blanks[i] as number);
    const now = this.beside.last?.compare(row.key, columns.cost[i] as number) ?? null;
    if (now !== null) this.tallies.changes.add(now.change);
    good.push([
      line,
      row.code,
      reader.text(cells, 'title'),
      reader.text(cells, 'brand'),
      figure(columns.cost[i]),
      figure(columns.price[i]),
      figure(columns.units[i]),
      row.pack === 0 ? null : row.pack,
      ...FIGURES.map((f) => figure(results[f][i])),
      verdict,
      trouble !== '' ? trouble : blanks.join(' '),
      boundOf('unitProfit', blanks) ?? '',
      ...(this.wanted.solve ? SOLVED_COLUMNS.map((f) => figure(this.solved[f][i])) : []),
      ...(this.beside.reference === null ? [] : [row.listings]),
      ...(now === null ? [] : [now.change, figure(now.before)]),
    ]);
  }
}
