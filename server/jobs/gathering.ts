/** The rows of a list that are read and not yet stored. */
import { INPUT_COLUMNS, makeColumns } from '../../core/columns/columns.ts';
import type { ListColumns } from '../../core/columns/columns.ts';
import type { TextColumn } from '../../core/columns/rank.ts';
import { PART_NUMBERS, TextWriter, WordWriter } from '../../between/parts.ts';
import type { PartNumber, Words } from '../../between/parts.ts';
import type { Gathered } from './storeGathered.ts';

/** Rows of a part of a list, but for its first. */
export const PART = 25_000;
/** Rows that a place takes beyond that: a part ends where a piece of the file does. */
const SPARE = 4_000;

/** A place for the rows of one part; used again for another once they are stored. */
export class Gathering {
  readonly numbers: Record<PartNumber, Float64Array>;
  readonly title = new TextWriter();
  readonly brand = new WordWriter();
  readonly category = new WordWriter();
  /** What else each row says, as JSON; blank where nothing. */
  readonly more = new TextWriter();
  readonly refused: unknown[][] = [];
  count = 0;
  /** Columns that the reader writes into: the numbers of this part, and what goes no further. */
  readonly columns: ListColumns;

  constructor(readonly capacity = PART + SPARE) {
    // Shared, so that the thread that stores them need not get a copy.
    this.numbers = Object.fromEntries(
      PART_NUMBERS.map((n) => [n, new Float64Array(new SharedArrayBuffer(8 * capacity))]),
    ) as Record<PartNumber, Float64Array>;
    const spare = makeColumns(capacity);
    this.columns = {
      ...spare,
      ...Object.fromEntries(INPUT_COLUMNS.map((n) => [n, this.numbers[n]])),
    } as ListColumns;
  }

  /** What is to be stored; its texts are copies of the right length, so that they cross to a thread as they are. */
  gathered(hasMore: boolean): Gathered {
    const exact = ({ bytes, offsets }: TextColumn): TextColumn => ({
      bytes: Uint8Array.from(bytes),
      offsets: offsets.slice(),
    });
    const few = (w: WordWriter): Words => ({ values: w.words().values, codes: w.words().codes.slice() });
    return {
      rows: this.count,
      numbers: this.numbers,
      texts: { title: exact(this.title.column()) },
      words: { brand: few(this.brand), category: few(this.category) },
      more: hasMore ? exact(this.more.column()) : null,
    };
  }
  /** The same rows in a place twice as large. */
  widened(): Gathering {
    const wider = new Gathering(this.capacity * 2);
    for (const n of PART_NUMBERS) wider.numbers[n].set(this.numbers[n]);
    wider.columns.category.set(this.columns.category);
    const { title, brand, category, more, refused, count } = this;
    return Object.assign(wider, { title, brand, category, more, refused, count });
  }

  clear(): void {
    for (const w of [this.title, this.brand, this.category, this.more]) w.clear();
    this.refused.length = 0;
    this.count = 0;
  }
}
