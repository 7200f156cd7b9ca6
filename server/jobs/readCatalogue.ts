/**
 * A shop's catalogue, page by page: its goods and the listings they are sold as become the two files of a list,
 * which is read as any other while they grow. What counts of the files is noted with every part that is stored.
 */
import { CATALOGUE_START } from '../../core/shops/place.ts';
import type { CatalogueChoice } from '../../core/shops/schema.ts';
import { env } from '../env.ts';
import { refused } from '../refusal.ts';
import { feedOf } from '../use/feeds.ts';
import { tallyOf } from './listTask.ts';
import type { CatalogueWork, ListTask, Source } from './listTask.ts';
import { readOn } from './readRows.ts';
import type { Turn } from './readRows.ts';
import { TakingPages } from './takingPages.ts';

/** Milliseconds that pages are taken for before their rows are read: few at first, so that something shows at once. */
const FIRST_ROUND_MS = 500;
const MOST_ROUND_MS = 15_000;
/** Seconds after which a shop that is away is asked again. */
const PAUSE_SECONDS = 5;

const BEGINNING: CatalogueWork = {
  ...CATALOGUE_START,
  listings: 0,
  searches: 0,
  toSearch: null,
  awaySince: null,
  sourceBytes: 0,
  referenceBytes: 0,
};

/**
 * Reads a shop's catalogue from where its task stands, as `readOn` does a file.
 * @throws Refusal with the feed's fault
 */
export async function readCatalogue(
  workspaceId: string,
  taskId: string,
  before: ListTask,
  source: Source,
  choice: CatalogueChoice,
  turn: Turn,
): Promise<ListTask | 'elsewhere'> {
  const feed = await feedOf(workspaceId);
  if (feed === null) throw refused('feedNone');
  const until = Date.now() + turn.turnMs;
  let work: ListTask = tallyOf({ ...before, catalogue: before.catalogue ?? BEGINNING });
  const taking = await TakingPages.begin(workspaceId, source, choice, feed, work.catalogue as CatalogueWork);
  for (let roundMs = FIRST_ROUND_MS; ; roundMs = Math.min(MOST_ROUND_MS, roundMs * 2)) {
    const catalogue = await taking.round(roundMs);
    const searched = choice.market === null || catalogue.searches === catalogue.toSearch;
    const whole = catalogue.category >= choice.categories.length && searched;
    const now = { ...work, catalogue };
    const more = await readOn(workspaceId, taskId, now, { ...source, grows: !whole }, turn);
    if (more === 'elsewhere' || more.read === true) return more;
    work = more;
    const isAway = catalogue.awaySince !== null;
    if (isAway ? await othersComeIn(PAUSE_SECONDS, turn) : Date.now() > until && (await turn.othersWait()))
      return work;
  }
}

/** Waits for so many seconds (of the usual waits), but not while others wait for this worker: then true. */
async function othersComeIn(seconds: number, turn: Turn): Promise<boolean> {
  for (let i = 0; i < seconds; i++) {
    if (await turn.othersWait()) return true;
    await new Promise((done) => setTimeout(done, 1000 * env().BM_WAITS));
  }
  return false;
}
