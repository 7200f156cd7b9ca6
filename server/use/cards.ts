/** Rate cards: versions in force, drafts, what a change touches. A version in force is never changed. */
import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { compareCards, cannotBeInForce, draftOf, readTables } from '../../core/cards/tables.ts';
import type { RowChange } from '../../core/cards/tables.ts';
import type { CellError, Tables } from '../../core/cards/reader.ts';
import { CARD_SCHEMAS, cardDay, cardDocument, cardFrom, cardKey, cardName } from '../../core/cards/schema.ts';
import type { CardData, CardKind, CardOf, FreightCard } from '../../core/cards/schema.ts';
import { issuesOf } from '../../core/issues.ts';
import { byFall, impactOf } from '../../core/workspace/impact.ts';
import type { Impact } from '../../core/workspace/impact.ts';
import { CARD_FIELDS, cardsOf, composeLane } from '../../core/workspace/records.ts';
import type { StoredLane } from '../../core/workspace/records.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, lane, quote, rateCard, rateDraft } from '../db/schema.ts';
import { today } from '../env.ts';
import type { OutsideFreight } from '../outside/client.ts';
import { candidateColumns, cardData, laneCard, laneData, quoteColumns } from './columns.ts';
import { startTask } from './tasks.ts';
import { newId, notOpened, settingsIn } from './workspaces.ts';

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
const versionColumns = {
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
): Promise<(Version & { data: CardData })[]> {
  const wanted = ids.filter((id) => id !== '');
  if (wanted.length === 0) return [];
  return inWorkspace(workspaceId, (tx) =>
    tx
      .select({ ...versionColumns, data: rateCard.data })
      .from(rateCard)
      .where(and(eq(rateCard.workspaceId, workspaceId), inArray(rateCard.id, wanted))),
  );
}

// ---- drafts --------------------------------------------------------------------------------------------------------

export type Draft = DraftHead & { cells: Tables; edition: number };
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
  await inWorkspace(workspaceId, (tx) => tx.insert(rateDraft).values({ workspaceId, id, ...draft, updatedBy: by }));
  return id;
}

/**
 * Makes a draft from a version: its next version, or (`copy`) a card of its own. Null where there is no such version.
 */
export async function draftFrom(
  workspaceId: string,
  cardId: string,
  copy: boolean,
  by: string,
): Promise<string | null> {
  const [card] = await loadCards(workspaceId, [cardId]);
  if (card === undefined) return null;
  const data = copy ? card.data : cardFrom(card.data, dayAfter(card.inForceFrom, today()));
  return createDraft(
    workspaceId,
    { kind: card.kind, name: card.name, cells: draftOf(card.kind, data), basedOn: copy ? null : card.id },
    by,
  );
}

/** Tomorrow, or the day after the version where that is later: a day on which no other version is in force. */
function dayAfter(version: string, now: string): string {
  const later = version > now ? version : now;
  return new Date(Date.parse(`${later}T00:00:00Z`) + 86_400_000).toISOString().slice(0, 10);
}

export type DraftSaved = { ok: true; edition: number } | { ok: false; gone: true } | { ok: false; elsewhere: true };

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
      .set({ cells, edition: edition + 1, updatedAt: new Date(), updatedBy: by, ...(name === '' ? {} : { name }) })
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

// ---- in force ------------------------------------------------------------------------------------------------------

export type PutInForce =
  | { ok: true; id: string; key: string; kind: CardKind }
  | { ok: false; errors: readonly CellError[] };

/**
 * Puts a card in force from the day it carries, and has the worker look which candidates would fall under a hurdle. A
 * day that
 * another version has is refused.
 */
export async function putInForce(
  workspaceId: string,
  kind: CardKind,
  data: CardData,
  basedOn: string | null,
  by: string,
  draftId: string | null = null,
): Promise<PutInForce> {
  const put = await storeVersion(workspaceId, kind, data, basedOn, by, draftId);
  if (put.ok)
    await startTask(workspaceId, 'bringUpToDate', { kind, key: put.key, version: put.id, lookOnly: true }, 0, by);
  return put;
}

