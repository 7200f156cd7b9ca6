/** Market figures of one's own, joined to a list by barcode. */
import type { ListColumns } from '../columns/columns.ts';
import { makeColumns } from '../columns/columns.ts';
import { KeyIndex } from './rows.ts';

/** Which of several listings of one product counts: the one that sells fastest, the cheapest, or the first in the file. */
export const CHOICES = ['sellsFastest', 'cheapest', 'first'] as const;
export type Choice = (typeof CHOICES)[number];
/** What a list may lack and a reference may say. */
const FILLED = ['price', 'units', 'a', 'b', 'c', 'kg'] as const;

export type Completed = {
  /** Rows that lacked something and found it. */
  readonly filled: boolean;
  /** How many listings of the product the reference has. */
  readonly matches: number;
  /** Row of the reference that was chosen; 0: none. */
  readonly row: number;
};
const NOTHING: Completed = { filled: false, matches: 0, row: 0 };

/** A reference file in memory: its rows as columns, found by barcode. */
export class Reference {
  private columns: ListColumns = makeColumns(1024);
  private lines = new Uint32Array(1024);
  private next = new Uint32Array(1024);
  private readonly first = new KeyIndex();
  private readonly last = new Map<number, number>();
  /** Rows taken in. */
  count = 0;

  /** Takes one row in: `source` holds it at place `i`, `line` is its row in the file. */
  add(key: string, line: number, source: ListColumns, i: number): void {
    if (this.count === this.columns.length) this.grow();
    const at = this.count++;
    for (const c of FILLED) this.columns[c][at] = source[c][i] as number;
    this.columns.category[at] = source.category[i] as number;
    this.lines[at] = line;
    // Listings of one product form a chain in the order of the file.
    const head = this.first.note(key, at + 1);
    if (head > 0) {
      const end = this.last.get(head) ?? head;
      this.next[end - 1] = at + 1;
      this.last.set(head, at + 1);
    }
  }

  /** Rows of the file that are about a product, in the order of the file. */
  listings(key: string): { readonly row: number; readonly price: number; readonly units: number }[] {
    const out: { row: number; price: number; units: number }[] = [];
    for (let at = this.first.find(key); at > 0; at = this.next[at - 1] as number) out.push({ row: this.lines[at - 1] as number, price: this.columns.price[at - 1] as number, units: this.columns.units[at - 1] as number });
    return out;
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
    let filled = false;
    for (const c of FILLED) {
      const own = columns[c][i] as number;
      const found = this.columns[c][best - 1] as number;
      if (own !== own && found === found) {
        columns[c][i] = found;
        filled = true;
      }
    }
    const category = this.columns.category[best - 1] as number;
    if ((columns.category[i] as number) < 0 && category >= 0) {
      columns.category[i] = category;
      filled = true;
    }
    return { filled, matches, row: this.lines[best - 1] as number };
  }

  /** Whether listing `x` beats `y`; what is not known beats nothing. */
  private better(x: number, y: number, choice: Choice): boolean {
    if (choice === 'first') return false;
    const values = choice === 'sellsFastest' ? this.columns.units : this.columns.price;
    const [a, b] = [values[x] as number, values[y] as number];
    return a === a && (b !== b || (choice === 'sellsFastest' ? a > b : a < b));
  }

  private grow(): void {
    const wider = makeColumns(this.columns.length * 2);
    for (const c of FILLED) wider[c].set(this.columns[c]);
    wider.category.set(this.columns.category);
    this.columns = wider;
    for (const field of ['lines', 'next'] as const) {
      const longer = new Uint32Array(wider.length);
      longer.set(this[field]);
      this[field] = longer;
    }
  }
}
