/** The rows of a list that the browser has: which are missing where one looks, and which are let go. */
import { MOST_AHEAD } from '../../../between/ask.ts';
import type { JudgedRow, ListRow } from '../../../between/ask.ts';

/** Rows asked for at once. */
export const CHUNK = 100;
/** More rows than this are not kept: those far from view go. */
const MOST_KEPT = 4000;
const FAR = 1500;

export class RowsAtHand {
  /** Rows in view, by their place from 0. */
  view: readonly [from: number, to: number] = [0, 60];
  private rows: Map<number, ListRow>;
  private readonly asked = new Set<number>();

  /** `key`: what they were asked for, '' before the first answer; `query`: the same, whatever the assumptions. */
  constructor(
    first: readonly ListRow[] = [],
    public key = '',
    public query = '',
  ) {
    this.rows = new Map(first.map((r, i) => [i, r]));
  }

  at(index: number): ListRow | undefined {
    return this.rows.get(index);
  }

  /** Takes the place of all there was: the answer to a question, from row `from` on. */
  replace(from: number, window: readonly ListRow[], key: string, query: string): void {
    this.rows = new Map(window.map((r, i) => [from + i, r]));
    this.asked.clear();
    this.key = key;
    this.query = query;
  }

  /** Rows in view that are there, with their places: those that can be judged ahead of the whole list. */
  seen(): [number, ListRow][] {
    const [from, to] = this.view;
    return [...this.rows].filter(([i]) => i >= from && i <= to).slice(0, MOST_AHEAD);
  }

  /** What rows that were seen come to under other assumptions; their remedies are those of before, so they go. */
  judge(seen: readonly [number, ListRow][], ahead: readonly JudgedRow[]): void {
    for (const [k, [i, r]] of seen.entries()) {
      const judged = ahead[k] as JudgedRow;
      this.rows.set(i, { ...r, ...judged, figures: { ...r.figures, ...judged.figures }, remedies: [] });
    }
  }

  /** First rows of the chunks in view that are to be asked for, each once until it has come. */
  missing(): number[] {
    const [from, to] = this.view;
    const out: number[] = [];
    for (let at = Math.floor(from / CHUNK) * CHUNK; at <= to; at += CHUNK) {
      if (this.asked.has(at) || this.whole(Math.max(from, at), Math.min(to, at + CHUNK - 1))) continue;
      this.asked.add(at);
      out.push(at);
    }
    return out;
  }

  /** A chunk has come, or will not. */
  came(at: number): void {
    this.asked.delete(at);
  }

  put(at: number, window: readonly ListRow[]): void {
    for (const [i, r] of window.entries()) this.rows.set(at + i, r);
    if (this.rows.size <= MOST_KEPT) return;
    for (const i of this.rows.keys()) if (Math.abs(i - this.view[0]) > FAR) this.rows.delete(i);
  }

  private whole(from: number, to: number): boolean {
    for (let i = from; i <= to; i++) if (!this.rows.has(i)) return false;
    return true;
  }
}
