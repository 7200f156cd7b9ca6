/** Settlement reports as pages show them: their first rows and how they are or may be read, and the list of them. */
import { and, desc, eq, isNotNull, sql } from 'drizzle-orm';
import { earlierFor, guessSettlementMap } from '../../core/actuals/map.ts';
import type { SettledPlace, SettlementMap } from '../../core/actuals/schema.ts';
import type { MarketplaceCard } from '../../core/cards/rates.ts';
import { headerAmong } from '../../core/lists/map.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { settlement } from '../db/schema.ts';
import type { SettlementSaid } from '../db/schema.ts';
import { today } from '../env.ts';
import { headsOf } from './receiveLists.ts';
import { placeIn, placeOf } from './settledPlaces.ts';
import { needSettlement } from './settlements.ts';
import type { Settlement } from './settlements.ts';
import { cardsInForce } from './workspaces.ts';

const SHOWN_ROWS = 5;

export type SettlementPage = {
  readonly settlement: Settlement;
  readonly sheets: readonly string[];
  readonly header: readonly string[];
  readonly rows: readonly (readonly string[])[];
  /** How it is read; null: it has not been yet. */
  readonly map: SettlementMap | null;
  /** What its headings make one guess; what kinds of lines are, nobody guesses. */
  readonly guessed: SettlementMap;
  /** How the last report of each place was read, by marketplace and country. */
  readonly earlier: Readonly<Record<string, SettlementMap>>;
};

/** A report with its first rows, and how it is or may be read. */
export async function loadSettlement(
  workspaceId: string,
  id: string,
  sheet: string | null = null,
): Promise<SettlementPage> {
  const { found, before } = await inWorkspace(workspaceId, async (tx) => ({
    found: await needSettlement(tx, workspaceId, id),
    before: await tx
      .select({ marketplace: settlement.marketplace, country: settlement.country, map: settlement.map })
      .from(settlement)
      .where(and(eq(settlement.workspaceId, workspaceId), isNotNull(settlement.map)))
      .orderBy(desc(settlement.seq))
      .limit(MOST_MAPS),
  }));
  const sheets = await headsOf(workspaceId, id);
  const named = sheet ?? found.sheet ?? '';
  const rows = (sheets.find((h) => h.name === named) ?? sheets[0])?.rows ?? [];
  const at = headerAmong(rows);
  const header = (rows[at] ?? []).map((h) => h.trim());
  const body = rows.slice(at + 1);
  return {
    settlement: found,
    sheets: sheets.map((h) => h.name),
    header,
    rows: body.slice(0, SHOWN_ROWS),
    map: found.map,
    guessed: guessSettlementMap(header, body),
    earlier: earlierIn(before, header),
  };
}

/** Maps of earlier reports that are looked through. */
const MOST_MAPS = 300;

/** The map for a file of these headings, of each place that reports were read of; the newest come first. */
function earlierIn(
  before: readonly Pick<Settlement, 'marketplace' | 'country' | 'map'>[],
  header: readonly string[],
): Record<string, SettlementMap> {
  const places = [...new Set(before.map((b) => placeIn(b) ?? ''))];
  return Object.fromEntries(
    places.flatMap((place) => {
      const maps = before.flatMap((b) => (placeIn(b) === place ? (b.map ?? []) : []));
      const map = earlierFor(maps, header);
      return map === undefined ? [] : [[place, map]];
    }),
  );
}

/** A report as a list shows it: without its file and its rows that were refused. */
export type ReportHead = Pick<Settlement, 'id' | 'name' | 'marketplace' | 'country' | 'currency'> & {
  readonly said: Omit<SettlementSaid, 'refused'> | null;
};

/** All reports of a workspace, the newest first. */
export const reportsIn = (tx: Tx, workspaceId: string): Promise<ReportHead[]> =>
  tx
    .select({
      id: settlement.id,
      name: settlement.name,
      marketplace: settlement.marketplace,
      country: settlement.country,
      currency: settlement.currency,
      said: sql<Omit<SettlementSaid, 'refused'> | null>`${settlement.said} - 'refused'`,
    })
    .from(settlement)
    .where(eq(settlement.workspaceId, workspaceId))
    .orderBy(desc(settlement.seq));

/** Where one may sell by the workspace's marketplace cards, each place once. */
export async function placesOfCards(workspaceId: string): Promise<SettledPlace[]> {
  const cards = await inWorkspace(workspaceId, (tx) => cardsInForce(tx, workspaceId, today()));
  return cards
    .filter((c) => c.kind === 'marketplace')
    .map(({ data }) => {
      const { marketplace, country, currency } = data as MarketplaceCard;
      return { marketplace, country, currency };
    })
    .sort((a, b) => placeOf(a).localeCompare(placeOf(b)));
}
