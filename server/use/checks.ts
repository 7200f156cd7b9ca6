/** Checks at a shelf: what it takes to make them, keeping them once, and what becomes of them. */
import { Readable } from 'node:stream';
import type { z } from 'zod';
import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import { checkSaid, gistOf, laneOfCheck, sellsAt } from '../../core/check/check.ts';
import type { CheckFrame, CheckGist } from '../../core/check/check.ts';
import { checkSession as sessionSchema, shelfCheck as checkSchema } from '../../core/check/schema.ts';
import type { CheckSession, ShelfCheck } from '../../core/check/schema.ts';
import { goodsName } from '../../core/check/session.ts';
import type { CheckKit, CheckMarket } from '../../between/checkKit.ts';
import type { CardData } from '../../core/cards/schema.ts';
import { usualCards } from '../../core/cards/schema.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { firstIssue } from '../../core/issues.ts';
import { roleRule } from '../../core/lists/roles.ts';
import type { Role } from '../../core/lists/roles.ts';
import { firstMarket, marketsOffered } from '../../core/workspace/offered.ts';
import { writeCsv } from '../files/sheets.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { checkSession, rateCard, shelfCheck } from '../db/schema.ts';
import { today } from '../env.ts';
import { gone } from '../refusal.ts';
import { candidateFromDocument } from './laneDocuments.ts';
import { needRoomForChecks } from './quotas.ts';
import { receiveList } from './receiveLists.ts';
import { cardsInForce, settingsIn, settingsWith } from './workspaces.ts';

/** Everything a check is reckoned with, so that a device has it at hand; null where the workspace is deleted. */
export async function checkKit(workspaceId: string): Promise<CheckKit | null> {
  const { settings, also: cards } = await settingsWith(workspaceId, (tx) =>
    cardsInForce(tx, workspaceId, today()),
  );
  if (settings === null) return null;
  const offered = marketsOffered(cards, settings);
  const used = new Map<string, CardData>();
  const markets = offered.map((c): CheckMarket => {
    const country = c.key.split('/')[1] ?? settings.homeCountry;
    const usual = usualCards(cards, { country, homeCurrency: settings.homeCurrency });
    for (const own of [c, usual.tax, usual.exchange]) if (own != null) used.set(own.id, own.data);
    const currency = (c.data as { currency: string }).currency;
    return {
      key: c.key,
      name: c.name,
      currency,
      cards: { marketplace: c.id, tax: usual.tax?.id ?? null, exchange: usual.exchange?.id ?? null },
    };
  });
  const { homeCurrency, standings, defaults, hurdles } = settings;
  return {
    settings: { homeCurrency, standings, defaults, hurdles },
    cards: Object.fromEntries(used),
    today: today(),
    markets,
    market: firstMarket(offered, settings.homeCountry)?.key ?? null,
    at: new Date().toISOString(),
  };
}

// ---- keeping

/** At most so many of each are taken at once. */
export const MOST_CHECKS = 200;
export type SentChecks = { readonly sessions: readonly unknown[]; readonly checks: readonly unknown[] };
export type Taken = {
  /** Ids of what is kept now, whether by this or by an earlier sending. */
  readonly sessions: readonly string[];
  readonly checks: readonly string[];
  /** What cannot be kept as it is, and why; the rest is kept nonetheless. */
  readonly refused: readonly { readonly id: string; readonly fault: Fault }[];
};

const idOf = (sent: unknown): string => {
  const id = sent !== null && typeof sent === 'object' && 'id' in sent ? sent.id : '';
  return typeof id === 'string' ? id.slice(0, 64) : '';
};

/** Those that fit a schema; the others are added to what is refused. */
const readAll = <S extends z.ZodType>(
  schema: S,
  all: readonly unknown[],
  refused: { id: string; fault: Fault }[],
): z.output<S>[] =>
  all.flatMap((x) => {
    const parsed = schema.safeParse(x);
    if (parsed.success) return [parsed.data];
    refused.push({ id: idOf(x), fault: fault('checkUnfit', { path: firstIssue(parsed.error).path }) });
    return [];
  });

