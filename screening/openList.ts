/**
 * One list in memory: its columns, what they come to under a set of assumptions, and the rows a query leaves,
 * in its order. It stands in one file because each step works on what the step before has left (columns,
 * evaluation, choice, order), and what a changed question leaves as it was has to be seen in one place.
 */
import { isKnown, isUnknown } from '../core/rules/numbers.ts';
import { setImmediate } from 'node:timers/promises';
import { INPUT_COLUMNS, makeResults, pickRows, RESULT_COLUMNS } from '../core/columns/columns.ts';
import type { InputColumn, ListColumns, ListResults, SolvedColumns } from '../core/columns/columns.ts';
import { laneOfRow } from '../core/columns/assumptions.ts';
import type { RowInputs } from '../core/columns/assumptions.ts';
import { preparedBy } from '../core/columns/prepare.ts';
import type { Prepared } from '../core/columns/block.ts';
import { packsAsNamed } from '../core/goods/packs.ts';
import { foldText } from '../core/columns/rank.ts';
import { limitWarning, selectRows, sortRows } from '../core/columns/select.ts';
import type { Limit, SortKey } from '../core/columns/select.ts';
import { VERDICTS } from '../core/columns/verdicts.ts';
import { judgeHurdles, remedyFor } from '../core/lane/hurdles.ts';
import { BIT, FIGURE_BLANKS } from '../core/lane/lines.ts';
import { asksForSolved, isSolved, LIST_FIGURES } from '../core/lists/query.ts';
import type { ListFigure, ListFilter, ListFlag, ListSort } from '../core/lists/query.ts';
import { FILLED } from '../core/lists/reference.ts';
import {
  codeOf,
  FILLED_FROM,
  NOTE,
  PART_NUMBERS,
  readPart,
  readRanks,
  textOf,
} from '../server/files/parts.ts';
import type { Part, PartNumber } from '../server/files/parts.ts';
import { Texts } from './texts.ts';
import { allRows, countsOf, facetOf, statsOf } from './summaries.ts';
import { MARK_STATES } from './ask.ts';
import type { Answer, Ask, FigureStats, JudgedRow, ListRow, OpenedRow, RowListing } from './ask.ts';
import { evaluatorOf, judgeAhead, judgedAt, judgedColumn, known, solvedAt, solveRows } from './judged.ts';
import type { Solved } from './judged.ts';
import { evaluateRange, solveRange } from './evaluateRange.ts';
import type { Range, SolveRange } from './evaluateRange.ts';
import { shared, makeRoom, Dictionary } from './room.ts';
import type { Evaluated, Room, Marks, Chosen } from './room.ts';

/** Below this many rows a thread costs more than it saves. */
const ALONE = 20_000;
/** What a listing of the market figures says, and what of a row it fills. */
const LISTED = ['price', 'units', 'a', 'b', 'c', 'kg'] as const;
const LISTED_BIT = {
  price: FILLED.price,
  units: FILLED.units,
  a: FILLED.size,
  b: FILLED.size,
  c: FILLED.size,
  kg: FILLED.weight,
} as const;
/** Rows for which room is made on the word of a file that is still read. */
const MOST_EXPECTED = 1_200_000;

/** Figures that are bounds where these costs are blank. */
const BOUNDED: Partial<Record<ListFigure, number>> = {
  ...Object.fromEntries(
    (['unitProfit', 'margin', 'roi', 'profitPerMonth', 'landedCost'] as const).map((f) => [
      f,
      FIGURE_BLANKS[f] & ~BIT.demand,
    ]),
  ),
  breakEvenPrice: FIGURE_BLANKS.unitProfit & ~BIT.price,
  mostToPay: FIGURE_BLANKS.unitProfit & ~BIT.goods,
};
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
const ONE_PIECE = { sold: 1, bought: 1 } as const;

