/** Which rows a query leaves, and in which order. */
import { foldText } from '../core/columns/rank.ts';
import { selectRows, sortRows } from '../core/columns/select.ts';
import type { Limit, SortKey } from '../core/columns/select.ts';
import type { SolvedColumns } from '../core/columns/columns.ts';
import { VERDICTS } from '../core/columns/verdicts.ts';
import { isSolved } from '../core/lists/query.ts';
import type { ListFilter, ListFlag, ListSort } from '../core/lists/query.ts';
import { costsOf, isListFigure } from '../core/lists/figures.ts';
import type { ListFigure } from '../core/lists/figures.ts';
import { isUnknown } from '../core/rules/numbers.ts';
import { NOTE } from '../between/parts.ts';
import type { PartNumber } from '../between/parts.ts';
import { MARK_STATES } from '../between/ask.ts';
import type { Ask } from '../between/ask.ts';
import { falseBargains } from './falseBargains.ts';
import { judgedColumn } from './judged.ts';
import type { ListRows } from './listRows.ts';
import type { Chosen, Evaluated } from './room.ts';

/** Keeps the last choice and order, so that the next window of the same question is at hand. */
export class Choosing {
  private chosen: Chosen | null = null;
  private order: { key: string; rows: Uint32Array } | null = null;

  constructor(private readonly rows: ListRows) {}

  /** Rows or what they come to have changed: what was chosen no longer holds. */
  forget(): void {
    this.chosen = this.order = null;
  }

  forgetOrder(): void {
    this.order = null;
  }

  /** A figure of all rows. */
  figure(f: ListFigure, e: Evaluated): Float64Array {
    if (isSolved(f)) return (e.solved as SolvedColumns)[f];
    return judgedColumn(f, e) ?? this.rows.column(f as PartNumber);
  }

  choose(ask: Ask, e: Evaluated): Chosen {
    const key = JSON.stringify([ask.query.text, ask.query.filters, ask.show === 'removed']);
    if (this.chosen?.key === key) return this.chosen;
    const limits: Limit[] = ask.query.filters.map((f) => this.limitOf(f, e));
    if (ask.query.text.trim() !== '')
      limits.unshift({
        stays: this.rows.texts.holding(
          foldText(ask.query.text).split(/\s+/).filter(Boolean),
          'all',
          this.rows.length,
        ),
      });
    const selected = selectRows(this.rows.length, limits);
    let removed: Uint32Array | null = null;
    if (ask.show === 'removed') {
      removed = new Uint32Array(this.rows.length - selected.rows.length);
      let n = 0;
      for (let i = 0; i < this.rows.length; i++) if (selected.removedBy[i] !== 0) removed[n++] = i;
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
        if (f.words.length === 0) return { stays: this.mask(() => 1) };
        const holds = this.rows.texts.holding(f.words.map(foldText), 'any', this.rows.length);
        if (f.mode === 'out') for (let i = 0; i < holds.length; i++) holds[i] = holds[i] === 1 ? 0 : 1;
        return { stays: holds };
      }
      case 'oneOf': {
        if (f.values.length === 0) return { stays: this.mask(() => 1) };
        const dictionary = f.of === 'brand' ? this.rows.brands : this.rows.categories;
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
    const out = new Uint8Array(this.rows.length);
    for (let i = 0; i < this.rows.length; i++) out[i] = stays(i);
    return out;
  }

  private flag(flag: ListFlag, e: Evaluated): Uint8Array {
    const { pack, listingPack, notes, listings } = this.rows.numbers;
    const noted = (bit: number): Uint8Array => this.mask((i) => (((notes[i] as number) & bit) === 0 ? 0 : 1));
    const marked = (state: (typeof MARK_STATES)[number]): Uint8Array => {
      const wanted = MARK_STATES.indexOf(state);
      return this.mask((i) => (this.rows.marks?.state[i] === wanted ? 1 : 0));
    };
    switch (flag) {
      case 'multipack':
        return this.mask((i) => ((pack[i] as number) > 1 || (listingPack[i] as number) > 1 ? 1 : 0));
      case 'falseBargain':
        return falseBargains(this.rows, e).slice();
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

  ordered(ask: Ask, e: Evaluated, c: Chosen): Uint32Array {
    const base = ask.show === 'removed' ? (c.removed as Uint32Array) : c.selected.rows;
    if (ask.query.sort.length === 0) return base;
    const key = JSON.stringify([ask.show, ask.query.sort]);
    if (this.order?.key === key) return this.order.rows;
    const keys: SortKey[] = ask.query.sort.flatMap(({ by, down }): SortKey[] => {
      const costs = isListFigure(by) ? costsOf(by) : 0;
      const key = this.sortKey(by, down, e);
      return costs === 0 ? [key] : [{ values: this.wholeness(key.values, costs, e), down: false }, key];
    });
    this.order = { key, rows: sortRows(base, keys) };
    return this.order.rows;
  }

  /**
   * Of each row whether a figure is whole (0), lacks costs (1) or is not known (2): what is a bound comes
   * after what is whole.
   */
  private wholeness(values: Float64Array | Uint32Array, costs: number, e: Evaluated): Float64Array {
    const out = new Float64Array(this.rows.length);
    for (let i = 0; i < this.rows.length; i++)
      out[i] = isUnknown(values[i] as number) ? 2 : ((e.results.blanks[i] as number) & costs) === 0 ? 0 : 1;
    return out;
  }

  private sortKey(by: ListSort['by'], down: boolean, e: Evaluated): SortKey {
    switch (by) {
      case 'line':
        return { values: this.rows.column('line'), down };
      case 'code':
        return { values: this.rows.column('key'), down };
      case 'title':
        return { values: this.rows.titleRanks ?? this.rows.column('line'), down };
      case 'brand':
        return { values: this.rows.brands.ranks(this.rows.length), down };
      case 'category':
        return { values: this.rows.categories.ranks(this.rows.length), down };
      case 'verdict':
        return { values: Float64Array.from(e.verdicts), down };
      default:
        return { values: this.figure(by, e), down };
    }
  }
}