async function storeVersion(
  workspaceId: string,
  kind: CardKind,
  data: CardData,
  basedOn: string | null,
  by: string,
  draftId: string | null,
): Promise<PutInForce> {
  return inWorkspace(workspaceId, async (tx) => {
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
    if (draftId !== null)
      await tx.delete(rateDraft).where(and(eq(rateDraft.workspaceId, workspaceId), eq(rateDraft.id, draftId)));
    return { ok: true, id, key, kind };
  });
}

/**
 * Makes a draft of a freight card's next version with the rate of a quote on its main leg. Null where there is no
 * such card or leg.
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
    inForceFrom: dayAfter(card.inForceFrom, today()),
    note: `Quoted ${at.slice(0, 10)}, valid until ${quote.validUntil}`,
    route: { ...data.route, legs, transitDays: quote.transitDays },
  };
  return createDraft(
    workspaceId,
    { kind: 'freight', name: card.name, cells: draftOf('freight', next), basedOn: card.id },
    by,
  );
}

/**
 * Takes exchange tables over, one version a day; a day that is there already stays as it is. Returns how many were
 * new.
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
 * Takes a version out of force, or (`back`) puts it back; lanes keep it. False where its day is taken meanwhile or it
 * is gone.
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
    return true;
  });
}

// ---- import --------------------------------------------------------------------------------------------------------

/**
 * What an imported file would do; nothing is stored. `cells` are kept by whoever asked, to be applied or opened as a
 * draft.
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
  const wrong = (column: string | null, problem: string, remedy: string): { ok: false; errors: CellError[] } => ({
    ok: false,
    errors: [{ sheet: 'card', row: null, column, problem, remedy }],
  });
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return wrong(null, 'The file breaks off or is not JSON', 'Export the card again, and import the whole file.');
  }
  const head = json as { format?: unknown; version?: unknown; kind?: unknown; data?: unknown } | null;
  if (head === null || typeof head !== 'object' || head.format !== 'bold-margin/rate-card')
    return wrong('format', 'This is not a rate card', 'Choose a file that was exported from Rates.');
  if (head.version !== 1)
    return wrong(
      'version',
      `This card is of version ${String(head.version)}, newer than this program reads`,
      'Update the program, or export the card again as version 1.',
    );
  if (typeof head.kind !== 'string' || !(head.kind in CARD_SCHEMAS))
    return wrong(
      'kind',
      `"${String(head.kind)}" is no kind of card`,
      `Use one of: ${Object.keys(CARD_SCHEMAS).join(', ')}.`,
    );
  const parsed = cardDocument.safeParse(json);
  if (!parsed.success)
    return {
      ok: false,
      errors: issuesOf(parsed.error).map((i) => ({
        sheet: 'card',
        row: null,
        column: i.path,
        problem: i.problem,
        remedy: i.remedy,
      })),
    };
  const { kind, data } = parsed.data as { kind: CardKind; data: CardData };
  // What belongs to rows (gaps, overlaps, unknown currencies) is checked as it is in a spreadsheet.
  const read = readTables(kind, draftOf(kind, data));
  return read.ok ? { ok: true, kind, data } : { ok: false, errors: [...read.errors] };
}

/** Compares cells with the version they are meant to follow. */
export function previewOf(kind: CardKind, cells: Tables, base: CardData | null, decimalComma: boolean): Preview {
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

// ---- what a change touches
// -------------------------------------------------------------------------------------------

export type Touched = Impact & {
  laneId: string;
  candidateId: string;
  candidate: string;
  country: string;
  marketplace: string;
  method: StoredLane['method'];
};

/**
 * Lanes that a version (or a draft that is read as `data`) of a card would change, with profit before and after in
 * the home
 * currency, largest fall first. Lanes of deleted, archived or dropped candidates are left out.
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
      });
    }
    return out.sort(byFall);
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
    .innerJoin(candidate, and(eq(candidate.workspaceId, lane.workspaceId), eq(candidate.id, lane.candidateId)))
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
export async function askedAbout(workspaceId: string, search: URLSearchParams): Promise<Asked | null | 'gone'> {
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