export class OpenList {
  rows = 0;
  used = Date.now();
  private capacity = 0;
  private numbers = {} as Record<PartNumber, Float64Array>;
  private readonly texts = new Texts();
  private readonly loaded = new Set<string>();
  private readonly brands = new Dictionary();
  private readonly categoriesOf = new Dictionary();
  private titleRanks: Float64Array | null = null;
  /** Null: the run has none; not there yet: not looked for. */
  private listings: Part | null | undefined;
  private marks: Marks | null = null;
  private evaluated: Evaluated | null = null;
  private chosen: Chosen | null = null;
  /** What size and weight decide of the first `rows` rows. */
  private prepared: (Prepared & { readonly key: string; readonly width: number; rows: number }) | null = null;
  private order: { key: string; rows: Uint32Array } | null = null;
  private work: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly folder: string,
    private readonly threads: { run(range: Range | SolveRange): Promise<unknown> },
    private readonly threadCount: number,
  ) {}

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
    await this.load(ask);
    if (!this.takeMarks(ask)) return { needsMarks: true };
    const t1 = performance.now();
    const e = await this.evaluate(ask);
    if (asksForSolved(ask.query)) await this.solve(e);
    const t2 = performance.now();
    const c = this.choose(ask, e);
    const t3 = performance.now();
    const kept = c.selected.rows.length;
    const rows = this.ordered(ask, e, c);
    const t4 = performance.now();
    const shown = [...rows.subarray(ask.from, ask.from + ask.count)];
    const solved = this.solvedOf(e, shown);
    const window = shown.map((i, k) => this.row(ask, e, c, i, solved(k)));
    const stats: FigureStats[] = [];
    for (const f of ask.figures) {
      if (e.solved === null && isSolved(f)) continue;
      stats.push(statsOf(f, this.figure(f, e), this.rows, c.selected.rows));
      // Sums take a while: a turn of the event loop tells whether somebody still waits for them.
      await setImmediate();
      left?.throwIfAborted();
    }
    const shift = ask.query.text.trim() === '' ? 0 : 1;
    const funnel = c.limits.map((_, k) => {
      const f = ask.query.filters[k - shift];
      let warning: 'cluster' | 'nearlyAll' | null = null;
      if (ask.figures.length > 0 && f?.kind === 'range') {
        const all = allRows(this.rows);
        const values = this.figure(f.figure, e);
        warning =
          (f.min === null ? null : limitWarning(all, values, 'min', f.min)) ??
          (f.max === null ? null : limitWarning(all, values, 'max', f.max));
      }
      return { alone: c.selected.alone[k] as number, left: c.selected.left[k] as number, warning };
    });
    return {
      rows: this.rows,
      kept,
      funnel,
      window,
      ...countsOf(e, this.rows),
      strange: ask.facets ? this.strange(ask) : [],
      stats,
      facets: ask.facets
        ? {
            brand: facetOf(this.brands, c.selected.rows),
            category: facetOf(this.categoriesOf, c.selected.rows),
          }
        : null,
      took: { load: t1 - t0, evaluate: t2 - t1, select: t3 - t2, sort: t4 - t3 },
    };
  }

  // ---- columns
  // -----------------------------------------------------------------------------------------------------

  private async load(ask: Ask): Promise<void> {
    const total = ask.parts.reduce((n, p) => n + p.rows, 0);
    if (total > this.capacity)
      this.widen(
        ask.ranked ? total : Math.max(total, Math.min(MOST_EXPECTED, Math.ceil(ask.expected * 1.03)), 4096),
      );
    for (const p of ask.parts) {
      if (this.loaded.has(p.name)) continue;
      const from = this.rows;
      const part = await readPart(`${this.folder}/${p.name}`, (n, rows) =>
        this.numbers[n].subarray(from, from + rows),
      );
      this.texts.take(from, part);
      this.brands.take(from, part.words.brand);
      this.categoriesOf.take(from, part.words.category);
      this.rows += part.rows;
      this.loaded.add(p.name);
      this.chosen = this.order = null;
    }
    if (ask.ranked && this.titleRanks === null && this.rows > 0) {
      this.titleRanks = await readRanks(`${this.folder}/ranks`);
      this.order = null;
    }
  }

  private widen(capacity: number): void {
    for (const n of PART_NUMBERS) {
      const wider = shared(capacity);
      if (this.rows > 0) wider.set(this.numbers[n].subarray(0, this.rows));
      this.numbers[n] = wider;
    }
    this.capacity = capacity;
    this.evaluated = this.chosen = this.order = this.prepared = null;
  }

  /** Which goods people have marked; false where these marks are not here. */
  private takeMarks(ask: Ask): boolean {
    if (this.marks?.edition !== ask.marksEdition) {
      if (ask.marks === null) return false;
      const before = this.marks;
      this.marks = {
        edition: ask.marksEdition,
        byKey: new Map(ask.marks.map((m) => [m[0], m])),
        state: new Uint8Array(this.capacity),
        sold: new Map(),
        listing: new Map(),
        rows: 0,
      };
      this.markRows(this.marks);
      if (JSON.stringify([...(before?.sold ?? [])]) !== JSON.stringify([...this.marks.sold]))
        this.evaluated = null;
      if (JSON.stringify([...(before?.listing ?? [])]) !== JSON.stringify([...this.marks.listing]))
        this.evaluated = this.prepared = null;
      this.chosen = this.order = null;
    } else if (this.marks.rows < this.rows) this.markRows(this.marks);
    return true;
  }

  private markRows(m: Marks): void {
    if (m.state.length < this.rows) {
      const wider = new Uint8Array(this.capacity);
      wider.set(m.state);
      m.state = wider;
    }
    if (m.byKey.size > 0)
      for (let i = m.rows; i < this.rows; i++) {
        const mark = m.byKey.get(this.numbers.key[i] as number);
        if (mark === undefined) continue;
        m.state[i] = mark[1];
        if (mark[2] !== null && mark[3] !== null) m.sold.set(i, [mark[2], mark[3]]);
        if (mark[4] !== null && (this.numbers.listings[i] as number) > 1) m.listing.set(i, mark[4]);
      }
    m.rows = this.rows;
  }

  // ---- evaluation
  // --------------------------------------------------------------------------------------------------

  /** All rows under these assumptions: those that were worked out stay so while more are read. */
  private async evaluate(ask: Ask): Promise<Evaluated> {
    const key = JSON.stringify([ask.settings, ask.basis, ask.categories]);
    const n = this.rows;
    const before = this.evaluated;
    if (before?.key === key && before.done === n) return before;
    const from = before?.key === key ? before.done : 0;
    const room = before?.room ?? makeRoom(this.capacity);
    if (this.marks !== null && this.marks.listing.size > 0) await this.loadListings();
    const columns = this.columnsFor(ask, room, from);
    const results = {
      ...Object.fromEntries(RESULT_COLUMNS.map((c) => [c, room.results[c].subarray(0, n)])),
      length: n,
      blanks: room.results.blanks.subarray(0, n),
      trouble: room.results.trouble.subarray(0, n),
    } as ListResults;
    const verdicts = room.verdicts.subarray(0, n);
    this.evaluated = this.chosen = this.order = null;
    const rates = { ...ask.settings.rates, country: ask.settings.country, currency: ask.settings.currency };
    const preparedKey = preparedBy(ask.settings.assumptions, rates);
    if (this.prepared?.key !== preparedKey) {
      const { width } = evaluatorOf(ask.settings);
      this.prepared = {
        key: preparedKey,
        width,
        bandFees: shared(this.capacity * width),
        tiers: new Int16Array(new SharedArrayBuffer(2 * this.capacity)),
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

  /**
   * The columns as the assumptions take them: price basis, packs, categories of the card. Rows before `from`
   * stand there already.
   */
  private columnsFor(ask: Ask, room: Room, from: number): ListColumns {
    const n = this.rows;
    const { category, instead } = room;
    const { assumptions, rates } = ask.settings;
    const keys = rates.marketplace?.categories.map((c) => c.key) ?? [];
    const fallback =
      assumptions.category === null
        ? -1
        : keys.indexOf(assumptions.category) >= 0
          ? keys.indexOf(assumptions.category)
          : -2;
    // A category that the card does not have is the list's own, where it names one.
    const place = this.categoriesOf.values.map((word) => {
      if (word === '') return fallback;
      const at = keys.indexOf(ask.categories[word] ?? word);
      return at >= 0 ? at : assumptions.category === null ? -2 : fallback;
    });
    for (let i = from; i < n; i++) category[i] = place[this.categoriesOf.codes[i] as number] as number;
    const inputs = Object.fromEntries(
      INPUT_COLUMNS.map((c) => [c, this.numbers[c].subarray(0, n)]),
    ) as Record<InputColumn, Float64Array>;
    const other = (c: InputColumn): Float64Array => {
      instead[c] ??= shared(room.capacity);
      inputs[c] = instead[c].subarray(0, n);
      return inputs[c];
    };
    if (ask.basis !== 'now') {
      const mean = this.numbers[ask.basis === '30' ? 'price30' : 'price90'];
      const price = other('price');
      for (let i = from; i < n; i++)
        price[i] = isKnown(mean[i] as number) ? (mean[i] as number) : (this.numbers.price[i] as number);
    }
    this.takeListings(inputs, other, category, keys, ask, from);
    const confirmed = this.marks?.sold ?? new Map<number, [number, number]>();
    if (ask.settings.packs === 'bought' || confirmed.size > 0) {
      const counted = ask.settings.packs === 'bought';
      const [sold, bought] = [other('soldPack'), other('boughtPack')];
      for (let i = from; i < n; i++) {
        const packs = counted ? this.packsOf(i) : ONE_PIECE;
        sold[i] = packs.sold;
        bought[i] = packs.bought;
      }
      for (const [i, [s, b]] of confirmed) {
        sold[i] = s;
        bought[i] = b;
      }
    }
    return {
      ...inputs,
      length: n,
      category: category.subarray(0, n),
      taxClass: room.taxClass.subarray(0, n),
      taxClasses: [ask.settings.taxClass],
    };
  }

  /** Market figures of barcodes that have several listings; none where the run has none. */
  private async loadListings(): Promise<void> {
    if (this.listings !== undefined) return;
    this.listings = await readPart(`${this.folder}/listings`).catch((e) => {
      if ((e as { code?: string }).code === 'ENOENT') return null;
      throw e;
    });
  }
  /** First place of a row's barcode among the listings. */
  private listingsFrom({ numbers: { key: keys } }: Part, i: number): number {
    let [lo, hi] = [0, keys.length];
    while (lo < hi) {
      const mid = (lo + hi) >> 1;
      if ((keys[mid] as number) < (this.numbers.key[i] as number)) lo = mid + 1;
      else hi = mid;
    }
    return lo;
  }
  private listingsOf(i: number): RowListing[] {
    if ((this.numbers.listings[i] as number) <= 1 || this.listings == null) return [];
    const { rows, numbers: n, texts, words } = this.listings;
    const counts = this.marks?.listing.get(i) ?? this.numbers.listing[i];
    const out: RowListing[] = [];
    for (let k = this.listingsFrom(this.listings, i); k < rows && n.key[k] === this.numbers.key[i]; k++)
      out.push({
        line: n.line[k] as number,
        title: textOf(texts.title, k),
        price: known(n.price[k] as number),
        units: known(n.units[k] as number),
        kg: known(n.kg[k] as number),
        category: words.category.values[words.category.codes[k] as number] as string,
        counts: n.line[k] === counts,
      });
    return out;
  }
  /** Place of the listing of row `i` that stands in row `line` of the market figures; -1: there is none. */
  private listingAt(i: number, line: number): number {
    if (this.listings == null) return -1;
    const { rows, numbers: n } = this.listings;
    for (let k = this.listingsFrom(this.listings, i); k < rows && n.key[k] === this.numbers.key[i]; k++)
      if (n.line[k] === line) return k;
    return -1;
  }
  /** The packs that the words of a row and of its listing name, that of a listing chosen by hand among them. */
  private packsOf(i: number): { readonly sold: number; readonly bought: number } {
    const line = this.marks?.listing.get(i);
    const k = line === undefined ? -1 : this.listingAt(i, line);
    return packsAsNamed(
      this.numbers.pack[i] as number,
      (k < 0 ? this.numbers.listingPack[i] : this.listings?.numbers.pack[k]) as number,
    );
  }
  /** Where a listing was chosen by hand, what the row had from the market figures is that listing's. */
  private takeListings(
    inputs: Record<InputColumn, Float64Array>,
    other: (c: InputColumn) => Float64Array,
    category: Int16Array,
    keys: readonly string[],
    ask: Ask,
    from: number,
  ): void {
    const chosen = this.marks?.listing ?? new Map<number, number>();
    if (chosen.size === 0 || this.listings == null) return;
    const { numbers: n, words } = this.listings;
    for (const c of LISTED) {
      if (c === 'price' && ask.basis !== 'now') continue;
      const own = other(c);
      own.set(this.numbers[c].subarray(from, this.rows), from);
    }
    for (const [i, line] of chosen) {
      const k = this.listingAt(i, line);
      if (k < 0) continue;
      const had = Math.floor((this.numbers.notes[i] as number) / FILLED_FROM);
      for (const c of LISTED) if ((had & LISTED_BIT[c]) !== 0) inputs[c][i] = n[c][k] as number;
      const word = words.category.values[words.category.codes[k] as number] as string;
      const at = keys.indexOf(ask.categories[word] ?? word);
      if ((had & FILLED.category) !== 0 && at >= 0) category[i] = at;
    }
  }

  /**
   * Rows that pay only as long as packs are not counted: at one piece for one they gain, at the packs their
   * words name they lose.
   */
  private falseBargains(e: Evaluated): Uint8Array {
    if (e.falseBargains !== null) return e.falseBargains;
    const flags = new Uint8Array(this.rows);
    const odd: number[] = [];
    const packs = (i: number) => this.packsOf(i);
    for (let i = 0; i < this.rows; i++) if (packs(i).sold !== packs(i).bought) odd.push(i);
    if (odd.length > 0) {
      const base = pickRows(e.columns, odd);
      const profit = (sold: Float64Array, bought: Float64Array): Float64Array => {
        const out = makeResults(odd.length);
        evaluatorOf(e.settings).run({ ...base, soldPack: sold, boughtPack: bought }, out);
        return out.unitProfit;
      };
      const one = new Float64Array(odd.length).fill(1);
      const plainly = profit(one, one);
      const counted = profit(
        Float64Array.from(odd, (i) => packs(i).sold),
        Float64Array.from(odd, (i) => packs(i).bought),
      );
      odd.forEach((row, k) => {
        if ((plainly[k] as number) > 0 && (counted[k] as number) <= 0) flags[row] = 1;
      });
    }
    e.falseBargains = flags;
    return flags;
  }

  // ---- choosing and ordering
  // ---------------------------------------------------------------------------------------

  private figure(f: ListFigure, e: Evaluated): Float64Array {
    if (isSolved(f)) return (e.solved as SolvedColumns)[f];
    return judgedColumn(f, e) ?? this.numbers[f as PartNumber].subarray(0, this.rows);
  }

  private choose(ask: Ask, e: Evaluated): Chosen {
    const key = JSON.stringify([ask.query.text, ask.query.filters, ask.show === 'removed']);
    if (this.chosen?.key === key) return this.chosen;
    const limits: Limit[] = ask.query.filters.map((f) => this.limitOf(f, e));
    if (ask.query.text.trim() !== '')
      limits.unshift({
        stays: this.texts.holding(foldText(ask.query.text).split(/\s+/).filter(Boolean), 'all', this.rows),
      });
    const selected = selectRows(this.rows, limits);
    let removed: Uint32Array | null = null;
    if (ask.show === 'removed') {
      removed = new Uint32Array(this.rows - selected.rows.length);
      let n = 0;
      for (let i = 0; i < this.rows; i++) if (selected.removedBy[i] !== 0) removed[n++] = i;
    }
    this.order = null;
    this.chosen = { key, limits, selected, removed };
    return this.chosen;
  }

  private limitOf(f: ListFilter, e: Evaluated): Limit {
    switch (f.kind) {
      case 'range':
        return { values: this.figure(f.figure, e), min: f.min, max: f.max, keepUnknown: f.keepUnknown };
      case 'words': {
        const holds = this.texts.holding(f.words.map(foldText), 'any', this.rows);
        if (f.mode === 'out') for (let i = 0; i < holds.length; i++) holds[i] = holds[i] === 1 ? 0 : 1;
        return { stays: holds };
      }
      case 'oneOf': {
        const dictionary = f.of === 'brand' ? this.brands : this.categoriesOf;
        const wanted = new Set(f.values);
        const stays = Uint8Array.from(dictionary.values, (v) => (wanted.has(v) !== f.not ? 1 : 0));
        return { stays: this.mask((i) => stays[dictionary.codes[i] as number] as number) };
      }
      case 'verdict': {
        const stays = Uint8Array.from(VERDICTS, (v) => (f.only.includes(v) ? 1 : 0));
        return { stays: this.mask((i) => stays[e.verdicts[i] as number] as number) };
      }
      case 'flag': {
        const has = this.flag(f.flag, e);
        return { stays: f.is ? has : has.map((x) => 1 - x) };
      }
    }
  }

  private mask(stays: (i: number) => number): Uint8Array {
    const out = new Uint8Array(this.rows);
    for (let i = 0; i < this.rows; i++) out[i] = stays(i);
    return out;
  }

  private flag(flag: ListFlag, e: Evaluated): Uint8Array {
    const { pack, listingPack, notes, listings } = this.numbers;
    const noted = (bit: number): Uint8Array => this.mask((i) => (((notes[i] as number) & bit) === 0 ? 0 : 1));
    const marked = (state: (typeof MARK_STATES)[number]): Uint8Array => {
      const wanted = MARK_STATES.indexOf(state);
      return this.mask((i) => (this.marks?.state[i] === wanted ? 1 : 0));
    };
    switch (flag) {
      case 'multipack':
        return this.mask((i) => ((pack[i] as number) > 1 || (listingPack[i] as number) > 1 ? 1 : 0));
      case 'falseBargain':
        return this.falseBargains(e).slice();
      case 'repaired':
        return noted(NOTE.repaired);
      case 'noMarket':
        return this.mask((i) =>
          isUnknown(e.columns.price[i] as number) || isUnknown(e.columns.units[i] as number) ? 1 : 0,
        );
      case 'severalListings':
        return this.mask((i) => ((listings[i] as number) > 1 ? 1 : 0));
      case 'new':
        return noted(NOTE.isNew);
      case 'dearer':
        return noted(NOTE.dearer);
      case 'cheaper':
        return noted(NOTE.cheaper);
      default:
        return marked(flag);
    }
  }

  private ordered(ask: Ask, e: Evaluated, c: Chosen): Uint32Array {
    const base = ask.show === 'removed' ? (c.removed as Uint32Array) : c.selected.rows;
    if (ask.query.sort.length === 0) return base;
    const key = JSON.stringify([ask.show, ask.query.sort]);
    if (this.order?.key === key) return this.order.rows;
    const keys: SortKey[] = ask.query.sort.flatMap(({ by, down }): SortKey[] => {
      const costs = BOUNDED[by as ListFigure];
      const key = this.sortKey(by, down, e);
      return costs === undefined
        ? [key]
        : [{ values: this.wholeness(key.values, costs, e), down: false }, key];
    });
    this.order = { key, rows: sortRows(base, keys) };
    return this.order.rows;
  }

  /**
   * Of each row whether a figure is whole (0), lacks costs (1) or is not known (2): what is a bound comes
   * after what is whole.
   */
  private wholeness(values: Float64Array | Uint32Array, costs: number, e: Evaluated): Float64Array {
    const out = new Float64Array(this.rows);
    for (let i = 0; i < this.rows; i++)
      out[i] = isUnknown(values[i] as number) ? 2 : ((e.results.blanks[i] as number) & costs) === 0 ? 0 : 1;
    return out;
  }

  private sortKey(by: ListSort['by'], down: boolean, e: Evaluated): SortKey {
    switch (by) {
      case 'line':
        return { values: this.numbers.line.subarray(0, this.rows), down };
      case 'code':
        return { values: this.numbers.key.subarray(0, this.rows), down };
      case 'title':
        return { values: this.titleRanks ?? this.numbers.line.subarray(0, this.rows), down };
      case 'brand':
        return { values: this.brands.ranks(this.rows), down };
      case 'category':
        return { values: this.categoriesOf.ranks(this.rows), down };
      case 'verdict':
        return { values: Float64Array.from(e.verdicts), down };
      default:
        return { values: this.figure(by, e), down };
    }
  }

  // ---- rows and sums
  // -----------------------------------------------------------------------------------------------

  private row(ask: Ask, e: Evaluated, c: Chosen, i: number, solved: Solved): ListRow {
    const bits = c.selected.removedBy[i] as number;
    const shift = ask.query.text.trim() === '' ? 0 : 1;
    const removedBy: number[] = [];
    if (bits !== 0)
      for (let k = 0; k < c.limits.length; k++) if (((bits >>> k) & 1) === 1) removedBy.push(k - shift);
    const judged = judgedAt(e, i, solved);
    const filed = Object.fromEntries(
      FILED.map((f) => [f, known(this.numbers[f as PartNumber][i] as number)]),
    );
    return {
      line: this.numbers.line[i] as number,
      key: this.numbers.key[i] as number,
      code: codeOf(this.numbers.key[i] as number, this.numbers.digits[i] as number),
      title: this.texts.titleAt(i),
      brand: this.brands.at(i),
      category: this.categoriesOf.at(i),
      ...judged,
      figures: { ...filed, ...judged.figures },
      mark: MARK_STATES[this.marks?.state[i] ?? 0] as ListRow['mark'],
      notes: this.numbers.notes[i] as number,
      listings: this.numbers.listings[i] as number,
      listingPack: this.numbers.listingPack[i] as number,
      removedBy,
      remedies: ask.remedies && judged.verdict === 'near' ? this.remedies(e, i) : [],
    };
  }

  /** What a row says of itself, as a lane reads it. */
  inputs(e: Pick<Evaluated, 'columns' | 'settings'>, i: number): RowInputs {
    const { columns: k, settings } = e;
    const at = k.category[i] as number;
    const sides = [k.a[i], k.b[i], k.c[i]] as [number, number, number];
    return {
      cost: known(k.cost[i] as number),
      price: known(k.price[i] as number),
      units: known(k.units[i] as number),
      unitsInSoldPack: k.soldPack[i] as number,
      unitsInBoughtPack: k.boughtPack[i] as number,
      sides: sides.some(Number.isNaN) ? null : sides,
      kg: known(k.kg[i] as number),
      category:
        at >= 0
          ? (settings.rates.marketplace?.categories[at]?.key ?? null)
          : at === -2
            ? this.categoriesOf.at(i) || null
            : null,
      taxClass: settings.taxClass,
      vatRate: known(k.vatRate[i] as number),
      minimumOrder: known(k.minimumOrder[i] as number),
      carton: known(k.carton[i] as number),
      breaks: (
        [
          [k.breakFrom, k.breakCost],
          [k.breakFrom2, k.breakCost2],
        ] as const
      ).flatMap(([from, cost]) =>
        Number.isNaN(cost[i]) ? [] : [{ from: from[i] as number, cost: cost[i] as number }],
      ),
    };
  }

  private remedies(e: Evaluated, i: number): ListRow['remedies'] {
    const { settings } = e;
    const doc = laneOfRow(
      settings.assumptions,
      { ...settings.rates, country: settings.country, currency: settings.currency },
      this.inputs(e, i),
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
      await this.load(ask);
      if (!this.takeMarks(ask)) return null;
      const e = await this.evaluate(ask);
      if (asksForSolved(ask.query)) await this.solve(e);
      const c = this.choose(ask, e);
      const row = this.rowOfLine(line);
      if (row < 0) return null;
      if ((this.numbers.listings[row] as number) > 1) await this.loadListings();
      return {
        inputs: this.inputs(e, row),
        row: this.row({ ...ask, remedies: true }, e, c, row, this.solvedOf(e, [row])(0)),
        listings: this.listingsOf(row),
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
      if (e === null || e.columnsKey !== columnsKey(ask) || this.marks?.edition !== ask.marksEdition)
        return null;
      const rows = lines.map((line) => this.rowOfLine(line));
      return rows.includes(-1) ? null : judgeAhead(e.columns, ask.settings, rows);
    });
    this.work = next.catch(() => undefined);
    return next;
  }

  /** Place of the row that stands at a line of the file; -1: there is none. */
  private rowOfLine(line: number): number {
    const { line: lines } = this.numbers;
    // Rows stand in the order of the file.
    let lo = 0;
    let hi = this.rows - 1;
    while (lo < hi) {
      const mid = (lo + hi) >> 1;
      if ((lines[mid] as number) < line) lo = mid + 1;
      else hi = mid;
    }
    return this.rows > 0 && lines[lo] === line ? lo : -1;
  }

  private strange(ask: Ask): [string, number][] {
    const has = new Set(ask.settings.rates.marketplace?.categories.map((c) => c.key) ?? []);
    return facetOf(this.categoriesOf, allRows(this.rows))
      .filter(([word]) => word !== '' && !has.has(ask.categories[word] ?? word))
      .slice(0, 60);
  }
}

/** Figures that stand in the file, whatever the assumptions. */
const FILED = LIST_FIGURES.filter((f) => (PART_NUMBERS as readonly string[]).includes(f));
