/** Lanes that are proposed for every sensible combination, and made in one action. */
import { isOffered } from '../../core/workspace/offered.ts';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { HABITS } from '../../core/compare/prices.ts';
import type { FreightCard, PostageCard } from '../../core/cards/schema.ts';
import type { MarketplaceCard, TaxCard } from '../../core/cards/rates.ts';
import { METHODS } from '../../core/lane/schema.ts';
import type { ExchangeTable } from '../../core/money/money.ts';
import { vatInPrice } from '../../core/lane/steps/revenue.ts';
import { laneLike } from '../../core/workspace/laneLike.ts';
import { newLane } from '../../core/workspace/newLane.ts';
import { proposeLanes } from '../../core/workspace/proposals.ts';
import type { Proposal } from '../../core/workspace/proposals.ts';
import type { StoredLane } from '../../core/workspace/records.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { lane, quote, rateCard } from '../db/schema.ts';
import { today } from '../env.ts';
import type { CandidateRow, QuoteRow } from './candidates.ts';
import { candidateIn, cardData, laneData, quoteColumns } from './columns.ts';
import { cardsInForce, newId, settingsIn } from './workspaces.ts';
import type { CardRow } from './workspaces.ts';
import { insertLanes } from './storeLanes.ts';
import type { LaneToStore } from './storeLanes.ts';
import { idsOf, usualCards } from '../../core/cards/schema.ts';

export type Choice = z.output<typeof choice>;

export type AroundRow = NonNullable<Awaited<ReturnType<typeof around>>>;

export type Generation = z.output<typeof generation>;

/** Lanes one candidate may have. */
export const MOST_LANES = 2000;

// ---- proposals
// -----------------------------------------------------------------------------------------------------

export const choice = z.object({
  /** Keys of marketplace cards, marketplace/country. */
  marketplaces: z.array(z.string().max(420)).max(500),
  methods: z.array(z.enum(METHODS)).max(3),
  quotes: z.array(z.string().max(64)).max(200),
  /** Keys of freight cards; none: the workspace's default route. */
  routes: z.array(z.string().max(200)).max(200),
});

export type ProposalPage = {
  settings: Settings;
  candidate: CandidateRow;
  quotes: QuoteRow[];
  lanes: { id: string; data: StoredLane }[];
  cards: CardRow[];
  proposals: Proposal[];
};

export async function around(tx: Tx, workspaceId: string, candidateId: string) {
  const settings = await settingsIn(tx, workspaceId);
  const of = await candidateIn(tx, workspaceId, candidateId);
  if (settings === null || of === undefined) return null;
  const quotes = await tx
    .select(quoteColumns)
    .from(quote)
    .where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, candidateId)))
    .orderBy(asc(quote.createdAt));
  const lanes = await tx
    .select({ id: lane.id, position: lane.position, data: laneData })
    .from(lane)
    .where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId), isNull(lane.scenarioOf)))
    .orderBy(asc(lane.position), asc(lane.createdAt));
  const cards = (await cardsInForce(tx, workspaceId, today())).filter((c) => isOffered(c, settings));
  const keys = await tx
    .select({
      id: rateCard.id,
      key: rateCard.key,
      data: sql<{
        marketplace: string;
        country: string;
      }>`jsonb_build_object('marketplace', ${rateCard.data} -> 'marketplace',
          'country', ${rateCard.data} -> 'country')`,
    })
    .from(rateCard)
    .where(and(eq(rateCard.workspaceId, workspaceId), eq(rateCard.kind, 'marketplace')));
  return {
    settings,
    of,
    quotes,
    lanes,
    cards,
    marketplaceKeys: Object.fromEntries(keys.map((k) => [k.id, `${k.data.marketplace}/${k.data.country}`])),
  };
}

function propose(a: AroundRow, wanted: Choice): Proposal[] {
  const exchange = a.cards.find((c) => c.kind === 'exchange');
  const chosen = (key: string, list: readonly string[]): boolean => list.includes(key);
  // Where none is chosen, the first quote stands, as on a new lane.
  const asked = a.quotes.filter((q) => wanted.quotes.includes(q.id));
  return proposeLanes(
    {
      marketplaces: a.cards
        .filter((c) => c.kind === 'marketplace' && chosen(c.key, wanted.marketplaces))
        .map((c) => ({ id: c.id, key: c.key, card: c.data as MarketplaceCard })),
      methods: wanted.methods,
      quotes: (asked.length === 0 ? a.quotes.slice(0, 1) : asked).map((q) => ({ id: q.id, data: q.data })),
      routes: a.cards
        .filter((c) => c.kind === 'freight' && chosen(c.key, wanted.routes))
        .map((c) => ({ id: c.id, card: c.data as FreightCard })),
      postages: a.cards
        .filter((c) => c.kind === 'postage')
        .map((c) => ({ id: c.id, card: c.data as PostageCard })),
    },
    {
      candidate: a.of.data,
      lanes: a.lanes.map((l) => l.data),
      marketplaceKeys: a.marketplaceKeys,
      taxCountries: new Set(a.cards.filter((c) => c.kind === 'tax').map((c) => c.key)),
      exchange: (exchange?.data as ExchangeTable | undefined) ?? null,
      homeCurrency: a.settings.homeCurrency,
      standings: a.settings.standings,
      today: today(),
    },
  );
}

