/** Rows that only seem to pay. */
import { makeResults, pickRows } from '../core/columns/columns.ts';
import { evaluatorOf } from './judged.ts';
import type { ListRows } from './listRows.ts';
import type { Evaluated } from './room.ts';

/**
 * Rows that pay only as long as packs are not counted: at one piece for one they gain, at the packs their
 * words name they lose.
 */
export function falseBargains(rows: ListRows, e: Evaluated): Uint8Array {
  if (e.falseBargains !== null) return e.falseBargains;
  const flags = new Uint8Array(rows.length);
  const odd: number[] = [];
  const [sold, bought]: [number[], number[]] = [[], []];
  for (let i = 0; i < rows.length; i++) {
    const packs = rows.packsOf(i);
    if (packs.sold === packs.bought) continue;
    odd.push(i);
    sold.push(packs.sold);
    bought.push(packs.bought);
  }
  if (odd.length > 0) {
    const base = pickRows(e.columns, odd);
    const profit = (soldPack: Float64Array, boughtPack: Float64Array): Float64Array => {
      const out = makeResults(odd.length);
      evaluatorOf(e.settings).run({ ...base, soldPack, boughtPack }, out);
      return out.unitProfit;
    };
    const one = new Float64Array(odd.length).fill(1);
    const plainly = profit(one, one);
    const counted = profit(Float64Array.from(sold), Float64Array.from(bought));
    odd.forEach((row, k) => {
      if ((plainly[k] as number) > 0 && (counted[k] as number) <= 0) flags[row] = 1;
    });
  }
  e.falseBargains = flags;
  return flags;
}
