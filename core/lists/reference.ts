/** Market figures of one's own, joined to a list by barcode. */
import { isKnown, isUnknown } from '../rules/numbers.ts';
import type { ListColumns } from '../columns/columns.ts';
import { makeColumns } from '../columns/columns.ts';
import { KeyIndex } from './rows.ts';

/**
 * Which of several listings of one product counts: the one that sells fastest, the cheapest, or the first in
 * the file.
 */
export const CHOICES = ['sellsFastest', 'cheapest', 'first'] as const;
export type Choice = (typeof CHOICES)[number];
/** What of a row came from the market figures, as bits. */
export const FILLED = { price: 1, units: 2, size: 4, weight: 8, category: 16 } as const;

/** Figures that a listing has. */
const FIGURES = ['price', 'units', 'a', 'b', 'c', 'kg'] as const;
/** What of them goes together: three sides or none. */
const TOGETHER = [
  [FILLED.price, ['price']],
  [FILLED.units, ['units']],
  [FILLED.size, ['a', 'b', 'c']],
  [FILLED.weight, ['kg']],
] as const;

export type Completed = {
  /** What the row lacked and found; 0: nothing. */
  readonly filled: number;
  /** How many listings of the product the reference has. */
  readonly matches: number;
  /** Row of the reference that was chosen; 0: none. */
  readonly row: number;
  /** Pieces in the pack of the chosen listing; 0: not known. */
  readonly pack: number;
};
const NOTHING: Completed = { filled: 0, matches: 0, row: 0, pack: 0 };

export type Listing = {
  readonly row: number;
  readonly title: string;
  readonly price: number;
  readonly units: number;
  readonly sides: readonly [number, number, number];
  readonly kg: number;
  /** Pieces in its pack; 0: its words say nothing. */
  readonly pack: number;
  /** Place of its category among those of the file. */
  readonly category: number;
};

/** A reference file in memory: its rows as columns, found by barcode. */
export class Reference {
  private columns: ListColumns = makeColumns(1024);
  private lines = new Uint32Array(1024);
  private next = new Uint32Array(1024);
  private packs = new Uint32Array(1024);
  private readonly titles: string[] = [];
  private readonly first = new KeyIndex();
  private readonly last = new Map<number, number>();
  /** Rows taken in. */
  count = 0;

  /**
   * Takes one row in: `source` holds it at place `i`, `line` is its row in the file, `pack` the pieces that
   * its words name (0: none).
   */
  add(key: string, line: number, source: ListColumns, i: number, pack: number, title = ''): void {
    if (this.count === this.columns.length) this.grow();
    const at = this.count++;
    for (const c of FIGURES) this.columns[c][at] = source[c][i] as number;
    this.columns.category[at] = source.category[i] as number;
    this.lines[at] = line;
    this.packs[at] = pack;
    this.titles.push(title);
    // Listings of one product form a chain in the order of the file.
    const head = this.first.note(key, at + 1);
    if (head > 0) {
      const end = this.last.get(head) ?? head;
      this.next[end - 1] = at + 1;
      this.last.set(head, at + 1);
    }
  }

  /** Listings of a product, in the order of the file. */
  listings(key: string): Listing[] {
    const out: Listing[] = [];
    const { columns: k } = this;
    for (let at = this.first.find(key); at > 0; at = this.next[at - 1] as number) {
      const i = at - 1;
      out.push({
        row: this.lines[i] as number,
        title: this.titles[i] as string,
        price: k.price[i] as number,
        units: k.units[i] as number,
        sides: [k.a[i] as number, k.b[i] as number, k.c[i] as number],
        kg: k.kg[i] as number,
        pack: this.packs[i] as number,
        category: k.category[i] as number,
      });
    }
    return out;
  }

  /** Barcodes that have more than one listing, with these. */
  *several(): Generator<{ readonly key: number; readonly listings: readonly Listing[] }> {
    for (const key of this.first.numbers()) {
      const listings = this.listings(String(key));
      if (listings.length > 1) yield { key, listings };
    }
  }

  /** Fills what row `i` of a list lacks from the chosen listing of its product; what the list says itself stays. */
  complete(key: string, columns: ListColumns, i: number, choice: Choice): Completed {
    let best = 0;
    let matches = 0;
    for (let at = this.first.find(key); at > 0; at = this.next[at - 1] as number) {
      matches++;
      if (best === 0 || this.better(at - 1, best - 1, choice)) best = at;
    }
    if (best === 0) return NOTHING;
    let filled = 0;
    for (const [bit, names] of TOGETHER) {
      // Three sides are of one piece: they are taken together, where one is missing.
      if (
        names.every((c) => !Number.isNaN(columns[c][i])) ||
        names.some((c) => Number.isNaN(this.columns[c][best - 1]))
      )
        continue;
      for (const c of names) columns[c][i] = this.columns[c][best - 1] as number;
      filled |= bit;
    }
    const category = this.columns.category[best - 1] as number;
    if ((columns.category[i] as number) < 0 && category >= 0) {
      columns.category[i] = category;
      filled |= FILLED.category;
    }
    return { filled, matches, row: this.lines[best - 1] as number, pack: this.packs[best - 1] as number };
  }

  /** Whether listing `x` beats `y`; what is not known beats nothing. */
  private better(x: number, y: number, choice: Choice): boolean {
    if (choice === 'first') return false;
    const values = choice === 'sellsFastest' ? this.columns.units : this.columns.price;
    const [a, b] = [values[x] as number, values[y] as number];
    return isKnown(a) && (isUnknown(b) || (choice === 'sellsFastest' ? a > b : a < b));
  }

  private grow(): void {
    const wider = makeColumns(this.columns.length * 2);
    for (const c of FIGURES) wider[c].set(this.columns[c]);
    wider.category.set(this.columns.category);
    this.columns = wider;
    for (const field of ['lines', 'next', 'packs'] as const) {
      const longer = new Uint32Array(wider.length);
      longer.set(this[field]);
      this[field] = longer;
    }
  }
}
