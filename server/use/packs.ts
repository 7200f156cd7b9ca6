/** Cards and their proofs given away as one pack, and taken in from one. */
import { and, asc, eq, inArray, or } from 'drizzle-orm';
import { draftOf } from '../../core/cards/tables.ts';
import { cardKey } from '../../core/cards/schema.ts';
import { comparePack, newProofsOf } from '../../core/packs/compare.ts';
import type { OwnVersion, PackLine } from '../../core/packs/compare.ts';
import { MOST_CARDS } from '../../core/packs/schema.ts';
import type { CardPack, PackedProof } from '../../core/packs/schema.ts';
import { proof } from '../../core/proofs/schema.ts';
import type { Proof } from '../../core/proofs/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { cardProof, rateCard, rateDraft } from '../db/schema.ts';
import { refused } from '../refusal.ts';
import { loadCards, storeVersion, versionColumns } from './cards.ts';
import { addProofsIn } from './proofs.ts';
import { storeTask, wake } from './tasks.ts';
import { newId, notOpened } from './workspaces.ts';

/** The proofs of several cards, the oldest first. */
async function proofsByKey(tx: Tx, workspaceId: string, keys: readonly string[]) {
  const by = new Map<string, Proof[]>(keys.map((k) => [k, []]));
  if (keys.length === 0) return by;
  const rows = await tx
    .select({ key: cardProof.cardKey, data: cardProof.data })
    .from(cardProof)
    .where(and(eq(cardProof.workspaceId, workspaceId), inArray(cardProof.cardKey, [...keys])))
    .orderBy(asc(cardProof.createdAt), asc(cardProof.id));
  for (const { key, data } of rows) by.get(key)?.push(proof.parse(data));
  return by;
}

const provedKeys = (cards: readonly { kind: string; key: string }[]): string[] => [
  ...new Set(cards.filter((c) => c.kind === 'marketplace').map((c) => c.key)),
];

/**
 * The pack of these versions with the proofs of their marketplaces. A card that came in a pack keeps where it is
 * from; one's own are from `source`, on the day they were put in force.
 * @throws Refusal `invalid` where there are none, or more than a pack takes
 */
export async function packOf(
  workspaceId: string,
  ids: readonly string[],
  about: { readonly name: string; readonly source: string; readonly madeOn: string },
): Promise<CardPack> {
  const cards = await loadCards(workspaceId, ids);
  if (cards.length === 0) throw refused('packNoCards');
  if (cards.length > MOST_CARDS) throw refused('packTooManyCards');
  const proofs = await inWorkspace(workspaceId, (tx) => proofsByKey(tx, workspaceId, provedKeys(cards)));
  return {
    format: 'bold-margin/card-pack',
    version: 1,
    name: about.name,
    madeOn: about.madeOn,
    cards: cards
      .sort((a, b) =>
        `${a.kind} ${a.key} ${a.inForceFrom}`.localeCompare(`${b.kind} ${b.key} ${b.inForceFrom}`),
      )
      .map((c) => ({
        kind: c.kind,
        data: c.data,
        from: c.origin ?? { source: about.source, day: c.createdAt.toISOString().slice(0, 10) },
      })),
    proofs: [...proofs].flatMap(([card, own]): PackedProof[] => own.map((p) => ({ card, proof: p }))),
  };
}

/** What is there of the cards that a pack is about. */
async function ownOf(tx: Tx, workspaceId: string, pack: CardPack) {
  const keys = pack.cards.map((c) => ({ kind: c.kind, key: cardKey(c.kind, c.data) }));
  const own: OwnVersion[] = await tx
    .select({ ...versionColumns, data: rateCard.data })
    .from(rateCard)
    .where(
      and(
        eq(rateCard.workspaceId, workspaceId),
        notOpened,
        or(...keys.map(({ kind, key }) => and(eq(rateCard.kind, kind), eq(rateCard.key, key)))),
      ),
    );
  return { own, proofs: await proofsByKey(tx, workspaceId, provedKeys(keys)) };
}

/** What a pack would bring; nothing is stored. */
export async function previewPack(workspaceId: string, pack: CardPack): Promise<PackLine[]> {
  return inWorkspace(workspaceId, async (tx) => {
    const { own, proofs } = await ownOf(tx, workspaceId, pack);
    return comparePack(pack, own, proofs);
  });
}

/** What is to be done with a card of a pack: put in force from its day, or opened as a draft. */
export type Taking = { readonly at: number; readonly as: 'force' | 'draft' };
export type PackTaken = { readonly inForce: number; readonly drafts: number; readonly proofs: number };

/**
 * Takes cards of a pack in, all or nothing, and the new proofs of the marketplaces it is about where these are
 * taken or there already. A version of one's own is never changed: what would stand on its day can be a draft.
 * @throws Refusal `invalid` where a card that is to be in force cannot be any more
 */
export async function takePack(
  workspaceId: string,
  pack: CardPack,
  takings: readonly Taking[],
  by: string,
): Promise<PackTaken> {
  const [taken, looks] = await inWorkspace(workspaceId, async (tx) => {
    const { own, proofs } = await ownOf(tx, workspaceId, pack);
    const lines = comparePack(pack, own, proofs);
    const done = { inForce: 0, drafts: 0, proofs: 0 };
    const tasks: string[] = [];
    const keys = new Set(own.map((v) => v.key));
    for (const { at, as } of takings) {
      const line = lines[at];
      const card = pack.cards[at];
      if (line === undefined || card === undefined || line.state === 'same') continue;
      if (as === 'draft') {
        await storePackDraft(tx, workspaceId, card, line, by);
        done.drafts++;
        continue;
      }
      if (line.state === 'conflict')
        throw refused('packConflict', { card: line.name, day: line.inForceFrom });
      const put = await storeVersion(
        tx,
        workspaceId,
        card.kind,
        card.data,
        line.against,
        by,
        null,
        card.from,
      );
      if (!put.ok) throw refused('packConflict', { card: line.name, day: line.inForceFrom });
      keys.add(put.key);
      done.inForce++;
      if (line.state !== 'new') {
        const asked = { kind: card.kind, key: put.key, version: put.id, lookOnly: true };
        tasks.push(await storeTask(tx, workspaceId, 'bringUpToDate', asked, 0, by));
      }
    }
    for (const [key, there] of proofs) {
      const fresh = keys.has(key) ? newProofsOf(pack, key, there) : [];
      await addProofsIn(tx, workspaceId, key, fresh, by);
      done.proofs += fresh.length;
    }
    return [done, tasks] as const;
  });
  for (const look of looks) await wake('bringUpToDate', workspaceId, look);
  return taken;
}

async function storePackDraft(
  tx: Tx,
  workspaceId: string,
  { kind, data }: CardPack['cards'][number],
  { name, against }: PackLine,
  by: string,
): Promise<void> {
  const cells = draftOf(kind, data);
  await tx
    .insert(rateDraft)
    .values({ workspaceId, id: newId(), kind, name, cells, basedOn: against, updatedBy: by });
}
