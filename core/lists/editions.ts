/** A supplier's list beside its last edition: what is new, gone, dearer, cheaper. */
import { KeyIndex } from './rows.ts';

export const CHANGES = ['new', 'same', 'dearer', 'cheaper'] as const;
export type Change = (typeof CHANGES)[number];

/** The last edition in memory: barcodes with their purchase prices. */
export class LastEdition {
  private readonly index = new KeyIndex();
  private costs = new Float64Array(1024);
  private seen = new Uint8Array(1024);
  /** Products of the last edition. */
  count = 0;
  /** Of those, how many the new edition has shown so far. */
  met = 0;

  /**
   * Takes a row of the last edition in; the first of several with one barcode counts. Prices in the list's
   * own currency.
   */
  add(key: string, cost: number): void {
    if (this.count === this.costs.length) {
      const costs = new Float64Array(this.count * 2);
      costs.set(this.costs);
      this.costs = costs;
      const seen = new Uint8Array(this.count * 2);
      seen.set(this.seen);
      this.seen = seen;
    }
    if (this.index.note(key, this.count + 1) > 0) return;
    this.costs[this.count++] = cost;
  }

  /**
   * What has become of a product of the new edition, and its price before (NaN: it is new). Prices within
   * half a cent are the same.
   */
  compare(key: string, cost: number): { readonly change: Change; readonly before: number } {
    const at = this.index.find(key);
    if (at === 0) return { change: 'new', before: Number.NaN };
    if (this.seen[at - 1] === 0) {
      this.seen[at - 1] = 1;
      this.met++;
    }
    const before = this.costs[at - 1] as number;
    return {
      change: Math.abs(cost - before) < 0.005 ? 'same' : cost > before ? 'dearer' : 'cheaper',
      before,
    };
  }

  /** Products of the last edition that the new one does not have, once all of it has been compared. */
  get gone(): number {
    return this.count - this.met;
  }
}
