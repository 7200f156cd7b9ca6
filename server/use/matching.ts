/** Goods of a list without a proven barcode: what they could be, what was decided, remembered across lists. */
import { readFile } from 'node:fs/promises';
import { and, desc, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import type { ListingSeen, MatchDecision, MatchedRow, PicturesFrom } from '../../between/matching.ts';
import { CONFIDENCES } from '../../core/match/match.ts';
import type { Confidence } from '../../core/match/match.ts';
import { NOISE } from '../../core/match/tokens.ts';
import { inWorkspace } from '../db/client.ts';
import { goodsMark, goodsMatch, task } from '../db/schema.ts';
import type { TaskState } from '../db/schema.ts';
import type { Fault } from '../../core/fault.ts';
import { matchesPath } from '../jobs/matchList.ts';
import { gone, refused } from '../refusal.ts';
import { needList } from './lists.ts';
import { cancelTasks, isUnderWay, storeTask, taskColumns, wake } from './tasks.ts';
import { saveSettings, settingsOf } from './workspaces.ts';

/** Has rows matched; what is under way on this list is stopped first. */
export async function startMatching(workspaceId: string, listId: string, by: string): Promise<void> {
  const list = await needList(workspaceId, listId);
  if (list.reference === null) throw refused('matchNoListings');
  if (list.runId === null) throw refused('matchNothing');
  const id = await inWorkspace(workspaceId, async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`match/${listId}`}, 0))`);
    const under = await tx.select({ id: task.id }).from(task).where(ofList(workspaceId, listId));
    await cancelTasks(
      tx,
      workspaceId,
      under.map((t) => t.id),
    );
    return storeTask(tx, workspaceId, 'matchList', { listId }, 0, by);
  });
  await wake('matchList', workspaceId, id);
}
const ofList = (workspaceId: string, listId: string) =>
  and(
    eq(task.workspaceId, workspaceId),
    eq(task.kind, 'matchList'),
    sql`${task.data} ->> 'listId' = ${listId}`,
  );

export const MATCH_SHOWN = ['open', ...CONFIDENCES, 'decided'] as const;
export type MatchShown = (typeof MATCH_SHOWN)[number];
const AT_ONCE = 60;

export type MatchPage = {
  readonly list: {
    readonly id: string;
    readonly name: string;
    readonly hasReference: boolean;
    /** Null: neither goods nor listings came by the feed. */
    readonly from: PicturesFrom | null;
  };
  readonly work: {
    readonly state: TaskState;
    readonly done: number;
    readonly total: number;
    readonly error: Fault | null;
  } | null;
  /** Rows that nobody has decided on, by confidence; and how many are decided. */
  readonly counts: Readonly<Record<Confidence | 'decided', number>>;
  readonly rows: readonly MatchedRow[];
  readonly decisions: readonly MatchDecision[];
  readonly noise: readonly string[];
};

/** A row as the job wrote it; what was matched before pictures were known says nothing of them. */
function matchedRow(line: string): MatchedRow {
  const row = JSON.parse(line) as MatchedRow;
  const coded = (l: ListingSeen): ListingSeen => ({ ...l, code: l.code ?? '' });
  return {
    ...row,
    shopCode: row.shopCode ?? '',
    picture: row.picture ?? '',
    listing: row.listing === null ? null : coded(row.listing),
    others: row.others.map(coded),
  };
}

/** What was found of a list, by what its goods are known by; none before it was matched. */
async function matchedRows(workspaceId: string, listId: string): Promise<Map<string, MatchedRow>> {
  const text = await readFile(matchesPath(workspaceId, listId), 'utf8').catch((e: NodeJS.ErrnoException) => {
    if (e.code === 'ENOENT') return '';
    throw e;
  });
  const rows = new Map<string, MatchedRow>();
  for (const line of text.split('\n')) {
    if (line === '') continue;
    const row = matchedRow(line);
    if (!rows.has(row.said)) rows.set(row.said, row);
  }
  return rows;
}

/** The rows of one kind, the least sure of the sure first; those that stand in the file twice stand once. */
export async function loadMatches(
  workspaceId: string,
  listId: string,
  shown: MatchShown,
): Promise<MatchPage> {
  const list = await needList(workspaceId, listId);
  const settings = await settingsOf(workspaceId);
  if (settings === null) throw gone();
  const all = await matchedRows(workspaceId, listId);
  const { work, decided } = await inWorkspace(workspaceId, async (tx) => {
    const [newest] = await tx
      .select(taskColumns)
      .from(task)
      .where(ofList(workspaceId, listId))
      .orderBy(desc(task.createdAt))
      .limit(1);
    const rows = await tx
      .select({ said: goodsMatch.said, key: goodsMatch.key, by: goodsMatch.how })
      .from(goodsMatch)
      .where(eq(goodsMatch.workspaceId, workspaceId));
    return { work: newest ?? null, decided: rows.filter((r) => all.has(r.said)) };
  });
  const isDecided = new Set(decided.map((d) => d.said));
  const counts: Record<Confidence | 'decided', number> = {
    certain: 0,
    likely: 0,
    byEye: 0,
    none: 0,
    decided: isDecided.size,
  };
  for (const r of all.values()) if (!isDecided.has(r.said)) counts[r.confidence]++;
  const wanted = (r: MatchedRow): boolean =>
    shown === 'decided'
      ? isDecided.has(r.said)
      : !isDecided.has(r.said) && (shown === 'open' ? r.confidence !== 'none' : r.confidence === shown);
  const rows = [...all.values()]
    .filter(wanted)
    .sort((a, b) => b.alike - a.alike)
    .slice(0, AT_ONCE);
  const saids = new Set(rows.map((r) => r.said));
  return {
    list: {
      id: list.id,
      name: list.name,
      hasReference: list.reference !== null,
      from: list.catalogue === null ? null : { shop: list.catalogue.shop, market: list.catalogue.market },
    },
    work:
      work === null || (!isUnderWay(work.state) && work.state !== 'failed')
        ? null
        : { state: work.state, done: work.done, total: work.total, error: work.error },
    counts,
    rows,
    decisions: decided
      .filter((d) => saids.has(d.said))
      .map((d) => ({ said: d.said, key: d.key === null ? null : String(d.key).padStart(14, '0'), by: d.by })),
    noise: settings.noiseWords,
  };
}

const key = z.string().regex(/^\d{14}$/);
export const matchAct = z.discriminatedUnion('intent', [
  z.strictObject({
    intent: z.literal('decide'),
    said: z.string().max(1000),
    /** Null: it is none of those shown. */
    key: key.nullable(),
    packs: z
      .strictObject({
        sold: z.number().int().min(1).max(10_000),
        bought: z.number().int().min(1).max(10_000),
      })
      .nullable(),
  }),
  z.strictObject({ intent: z.literal('undecide'), said: z.string().max(1000) }),
  z.strictObject({ intent: z.literal('takeCertain') }),
  z.strictObject({ intent: z.literal('match') }),
  z.strictObject({ intent: z.literal('noise'), words: z.array(z.string().trim().min(1).max(40)).max(1000) }),
]);
export type MatchAct = z.output<typeof matchAct>;

/** Notes what goods are, for this list and all that come. A pack by hand goes with the barcode. */
export async function decideMatch(
  workspaceId: string,
  { said, key: chosen, packs }: Omit<Extract<MatchAct, { intent: 'decide' }>, 'intent'>,
  by: string,
): Promise<void> {
  const barcode = chosen === null ? null : Number(chosen);
  await inWorkspace(workspaceId, async (tx) => {
    const values = { workspaceId, said, key: barcode, how: 'hand' as const, by, at: new Date() };
    await tx
      .insert(goodsMatch)
      .values(values)
      .onConflictDoUpdate({ target: [goodsMatch.workspaceId, goodsMatch.said], set: values });
    if (packs === null || barcode === null) return;
    const own = { soldPack: packs.sold, boughtPack: packs.bought, by, at: new Date() };
    await tx
      .insert(goodsMark)
      .values({ workspaceId, key: barcode, ...own })
      .onConflictDoUpdate({ target: [goodsMark.workspaceId, goodsMark.key], set: own });
  });
}

/** Takes a decision back. */
export async function undecideMatch(workspaceId: string, said: string): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx.delete(goodsMatch).where(and(eq(goodsMatch.workspaceId, workspaceId), eq(goodsMatch.said, said))),
  );
}

/** Takes every certain match of a list that nobody has decided on. Returns how many. */
export async function takeCertain(workspaceId: string, listId: string, by: string): Promise<number> {
  await needList(workspaceId, listId);
  const all = [...(await matchedRows(workspaceId, listId)).values()].flatMap((r) =>
    r.confidence === 'certain' && r.listing !== null
      ? { workspaceId, said: r.said, key: Number(r.listing.key), how: 'rule' as const, by, at: new Date() }
      : [],
  );
  let taken = 0;
  await inWorkspace(workspaceId, async (tx) => {
    for (let i = 0; i < all.length; i += 2000)
      taken += (
        await tx
          .insert(goodsMatch)
          .values(all.slice(i, i + 2000))
          .onConflictDoNothing()
          .returning({ said: goodsMatch.said })
      ).length;
  });
  return taken;
}

/** Words that say nothing of goods, as the workspace has edited them. None: those one begins with. */
export const saveNoise = (workspaceId: string, words: readonly string[]) =>
  saveSettings(workspaceId, (s) => ({
    ...s,
    noiseWords: words.length === 0 ? [...NOISE] : [...new Set(words.map((w) => w.toLowerCase()))],
  }));

/** What was decided of all goods, for whoever reads a list: barcodes by what goods are known by. */
export async function matchedGoods(workspaceId: string): Promise<ReadonlyMap<string, number>> {
  const rows = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ said: goodsMatch.said, key: goodsMatch.key })
      .from(goodsMatch)
      .where(and(eq(goodsMatch.workspaceId, workspaceId), sql`${goodsMatch.key} is not null`)),
  );
  return new Map(rows.flatMap((r) => (r.key === null ? [] : [[r.said, r.key]])));
}
