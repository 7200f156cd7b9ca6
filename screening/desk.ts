/** What the rows of a list come to under one set of assumptions, and what was last chosen of them. */
import { RESULT_COLUMNS } from '../core/columns/columns.ts';
import type { ListResults } from '../core/columns/columns.ts';
import { preparedBy } from '../core/columns/prepare.ts';
import type { Prepared } from '../core/columns/block.ts';
import type { Ask } from '../between/ask.ts';
import { Choosing } from './choosing.ts';
import { evaluateRange, solveRange } from './evaluateRange.ts';
import type { Range, SolveRange } from './evaluateRange.ts';
import { evaluatorOf, solvedAt, solveRows } from './judged.ts';
import type { Solved } from './judged.ts';
import type { ListRows } from './listRows.ts';
import { makeRoom, shared } from './room.ts';
import type { Evaluated } from './room.ts';

/** Below this many rows a thread costs more than it saves. */
const ALONE = 20_000;

/** What of a question decides how rows are read, before any of them is worked out. */
export const columnsKey = ({ settings, basis, categories }: Ask): string =>
  JSON.stringify([
    basis,
    categories,
    settings.packs,
    settings.taxClass,
    settings.assumptions.category,
    settings.rates.marketplace?.categories.map((c) => c.key),
  ]);
/** What of a question decides what rows come to. */
export const assumedBy = (ask: Ask): string => JSON.stringify([ask.settings, ask.basis, ask.categories]);

/** What size and weight decide of the first `rows` rows. */
export type PreparedRows = Prepared & { readonly key: string; readonly width: number; rows: number };
export type Threads = { run(range: Range | SolveRange): Promise<unknown> };

export class Desk {
  readonly choosing: Choosing;
  evaluated: Evaluated | null = null;
  prepared: PreparedRows | null = null;
  used = 0;

  /** `asker`: who tried assumptions here last. */
  constructor(
    private readonly list: ListRows,
    private readonly threads: Threads,
    private readonly threadCount: number,
    public asker: string,
  ) {
    this.choosing = new Choosing(list);
  }

  private makePrepared(key: string, ask: Ask): PreparedRows {
    const { width } = evaluatorOf(ask.settings);
    return {
      key,
      width,
      bandFees: shared(this.list.capacity * width),
      tiers: new Int16Array(new SharedArrayBuffer(2 * this.list.capacity)),
      rows: 0,
    };
  }

  /** All rows under these assumptions: those that were worked out stay so while more are read. */
  async evaluate(ask: Ask, preparedElsewhere: (key: string) => PreparedRows | null): Promise<Evaluated> {
    const key = assumedBy(ask);
    const n = this.list.length;
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
    if (this.prepared?.key !== preparedKey)
      this.prepared = preparedElsewhere(preparedKey) ?? this.makePrepared(preparedKey, ask);
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
  async solve(e: Evaluated): Promise<void> {
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
  solvedOf(e: Evaluated, rows: readonly number[]): (k: number) => Solved {
    const { solved } = e;
    if (solved !== null) return (k) => solvedAt(solved, rows[k] as number);
    const picked = solveRows(e.columns, e.settings, rows);
    return (k) => solvedAt(picked, k);
  }
}
