/** Room for the columns of a list that grows, and its words by number. */
import { RESULT_COLUMNS } from '../core/columns/columns.ts';
import type { InputColumn, ListColumns, ListResults, SolvedColumns } from '../core/columns/columns.ts';
import { foldText } from '../core/columns/rank.ts';
import type { Limit, Selected } from '../core/columns/select.ts';
import type { ScreenSettings } from '../core/lists/settings.ts';
import type { Words } from '../between/parts.ts';
import type { Answer, Ask } from '../between/ask.ts';

export const shared = (n: number): Float64Array => new Float64Array(new SharedArrayBuffer(8 * n));

export function makeRoom(n: number): Room {
  const bytes = (size: number): SharedArrayBuffer => new SharedArrayBuffer(size * n);
  const results = {
    ...Object.fromEntries(RESULT_COLUMNS.map((c) => [c, shared(n)])),
    length: n,
    blanks: new Uint32Array(bytes(4)),
    trouble: new Uint8Array(bytes(1)),
  } as ListResults;
  return {
    capacity: n,
    category: new Int16Array(bytes(2)),
    taxClass: new Uint8Array(bytes(1)),
    instead: {},
    results,
    verdicts: new Uint8Array(bytes(1)),
  };
}

/** Values with the place of each: texts of which there are few. */
export class Dictionary {
  readonly values: string[] = [];
  private readonly places = new Map<string, number>();
  codes = new Uint32Array(1024);
  /** Takes rows from `row` on over from a part, which numbers its texts for itself. */
  take(row: number, { values, codes }: Words): void {
    const places = values.map((text) => {
      let at = this.places.get(text);
      if (at === undefined) {
        at = this.values.push(text) - 1;
        this.places.set(text, at);
      }
      return at;
    });
    if (row + codes.length > this.codes.length) {
      const longer = new Uint32Array(Math.max(row + codes.length, this.codes.length * 2));
      longer.set(this.codes);
      this.codes = longer;
    }
    for (let i = 0; i < codes.length; i++) this.codes[row + i] = places[codes[i] as number] as number;
  }
  at(row: number): string {
    return this.values[this.codes[row] as number] as string;
  }
  /** Ranks of rows in the order of the alphabet; blank ones have none. */
  ranks(rows: number): Float64Array {
    const order = this.values
      .map((_, i) => i)
      .sort((a, b) => (foldText(this.values[a] as string) < foldText(this.values[b] as string) ? -1 : 1));
    const rank = new Float64Array(this.values.length);
    order.forEach((value, i) => {
      rank[value] = this.values[value] === '' ? Number.NaN : i;
    });
    const out = new Float64Array(rows);
    for (let i = 0; i < rows; i++) out[i] = rank[this.codes[i] as number] as number;
    return out;
  }
}

/**
 * Columns, results and verdicts of the rows so far, as views of what has room for more; `done` of them are
 * worked out.
 */
export type Evaluated = {
  readonly key: string;
  /** What decided how the rows were read. */
  readonly columnsKey: string;
  readonly settings: ScreenSettings;
  readonly room: Room;
  readonly columns: ListColumns;
  readonly results: ListResults;
  readonly verdicts: Uint8Array;
  /** Break-even price and most to pay of all rows, once a query has asked for them. */
  solved: SolvedColumns | null;
  falseBargains: Uint8Array | null;
  counts: Counts | null;
  readonly done: number;
};

export type Counts = Pick<Answer, 'verdicts' | 'unknown' | 'lacking'>;

/** What goes into an evaluation beside the columns of the list, and what comes out, with room for so many rows. */
export type Room = {
  readonly capacity: number;
  readonly category: Int16Array;
  readonly taxClass: Uint8Array;
  readonly instead: Partial<Record<InputColumn, Float64Array>>;
  readonly results: ListResults;
  readonly verdicts: Uint8Array;
};

/** What people have marked, by barcode; the state of every row so far, and the packs that were confirmed. */
export type Marks = {
  readonly edition: string;
  readonly byKey: ReadonlyMap<number, NonNullable<Ask['marks']>[number]>;
  state: Uint8Array;
  readonly sold: Map<number, [number, number]>;
  readonly listing: Map<number, number>;
  rows: number;
};

export type Chosen = {
  readonly key: string;
  readonly limits: readonly Limit[];
  readonly selected: Selected;
  readonly removed: Uint32Array | null;
};
