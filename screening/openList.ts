/**
 * One list in memory: its rows, what they come to under a set of assumptions, and what a query leaves of them. A
 * changed question keeps what it leaves as it was.
 */
import { setImmediate } from 'node:timers/promises';
import { RESULT_COLUMNS } from '../core/columns/columns.ts';
import type { ListResults } from '../core/columns/columns.ts';
import { laneOfRow } from '../core/columns/assumptions.ts';
import { preparedBy } from '../core/columns/prepare.ts';
import type { Prepared } from '../core/columns/block.ts';
import { limitWarning } from '../core/columns/select.ts';
import { judgeHurdles, remedyFor } from '../core/lane/hurdles.ts';
import { asksForSolved, isSolved } from '../core/lists/query.ts';
import { LIST_FIGURES } from '../core/lists/fields.ts';
import { codeOf, PART_NUMBERS } from '../server/files/parts.ts';
import type { PartNumber } from '../server/files/parts.ts';
import { allRows, countsOf, facetOf, statsOf } from './summaries.ts';
import { MARK_STATES } from './ask.ts';
import type { Answer, Ask, FigureStats, JudgedRow, ListRow, OpenedRow } from './ask.ts';
import { evaluatorOf, judgeAhead, judgedAt, known, solvedAt, solveRows } from './judged.ts';
import type { Solved } from './judged.ts';
import { evaluateRange, solveRange } from './evaluateRange.ts';
import type { Range, SolveRange } from './evaluateRange.ts';
import { Choosing } from './choosing.ts';
import { ListRows } from './listRows.ts';
import { shared, makeRoom } from './room.ts';
import type { Evaluated, Chosen } from './room.ts';

/** Below this many rows a thread costs more than it saves. */
const ALONE = 20_000;
/** What of a question decides how rows are read, before any of them is worked out. */
const columnsKey = ({ settings, basis, categories }: Ask): string =>
  JSON.stringify([
    basis,
    categories,
    settings.packs,
    settings.taxClass,
    settings.assumptions.category,
    settings.rates.marketplace?.categories.map((c) => c.key),
  ]);

export class OpenList {
  used = Date.now();
  private readonly list: ListRows;
  private readonly choosing: Choosing;
  private evaluated: Evaluated | null = null;
  /** What size and weight decide of the first `rows` rows. */
  private prepared: (Prepared & { readonly key: string; readonly width: number; rows: number }) | null = null;
  private work: Promise<unknown> = Promise.resolve();

  constructor(
    folder: string,
    private readonly threads: { run(range: Range | SolveRange): Promise<unknown> },
    private readonly threadCount: number,
  ) {
    this.list = new ListRows(folder);
    this.choosing = new Choosing(this.list);
  }

  /** Rows in memory. */
  get rows(): number {
    return this.list.length;
  }

  /**
   * Answers one question after another: they share what has been worked out.
   *
   * @throws the signal's reason where whoever asked has left: a question nobody waits for holds up no other.
   */
  answer(ask: Ask, left?: AbortSignal): Promise<Answer | { needsMarks: true }> {
    this.used = Date.now();
    const next = this.work.then(() => this.answerNow(ask, left));
    this.work = next.catch(() => undefined);
    return next;
  }

  private async answerNow(ask: Ask, left?: AbortSignal): Promise<Answer | { needsMarks: true }> {
    left?.throwIfAborted();
    const t0 = performance.now();
    if (!(await this.takeRows(ask))) return { needsMarks: true };
    const t1 = performance.now();
    const e = await this.evaluate(ask);
    if (asksForSolved(ask.query)) await this.solve(e);
    const t2 = performance.now();
    const c = this.choosing.choose(ask, e);
    const t3 = performance.now();
    const kept = c.selected.rows.length;
    const rows = this.choosing.ordered(ask, e, c);
    const t4 = performance.now();
    const shown = [...rows.subarray(ask.from, ask.from + ask.count)];
    const solved = this.solvedOf(e, shown);
    const window = shown.map((i, k) => this.row(ask, e, c, i, solved(k)));
    return {
      rows: this.rows,
      kept,
      funnel: this.funnel(ask, e, c),
      window,
      ...countsOf(e, this.rows),
      strange: ask.facets ? this.list.strange(ask) : [],
      stats: await this.sums(ask, e, c, left),
      facets: ask.facets
        ? {
            brand: facetOf(this.list.brands, c.selected.rows),
            category: facetOf(this.list.categories, c.selected.rows),
          }
        : null,
      took: { load: t1 - t0, evaluate: t2 - t1, select: t3 - t2, sort: t4 - t3 },
    };
  }

