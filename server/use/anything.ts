/** What somebody holds, of whatever kind, and where it leads: to goods that are known, to listings, to a start. */
import { and, desc, eq, ilike, inArray, isNull, or, sql } from 'drizzle-orm';
import type { AnythingKnown, FoundListing } from '../../between/anythingSaid.ts';
import type { MarketplaceCard } from '../../core/cards/rates.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { alsoCouldBe, recognise } from '../../core/goods/recognise.ts';
import type { Recognised } from '../../core/goods/recognise.ts';
import { firstMarket, marketsOffered } from '../../core/workspace/offered.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { barcodeKey, candidate, goodsMark, listingMark, watched } from '../db/schema.ts';
import { today } from '../env.ts';
import { askFeed } from '../outside/feed.ts';
import type { Feed } from '../outside/feed.ts';
import { feedIn } from './feeds.ts';
import { cardsInForce, settingsWith } from './workspaces.ts';

const MOST = 6;

/** What went wrong while asking is not known. */
export type AnythingAnswer = AnythingKnown & { readonly faults: readonly Fault[] };

/** Where a text leads. A feed that is away leaves what the workspace knows. */
export async function anythingSaid(
  workspaceId: string,
  text: string,
  signal: AbortSignal,
): Promise<AnythingAnswer | null> {
  const { settings, also } = await settingsWith(workspaceId, async (tx) => ({
    cards: await cardsInForce(tx, workspaceId, today()),
    feed: await feedIn(tx, workspaceId),
  }));
  if (settings === null) return null;
  const offered = marketsOffered(also.cards, settings);
  const first = recognise(
    text,
    offered.map((c) => ({ market: c.key, address: (c.data as MarketplaceCard).listingAddress ?? '' })),
  );
  const meanings = [first, ...alsoCouldBe(first)];
  const market =
    first.kind === 'page' ? first.market : (firstMarket(offered, settings.homeCountry)?.key ?? null);
  const found =
    also.feed === null || market === null
      ? { listings: [], faults: [] }
      : await listingsOf(also.feed, market, meanings, signal);
  // Products that follow a listing of the barcode are meant by it too.
  const codes = [codeOf(meanings), ...found.listings.map((l) => l.code)].filter((c) => c !== null);
  const known = await inWorkspace(workspaceId, (tx) => knownOf(tx, workspaceId, meanings, codes, market));
  const strange = first.kind === 'strangePage' ? [fault('strangePage', { host: first.host })] : [];
  return { meanings, ...known, ...found, market, faults: [...strange, ...found.faults] };
}

async function knownOf(
  tx: Tx,
  workspaceId: string,
  meanings: readonly Recognised[],
  codes: readonly string[],
  market: string | null,
): Promise<Pick<AnythingKnown, 'candidates' | 'decided'>> {
  const [barcode, words] = [
    meanings.find((m) => m.kind === 'barcode'),
    meanings.find((m) => m.kind === 'words'),
  ];
  const byCode =
    codes.length === 0
      ? undefined
      : sql`exists (select 1 from ${watched} w where w.workspace_id = ${workspaceId}
          and w.candidate_id = ${candidate.id} and w.data ->> 'listing' in ${codes})`;
  const byBarcode =
    barcode?.kind === 'barcode'
      ? and(
          sql`${candidate.data} ->> 'gtin' is not null`,
          sql`${barcodeKey(candidate.data)} = ${barcode.key}`,
        )
      : undefined;
  const byName =
    words?.kind === 'words'
      ? ilike(sql`${candidate.data} ->> 'name'`, `%${words.words.replaceAll(/[\\%_]/g, '\\$&')}%`)
      : undefined;
  const which = [byCode, byBarcode, byName].filter((x) => x !== undefined);
  const candidates =
    which.length === 0
      ? []
      : await tx
          .select({ id: candidate.id, name: sql<string>`${candidate.data} ->> 'name'` })
          .from(candidate)
          .where(and(eq(candidate.workspaceId, workspaceId), isNull(candidate.deletedAt), or(...which)))
          .orderBy(desc(candidate.updatedAt))
          .limit(MOST);
  const [mark] =
    barcode?.kind === 'barcode'
      ? await tx
          .select({ state: goodsMark.state })
          .from(goodsMark)
          .where(and(eq(goodsMark.workspaceId, workspaceId), eq(goodsMark.key, Number(barcode.key))))
      : [];
  const [seen] =
    codes.length === 0 || market === null
      ? []
      : await tx
          .select({ state: listingMark.state })
          .from(listingMark)
          .where(
            and(
              eq(listingMark.workspaceId, workspaceId),
              eq(listingMark.market, market),
              inArray(listingMark.listing, [...codes]),
            ),
          );
  return { candidates, decided: mark?.state ?? seen?.state ?? null };
}

function codeOf(meanings: readonly Recognised[]): string | null {
  for (const m of meanings) if (m.kind === 'code' || m.kind === 'page') return m.code;
  return null;
}

type Listings = { listings: FoundListing[]; faults: Fault[] };

/** Listings that the text means: those of a barcode, else the one of a code. Words are searched for elsewhere. */
async function listingsOf(
  feed: Feed,
  market: string,
  meanings: readonly Recognised[],
  signal: AbortSignal,
): Promise<Listings> {
  const barcode = meanings.find((m) => m.kind === 'barcode');
  const code = codeOf(meanings);
  const byBarcode = barcode?.kind === 'barcode' ? await ofBarcode(feed, market, barcode.gtin, signal) : null;
  if (byBarcode !== null && (byBarcode.listings.length > 0 || byBarcode.faults.length > 0)) return byBarcode;
  return code === null ? { listings: [], faults: [] } : ofCode(feed, market, code, signal);
}

async function ofBarcode(feed: Feed, market: string, gtin: string, signal: AbortSignal): Promise<Listings> {
  const said = await askFeed(feed, 'barcode', { market, gtin }, signal);
  if (!said.ok) return { listings: [], faults: unlessUnknown(said.fault) };
  const { currency, listings } = said.value;
  return {
    listings: listings
      .slice(0, MOST)
      .map((l) => ({ market, code: l.listing, title: l.title, price: l.price, currency })),
    faults: [],
  };
}

async function ofCode(feed: Feed, market: string, code: string, signal: AbortSignal): Promise<Listings> {
  const said = await askFeed(feed, 'listing', { market, code }, signal);
  if (!said.ok) return { listings: [], faults: unlessUnknown(said.fault) };
  const { listing, title, price, currency } = said.value;
  return { listings: [{ market, code: listing, title, price, currency }], faults: [] };
}

/** That a market does not know something is an answer, and nothing that went wrong. */
const unlessUnknown = (f: Fault): Fault[] => (f.code === 'feedUnknown' ? [] : [f]);
