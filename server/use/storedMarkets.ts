/**
 * What evidence says of markets, for lists of candidates and of lanes. It stands beside each watched market with
 * the state
 * it was worked out in; only where that has moved (something observed or decided, the settings, a new day) is it worked
 * out again, for so many candidates at a time.
 */
import { createHash } from 'node:crypto';
import { eq, sql } from 'drizzle-orm';
import { composeEvidence } from '../../core/evidence/observed.ts';
import type { Composed, KeptMarket } from '../../core/evidence/observed.ts';
import { marketStored, newerStored } from '../../core/evidence/stored.ts';
import type { MarketStored, NewerLine } from '../../core/evidence/stored.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import type { Tx } from '../db/client.ts';
import { watched } from '../db/schema.ts';
import { today } from '../env.ts';
import { keptPlaces } from './keptMarkets.ts';
import type { Place } from './keptMarkets.ts';

/** Markets that are read at one request; the others follow at the next. */
const MOST_ANEW = 40;

/** A market of a candidate, and the lane of it that a list shows; null: none that was fed from evidence. */
export type MarketWanted = Place & { readonly lane: { readonly id: string; readonly state: string } | null };
export type MarketShown = { readonly said: MarketStored; readonly newer: readonly NewerLine[] };
type Documents = (lanes: readonly string[]) => Promise<ReadonlyMap<string, LaneDocument>>;
const placeKey = (p: Place): string => `${p.candidateId} ${p.market}`;
/** Raised where more is stored of a market than before. */
const EDITION = 2;

/**
 * What is said of these markets; a market nobody follows is not among them. `documents` gives the lanes that have
 * to be read anew.
 */
export async function storedMarkets(
  tx: Tx,
  workspaceId: string,
  settings: Settings,
  wanted: readonly MarketWanted[],
  documents: Documents,
): Promise<Map<string, MarketShown>> {
  const shown = new Map<string, MarketShown>();
  const asked = new Map(wanted.map((w) => [placeKey(w), w]));
  if (asked.size === 0) return shown;
  const rows = await tx
    .select({
      candidateId: watched.candidateId,
      market: watched.market,
      stored: watched.stored,
      updatedAt: watched.updatedAt,
      seenAt: watched.seenAt,
    })
    .from(watched)
    .where(eq(watched.workspaceId, workspaceId));
  const under = createHash('sha1')
    .update(JSON.stringify([EDITION, settings.evidence, settings.evidenceHurdles, today()]))
    .digest('base64url');
  const own = rows.flatMap((r) => {
    const lane = asked.get(placeKey(r))?.lane ?? null;
    const key = `${under} ${r.updatedAt.getTime()} ${r.seenAt?.getTime() ?? 0}`;
    return asked.has(placeKey(r)) ? [{ ...r, lane, key, laneKey: `${key} ${lane?.id} ${lane?.state}` }] : [];
  });
  const isOld = (r: (typeof own)[number]): boolean =>
    r.stored?.key !== r.key || (r.lane !== null && r.stored.newer?.key !== r.laneKey);
  for (const r of own) if (r.stored?.said.facts !== undefined) shown.set(placeKey(r), shownOf(r.stored, r));
  const old = new Map(
    own
      .filter(isOld)
      .slice(0, MOST_ANEW)
      .map((r) => [placeKey(r), r]),
  );
  const lanes = await documents([...old.values()].flatMap((r) => r.lane?.id ?? []));
  const anew: (Place & { stored: Stored })[] = [];
  for (const { candidateId, market, kept } of await keptPlaces(tx, workspaceId, [...old.values()])) {
    const row = old.get(placeKey({ candidateId, market }));
    if (row === undefined) continue;
    const composed = composedOf(market, kept, settings);
    const doc = row.lane === null ? undefined : lanes.get(row.lane.id);
    const stored = {
      key: row.key,
      said: marketStored(composed),
      ...(doc === undefined ? {} : { newer: { key: row.laneKey, lines: newerStored(composed, doc) } }),
    };
    shown.set(placeKey(row), shownOf(stored, row));
    anew.push({ candidateId, market, stored });
  }
  await store(tx, workspaceId, anew);
  return shown;
}

type Stored = NonNullable<(typeof watched.$inferSelect)['stored']>;
/** What newer evidence says counts only of the lane and the state that it was worked out for. */
const shownOf = ({ said, newer }: Stored, { laneKey }: { readonly laneKey: string }): MarketShown => ({
  said,
  newer: newer?.key === laneKey ? newer.lines : [],
});

async function store(
  tx: Tx,
  workspaceId: string,
  rows: readonly (Place & { stored: Stored })[],
): Promise<void> {
  if (rows.length === 0) return;
  const sent = rows.map((r) => ({ candidate_id: r.candidateId, market: r.market, stored: r.stored }));
  await tx.execute(sql`
    update bm.watched w set stored = u.stored
    from jsonb_to_recordset(${JSON.stringify(sent)}::jsonb) as u(candidate_id text, market text, stored jsonb)
    where w.workspace_id = ${workspaceId} and w.candidate_id = u.candidate_id and w.market = u.market`);
}

function composedOf(market: string, kept: KeptMarket, settings: Settings): Composed {
  const [marketplace = '', country = ''] = market.split('/');
  return composeEvidence({
    market: { marketplace, country },
    today: today(),
    observations: kept.observations,
    watch: kept.watch,
    settings: settings.evidence,
    hurdles: settings.evidenceHurdles,
  });
}
