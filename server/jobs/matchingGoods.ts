/** Goods matched to listings some hundred at a time: few of them here, many in threads beside each other. */
import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { MatchIndex } from '../../core/match/match.ts';
import type { Goods, Listing, Match } from '../../core/match/match.ts';

export type MatchedIn = { readonly listings: readonly Listing[]; readonly noise: readonly string[] };

/** Goods that one asks about at once: between two such lots whoever waits hears how far it is. */
const AT_ONCE = 400;
/** With fewer goods than this threads take longer to start than to match. */
const FEW = 4000;
const MOST_THREADS = 4;

/** What each lot of goods was matched to, in their order. Stopping to ask stops the work. */
export async function* matchedGoods(
  goods: readonly Goods[],
  known: MatchedIn,
  few = FEW,
): AsyncGenerator<Match[]> {
  const lots = Array.from({ length: Math.ceil(goods.length / AT_ONCE) }, (_, i) =>
    goods.slice(i * AT_ONCE, (i + 1) * AT_ONCE),
  );
  if (goods.length < few) {
    const index = new MatchIndex(known.listings, known.noise);
    for (const lot of lots) yield lot.map((g) => index.match(g));
    return;
  }
  const threads = Math.min(MOST_THREADS, availableParallelism());
  const pool = new Piscina({
    filename: new URL('./matchThread.ts', import.meta.url).href,
    minThreads: threads,
    maxThreads: threads,
    execArgv: ['--import', 'tsx'],
    workerData: known,
  });
  try {
    const asked = lots.map((lot) => pool.run(lot) as Promise<Match[]>);
    // Each is waited for in its turn below; until then its failure is nobody's.
    for (const a of asked) a.catch(() => undefined);
    for (const a of asked) yield await a;
  } finally {
    await pool.destroy();
  }
}
