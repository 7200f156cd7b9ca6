/** The rows of a list in memory: columns, texts, marks, listings of the market figures; nothing worked out yet. */
import { INPUT_COLUMNS } from '../core/columns/columns.ts';
import type { InputColumn, ListColumns } from '../core/columns/columns.ts';
import type { RowInputs } from '../core/columns/assumptions.ts';
import { packsAsNamed } from '../core/goods/packs.ts';
import { FILLED } from '../core/lists/reference.ts';
import { isKnown } from '../core/rules/numbers.ts';
import { FILLED_FROM, PART_NUMBERS, readPart, readRanks, textOf } from '../between/parts.ts';
import type { Part, PartNumber } from '../between/parts.ts';
import type { Ask, RowListing } from '../between/ask.ts';
import { known } from './judged.ts';
import { Dictionary, shared } from './room.ts';
import type { Evaluated, Marks, Room } from './room.ts';
import { allRows, facetOf } from './summaries.ts';
import { Texts } from './texts.ts';

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

const ONE_PIECE = { sold: 1, bought: 1 } as const;

/** What has changed of the rows since the question before. */
export type RowsChanged = {
  /** Rows have come to those that were there. */
  readonly grown: boolean;
  /** Room was made anew: what was worked out beside the rows no longer fits. */
  readonly widened: boolean;
  readonly ranked: boolean;
};
/** What marks have changed: packs, listings chosen by hand, or neither. */
export type MarksChanged = { readonly marks: boolean; readonly packs: boolean; readonly listings: boolean };
const SAME: MarksChanged = { marks: false, packs: false, listings: false };
/** Room for which rows ask at the least. */
const LEAST = 4096;

export class ListRows {
  length = 0;
  capacity = 0;
  readonly numbers = {} as Record<PartNumber, Float64Array>;
  readonly texts = new Texts();
  readonly brands = new Dictionary();
  readonly categories = new Dictionary();
  titleRanks: Float64Array | null = null;
  marks: Marks | null = null;
  private readonly loaded = new Set<string>();
  /** Null: the run has none; not there yet: not looked for. */
  private listings: Part | null | undefined;

  constructor(private readonly folder: string) {}

  /** A column as far as there are rows. */
  column(name: PartNumber): Float64Array {
    return this.numbers[name].subarray(0, this.length);
  }

  /** Reads the parts that are not here yet. */
  async load(ask: Ask): Promise<RowsChanged> {
    const before = this.length;
    const isWider = this.makeRoom(ask);
    for (const p of ask.parts) {
      if (this.loaded.has(p.name)) continue;
      const from = this.length;
      const part = await readPart(`${this.folder}/${p.name}`, (n, rows) =>
        this.numbers[n].subarray(from, from + rows),
      );
      this.texts.take(from, part);
      this.brands.take(from, part.words.brand);
      this.categories.take(from, part.words.category);
      this.length += part.rows;
      this.loaded.add(p.name);
    }
    const ranked = ask.ranked && this.titleRanks === null && this.length > 0;
    if (ranked) this.titleRanks = await readRanks(`${this.folder}/ranks`);
    return { grown: this.length > before, widened: isWider, ranked };
  }

  /** Makes room for what is to come; true where the room is new. */
  private makeRoom(ask: Ask): boolean {
    const total = ask.parts.reduce((n, p) => n + p.rows, 0);
    if (total <= this.capacity) return false;
    const expected = Math.min(MOST_EXPECTED, Math.ceil(ask.expected * 1.03));
    const capacity = ask.ranked ? total : Math.max(total, expected, LEAST);
    for (const n of PART_NUMBERS) {
      const wider = shared(capacity);
      if (this.length > 0) wider.set(this.numbers[n].subarray(0, this.length));
      this.numbers[n] = wider;
    }
    this.capacity = capacity;
    return true;
  }

  /** Which goods people have marked; null where these marks are not here. */
  takeMarks(ask: Ask): MarksChanged | null {
    if (this.marks?.edition !== ask.marksEdition) {
      if (ask.marks === null) return null;
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
      return {
        marks: true,
        packs: !isSame(before?.sold, this.marks.sold),
        listings: !isSame(before?.listing, this.marks.listing),
      };
    }
    if (this.marks.rows < this.length) this.markRows(this.marks);
    return SAME;
  }

  private markRows(m: Marks): void {
    if (m.state.length < this.length) {
      const wider = new Uint8Array(this.capacity);
      wider.set(m.state);
      m.state = wider;
    }
    if (m.byKey.size > 0)
      for (let i = m.rows; i < this.length; i++) {
        const mark = m.byKey.get(this.numbers.key[i] as number);
        if (mark === undefined) continue;
        m.state[i] = mark[1];
        if (mark[2] !== null && mark[3] !== null) m.sold.set(i, [mark[2], mark[3]]);
        if (mark[4] !== null && (this.numbers.listings[i] as number) > 1) m.listing.set(i, mark[4]);
      }
    m.rows = this.length;
  }

  /**
   * The columns as the assumptions take them: price basis, packs, categories of the card. Rows before `from`
   * stand there already.
   */
  columnsFor(ask: Ask, room: Room, from: number): ListColumns {
    const n = this.length;
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
    const place = this.categories.values.map((word) => {
      if (word === '') return fallback;
      const at = keys.indexOf(ask.categories[word] ?? word);
      return at >= 0 ? at : assumptions.category === null ? -2 : fallback;
    });
    for (let i = from; i < n; i++) category[i] = place[this.categories.codes[i] as number] as number;
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
  async loadListings(): Promise<void> {
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
  listingsOf(i: number): RowListing[] {
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
  packsOf(i: number): { readonly sold: number; readonly bought: number } {
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
      own.set(this.numbers[c].subarray(from, this.length), from);
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
            ? this.categories.at(i) || null
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

  /** Place of the row that stands at a line of the file; -1: there is none. */
  rowOfLine(line: number): number {
    const { line: lines } = this.numbers;
    // Rows stand in the order of the file.
    let lo = 0;
    let hi = this.length - 1;
    while (lo < hi) {
      const mid = (lo + hi) >> 1;
      if ((lines[mid] as number) < line) lo = mid + 1;
      else hi = mid;
    }
    return this.length > 0 && lines[lo] === line ? lo : -1;
  }

  /** The supplier's categories that the card does not have, with their rows, most first. */
  strange(ask: Ask): [string, number][] {
    const has = new Set(ask.settings.rates.marketplace?.categories.map((c) => c.key) ?? []);
    return facetOf(this.categories, allRows(this.length))
      .filter(([word]) => word !== '' && !has.has(ask.categories[word] ?? word))
      .slice(0, 60);
  }
}

const isSame = (a: ReadonlyMap<number, unknown> | undefined, b: ReadonlyMap<number, unknown>): boolean =>
  JSON.stringify([...(a ?? [])]) === JSON.stringify([...b]);
