/** Asks the feed for everything about the listings of goods that are looked at a second time, a few at once. */
import { and, eq, inArray } from 'drizzle-orm';
import type { Fault } from '../../core/fault.ts';
import { fault } from '../../core/fault.ts';
import type { KeptMarket, ObservedKind } from '../../core/evidence/observed.ts';
import { NO_WATCH } from '../../core/evidence/observed.ts';
import { MatchIndex } from '../../core/match/match.ts';
import { NOISE } from '../../core/match/tokens.ts';
import type { FeedRow } from '../../between/feed.ts';
import { inWorkspace } from '../db/client.ts';
import { closerLook, task } from '../db/schema.ts';
import { today } from '../env.ts';
import { askFeed } from '../outside/feed.ts';
import type { Feed } from '../outside/feed.ts';
import { waitingLooks } from '../use/closerLooks.ts';
import { keepOfListing } from '../use/evidence.ts';
import type { NewObservation } from '../use/evidence.ts';
import { feedOf } from '../use/feeds.ts';
import { needList } from '../use/lists.ts';
import { keptListings } from '../use/keptMarkets.ts';
import { isUnderWay, loadTask } from '../use/tasks.ts';
import { askedFor } from '../use/watching.ts';
import { settingsOf } from '../use/workspaces.ts';
import type { Asked, Piece } from './kinds.ts';

/** Goods that are looked at together. */
const CHUNK = 6;
const KINDS: readonly ObservedKind[] = ['history', 'offers', 'units', 'permission'];

type Look = Awaited<ReturnType<typeof waitingLooks>>[number];
type Seen = {
  readonly look: Look;
  readonly listing: string;
  readonly listingTitle: string;
  readonly otherGoods: boolean;
  readonly seen: readonly NewObservation[];
  /** Whether anything is known of the listing, now or from before. */
  readonly isKnown: boolean;
  readonly fault: Fault | null;
};

/** Works on the second look at goods of a list. True where there is more to do. */
export async function lookCloser({ workspaceId, taskId }: Piece): Promise<boolean> {
  const asked = await loadTask(workspaceId, taskId);
  if (asked === null || !isUnderWay(asked.state)) return false;
  const { listId } = asked.data as Asked<'lookCloser'>;
  const feed = await feedOf(workspaceId);
  const words = await wordsOf(workspaceId, listId);
  const waiting = await waitingLooks(workspaceId, listId, CHUNK);
  const seen = await Promise.all(waiting.map((look) => seenOf(workspaceId, feed, look, words)));
  return inWorkspace(workspaceId, async (tx) => {
    const done = asked.done + seen.length;
    const ended = waiting.length < CHUNK;
    const [still] = await tx
      .update(task)
      .set({
        state: ended ? 'done' : 'running',
        done,
        total: Math.max(done, asked.total),
        updatedAt: new Date(),
      })
      .where(
        and(
          eq(task.workspaceId, workspaceId),
          eq(task.id, taskId),
          inArray(task.state, ['waiting', 'running']),
        ),
      )
      .returning({ id: task.id });
    // Cancelled meanwhile: what was asked for is dropped, and waits for whoever asks again.
    if (still === undefined) return false;
    for (const { look, listing, seen: own, isKnown, fault: wrong, listingTitle, otherGoods } of seen) {
      await keepOfListing(tx, workspaceId, { market: look.market, listing }, own, look.by);
      await tx
        .update(closerLook)
        .set({
          listing,
          listingTitle,
          otherGoods,
          state: isKnown ? 'looked' : wrong === null ? 'noListing' : 'failed',
          fault: wrong,
          lookedAt: new Date(),
        })
        .where(
          and(
            eq(closerLook.workspaceId, workspaceId),
            eq(closerLook.listId, listId),
            eq(closerLook.key, look.key),
            eq(closerLook.state, 'waiting'),
          ),
        );
    }
    return !ended;
  });
}

/** What the feed says of goods: of the listing of their barcode that sells fastest. */
async function seenOf(workspaceId: string, feed: Feed | null, look: Look, words: Words): Promise<Seen> {
  const nothing = { look, listing: '', listingTitle: '', otherGoods: false, seen: [], isKnown: false };
  if (feed === null) return { ...nothing, fault: fault('feedNone') };
  const { market, code } = look;
  const said = await askFeed(feed, 'barcode', { market, gtin: code });
  if (!said.ok) return { ...nothing, fault: said.fault };
  const [fastest] = [...said.value.listings].sort((a, b) => (b.units ?? -1) - (a.units ?? -1));
  if (fastest === undefined) return { ...nothing, fault: null };
  const { listing } = fastest;
  const kept: KeptMarket = (await inWorkspace(workspaceId, (tx) =>
    keptListings(tx, workspaceId, market, [listing]),
  ).then((all) => all.get(listing))) ?? { market, watch: { ...NO_WATCH, listing }, observations: [] };
  // What was seen today stands; the rest is asked for.
  const due = KINDS.filter((kind) => kept.observations.find((o) => o.kind === kind)?.asOf !== today());
  const { seen, faults } = await askedFor(feed, kept, due);
  const isKnown = seen.length > 0 || kept.observations.length > 0;
  const listingTitle = fastest.title.slice(0, 500);
  const otherGoods = speaksOfOther(look, fastest, words);
  return { look, listing, listingTitle, otherGoods, seen, isKnown, fault: faults[0] ?? null };
}

/** What words of goods are held against those of a listing by; `country`: that of the shop they are from, if of one. */
type Words = { readonly noise: readonly string[]; readonly country: string | null };
async function wordsOf(workspaceId: string, listId: string): Promise<Words> {
  const noise = (await settingsOf(workspaceId))?.noiseWords ?? NOISE;
  const { catalogue } = await needList(workspaceId, listId);
  return { noise, country: catalogue?.country ?? null };
}

/**
 * Whether a listing of the same barcode is other goods by its words: a barcode may be wrong in a list. Words of a shop
 * abroad are of another language, and tell nothing.
 */
function speaksOfOther(look: Look, listing: FeedRow, { noise, country }: Words): boolean {
  if (country !== null && !look.market.endsWith(`/${country}`)) return false;
  const key = String(look.key);
  const of = { key, model: '', brand: '', pack: '' };
  const index = new MatchIndex([{ ...of, title: listing.title, code: listing.listing, units: null }], noise);
  return index.match({ ...of, title: look.title }).reason === 'barcodeOtherGoods';
}