  /** Sums and distributions of the figures asked for. */
  private async sums(ask: Ask, e: Evaluated, c: Chosen, left?: AbortSignal): Promise<FigureStats[]> {
    const stats: FigureStats[] = [];
    for (const f of ask.figures) {
      if (e.solved === null && isSolved(f)) continue;
      stats.push(statsOf(f, this.choosing.figure(f, e), this.rows, c.selected.rows));
      // Sums take a while: a turn of the event loop tells whether somebody still waits for them.
      await setImmediate();
      left?.throwIfAborted();
    }
    return stats;
  }

  /** What each limit takes, and where one sits badly: that is looked at where sums are asked for. */
  private funnel(ask: Ask, e: Evaluated, { limits, selected }: Chosen): Answer['funnel'] {
    const shift = ask.query.text.trim() === '' ? 0 : 1;
    const all = allRows(this.rows);
    return limits.map((_, k) => {
      const f = ask.query.filters[k - shift];
      const values = ask.figures.length > 0 && f?.kind === 'range' ? this.choosing.figure(f.figure, e) : null;
      const warn = (bound: 'min' | 'max') =>
        values === null || f?.kind !== 'range' || f[bound] === null
          ? null
          : limitWarning(all, values, bound, f[bound]);
      return {
        alone: selected.alone[k] as number,
        left: selected.left[k] as number,
        warning: warn('min') ?? warn('max'),
      };
    });
  }

  /** Reads what has come to the list, and its marks; false where these marks are not here. */
  private async takeRows(ask: Ask): Promise<boolean> {
    const { grown, widened, ranked } = await this.list.load(ask);
    if (widened) this.evaluated = this.prepared = null;
    if (grown || widened) this.choosing.forget();
    if (ranked) this.choosing.forgetOrder();
    const changed = this.list.takeMarks(ask);
    if (changed === null) return false;
    if (changed.packs || changed.listings) this.evaluated = null;
    if (changed.listings) this.prepared = null;
    if (changed.marks) this.choosing.forget();
    return true;
  }

  /** All rows under these assumptions: those that were worked out stay so while more are read. */
  private async evaluate(ask: Ask): Promise<Evaluated> {
    const key = JSON.stringify([ask.settings, ask.basis, ask.categories]);
    const n = this.rows;
    const before = this.evaluated;
    if (before?.key === key && before.done === n) return before;
    const from = before?.key === key ? before.done : 0;
    const room = before?.room ?? makeRoom(this.list.capacity);
    if (this.list.marks !== null && this.list.marks.listing.size > 0) await this.list.loadListings();
    const columns = this.list.columnsFor(ask, room, from);
    const results = {
      ...Object.fromEntries(RESULT_COLUMNS.map((c) => [c, room.results[c].subarray(0, n)])),
      length: n,
      blanks: room.results.blanks.subarray(0, n),
      trouble: room.results.trouble.subarray(0, n),
    } as ListResults;
    const verdicts = room.verdicts.subarray(0, n);
    this.evaluated = null;
    this.choosing.forget();
    const rates = { ...ask.settings.rates, country: ask.settings.country, currency: ask.settings.currency };
    const preparedKey = preparedBy(ask.settings.assumptions, rates);
    if (this.prepared?.key !== preparedKey) {
      const { width } = evaluatorOf(ask.settings);
      this.prepared = {
        key: preparedKey,
        width,
        bandFees: shared(this.list.capacity * width),
        tiers: new Int16Array(new SharedArrayBuffer(2 * this.list.capacity)),
        rows: 0,
      };
    }
    const { prepared } = this;
    const run = async (first: number, to: number, isReady: boolean): Promise<void> => {
      const range = (a: number, b: number): Range => ({
        task: 'evaluate',
        settings: ask.settings,
        columns,
        results,
        verdicts,
        prepared: { ...prepared, ready: isReady },
        from: a,
        to: b,
      });
      await this.inThreads(first, to, range, evaluateRange);
    };
    const ready = Math.max(from, Math.min(n, prepared.rows));
    if (ready > from) await run(from, ready, true);
    if (n > ready) await run(ready, n, false);
    prepared.rows = Math.max(prepared.rows, n);
    this.evaluated = {
      key,
      columnsKey: columnsKey(ask),
      settings: ask.settings,
      room,
      columns,
      results,
      verdicts,
      solved: null,
      falseBargains: null,
      counts: null,
      done: n,
    };
    return this.evaluated;
  }

  /** Does a range of rows here where it is short, else shared out among the threads. */
  private async inThreads<R extends Range | SolveRange>(
    first: number,
    to: number,
    range: (from: number, to: number) => R,
    here: (range: R) => void,
  ): Promise<void> {
    if (to - first < ALONE) return here(range(first, to));
    const size = Math.ceil((to - first) / this.threadCount);
    await Promise.all(
      Array.from({ length: this.threadCount }, (_, k) =>
        this.threads.run(range(first + k * size, Math.min(to, first + (k + 1) * size))),
      ),
    );
  }

