import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { settings as settingsSchema } from '../../core/workspace/settings.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import type { CardData, CardKind } from '../../core/cards/schema.ts';
import { starterCards } from '../../demo/starterCards.ts';
import { auth } from '../auth/auth.ts';
import {
  cardProof,
  candidate,
  enquiry,
  lane,
  purchaseOrder,
  quote,
  rateCard,
  supplier,
  workspace,
} from '../db/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';

export const newId = (): string => crypto.randomUUID();

/** A URL part from a name: letters and digits, with a few random ones so that it is free. */
function slugFor(name: string): string {
  const base =
    name
      .normalize('NFKD')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 30) || 'workspace';
  return `${base}-${crypto.randomUUID().slice(0, 6)}`;
}

/** Makes a workspace with its own copy of the starter rate cards, marked as examples. Returns its id and URL part. */
export async function createWorkspace(
  headers: Headers,
  name: string,
  over: Partial<Settings> = {},
  slug = slugFor(name),
): Promise<{ id: string; slug: string }> {
  const made = await auth().api.createOrganization({ headers, body: { name, slug } });
  if (made === null) throw new Error('The workspace could not be created');
  await furnishWorkspace(made.id, over);
  return { id: made.id, slug };
}

/** Settings and starter cards of a new workspace, in one transaction. */
export async function furnishWorkspace(workspaceId: string, over: Partial<Settings> = {}): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    await tx.insert(workspace).values({ workspaceId, settings: settingsSchema.parse(over) });
    await tx
      .insert(rateCard)
      .values(
        starterCards().map((c) => ({
          workspaceId,
          id: newId(),
          kind: c.kind,
          key: c.key,
          name: c.name,
          inForceFrom: c.inForceFrom,
          example: true,
          data: c.data,
        })),
      );
  });
}

/** Settings of the workspace; null where it is deleted. */
export async function settingsIn(tx: Tx, workspaceId: string): Promise<Settings | null> {
  const [row] = await tx
    .select({ settings: workspace.settings })
    .from(workspace)
    .where(and(eq(workspace.workspaceId, workspaceId), isNull(workspace.deletedAt)));
  return row === undefined ? null : settingsSchema.parse(row.settings);
}

/** Settings of the workspace, in a transaction of their own; null where it is deleted. */
export async function settingsOf(workspaceId: string): Promise<Settings | null> {
  return inWorkspace(workspaceId, (tx) => settingsIn(tx, workspaceId));
}

/** Settings of the workspace (null: it is deleted) beside what else is read of it, in one transaction. */
export async function settingsWith<T>(
  workspaceId: string,
  also: (tx: Tx) => Promise<T>,
): Promise<{ settings: Settings | null; also: T }> {
  return inWorkspace(workspaceId, async (tx) => ({
    settings: await settingsIn(tx, workspaceId),
    also: await also(tx),
  }));
}

/** Changes the settings within a transaction, validated; writers wait for each other. */
export async function changeSettings(
  tx: Tx,
  workspaceId: string,
  change: (now: Settings) => Settings,
): Promise<Settings> {
  const [row] = await tx
    .select({ settings: workspace.settings })
    .from(workspace)
    .where(eq(workspace.workspaceId, workspaceId))
    .for('update');
  if (row === undefined) throw new Error('No such workspace');
  const next = settingsSchema.parse(change(settingsSchema.parse(row.settings)));
  await tx.update(workspace).set({ settings: next }).where(eq(workspace.workspaceId, workspaceId));
  return next;
}

export async function saveSettings(
  workspaceId: string,
  change: (now: Settings) => Settings,
): Promise<Settings> {
  return inWorkspace(workspaceId, (tx) => changeSettings(tx, workspaceId, change));
}

/** Marks the workspace as deleted or takes that back; nothing is removed. */
export async function setWorkspaceDeleted(workspaceId: string, deleted: boolean): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .update(workspace)
      .set({ deletedAt: deleted ? new Date() : null })
      .where(eq(workspace.workspaceId, workspaceId)),
  );
}

export async function isWorkspaceDeleted(workspaceId: string): Promise<boolean> {
  return inWorkspace(workspaceId, async (tx) => {
    const [row] = await tx
      .select({ deletedAt: workspace.deletedAt })
      .from(workspace)
      .where(eq(workspace.workspaceId, workspaceId));
    return row?.deletedAt != null;
  });
}

/** Key that a card brought by an opened document is kept under: it is never in force for new lanes, nor listed. */
export const OPENED = 'opened/';
export const notOpened = sql`${rateCard.key} not like ${`${OPENED}%`}`;

