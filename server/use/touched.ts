/** What a card touches: the lanes that use it, and what a new version would change. */
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { readTables } from '../../core/cards/tables.ts';
import { cardDay, cardKey, cardName } from '../../core/cards/schema.ts';
import type { CardData, CardKind } from '../../core/cards/schema.ts';
import { byFall, impactOf } from '../../core/workspace/impact.ts';
import type { Impact } from '../../core/workspace/impact.ts';
import { CARD_FIELDS, cardsOf, composeLane } from '../../core/workspace/compose.ts';
import type { StoredLane } from '../../core/workspace/records.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, lane, launchedLane, quote, rateCard } from '../db/schema.ts';
import { today } from '../env.ts';
import { candidateColumns, cardData, laneCard, laneData, quoteColumns } from './columns.ts';
import { settingsIn } from './workspaces.ts';
import { loadDraft } from './cardDrafts.ts';
import { loadCards } from './cards.ts';

// ---- what a change touches
// -------------------------------------------------------------------------------------------

export type Touched = Impact & {
  laneId: string;
  candidateId: string;
  candidate: string;
  country: string;
  marketplace: string;
  method: StoredLane['method'];
  /** It is on sale: what a change does to it is money that is being lost. */
  onSale: boolean;
};

/**
 * Lanes that a version (or a draft that is read as `data`) of a card would change, with profit before and
 * after in the home currency, those on sale before the others, largest fall first. Lanes of deleted, archived or
 * dropped candidates are left out.
 */
export async function touchedBy(
  workspaceId: string,
  kind: CardKind,
  key: string,
  data: CardData,
  versionId: string | null,
  most = 20_000,
): Promise<Touched[]> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    if (settings === null) return [];
    const lanes = await lanesOnCard(tx, workspaceId, kind, key, versionId, most);
    if (lanes.length === 0) return [];
    const candidates = new Map(
      (
        await tx
          .select(candidateColumns)
          .from(candidate)
          .where(
            and(
              eq(candidate.workspaceId, workspaceId),
              inArray(candidate.id, [...new Set(lanes.map((l) => l.candidateId))]),
            ),
          )
      ).map((c) => [c.id, c]),
    );
    const quotes = Object.fromEntries(
      (
        await tx
          .select(quoteColumns)
          .from(quote)
          .where(and(eq(quote.workspaceId, workspaceId), inArray(quote.candidateId, [...candidates.keys()])))
      ).map((q) => [q.id, q.data]),
    );
    const cards = await cardData(tx, workspaceId, cardsOf(lanes.map((l) => l.data)));
    const NEW = versionId ?? 'draft';
    const withNew = { ...cards, [NEW]: data };
    const field = CARD_FIELDS[kind];
    const onSale = new Set(
      (
        await tx
          .select({ id: launchedLane.laneId })
          .from(launchedLane)
          .where(and(eq(launchedLane.workspaceId, workspaceId), isNull(launchedLane.stopped)))
      ).map((l) => l.id),
    );
    const out: Touched[] = [];
    for (const l of lanes) {
      const c = candidates.get(l.candidateId);
      if (c === undefined) continue;
      const parts = {
        candidate: c.data,
        quotes,
        homeCurrency: settings.homeCurrency,
        standings: settings.standings,
        today: today(),
      };
      const impact = impactOf(
        composeLane({ ...parts, lane: l.data, cards }),
        composeLane({ ...parts, lane: { ...l.data, [field]: NEW }, cards: withNew }),
        settings.hurdles[c.data.way] ?? [],
      );
      out.push({
        ...impact,
        laneId: l.id,
        candidateId: c.id,
        candidate: c.data.name,
        country: l.data.country,
        marketplace: l.data.marketplace,
        method: l.data.method,
        onSale: onSale.has(l.id),
      });
    }
    return out.sort((a, b) => Number(b.onSale) - Number(a.onSale) || byFall(a, b));
  });
}

/** Lanes that are computed with another version of a card than `versionId`. */
export async function lanesOnCard(
  tx: Tx,
  workspaceId: string,
  kind: CardKind,
  key: string,
  versionId: string | null,
  most: number,
): Promise<{ id: string; candidateId: string; data: StoredLane }[]> {
  const ids = (
    await tx
      .select({ id: rateCard.id })
      .from(rateCard)
      .where(and(eq(rateCard.workspaceId, workspaceId), eq(rateCard.kind, kind), eq(rateCard.key, key)))
  )
    .map((r) => r.id)
    .filter((id) => id !== versionId);
  if (ids.length === 0) return [];
  return tx
    .select({ id: lane.id, candidateId: lane.candidateId, data: laneData })
    .from(lane)
    .innerJoin(
      candidate,
      and(eq(candidate.workspaceId, lane.workspaceId), eq(candidate.id, lane.candidateId)),
    )
    .where(
      and(
        eq(lane.workspaceId, workspaceId),
        inArray(laneCard(kind), ids),
        isNull(candidate.deletedAt),
        isNull(candidate.archivedAt),
        isNull(candidate.droppedAt),
        isNull(lane.scenarioOf),
      ),
    )
    .orderBy(asc(lane.id))
    .limit(most);
}

export type Asked = {
  kind: CardKind;
  key: string;
  name: string;
  day: string;
  data: CardData;
  versionId: string | null;
  back: string;
};

/** The version (`card`) or draft (`draft`) that an address asks about; null where the draft has wrong cells. */
export async function askedAbout(
  workspaceId: string,
  search: URLSearchParams,
): Promise<Asked | null | 'gone'> {
  const draftId = search.get('draft');
  if (draftId !== null) {
    const loaded = await loadDraft(workspaceId, draftId);
    if (loaded === null) return 'gone';
    const { kind } = loaded.draft;
    const read = readTables(kind, loaded.draft.cells);
    return read.ok
      ? {
          kind,
          key: cardKey(kind, read.data),
          name: cardName(read.data),
          day: cardDay(read.data),
          data: read.data,
          versionId: null,
          back: `rates/draft/${draftId}`,
        }
      : null;
  }
  const [card] = await loadCards(workspaceId, [search.get('card') ?? '']);
  return card === undefined
    ? 'gone'
    : {
        kind: card.kind,
        key: card.key,
        name: card.name,
        day: card.inForceFrom,
        data: card.data,
        versionId: card.id,
        back: `rates?card=${card.id}`,
      };
}
