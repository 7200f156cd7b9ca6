/** The card versions that lists are weighed with. */
import { and, asc, desc, eq, inArray, isNull, or, sql } from 'drizzle-orm';
import type { CardKind } from '../../core/cards/schema.ts';
import type { ListSettings } from '../../core/lists/settings.ts';
import { inWorkspace } from '../db/client.ts';
import { rateCard, supplierList } from '../db/schema.ts';
import { today } from '../env.ts';
import { notOpened } from './workspaces.ts';

/** Where a list's settings name the version of each kind of card. */
export const LIST_CARDS = {
  marketplace: 'marketplaceCardId',
  tax: 'taxCardId',
  exchange: 'exchangeCardId',
} as const satisfies Partial<Record<CardKind, keyof ListSettings>>;
type ListCardKind = keyof typeof LIST_CARDS;
const isListCardKind = (kind: CardKind): kind is ListCardKind => kind in LIST_CARDS;

export type ListCard = {
  field: (typeof LIST_CARDS)[ListCardKind];
  id: string;
  name: string;
  day: string;
  /** The version in force, where it is another. */
  now: { id: string; day: string } | null;
};

/** The versions a list is weighed with, and those in force where they are others. */
export async function cardsOfList(workspaceId: string, own: ListSettings): Promise<ListCard[]> {
  const ids = Object.values(LIST_CARDS).flatMap((f) => own[f] ?? []);
  if (ids.length === 0) return [];
  return inWorkspace(workspaceId, async (tx) => {
    const used = await tx
      .select({
        id: rateCard.id,
        kind: rateCard.kind,
        key: rateCard.key,
        name: rateCard.name,
        day: rateCard.inForceFrom,
      })
      .from(rateCard)
      .where(and(eq(rateCard.workspaceId, workspaceId), inArray(rateCard.id, ids)));
    if (used.length === 0) return [];
    const inForce = await tx
      .selectDistinctOn([rateCard.kind, rateCard.key], {
        id: rateCard.id,
        kind: rateCard.kind,
        key: rateCard.key,
        day: rateCard.inForceFrom,
      })
      .from(rateCard)
      .where(
        and(
          eq(rateCard.workspaceId, workspaceId),
          or(...used.map((u) => and(eq(rateCard.kind, u.kind), eq(rateCard.key, u.key)))),
          sql`${rateCard.inForceFrom} <= ${today()}`,
          isNull(rateCard.withdrawnAt),
          notOpened,
        ),
      )
      .orderBy(rateCard.kind, rateCard.key, desc(rateCard.inForceFrom), desc(rateCard.createdAt));
    return Object.entries(LIST_CARDS).flatMap(([kind, field]) => {
      const card = used.find((u) => u.id === own[field]);
      if (card === undefined) return [];
      const now = inForce.find((c) => c.kind === kind && c.key === card.key) ?? null;
      return {
        field,
        id: card.id,
        name: card.name,
        day: card.day,
        now: now === null || now.id === card.id ? null : { id: now.id, day: now.day },
      };
    });
  });
}

/** Lists that are weighed with another version of a card than `versionId` (null: with any), by name. */
export async function listsOnCard(
  workspaceId: string,
  kind: CardKind,
  key: string,
  versionId: string | null,
): Promise<{ id: string; name: string }[]> {
  if (!isListCardKind(kind)) return [];
  const field = LIST_CARDS[kind];
  return inWorkspace(workspaceId, async (tx) => {
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
      .select({ id: supplierList.id, name: supplierList.name })
      .from(supplierList)
      .where(
        and(
          eq(supplierList.workspaceId, workspaceId),
          isNull(supplierList.deletedAt),
          inArray(sql`${supplierList.settings} ->> ${field}`, ids),
        ),
      )
      .orderBy(asc(supplierList.name))
      .limit(500);
  });
}
