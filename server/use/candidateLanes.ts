/** Lanes of a candidate: added, taken away, put back, brought in and opened as documents. */
import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import type { MarketplaceCard, TaxCard } from '../../core/cards/rates.ts';
import type { ExchangeTable } from '../../core/money/money.ts';
import { newLane } from '../../core/workspace/newLane.ts';
import { storedLane } from '../../core/workspace/records.ts';
import { cardsOf } from '../../core/workspace/compose.ts';
import type { CandidateData, QuoteSource } from '../../core/workspace/records.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { lane, quote, rateCard } from '../db/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { today } from '../env.ts';
import { namedByLanes, needOwn } from './own.ts';
import { quotesIn, candidateIn, cardData, laneColumns } from './columns.ts';
import { insertLanes } from './storeLanes.ts';
import { cardsInForce, newId, settingsIn } from './workspaces.ts';
import type { CardRow } from './workspaces.ts';
import type { LaneRow } from './candidates.ts';
import { gone, refused } from '../refusal.ts';
import { idsOf, usualCards } from '../../core/cards/schema.ts';

/**
 * The version in force of the card that `id` is a version of: a form may have been opened before a newer one
 * came.
 */
export async function versionInForce(
  tx: Tx,
  workspaceId: string,
  cards: readonly CardRow[],
  id: string | null,
): Promise<string | null> {
  if (id === null || cards.some((c) => c.id === id)) return id;
  await needOwn(tx, workspaceId, { card: [id] });
  const [old] = await tx
    .select({ kind: rateCard.kind, key: rateCard.key })
    .from(rateCard)
    .where(and(eq(rateCard.workspaceId, workspaceId), eq(rateCard.id, id)));
  return cards.find((c) => c.kind === old?.kind && c.key === old.key)?.id ?? null;
}

type LaneAsk = {
  marketplaceCardId: string | null;
  country: string;
  price: number | null;
  quoteId: string | null;
  position: number;
};

export async function addLaneIn(
  tx: Tx,
  workspaceId: string,
  settings: Settings,
  cards: readonly CardRow[],
  of: { id: string; data: CandidateData },
  ask: LaneAsk,
  quotes: Readonly<Record<string, QuoteSource>>,
  by: string,
): Promise<string> {
  const card = cards.find((c) => c.id === ask.marketplaceCardId && c.kind === 'marketplace');
  const market = card?.data as MarketplaceCard | undefined;
  const land = market?.country ?? ask.country;
  const usual = usualCards(cards, { country: land, homeCurrency: settings.homeCurrency });
  const id = newId();
  const stored = newLane({
    way: of.data.way,
    settings,
    country: land,
    currency: market?.currency ?? (usual.tax?.data as TaxCard | undefined)?.currency ?? settings.homeCurrency,
    marketplace: market ?? null,
    exchange: (usual.exchange?.data as ExchangeTable | undefined) ?? null,
    cards: { ...idsOf(usual), marketplace: card?.id },
    origin: of.data.product.origin,
    price: ask.price,
    quoteId: ask.quoteId,
    today: today(),
  });
  await insertLanes(
    tx,
    workspaceId,
    settings,
    of,
    [{ id, position: ask.position, data: stored }],
    quotes,
    Object.fromEntries(cards.map((c) => [c.id, c.data])),
    by,
  );
  return id;
}

/** Adds a lane from the workspace's defaults, on the candidate's first quote. */
export async function addLane(
  workspaceId: string,
  candidateId: string,
  ask: { marketplaceCardId: string | null; country: string; price: number | null },
  by: string,
): Promise<string> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    const row = await candidateIn(tx, workspaceId, candidateId);
    if (settings === null || row === undefined) throw gone();
    const cards = await cardsInForce(tx, workspaceId, today());
    const [first] = await tx
      .select({ id: quote.id, data: quote.data })
      .from(quote)
      .where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, candidateId)))
      .orderBy(asc(quote.createdAt))
      .limit(1);
    const [count] = await tx
      .select({ n: sql<number>`coalesce(max(${lane.position}), -1) + 1` })
      .from(lane)
      .where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId)));
    return addLaneIn(
      tx,
      workspaceId,
      settings,
      cards,
      row,
      {
        ...ask,
        marketplaceCardId: await versionInForce(tx, workspaceId, cards, ask.marketplaceCardId),
        quoteId: first?.id ?? null,
        position: count?.n ?? 0,
      },
      first === undefined ? {} : { [first.id]: first.data },
      by,
    );
  });
}

/** Removes a lane and returns it, so that the removal can be undone. */
export async function removeLane(workspaceId: string, laneId: string): Promise<LaneRow | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const [gone] = await tx
      .delete(lane)
      .where(and(eq(lane.workspaceId, workspaceId), eq(lane.id, laneId)))
      .returning(laneColumns);
    return gone ?? null;
  });
}

/** A lane as the sheet holds it after its removal, to be put back. */
export const removedLane = z.object({
  id: z.uuid(),
  position: z.number().int().min(0).max(1e6),
  data: storedLane,
  scenarioOf: z.uuid().nullable().default(null),
});

/** Puts removed lanes back, or stores copies of lanes as scenarios; those that are there already stay as they are. */
export async function putLanes(
  workspaceId: string,
  candidateId: string,
  rows: readonly z.output<typeof removedLane>[],
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    const of = await candidateIn(tx, workspaceId, candidateId);
    if (settings === null || of === undefined) throw gone();
    const there = new Set(
      (
        await tx
          .select({ id: lane.id })
          .from(lane)
          .where(
            and(
              eq(lane.workspaceId, workspaceId),
              inArray(
                lane.id,
                rows.map((r) => r.id),
              ),
            ),
          )
      ).map((r) => r.id),
    );
    const quotes = Object.fromEntries(
      (await quotesIn(tx, workspaceId, candidateId)).map((q) => [q.id, q.data]),
    );
    const fresh = rows.filter((r) => !there.has(r.id));
    const named = namedByLanes(fresh.map((r) => r.data));
    await needOwn(tx, workspaceId, { card: named.card, candidate: named.candidate });
    if (named.quote.some((id) => !Object.hasOwn(quotes, id))) throw refused('foreignQuote');
    const scenarios = fresh.flatMap((r) => r.scenarioOf ?? []);
    const base =
      scenarios.length === 0
        ? []
        : await tx
            .select({ id: lane.id })
            .from(lane)
            .where(
              and(
                eq(lane.workspaceId, workspaceId),
                eq(lane.candidateId, candidateId),
                inArray(lane.id, scenarios),
              ),
            );
    if (scenarios.some((id) => !base.some((b) => b.id === id) && !rows.some((r) => r.id === id)))
      throw refused('scenarioBaseGone');
    await insertLanes(
      tx,
      workspaceId,
      settings,
      of,
      fresh,
      quotes,
      await cardData(tx, workspaceId, cardsOf(fresh.map((r) => r.data))),
      by,
    );
  });
}