export type CardRow = {
  id: string;
  kind: CardKind;
  key: string;
  name: string;
  inForceFrom: string;
  example: boolean;
  data: CardData;
};

/** The cards in force on a day: of each kind and key the latest not after it. */
export async function cardsInForce(tx: Tx, workspaceId: string, day: string): Promise<CardRow[]> {
  return tx
    .selectDistinctOn([rateCard.kind, rateCard.key], {
      id: rateCard.id,
      kind: rateCard.kind,
      key: rateCard.key,
      name: rateCard.name,
      inForceFrom: rateCard.inForceFrom,
      example: rateCard.example,
      data: rateCard.data,
    })
    .from(rateCard)
    .where(
      and(
        eq(rateCard.workspaceId, workspaceId),
        sql`${rateCard.inForceFrom} <= ${day}`,
        isNull(rateCard.withdrawnAt),
        notOpened,
      ),
    )
    .orderBy(rateCard.kind, rateCard.key, sql`${rateCard.inForceFrom} desc`, sql`${rateCard.createdAt} desc`);
}

/** Countries that the workspace has a tax card for. */
export async function taxedCountries(tx: Tx, workspaceId: string): Promise<string[]> {
  return (
    await tx
      .selectDistinct({ key: rateCard.key })
      .from(rateCard)
      .where(
        and(
          eq(rateCard.workspaceId, workspaceId),
          eq(rateCard.kind, 'tax'),
          isNull(rateCard.withdrawnAt),
          notOpened,
        ),
      )
  ).map((r) => r.key);
}

/** The newest day from which a card is in force, not after `day`; null where there is none. */
export async function latestRates(tx: Tx, workspaceId: string, day: string): Promise<string | null> {
  const [row] = await tx
    .select({ day: sql<string | null>`max(${rateCard.inForceFrom})` })
    .from(rateCard)
    .where(
      and(
        eq(rateCard.workspaceId, workspaceId),
        sql`${rateCard.inForceFrom} <= ${day}`,
        isNull(rateCard.withdrawnAt),
        notOpened,
      ),
    );
  return row?.day ?? null;
}

/** Everything a workspace holds, as one JSON document. */
export async function exportWorkspace(workspaceId: string, name: string): Promise<object> {
  return inWorkspace(workspaceId, async (tx) => {
    const [settings, suppliers, cards, proofs, candidates, quotes, lanes, orders, enquiries] = [
      await settingsIn(tx, workspaceId),
      await tx
        .select()
        .from(supplier)
        .where(eq(supplier.workspaceId, workspaceId))
        .orderBy(asc(supplier.createdAt)),
      await tx
        .select()
        .from(rateCard)
        .where(eq(rateCard.workspaceId, workspaceId))
        .orderBy(asc(rateCard.kind), asc(rateCard.key)),
      await tx
        .select()
        .from(cardProof)
        .where(eq(cardProof.workspaceId, workspaceId))
        .orderBy(asc(cardProof.cardKey), asc(cardProof.createdAt)),
      await tx
        .select()
        .from(candidate)
        .where(eq(candidate.workspaceId, workspaceId))
        .orderBy(asc(candidate.createdAt)),
      await tx.select().from(quote).where(eq(quote.workspaceId, workspaceId)).orderBy(asc(quote.createdAt)),
      await tx.select().from(lane).where(eq(lane.workspaceId, workspaceId)).orderBy(asc(lane.createdAt)),
      await tx
        .select()
        .from(purchaseOrder)
        .where(eq(purchaseOrder.workspaceId, workspaceId))
        .orderBy(asc(purchaseOrder.number)),
      await tx
        .select()
        .from(enquiry)
        .where(eq(enquiry.workspaceId, workspaceId))
        .orderBy(asc(enquiry.createdAt)),
    ];
    const bare = <T extends { workspaceId: string }>(rows: T[]) =>
      rows.map(({ workspaceId: _, ...rest }) => rest);
    return {
      format: 'bold-margin/workspace',
      version: 1,
      name,
      settings,
      suppliers: bare(suppliers),
      rateCards: bare(cards),
      proofs: bare(proofs),
      candidates: bare(candidates),
      quotes: bare(quotes),
      // What lists show of a lane is worked out from the rest.
      lanes: bare(lanes).map(({ newerCards, shown: _, ...l }) => ({
        ...l,
        data: { ...l.data, ...newerCards },
      })),
      orders: bare(orders),
      enquiries: bare(enquiries),
    };
  });
}
