/**
 * Takes rows of a supplier's file into a part: read, completed from market figures, held against the last
 * edition.
 */
import type { LastEdition } from '../../core/lists/editions.ts';
import { mapIssues } from '../../core/lists/map.ts';
import type { Reference } from '../../core/lists/reference.ts';
import { faultOfRow, RowReader } from '../../core/lists/rows.ts';
import type { RowRead } from '../../core/lists/rows.ts';
import { FILLED_FROM, NOTE, readPart } from '../../between/parts.ts';
import type { StoredReference } from '../db/schema.ts';
import { refusedRow } from '../files/refusedRows.ts';
import { Refusal } from '../refusal.ts';
import type { Gathering } from './gathering.ts';
import { cut, wellFormed } from './listTask.ts';
import type { Source, Tally } from './listTask.ts';

/** What stands in a text where bytes were no letter. */
const NO_LETTER = '\ufffd';
/** A supplier's categories that are told apart. */
const MOST_CATEGORIES = 32_000;

/** A supplier's categories, each by a number; -1: none, or one too many. */
export class Categories {
  readonly names: string[] = [];
  private readonly places = new Map<string, number>();

  at(text: string): number {
    if (text === '') return -1;
    let at = this.places.get(text);
    if (at === undefined) {
      at = this.names.length < MOST_CATEGORIES ? this.names.push(text.slice(0, 200)) - 1 : -1;
      this.places.set(text, at);
    }
    return at;
  }
}

export class TakingRows {
  header: readonly string[] = [];
  /** Columns that are kept as they are, and where they stand. */
  private more: readonly { key: string; at: number }[] = [];
  private reader: RowReader | null = null;
  private readonly categoryAt: (text: string) => number;
  private readonly choice: StoredReference['choice'];

  constructor(
    private readonly source: Source,
    private readonly reference: Reference | null,
    private readonly last: LastEdition | null,
    private readonly categories: Categories,
  ) {
    this.categoryAt = (text) => categories.at(text);
    this.choice = source.reference?.choice ?? 'first';
  }

  /** Whether rows say more than the columns that are read. */
  get hasMore(): boolean {
    return this.more.length > 0;
  }

  /** Takes the header; refuses one that the mapping does not fit. */
  start(header: readonly string[]): void {
    const { map } = this.source;
    this.header = header;
    const [first] = mapIssues(map, header);
    if (first !== undefined) throw new Refusal('invalid', first);
    this.reader = new RowReader(map, header, 'list', this.source.matched);
    this.more = [
      ...(['link', 'picture', 'notes'] as const).flatMap((role) =>
        map.columns[role] === undefined
          ? []
          : [{ key: role as string, at: header.indexOf(map.columns[role] as string) }],
      ),
      ...map.extras.map((h) => ({ key: h, at: header.indexOf(h) })),
    ].filter((m) => m.at >= 0);
  }

  /** Brings back which barcodes were seen in parts that are stored. */
  async noteSeen(paths: readonly string[]): Promise<void> {
    for (const path of paths) {
      const { rows, numbers } = await readPart(path);
      for (let i = 0; i < rows; i++)
        this.reader?.noteSeen(numbers.key[i] as number, numbers.line[i] as number);
    }
  }

  /** Takes one row into `now`, and counts it in `work`. */
  take(cells: readonly string[], line: number, now: Gathering, work: Tally): void {
    const reader = this.reader as RowReader;
    const i = now.count;
    const n = now.numbers;
    const row: RowRead = reader.read(cells, line, now.columns, i, this.categoryAt, n);
    if (row.troubles.length > 0) {
      this.refuse(cells, line, row, now, work);
      return;
    }
    n.line[i] = line;
    n.key[i] = Number(row.key);
    n.pack[i] = row.pack;
    n.notes[i] =
      this.repaired(row, work) | this.completed(row, now, i, work) | this.compared(row, now, i, work);
    const title = cut(reader.text(cells, 'title'));
    const brand = cut(reader.text(cells, 'brand'));
    if (title.includes(NO_LETTER) || brand.includes(NO_LETTER)) work.garbled++;
    now.count++;
    work.valid++;
    if (!this.source.storing) return;
    const at = now.columns.category[i] as number;
    n.digits[i] = row.code.length;
    now.title.add(title);
    now.brand.add(brand);
    now.category.add(at >= 0 ? (this.categories.names[at] as string) : '');
    now.more.add(this.moreOf(cells));
  }

  private refuse(cells: readonly string[], line: number, row: RowRead, now: Gathering, work: Tally): void {
    work.invalid++;
    for (const t of row.troubles) work.troubles[t.what] = (work.troubles[t.what] ?? 0) + 1;
    const whole = this.header.map((_, k) => cells[k] ?? '');
    now.refused.push(refusedRow(whole, line, row.troubles.map(faultOfRow)));
  }

  private repaired(row: RowRead, work: Tally): number {
    if (!row.repaired) return 0;
    work.repaired++;
    return NOTE.repaired;
  }

  /** What the file lacks, from the market figures; notes what was filled in. */
  private completed(row: RowRead, now: Gathering, i: number, work: Tally): number {
    const n = now.numbers;
    const found = this.reference?.complete(row.key, now.columns, i, this.choice) ?? null;
    n.listingPack[i] = row.listingPack > 0 ? row.listingPack : (found?.pack ?? 0);
    n.listings[i] = found?.matches ?? 0;
    n.listing[i] = found?.row ?? 0;
    if (found === null || found.filled === 0) return 0;
    work.completed++;
    return NOTE.completed | (found.filled * FILLED_FROM);
  }

  /** What the last edition asked for the same goods; notes what is new, dearer or cheaper. */
  private compared(row: RowRead, now: Gathering, i: number, work: Tally): number {
    const n = now.numbers;
    n.before[i] = Number.NaN;
    if (this.last === null) return 0;
    const { change, before } = this.last.compare(row.key, n.cost[i] as number);
    work.changes[change] = (work.changes[change] ?? 0) + 1;
    n.before[i] = before;
    if (change === 'new') return NOTE.isNew;
    return change === 'dearer' ? NOTE.dearer : change === 'cheaper' ? NOTE.cheaper : 0;
  }

  /** The columns kept as they are, as JSON; blank where the row says nothing in them. */
  private moreOf(cells: readonly string[]): string {
    let has: Record<string, string> | null = null;
    for (const m of this.more) {
      const text = (cells[m.at] ?? '').trim();
      if (text === '') continue;
      has ??= {};
      has[m.key] = wellFormed(text.slice(0, 5000));
    }
    return has === null ? '' : JSON.stringify(has);
  }
}