/** Keeps what a device sends, each once however often it comes. What came of a check is reckoned here. */
export async function keepChecks(workspaceId: string, sent: SentChecks, by: string): Promise<Taken> {
  const refused: { id: string; fault: Fault }[] = [];
  const sessions = readAll(sessionSchema, sent.sessions, refused);
  const checks = readAll(checkSchema, sent.checks, refused);
  return inWorkspace(workspaceId, async (tx) => {
    if (checks.length > 0) await needRoomForChecks(tx, workspaceId);
    if (sessions.length > 0) await keepSessions(tx, workspaceId, sessions, by);
    const frame = await frameFor(tx, workspaceId, checks);
    const rows = checks.flatMap((c) => {
      const doc = laneOfCheck(c, frame);
      if (doc === null) {
        refused.push({ id: c.id, fault: fault('checkNoCard', { market: c.market }) });
        return [];
      }
      const said = gistOf(
        doc,
        checkSaid(doc, frame.settings.hurdles.retail ?? [], c.listing?.permission ?? null),
      );
      return [{ workspaceId, id: c.id, sessionId: c.session, at: new Date(c.at), data: c, said, by }];
    });
    if (rows.length > 0) await keepRows(tx, rows);
    return { sessions: sessions.map((s) => s.id), checks: rows.map((r) => r.id), refused };
  });
}

/** A check that is there is changed by a later decision of the same person alone, and not once it is a candidate. */
async function keepRows(tx: Tx, rows: readonly (typeof shelfCheck.$inferInsert)[]): Promise<void> {
  const each = new Map<string, (typeof rows)[number]>();
  for (const r of rows) if ((each.get(r.id)?.data.changedAt ?? '') <= r.data.changedAt) each.set(r.id, r);
  await tx
    .insert(shelfCheck)
    .values([...each.values()])
    .onConflictDoUpdate({
      target: [shelfCheck.workspaceId, shelfCheck.id],
      set: { data: sql`excluded.data`, said: sql`excluded.said` },
      setWhere: sql`excluded.data ->> 'changedAt' > ${shelfCheck.data} ->> 'changedAt'
        and ${shelfCheck.by} = excluded.by and ${shelfCheck.candidateId} is null`,
    });
}

async function keepSessions(
  tx: Tx,
  workspaceId: string,
  sessions: readonly CheckSession[],
  by: string,
): Promise<void> {
  // Of one session that came twice in a sending the later counts.
  const each = new Map<string, CheckSession>();
  for (const s of sessions) if ((each.get(s.id)?.changedAt ?? '') <= s.changedAt) each.set(s.id, s);
  await tx
    .insert(checkSession)
    .values(
      [...each.values()].map((s) => ({
        workspaceId,
        id: s.id,
        data: s,
        by,
        changedAt: new Date(s.changedAt),
      })),
    )
    .onConflictDoUpdate({
      target: [checkSession.workspaceId, checkSession.id],
      set: { data: sql`excluded.data`, changedAt: sql`excluded.changed_at` },
      setWhere: sql`excluded.changed_at > ${checkSession.changedAt} and ${checkSession.by} = excluded.by`,
    });
}

/** Settings of the workspace and the card versions that these checks name. */
async function frameFor(
  tx: Tx,
  workspaceId: string,
  checks: readonly Pick<ShelfCheck, 'cards'>[],
): Promise<CheckFrame> {
  const settings = await settingsIn(tx, workspaceId);
  if (settings === null) throw gone();
  const ids = [...new Set(checks.flatMap((c) => Object.values(c.cards)).filter((id) => id !== null))];
  const rows =
    ids.length === 0
      ? []
      : await tx
          .select({ id: rateCard.id, kind: rateCard.kind, data: rateCard.data })
          .from(rateCard)
          .where(and(eq(rateCard.workspaceId, workspaceId), inArray(rateCard.id, ids)));
  return { settings, cards: Object.fromEntries(rows.map((r) => [r.id, r.data])), today: today() };
}

// ---- looking back

export type KeptCheck = {
  readonly id: string;
  readonly data: ShelfCheck;
  readonly said: CheckGist;
  readonly candidateId: string | null;
};
export type SessionLine = { readonly session: CheckSession; readonly checked: number; readonly kept: number };

/** Sessions of a workspace, the latest first. */
export async function sessionsOf(workspaceId: string): Promise<SessionLine[]> {
  return inWorkspace(workspaceId, (tx) =>
    tx
      .select({
        session: checkSession.data,
        checked: sql<number>`count(${shelfCheck.id})::int`,
        kept: sql<number>`(count(*) filter (where ${shelfCheck.data} ->> 'state' = 'kept'))::int`,
      })
      .from(checkSession)
      .leftJoin(
        shelfCheck,
        and(eq(shelfCheck.workspaceId, checkSession.workspaceId), eq(shelfCheck.sessionId, checkSession.id)),
      )
      .where(eq(checkSession.workspaceId, workspaceId))
      .groupBy(checkSession.workspaceId, checkSession.id)
      .orderBy(desc(checkSession.changedAt))
      .limit(200),
  );
}

