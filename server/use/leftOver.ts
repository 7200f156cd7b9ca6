/** What is left of a lane that is let go: sold off, or sold elsewhere, as scenario lanes. */
import { leftOverOf } from '../../core/actuals/leftOver.ts';
import type { LeftOver } from '../../core/actuals/leftOver.ts';
import type { Sheet } from './candidates.ts';
import { inWorkspace } from '../db/client.ts';
import { documentOf, loadSheet } from './candidates.ts';
import { launchedIn } from './onSale.ts';
import { putLanes } from './candidateLanes.ts';
import { gone } from '../refusal.ts';
import { newId } from './workspaces.ts';

/** A lane of the same product, with what a unit brings there that is paid for. */
export type WayOut = LeftOver & {
  readonly laneId: string;
  readonly lane: string;
  readonly currency: string;
  readonly price: number | null;
};

/** The lane itself first, then the other lanes of its product, the one that brings most first in each currency. */
export function waysOut(sheet: Sheet, laneId: string): WayOut[] {
  const ways = sheet.lanes
    .filter((l) => l.scenarioOf === null || l.id === laneId)
    .map((l): WayOut => {
      const { name, marketplace, country, currency, price } = l.data;
      const lane = [name, marketplace, country].filter(Boolean).join(', ');
      return { laneId: l.id, lane, currency, price, ...leftOverOf(documentOf(sheet, l)) };
    });
  const [own] = ways.filter((w) => w.laneId === laneId);
  const others = ways
    .filter((w) => w.laneId !== laneId && w.brings !== null)
    .sort((a, b) => (b.brings ?? 0) - (a.brings ?? 0));
  return own === undefined ? [] : [own, ...others];
}

/**
 * Keeps what is left as a scenario of a lane: at a price, its goods and the way in paid for. Returns its candidate.
 *
 * @param laneId the lane on sale
 * @param of the lane it is sold by: that of the stock, or another of the product
 * @throws Refusal `gone`
 */
export async function keepLeftOver(
  workspaceId: string,
  laneId: string,
  said: { readonly of: string; readonly price: number; readonly name: string },
  by: string,
): Promise<string> {
  const [launched] = await inWorkspace(workspaceId, (tx) => launchedIn(tx, workspaceId, { lanes: [laneId] }));
  const sheet = launched === undefined ? null : await loadSheet(workspaceId, launched.candidateId);
  const base = sheet?.lanes.find((l) => l.id === said.of);
  if (launched === undefined || sheet === null || base === undefined) throw gone();
  const data = {
    ...base.data,
    name: said.name,
    price: said.price,
    components: [],
    noGoods: true,
    route: 'none' as const,
    freightCardId: null,
    prep: 'none' as const,
    imported: false,
  };
  const position = 1 + Math.max(...sheet.lanes.map((l) => l.position));
  const row = { id: newId(), position, data, scenarioOf: base.scenarioOf ?? base.id };
  await putLanes(workspaceId, launched.candidateId, [row], by);
  return launched.candidateId;
}
