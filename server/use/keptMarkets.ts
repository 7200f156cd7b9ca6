/**
 * What is kept of watched markets: what was decided, the newest of each kind that was observed, and every
 * stretch of days.
 */
import { and, eq, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import { NO_WATCH, watch } from '../../core/evidence/observed.ts';
import type { KeptMarket, Observation, ObservedKind } from '../../core/evidence/observed.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { feed, observation, watched } from '../db/schema.ts';

/** A market of a candidate. */
export type Place = { readonly candidateId: string; readonly market: string };
export type KeptPlace = Place & { readonly kept: KeptMarket };

type Row = {
  candidate_id: string;
  market: string;
  /** Blank: what was decided; `feed`: the workspace has one. */
  kind: ObservedKind | '' | 'feed';
  id: string;
  as_of: string | null;
  source: string | null;
  stated: boolean | null;
  value: unknown;
};

/**
 * One statement, however many markets: a market's observations are those of the candidate itself and of the listing it
 * follows. Of each kind the newest counts, of days every stretch, the newer first.
 */
async function rowsOf(tx: Tx, workspaceId: string, which: SQL | undefined): Promise<Row[]> {
  const { rows } = await tx.execute<Row>(sql`
    with own as (
      select candidate_id, market, data from ${watched} where ${and(eq(watched.workspaceId, workspaceId), which)}
    ), seen as (
      select own.candidate_id, o.*, row_number() over (
        partition by own.candidate_id, o.market, o.kind order by o.as_of desc, o.created_at desc) as n
      from own cross join lateral (
        values ('candidate/' || own.candidate_id), ('listing/' || nullif(own.data ->> 'listing', ''))
      ) as of (subject) join ${observation} o on o.workspace_id = ${workspaceId} and o.subject = of.subject
        and o.market = own.market and o.taken_back_at is null
    )
    select candidate_id, market, '' as kind, '' as id, null as as_of, null as source, null::boolean as stated,
      data as value, now() as created_at from own
    union all
    select '', '', 'feed', '', null, null, null, null, now() from ${feed} where workspace_id = ${workspaceId}
    union all
    select candidate_id, market, kind, id, as_of::text, source, stated, value, created_at from seen
    where n = 1 or kind = 'history'
    order by as_of desc nulls first, created_at desc`);
  return rows;
}

function placesOf(rows: readonly Row[]): KeptPlace[] {
  const places = new Map<string, Place & { kept: KeptMarket & { observations: Observation[] } }>();
  const keyOf = (r: Row): string => `${r.candidate_id} ${r.market}`;
  for (const r of rows) {
    if (r.kind !== '') continue;
    const { candidate_id: candidateId, market } = r;
    const own = { market, watch: watch.safeParse(r.value).data ?? NO_WATCH, observations: [] };
    places.set(keyOf(r), { candidateId, market, kept: own });
  }
  for (const { kind, id, value, as_of, source, stated, ...of } of rows) {
    if (kind === '' || kind === 'feed') continue;
    const seen = { id, kind, value, asOf: as_of ?? '', source: source ?? '', stated: stated ?? true };
    places.get(keyOf(of as Row))?.kept.observations.push(seen);
  }
  return [...places.values()];
}

/** What is kept of these markets; one that nobody follows is not among them. */
export async function keptPlaces(
  tx: Tx,
  workspaceId: string,
  wanted: readonly Place[],
): Promise<KeptPlace[]> {
  if (wanted.length === 0) return [];
  const pairs = wanted.map((w) => sql`(${w.candidateId}, ${w.market})`);
  return placesOf(
    await rowsOf(tx, workspaceId, sql`(candidate_id, market) in (${sql.join(pairs, sql`, `)})`),
  );
}

/** What was observed of listings of a market, whoever follows them: of each kind the newest, of days every stretch. */
export async function keptListings(
  tx: Tx,
  workspaceId: string,
  market: string,
  listings: readonly string[],
): Promise<Map<string, KeptMarket>> {
  const kept = new Map<string, KeptMarket & { observations: Observation[] }>();
  if (listings.length === 0) return kept;
  const subjects = listings.map((l) => sql`${`listing/${l}`}`);
  const { rows } = await tx.execute<Row & { subject: string }>(sql`
    select * from (
      select o.*, row_number() over (
        partition by o.subject, o.kind order by o.as_of desc, o.created_at desc) as n
      from ${observation} o where o.workspace_id = ${workspaceId} and o.market = ${market}
        and o.subject in (${sql.join(subjects, sql`, `)}) and o.taken_back_at is null
    ) as seen where n = 1 or kind = 'history' order by as_of desc, created_at desc`);
  for (const listing of listings)
    kept.set(listing, { market, watch: { ...NO_WATCH, listing }, observations: [] });
  for (const { subject, id, kind, value, as_of, source, stated } of rows)
    kept
      .get(subject.slice('listing/'.length))
      ?.observations.push({
        id,
        kind: kind as ObservedKind,
        value,
        asOf: String(as_of).slice(0, 10),
        source: source ?? '',
        stated: stated ?? true,
      });
  return kept;
}

export type KeptMarkets = { readonly markets: KeptMarket[]; readonly hasFeed: boolean };

/** What is kept of a candidate's markets, or of one of them (`only`), and whether the workspace has a feed. */
export async function marketsIn(
  tx: Tx,
  workspaceId: string,
  candidateId: string,
  only: string | null = null,
): Promise<KeptMarkets> {
  const which = and(
    eq(watched.candidateId, candidateId),
    only === null ? undefined : eq(watched.market, only),
  );
  const rows = await rowsOf(tx, workspaceId, which);
  return { markets: placesOf(rows).map((p) => p.kept), hasFeed: rows.some((r) => r.kind === 'feed') };
}

export const loadMarkets = (
  workspaceId: string,
  candidateId: string,
  only: string | null,
): Promise<KeptMarkets> => inWorkspace(workspaceId, (tx) => marketsIn(tx, workspaceId, candidateId, only));