/** A session with its checks in the order they were made; null where there is none. */
export async function sessionOf(
  workspaceId: string,
  id: string,
): Promise<{ session: CheckSession; checks: KeptCheck[]; homeCurrency: string } | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const [own] = await tx
      .select({ session: checkSession.data })
      .from(checkSession)
      .where(and(eq(checkSession.workspaceId, workspaceId), eq(checkSession.id, id)));
    const settings = await settingsIn(tx, workspaceId);
    if (own === undefined || settings === null) return null;
    const checks = await tx
      .select({
        id: shelfCheck.id,
        data: shelfCheck.data,
        said: shelfCheck.said,
        candidateId: shelfCheck.candidateId,
      })
      .from(shelfCheck)
      .where(and(eq(shelfCheck.workspaceId, workspaceId), eq(shelfCheck.sessionId, id)))
      .orderBy(asc(shelfCheck.at));
    return { session: own.session, checks, homeCurrency: settings.homeCurrency };
  });
}

const these = (workspaceId: string, ids: readonly string[]) =>
  and(eq(shelfCheck.workspaceId, workspaceId), inArray(shelfCheck.id, [...ids]));

/** Decides anew about checks: kept, or left with a reason. */
export async function decideChecks(
  workspaceId: string,
  ids: readonly string[],
  decision: Pick<ShelfCheck, 'state' | 'reason'>,
): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .update(shelfCheck)
      .set({ data: sql`${shelfCheck.data} || ${JSON.stringify(decision)}::jsonb` })
      .where(these(workspaceId, ids)),
  );
}

/**
 * Makes candidates of checks, bought as at the shelf and sold as reckoned there; one that became a candidate already
 * stays that one. Returns the candidates' ids in the order of the checks.
 */
export async function candidatesOfChecks(
  workspaceId: string,
  ids: readonly string[],
  notesOf: (c: ShelfCheck) => string,
  by: string,
): Promise<string[]> {
  return inWorkspace(workspaceId, async (tx) => {
    const checks = await tx
      .select()
      .from(shelfCheck)
      .where(these(workspaceId, ids))
      .orderBy(asc(shelfCheck.at))
      .for('update');
    const frame = await frameFor(
      tx,
      workspaceId,
      checks.map((c) => c.data),
    );
    const made: string[] = [];
    for (const c of checks) {
      const doc = c.candidateId === null ? laneOfCheck(c.data, frame) : null;
      if (doc === null) {
        if (c.candidateId !== null) made.push(c.candidateId);
        continue;
      }
      const name = goodsName(c.data).slice(0, 200);
      const candidateId = await candidateFromDocument(tx, workspaceId, { ...doc, name }, by, {
        notes: notesOf(c.data),
        gtin: c.data.gtin,
      });
      await tx
        .update(shelfCheck)
        .set({ candidateId })
        .where(these(workspaceId, [c.id]));
      made.push(candidateId);
    }
    return made;
  });
}

/** What a list of finds says of each, by the roles that its columns are read in. */
const FIND: readonly (readonly [Role, (c: ShelfCheck) => string | number | null])[] = [
  ['identifier', (c) => c.gtin],
  ['title', (c) => goodsName(c)],
  ['brand', (c) => c.listing?.brand ?? ''],
  ['cost', (c) => c.shelf],
  ['price', (c) => sellsAt(c)],
  ['units', (c) => c.listing?.units ?? null],
];

/** The checks of a session that were kept, as a new supplier's list under this name; its id. */
export async function listOfSession(
  workspaceId: string,
  sessionId: string,
  name: string,
  by: string,
): Promise<string> {
  const found = await sessionOf(workspaceId, sessionId);
  if (found === null) throw gone();
  const text = writeCsv({
    name,
    // Headings by which the columns are found again.
    columns: FIND.map(([role]) => ({ title: roleRule(role).headings[0] ?? role })),
    rows: found.checks
      .filter((c) => c.data.state === 'kept')
      .map(({ data }) => FIND.map(([, of]) => of(data))),
  });
  const { id } = await receiveList(workspaceId, name, Readable.from([text]), by);
  return id;
}