  /** Break-even price and most to pay of all rows: only where a query limits or orders by them. */
  private async solve(e: Evaluated): Promise<void> {
    if (e.solved !== null || this.prepared === null) return;
    const prepared = { ...this.prepared, ready: true };
    const solved = { breakEvenPrice: shared(e.done), mostToPay: shared(e.done) };
    const range = (from: number, to: number): SolveRange => ({
      task: 'solve',
      settings: e.settings,
      columns: e.columns,
      prepared,
      solved,
      from,
      to,
    });
    await this.inThreads(0, e.done, range, solveRange);
    e.solved = solved;
  }

  /** The same of the rows in a window, by their place in it. */
  private solvedOf(e: Evaluated, rows: readonly number[]): (k: number) => Solved {
    const { solved } = e;
    if (solved !== null) return (k) => solvedAt(solved, rows[k] as number);
    const picked = solveRows(e.columns, e.settings, rows);
    return (k) => solvedAt(picked, k);
  }

  private row(ask: Ask, e: Evaluated, c: Chosen, i: number, solved: Solved): ListRow {
    const bits = c.selected.removedBy[i] as number;
    const shift = ask.query.text.trim() === '' ? 0 : 1;
    const removedBy: number[] = [];
    if (bits !== 0)
      for (let k = 0; k < c.limits.length; k++) if (((bits >>> k) & 1) === 1) removedBy.push(k - shift);
    const judged = judgedAt(e, i, solved);
    const filed = Object.fromEntries(
      FILED.map((f) => [f, known(this.list.numbers[f as PartNumber][i] as number)]),
    );
    return {
      line: this.list.numbers.line[i] as number,
      key: this.list.numbers.key[i] as number,
      code: codeOf(this.list.numbers.key[i] as number, this.list.numbers.digits[i] as number),
      title: this.list.texts.titleAt(i),
      brand: this.list.brands.at(i),
      category: this.list.categories.at(i),
      ...judged,
      figures: { ...filed, ...judged.figures },
      mark: MARK_STATES[this.list.marks?.state[i] ?? 0] as ListRow['mark'],
      notes: this.list.numbers.notes[i] as number,
      listings: this.list.numbers.listings[i] as number,
      listingPack: this.list.numbers.listingPack[i] as number,
      removedBy,
      remedies: ask.remedies && judged.verdict === 'near' ? this.remedies(e, i) : [],
    };
  }

  private remedies(e: Evaluated, i: number): ListRow['remedies'] {
    const { settings } = e;
    const doc = laneOfRow(
      settings.assumptions,
      { ...settings.rates, country: settings.country, currency: settings.currency },
      this.list.inputs(e, i),
    );
    return judgeHurdles(doc, settings.assumptions.hurdles).flatMap((h) => {
      if (h.verdict === 'pass') return [];
      const r = remedyFor(doc, h.hurdle);
      return [{ figure: h.hurdle.figure, unitPrice: r.unitPrice, price: r.price }];
    });
  }

  /** The lane document of the row that stands at a line of the file; null where there is none. */
  laneAt(ask: Ask, line: number): Promise<OpenedRow | null> {
    const next = this.work.then(async () => {
      if (!(await this.takeRows(ask))) return null;
      const e = await this.evaluate(ask);
      if (asksForSolved(ask.query)) await this.solve(e);
      const c = this.choosing.choose(ask, e);
      const row = this.list.rowOfLine(line);
      if (row < 0) return null;
      if ((this.list.numbers.listings[row] as number) > 1) await this.list.loadListings();
      return {
        inputs: this.list.inputs(e, row),
        row: this.row({ ...ask, remedies: true }, e, c, row, this.solvedOf(e, [row])(0)),
        listings: this.list.listingsOf(row),
      };
    });
    this.work = next.catch(() => undefined);
    return next;
  }

  /**
   * The rows at these lines under other assumptions, ahead of the whole list; null where more than assumptions
   * has changed, or nothing has been evaluated yet.
   */
  ahead(ask: Ask, lines: readonly number[], left?: AbortSignal): Promise<JudgedRow[] | null> {
    const next = this.work.then(() => {
      left?.throwIfAborted();
      const e = this.evaluated;
      if (e === null || e.columnsKey !== columnsKey(ask) || this.list.marks?.edition !== ask.marksEdition)
        return null;
      const rows = lines.map((line) => this.list.rowOfLine(line));
      return rows.includes(-1) ? null : judgeAhead(e.columns, ask.settings, rows);
    });
    this.work = next.catch(() => undefined);
    return next;
  }
}

/** Figures that stand in the file, whatever the assumptions. */
const FILED = LIST_FIGURES.filter((f) => (PART_NUMBERS as readonly string[]).includes(f));
