/** A workspace with one lane that may go on sale, and reports of what it sold. */
import { Readable } from 'node:stream';
import { beforeEach, expect } from 'vitest';
import { settlementMap } from '../../core/actuals/schema.ts';
import { Refusal } from '../refusal.ts';
import { createCandidates, loadSheet } from '../use/candidates.ts';
import { launchLane } from '../use/launched.ts';
import { savePatches } from '../use/savePatches.ts';
import { loadLaunched } from '../use/selling.ts';
import { readSettlement, receiveSettlement } from '../use/settlements.ts';
import { makeWorkspace, someCandidate } from './workspaces.ts';
import type { TestWorkspace } from './workspaces.ts';

export const PLACE = { marketplace: 'Alderway', country: 'DE', currency: 'EUR' };
export const MAP = settlementMap.parse({
  columns: { line: 'No', day: 'Date', order: 'Order', code: 'Item', kind: 'What', units: 'Qty' },
  amounts: [{ column: 'Amount' }],
  kinds: { sold: 'sale', fee: 'referral', pack: 'fulfilment', back: 'refund', out: 'transfer' },
});
let numbers = 0;
export const row = (day: string, order: string, what: string, amount: number, qty: number | string = '') =>
  `${++numbers},${day},${order},BB,${what},${amount},${qty}`;
/** Orders of a month with the fee for handling that each of them was charged. */
export const month = (m: string, orders: number, pack: number): string[] =>
  Array.from({ length: orders }, (_, i) => {
    const day = `${m}-${String((i % 28) + 1).padStart(2, '0')}`;
    return [
      row(day, `${m}/${i}`, 'sold', 29.9, 1),
      row(day, `${m}/${i}`, 'fee', -2.99),
      row(day, `${m}/${i}`, 'pack', -pack),
    ];
  }).flat();
export const refusalOf = (working: Promise<unknown>): Promise<string> =>
  working.then(
    () => 'nothing was refused',
    (e: unknown) => (e instanceof Refusal ? (e.fault?.code ?? e.reason) : String(e)),
  );

/** A seller whose lane is charged 4 for handling and a tenth of the price; made anew before each test. */
export class Seller {
  w!: TestWorkspace;
  candidateId = '';
  laneId = '';

  async begin(): Promise<void> {
    this.w = await makeWorkspace();
    const [id] = await createCandidates(this.w.id, [someCandidate(this.w)], this.w.personId);
    this.candidateId = id as string;
    this.laneId = (await this.lane())?.id ?? '';
    await this.patch(['typed', 'fulfilmentFee'], 4);
    await this.patch(['typed', 'referralPct'], 0.1);
  }
  sheet() {
    return loadSheet(this.w.id, this.candidateId);
  }
  async lane() {
    return (await this.sheet())?.lanes[0];
  }
  async patch(path: (string | number)[], to: unknown): Promise<void> {
    const sheet = await this.lane();
    const from = path.reduce<unknown>((at, key) => (at as Record<string, unknown>)[key], sheet?.data);
    const own = { entity: 'lane' as const, id: this.laneId, path, from, to };
    const saved = await savePatches(this.w.id, this.candidateId, [own], this.w.personId);
    expect(saved.ok).toBe(true);
  }
  /** Brings a report in and reads it. */
  async bring(lines: readonly string[], map = MAP, heading = 'No,Date,Order,Item,What,Amount,Qty') {
    const bytes = Buffer.from([heading, ...lines].join('\n'));
    const { id } = await receiveSettlement(this.w.id, 'r.csv', Readable.from([bytes]), this.w.personId);
    const said = await readSettlement(this.w.id, id, { place: PLACE, map, sheet: null });
    return { id, said };
  }
  launch(since = '2026-09-01') {
    return launchLane(this.w.id, { laneId: this.laneId, codes: ['BB'], since }, this.w.personId);
  }
  page() {
    return loadLaunched(this.w.id, this.laneId);
  }
  async claims() {
    return (await this.page()).claims;
  }
}

/** A seller for the tests of a file. */
export function seller(): Seller {
  const s = new Seller();
  beforeEach(() => s.begin());
  return s;
}
