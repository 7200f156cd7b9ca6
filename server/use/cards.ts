/** Rate cards: versions in force, drafts, what a change touches. A version in force is never changed. */
import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { compareCards, cannotBeInForce, draftOf, readTables } from '../../core/cards/tables.ts';
import type { RowChange } from '../../core/cards/tables.ts';
import type { CellError, Tables } from '../../core/cards/reader.ts';
import { CARD_KINDS, cardDay, isCardKind, cardDocument, cardKey, cardName } from '../../core/cards/schema.ts';
import type { CardData, CardKind, CardOf } from '../../core/cards/schema.ts';
import { issuesOf } from '../../core/issues.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { rateCard, rateDraft } from '../db/schema.ts';
import type { Origin } from '../../core/packs/schema.ts';
import { askToHold } from './claims.ts';
import { storeTask, wake } from './tasks.ts';
import { newId, notOpened } from './workspaces.ts';
import { broughtUp, versionOf } from '../../core/versions.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';

export type Version = {
  id: string;
  kind: CardKind;
  key: string;
  name: string;
  inForceFrom: string;
  example: boolean;
  withdrawn: boolean;
};
export type DraftHead = { id: string; kind: CardKind; name: string; basedOn: string | null; updatedAt: Date };
export const versionColumns = {
  id: rateCard.id,
  kind: rateCard.kind,
  key: rateCard.key,
  name: rateCard.name,
  inForceFrom: rateCard.inForceFrom,
  example: rateCard.example,
  withdrawn: sql<boolean>`${rateCard.withdrawnAt} is not null`,
};

/** Heads of all versions of all cards, newest first within a card, and of the drafts. */
export async function listCards(workspaceId: string): Promise<{ versions: Version[]; drafts: DraftHead[] }> {
  return inWorkspace(workspaceId, async (tx) => ({
    versions: await tx
      .select(versionColumns)
      .from(rateCard)
      .where(and(eq(rateCard.workspaceId, workspaceId), notOpened))
      .orderBy(asc(rateCard.kind), asc(rateCard.key), desc(rateCard.inForceFrom), desc(rateCard.createdAt)),
    drafts: await tx
      .select({
        id: rateDraft.id,
        kind: rateDraft.kind,
        name: rateDraft.name,
        basedOn: rateDraft.basedOn,
        updatedAt: rateDraft.updatedAt,
      })
      .from(rateDraft)
      .where(and(eq(rateDraft.workspaceId, workspaceId), isNull(rateDraft.thrownAt)))
      .orderBy(desc(rateDraft.updatedAt)),
  }));
}

/** Cards by id, with their data. Ids of another workspace find nothing. */
export async function loadCards(
  workspaceId: string,
  ids: readonly string[],
): Promise<(Version & { data: CardData; origin: Origin | null; createdAt: Date })[]> {
  const wanted = ids.filter((id) => id !== '');
  if (wanted.length === 0) return [];
  return inWorkspace(workspaceId, (tx) =>
    tx
      .select({
        ...versionColumns,
        data: rateCard.data,
        origin: rateCard.origin,
        createdAt: rateCard.createdAt,
      })
      .from(rateCard)
      .where(and(eq(rateCard.workspaceId, workspaceId), inArray(rateCard.id, wanted))),
  );
}

// ---- drafts
// --------------------------------------------------------------------------------------------------------

export type Draft = DraftHead & { cells: Tables; edition: number };

export type DraftSaved =
  | { ok: true; edition: number }
  | { ok: false; gone: true }
  | { ok: false; elsewhere: true };

// ---- in force
// ------------------------------------------------------------------------------------------------------

export type PutInForce =
  | { ok: true; id: string; key: string; kind: CardKind }
  | { ok: false; errors: readonly CellError[] };

/**
 * Puts a card in force from the day it carries, and has the worker look which candidates would fall under a
 * hurdle. A day that another version has is refused.
 */
export async function putInForce(
  workspaceId: string,
  kind: CardKind,
  data: CardData,
  basedOn: string | null,
  by: string,
  draftId: string | null = null,
): Promise<PutInForce> {
  const [put, look] = await inWorkspace(workspaceId, async (tx) => {
    const stored = await storeVersion(tx, workspaceId, kind, data, basedOn, by, draftId);
    if (!stored.ok) return [stored, null] as const;
    const asked = { kind, key: stored.key, version: stored.id, lookOnly: true };
    return [stored, await storeTask(tx, workspaceId, 'bringUpToDate', asked, 0, by)] as const;
  });
  if (look !== null) await wake('bringUpToDate', workspaceId, look);
  return put;
}

/** Stores a version within a transaction; a day that another version has is refused. */
export async function storeVersion(
  tx: Tx,
  workspaceId: string,
  kind: CardKind,
  data: CardData,
  basedOn: string | null,
  by: string,
  draftId: string | null,
  origin: Origin | null = null,
): Promise<PutInForce> {
  const key = cardKey(kind, data);
  const others = await tx
    .select({ kind: rateCard.kind, key: rateCard.key, inForceFrom: rateCard.inForceFrom })
    .from(rateCard)
    .where(
      and(
        eq(rateCard.workspaceId, workspaceId),
        eq(rateCard.kind, kind),
        eq(rateCard.key, key),
        isNull(rateCard.withdrawnAt),
      ),
    );
  const taken = cannotBeInForce(kind, data, others);
  if (taken !== null) return { ok: false, errors: [taken] };
  const id = newId();
  const [made] = await tx
    .insert(rateCard)
    .values({
      workspaceId,
      id,
      kind,
      key,
      name: cardName(data),
      inForceFrom: cardDay(data),
      example: false,
      data,
      origin,
      basedOn,
      createdBy: by,
    })
    .onConflictDoNothing()
    .returning({ id: rateCard.id });
  // Two people who put a version in force at the same moment: the index lets one through.
  if (made === undefined)
    return {
      ok: false,
      errors: [cannotBeInForce(kind, data, [{ kind, key, inForceFrom: cardDay(data) }]) as CellError],
    };
  if (kind === 'marketplace') await askToHold(tx, workspaceId, key);
  if (draftId !== null)
    await tx.delete(rateDraft).where(and(eq(rateDraft.workspaceId, workspaceId), eq(rateDraft.id, draftId)));
  return { ok: true, id, key, kind };
}