/**
 * What could be chosen for a candidate, and the lanes that a choice proposes. Null where there is no such
 * candidate.
 */
export async function loadProposals(
  workspaceId: string,
  candidateId: string,
  wanted: Choice,
): Promise<ProposalPage | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const a = await around(tx, workspaceId, candidateId);
    return a === null
      ? null
      : {
          settings: a.settings,
          candidate: a.of,
          quotes: a.quotes,
          lanes: a.lanes,
          cards: a.cards,
          proposals: propose(a, wanted),
        };
  });
}

export const generation = choice.extend({
  /** Proposals that are not wanted, by their place in the list. */
  without: z.array(z.number().int().min(0)).max(5000).default([]),
  /** The lane whose quantity, price, bids and returns the new ones take over; null: the workspace's defaults. */
  like: z.string().max(64).nullable().default(null),
  habit: z.enum(HABITS).default('99'),
});

/** Makes the proposed lanes, all or none, in one transaction. Returns their ids; null where the candidate is gone. */
export async function generateLanes(
  workspaceId: string,
  candidateId: string,
  wanted: Generation,
  by: string,
): Promise<{ ids: string[] } | { tooMany: number } | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const a = await around(tx, workspaceId, candidateId);
    if (a === null) return null;
    const skip = new Set(wanted.without);
    const chosen = propose(a, wanted).filter((p, i) => p.possible && !p.exists && !skip.has(i));
    if (a.lanes.length + chosen.length > MOST_LANES) return { tooMany: a.lanes.length + chosen.length };
    const byId = new Map(a.cards.map((c) => [c.id, c]));
    const like = a.lanes.find((l) => l.id === wanted.like)?.data ?? null;
    const first = Math.max(-1, ...a.lanes.map((l) => l.position)) + 1;
    const taxIn = (country: string): TaxCard | null =>
      (a.cards.find((c) => c.kind === 'tax' && c.key === country)?.data as TaxCard | undefined) ?? null;
    const likeTax =
      like === null || like.taxCardId === null
        ? null
        : (((await cardData(tx, workspaceId, [like.taxCardId]))[like.taxCardId] as TaxCard | undefined) ??
          null);
    const rows = chosen.map((p, i): LaneToStore => {
      const card = byId.get(p.marketplaceCardId)?.data as MarketplaceCard;
      const usual = usualCards(a.cards, { country: card.country, homeCurrency: a.settings.homeCurrency });
      const n = {
        way: a.of.data.way,
        settings: a.settings,
        country: card.country,
        currency: card.currency,
        marketplace: card,
        exchange: (usual.exchange?.data as ExchangeTable | undefined) ?? null,
        cards: {
          ...idsOf(usual),
          marketplace: p.marketplaceCardId,
          freight: p.freightCardId,
          postage: p.postageCardId,
        },
        origin: a.of.data.product.origin,
        price: null,
        quoteId: p.quoteId,
        today: today(),
        method: p.method,
      };
      if (like === null) return { id: newId(), position: first + i, data: newLane(n) };
      const { taxClass } = a.of.data.product;
      const vat = {
        there: vatInPrice(
          likeTax,
          like.standing ?? a.settings.standings[like.country] ?? null,
          taxClass,
          like.typed.vatRate,
        ),
        here: vatInPrice(taxIn(card.country), a.settings.standings[card.country] ?? null, taxClass),
      };
      return { id: newId(), position: first + i, data: laneLike(like, n, wanted.habit, vat) };
    });
    const quotes = Object.fromEntries(a.quotes.map((q) => [q.id, q.data]));
    await insertLanes(
      tx,
      workspaceId,
      a.settings,
      a.of,
      rows,
      quotes,
      Object.fromEntries(a.cards.map((c) => [c.id, c.data])),
      by,
    );
    return { ids: rows.map((r) => r.id) };
  });
}
