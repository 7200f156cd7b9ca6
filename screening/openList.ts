/**
 * One list in memory: its rows, what they come to under a set of assumptions, and what a query leaves of them. A
 * changed question keeps what it leaves as it was.
 */
import { setImmediate } from 'node:timers/promises';
import { laneOfRow } from '../core/columns/assumptions.ts';
import { limitWarning } from '../core/columns/select.ts';
import { judgeHurdles, remedyFor } from '../core/lane/hurdles.ts';
import { asksForSolved, isSolved } from '../core/lists/query.ts';
import { LIST_FIGURES } from '../core/lists/figures.ts';
import { codeOf, PART_NUMBERS } from '../between/parts.ts';
import type { PartNumber } from '../between/parts.ts';
import { allRows, countsOf, facetOf, statsOf } from './summaries.ts';
import { MARK_STATES } from '../between/ask.ts';
import type { Answer, Ask, FigureStats, JudgedRow, ListRow, OpenedRow } from '../between/ask.ts';
import { judgeAhead, judgedAt, known } from './judged.ts';
import type { Solved } from './judged.ts';
import { assumedBy, columnsKey, Desk } from './desk.ts';
import type { Threads } from './desk.ts';
import { ListRows } from './listRows.ts';
import type { Evaluated, Chosen } from './room.ts';

/** Sets of assumptions that are kept worked out, so that people who try different ones do not wait for each other. */
const DESKS = { short: 4, long: 2, longFrom: 300_000 } as const;

export class OpenList {
  used = Date.now();
  private readonly list: ListRows;
  private readonly desks: Desk[] = [];
  private questions = 0;
  private work: Promise<unknown> = Promise.resolve();

  constructor(
    folder: string,
    private readonly threads: Threads,
    private readonly threadCount: number,
  ) {
    this.list = new ListRows(folder);
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
    const desk = this.deskFor(ask);
    const e = await this.evaluate(desk, ask);
    const t2 = performance.now();
    const c = desk.choosing.choose(ask, e);
    const t3 = performance.now();
    const kept = c.selected.rows.length;
    const rows = desk.choosing.ordered(ask, e, c);
    const t4 = performance.now();
    const shown = [...rows.subarray(ask.from, ask.from + ask.count)];
    const solved = desk.solvedOf(e, shown);
    const window = shown.map((i, k) => this.row(ask, e, c, i, solved(k)));
    return {
      rows: this.rows,
      kept,
      funnel: this.funnel(desk, ask, e, c),
      window,
      ...countsOf(e, this.rows),
      strange: ask.facets ? this.list.strange(ask) : [],
      stats: await this.sums(desk, ask, e, c, left),
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
  private async sums(
    desk: Desk,
    ask: Ask,
    e: Evaluated,
    c: Chosen,
    left?: AbortSignal,
  ): Promise<FigureStats[]> {
    const stats: FigureStats[] = [];
    for (const f of ask.figures) {
      if (e.solved === null && isSolved(f)) continue;
      stats.push(statsOf(f, desk.choosing.figure(f, e), this.rows, c.selected.rows, e.results.blanks));
      // Sums take a while: a turn of the event loop tells whether somebody still waits for them.
      await setImmediate();
      left?.throwIfAborted();
    }
    return stats;
  }

  /** What each limit takes, and where one sits badly: that is looked at where sums are asked for. */
  private funnel(desk: Desk, ask: Ask, e: Evaluated, { limits, selected }: Chosen): Answer['funnel'] {
    const shift = ask.query.text.trim() === '' ? 0 : 1;
    const all = allRows(this.rows);
    return limits.map((_, k) => {
      const f = ask.query.filters[k - shift];
      const values = ask.figures.length > 0 && f?.kind === 'range' ? desk.choosing.figure(f.figure, e) : null;
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
    const changed = this.list.takeMarks(ask);
    for (const desk of this.desks) {
      if (widened) desk.evaluated = desk.prepared = null;
      if (grown || widened) desk.choosing.forget();
      if (ranked) desk.choosing.forgetOrder();
      if (changed?.packs || changed?.listings) desk.evaluated = null;
      if (changed?.listings) desk.prepared = null;
      if (changed?.marks) desk.choosing.forget();
    }
    return changed !== null;
  }

  /**
   * Where a question is worked out: where its assumptions are already; else where whoever asks tried others
   * before; else at a new desk, or that which was left alone the longest.
   */
  private deskFor(ask: Ask): Desk {
    const key = assumedBy(ask);
    const most = this.rows > DESKS.longFrom ? DESKS.long : DESKS.short;
    let desk =
      this.desks.find((d) => d.evaluated?.key === key) ?? this.desks.find((d) => d.asker === ask.asker);
    if (desk === undefined && this.desks.length < most) {
      desk = new Desk(this.list, this.threads, this.threadCount, ask.asker);
      this.desks.push(desk);
    }
    desk ??= this.desks.reduce((oldest, d) => (d.used < oldest.used ? d : oldest));
    desk.used = ++this.questions;
    return desk;
  }

  /** All rows under the assumptions of a question, with what is solved for where it orders or limits by that. */
  private async evaluate(desk: Desk, ask: Ask): Promise<Evaluated> {
    if (desk.evaluated?.key !== assumedBy(ask)) desk.asker = ask.asker;
    const e = await desk.evaluate(
      ask,
      (key) => this.desks.find((d) => d.prepared?.key === key)?.prepared ?? null,
    );
    if (asksForSolved(ask.query)) await desk.solve(e);
    return e;
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
      const desk = this.deskFor(ask);
      const e = await this.evaluate(desk, ask);
      const c = desk.choosing.choose(ask, e);
      const row = this.list.rowOfLine(line);
      if (row < 0) return null;
      if ((this.list.numbers.listings[row] as number) > 1) await this.list.loadListings();
      return {
        inputs: this.list.inputs(e, row),
        row: this.row({ ...ask, remedies: true }, e, c, row, desk.solvedOf(e, [row])(0)),
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
      const read = columnsKey(ask);
      const e = this.desks.find((d) => d.evaluated?.columnsKey === read)?.evaluated ?? null;
      if (e === null || this.list.marks?.edition !== ask.marksEdition) return null;
      const rows = lines.map((line) => this.list.rowOfLine(line));
      return rows.includes(-1) ? null : judgeAhead(e.columns, ask.settings, rows);
    });
    this.work = next.catch(() => undefined);
    return next;
  }
}

/** Figures that stand in the file, whatever the assumptions. */
const FILED = LIST_FIGURES.filter((f) => (PART_NUMBERS as readonly string[]).includes(f));
