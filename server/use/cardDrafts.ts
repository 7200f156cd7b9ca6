/** Drafts of cards: made, saved, thrown away and brought back. */
import { and, eq, isNull } from 'drizzle-orm';
import { draftOf } from '../../core/cards/tables.ts';
import type { Tables } from '../../core/cards/reader.ts';
import { cardFrom } from '../../core/cards/schema.ts';
import type { CardData, CardKind, FreightCard } from '../../core/cards/schema.ts';
import { inWorkspace } from '../db/client.ts';
import { rateCard, rateDraft } from '../db/schema.ts';
import { today } from '../env.ts';
import type { OutsideFreight } from '../outside/client.ts';
import { newId } from './workspaces.ts';
import { versionColumns, loadCards } from './cards.ts';
import type { Version, Draft, DraftSaved } from './cards.ts';
import { dayAfter } from '../../core/money/days.ts';

const draftColumns = {
  id: rateDraft.id,
  kind: rateDraft.kind,
  name: rateDraft.name,
  basedOn: rateDraft.basedOn,
  updatedAt: rateDraft.updatedAt,
  cells: rateDraft.cells,
  edition: rateDraft.edition,
};

export async function loadDraft(
  workspaceId: string,
  id: string,
): Promise<{ draft: Draft; base: (Version & { data: CardData }) | null } | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const [draft] = await tx
      .select(draftColumns)
      .from(rateDraft)
      .where(and(eq(rateDraft.workspaceId, workspaceId), eq(rateDraft.id, id), isNull(rateDraft.thrownAt)));
    if (draft === undefined) return null;
    const [base] =
      draft.basedOn === null
        ? []
        : await tx
            .select({ ...versionColumns, data: rateCard.data })
            .from(rateCard)
            .where(and(eq(rateCard.workspaceId, workspaceId), eq(rateCard.id, draft.basedOn)));
    return { draft, base: base ?? null };
  });
}

/** Makes a draft of the cells. Returns its id. */
export async function createDraft(
  workspaceId: string,
  draft: { kind: CardKind; name: string; cells: Tables; basedOn: string | null },
  by: string,
): Promise<string> {
  const id = newId();
  await inWorkspace(workspaceId, (tx) =>
    tx.insert(rateDraft).values({ workspaceId, id, ...draft, updatedBy: by }),
  );
  return id;
}

/**
 * Makes a draft from a version: its next version, or (`copy`) a card of its own. Null where there is no such
 * version.
 */
export async function draftFrom(
  workspaceId: string,
  cardId: string,
  copy: boolean,
  by: string,
): Promise<string | null> {
  const [card] = await loadCards(workspaceId, [cardId]);
  if (card === undefined) return null;
  const data = copy ? card.data : cardFrom(card.data, freeDay(card.inForceFrom, today()));
  return createDraft(
    workspaceId,
    { kind: card.kind, name: card.name, cells: draftOf(card.kind, data), basedOn: copy ? null : card.id },
    by,
  );
}

/** Tomorrow, or the day after the version where that is later: a day on which no other version is in force. */
const freeDay = (version: string, now: string): string => dayAfter(version > now ? version : now);

/** Stores the cells of a draft, right or wrong, unless somebody else has saved it since `edition`. */
export async function saveDraft(
  workspaceId: string,
  id: string,
  edition: number,
  cells: Tables,
  by: string,
): Promise<DraftSaved> {
  return inWorkspace(workspaceId, async (tx) => {
    const name = nameIn(cells);
    const [row] = await tx
      .update(rateDraft)
      .set({
        cells,
        edition: edition + 1,
        updatedAt: new Date(),
        updatedBy: by,
        ...(name === '' ? {} : { name }),
      })
      .where(
        and(
          eq(rateDraft.workspaceId, workspaceId),
          eq(rateDraft.id, id),
          eq(rateDraft.edition, edition),
          isNull(rateDraft.thrownAt),
        ),
      )
      .returning({ edition: rateDraft.edition });
    if (row !== undefined) return { ok: true, edition: row.edition };
    const [there] = await tx
      .select({ id: rateDraft.id })
      .from(rateDraft)
      .where(and(eq(rateDraft.workspaceId, workspaceId), eq(rateDraft.id, id), isNull(rateDraft.thrownAt)));
    return there === undefined ? { ok: false, gone: true } : { ok: false, elsewhere: true };
  });
}

function nameIn(cells: Tables): string {
  const at = cells.card?.find((r) => r[0] === 'name')?.[1];
  return String(at ?? '')
    .trim()
    .slice(0, 200);
}

/** Throws a draft away, or (`back`) brings it back. False where there is none. */
export async function throwDraft(workspaceId: string, id: string, back: boolean): Promise<boolean> {
  return inWorkspace(
    workspaceId,
    async (tx) =>
      (
        await tx
          .update(rateDraft)
          .set({ thrownAt: back ? null : new Date() })
          .where(and(eq(rateDraft.workspaceId, workspaceId), eq(rateDraft.id, id)))
          .returning({ id: rateDraft.id })
      ).length > 0,
  );
}

/**
 * Makes a draft of a freight card's next version with the rate of a quote on its main leg. Null where there
 * is no such card or leg.
 */
export async function draftFromFreightQuote(
  workspaceId: string,
  cardId: string,
  quote: OutsideFreight,
  at: string,
  by: string,
): Promise<string | null> {
  const [card] = await loadCards(workspaceId, [cardId]);
  if (card === undefined || card.kind !== 'freight') return null;
  const data = card.data as FreightCard;
  const main = data.route.legs.findIndex((l) => l.stage === 'main');
  if (main < 0) return null;
  const legs = data.route.legs.map((l, i) =>
    i !== main
      ? l
      : {
          ...l,
          basis: quote.basis,
          rate: quote.rate,
          currency: quote.currency,
          bands: [],
          fuelSurcharge: quote.fuelSurcharge,
          minKg: quote.basis === 'perKg' ? quote.minimum : 0,
          minCbm: quote.basis === 'perCbm' ? quote.minimum : 0,
          divisor: quote.basis === 'perKg' ? (l.divisor ?? 6000) : l.divisor,
        },
  );
  const next: FreightCard = {
    ...data,
    inForceFrom: freeDay(card.inForceFrom, today()),
    note: `Quoted ${at.slice(0, 10)}, valid until ${quote.validUntil}`,
    route: { ...data.route, legs, transitDays: quote.transitDays },
  };
  return createDraft(
    workspaceId,
    { kind: 'freight', name: card.name, cells: draftOf('freight', next), basedOn: card.id },
    by,
  );
}