/**
 * Takes exchange tables over, one version a day; a day that is there already stays as it is. Returns how many
 * were new.
 */
export async function putExchange(
  workspaceId: string,
  tables: readonly CardOf<'exchange'>[],
  by: string,
): Promise<number> {
  if (tables.length === 0) return 0;
  return inWorkspace(workspaceId, async (tx) => {
    const made = await tx
      .insert(rateCard)
      .values(
        tables.map((data) => ({
          workspaceId,
          id: newId(),
          kind: 'exchange' as const,
          key: 'exchange',
          name: cardName(data),
          inForceFrom: data.date,
          example: false,
          data,
          createdBy: by,
        })),
      )
      .onConflictDoNothing()
      .returning({ id: rateCard.id });
    return made.length;
  });
}

/**
 * Takes a version out of force, or (`back`) puts it back; lanes keep it. False where its day is taken
 * meanwhile or it is gone.
 */
export async function withdraw(workspaceId: string, id: string, back: boolean): Promise<boolean> {
  return inWorkspace(workspaceId, async (tx) => {
    const [card] = await tx
      .select(versionColumns)
      .from(rateCard)
      .where(and(eq(rateCard.workspaceId, workspaceId), eq(rateCard.id, id)));
    if (card === undefined) return false;
    if (back) {
      const [other] = await tx
        .select({ id: rateCard.id })
        .from(rateCard)
        .where(
          and(
            eq(rateCard.workspaceId, workspaceId),
            eq(rateCard.kind, card.kind),
            eq(rateCard.key, card.key),
            eq(rateCard.inForceFrom, card.inForceFrom),
            isNull(rateCard.withdrawnAt),
          ),
        );
      if (other !== undefined) return other.id === id;
    }
    await tx
      .update(rateCard)
      .set({ withdrawnAt: back ? null : new Date() })
      .where(and(eq(rateCard.workspaceId, workspaceId), eq(rateCard.id, id)));
    if (card.kind === 'marketplace') await askToHold(tx, workspaceId, card.key);
    return true;
  });
}

// ---- import
// --------------------------------------------------------------------------------------------------------

/**
 * What an imported file would do; nothing is stored. `cells` are kept by whoever asked, to be applied or
 * opened as a draft.
 */
export type Preview = {
  kind: CardKind;
  cells: Tables;
  errors: readonly CellError[];
  changes: RowChange[];
  counts: { added: number; changed: number; removed: number };
};

/** Reads a whole card in JSON; says what it is not, where it is wrong, and what to do. */
export function readCardDocument(
  text: string,
): { ok: true; kind: CardKind; data: CardData } | { ok: false; errors: CellError[] } {
  const wrong = (column: string | null, what: Fault): { ok: false; errors: CellError[] } => ({
    ok: false,
    errors: [{ sheet: 'card', row: null, column, ...what }],
  });
  let json: unknown;
  try {
    json = broughtUp(JSON.parse(text));
  } catch {
    return wrong(null, fault('cardBroken'));
  }
  const head = json as { format?: unknown; version?: unknown; kind?: unknown; data?: unknown } | null;
  if (head === null || typeof head !== 'object' || head.format !== 'bold-margin/rate-card')
    return wrong('format', fault('notCard'));
  const version = versionOf('bold-margin/rate-card');
  if (head.version !== version)
    return wrong('version', fault('cardNewer', { reads: version, version: String(head.version) }));
  if (!isCardKind(head.kind))
    return wrong('kind', fault('noCardKind', { kinds: CARD_KINDS, kind: String(head.kind) }));
  const parsed = cardDocument.safeParse(json);
  if (!parsed.success)
    return {
      ok: false,
      errors: issuesOf(parsed.error).map(({ path, ...what }) => ({
        sheet: 'card',
        row: null,
        column: path,
        ...what,
      })),
    };
  const { kind, data } = parsed.data as { kind: CardKind; data: CardData };
  // What belongs to rows (gaps, overlaps, unknown currencies) is checked as it is in a spreadsheet.
  const read = readTables(kind, draftOf(kind, data));
  return read.ok ? { ok: true, kind, data } : { ok: false, errors: [...read.errors] };
}

/** Compares cells with the version they are meant to follow. */
export function previewOf(
  kind: CardKind,
  cells: Tables,
  base: CardData | null,
  decimalComma: boolean,
): Preview {
  const read = readTables(kind, cells, { decimalComma });
  const changes = read.ok ? compareCards(kind, base, read.data) : [];
  const count = (k: RowChange['kind']): number => changes.filter((c) => c.kind === k).length;
  // Cells that were read with decimal commas go on with points; others stay as they came.
  return {
    kind,
    cells: read.ok && decimalComma ? draftOf(kind, read.data) : cells,
    errors: read.ok ? [] : read.errors,
    changes,
    counts: { added: count('added'), changed: count('changed'), removed: count('removed') },
  };
}
