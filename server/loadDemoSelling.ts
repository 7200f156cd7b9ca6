/** What the demo sells: lanes put on sale, goods that came in, and reports brought in and read as anybody's are. */
import { Readable } from 'node:stream';
import { and, eq, sql } from 'drizzle-orm';
import { settlementMap } from '../core/actuals/schema.ts';
import type { LaneDocument } from '../core/lane/schema.ts';
import { daysBefore } from '../core/money/days.ts';
import { exchangeFactor } from '../core/money/money.ts';
import { orderSaid } from '../core/orders/totals.ts';
import { demoMissing, demoSelling, SETTLED_TO } from '../demo/selling.ts';
import type { DemoSelling } from '../demo/selling.ts';
import { advertFile, REPORT_MAP, settlementFile, settlementRows } from '../demo/settlements.ts';
import type { ReportRow, Selling, Twist } from '../demo/settlements.ts';
import { inWorkspace } from './db/client.ts';
import { candidate, lane, launchedLane } from './db/schema.ts';
import { today } from './env.ts';
import { draftOrders } from './use/draftOrders.ts';
import { launchLane } from './use/launched.ts';
import { loadOrder } from './use/orders.ts';
import { moveCash, moveOrder, noteBill, payOrder, receiveGoods, saveOrder } from './use/orderSteps.ts';
import { readSettlement, receiveSettlement } from './use/settlements.ts';
import { loadSettlement } from './use/settlementPages.ts';

/** Days of a report of the demo. */
const REPORT_DAYS = 60;
const ago = (days: number): string => daysBefore(today(), days);

async function laneOf(workspaceId: string, { candidate: name, market }: DemoSelling): Promise<string> {
  const [found] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ id: lane.id })
      .from(lane)
      .innerJoin(
        candidate,
        and(eq(candidate.workspaceId, lane.workspaceId), eq(candidate.id, lane.candidateId)),
      )
      .where(
        and(
          eq(lane.workspaceId, workspaceId),
          sql`${candidate.data} ->> 'name' = ${name}`,
          sql`concat(${lane.data} ->> 'marketplace', '/', ${lane.data} ->> 'country') = ${market}`,
        ),
      ),
  );
  if (found === undefined) throw new Error(`The demo sells what it does not have: ${name}, ${market}`);
  return found.id;
}

/** All of it paid on a day long gone: the cash at hand is what was left after that. */
async function paid(
  workspaceId: string,
  id: string,
  day: string,
  { rates, homeCurrency }: LaneDocument,
  by: string,
): Promise<void> {
  const { order } = await loadOrder(workspaceId, id);
  const { total } = orderSaid(order.terms, day);
  const factor = exchangeFactor(rates.exchange, order.terms.currency, homeCurrency);
  const home = Math.round(total * factor * 100) / 100;
  await payOrder(workspaceId, id, { day, amount: total, home }, order.edition, by);
  await inWorkspace(workspaceId, (tx) => moveCash(tx, workspaceId, home));
}

/** An order of long ago: confirmed, come in, billed and closed. */
async function received(
  workspaceId: string,
  laneId: string,
  of: DemoSelling,
  document: LaneDocument,
  by: string,
): Promise<void> {
  if (of.came === undefined) return;
  const { ids } = await draftOrders(workspaceId, { lanes: [laneId], goods: [], byHand: false }, by);
  const [id] = ids;
  if (id === undefined) return;
  const at = async (): Promise<number> => (await loadOrder(workspaceId, id)).order.edition;
  const { terms } = (await loadOrder(workspaceId, id)).order;
  const line = terms.lines[0];
  if (line === undefined) return;
  const bought = {
    ...line,
    units: of.came.units,
    priceBreaks: [{ minQty: 0, unitPrice: of.came.unitPrice }],
  };
  const placedOn = ago(of.came.ago + 60);
  await saveOrder(workspaceId, id, { terms: { delivery: 0, placedOn }, lines: { [line.id]: bought } }, by);
  for (const to of ['sent', 'confirmed'] as const)
    await moveOrder(workspaceId, id, { to, note: '', edition: await at() }, by);
  const came = {
    day: ago(of.came.ago),
    lines: [{ line: line.id, units: of.came.units, damaged: 0 }],
    note: '',
  };
  await receiveGoods(workspaceId, id, came, await at(), by);
  const bill = { day: ago(of.came.ago), amount: of.came.freight, note: '' };
  await noteBill(workspaceId, id, { ...bill, kind: 'freight', by: 'value' }, await at(), by);
  await paid(workspaceId, id, placedOn, document, by);
  await moveOrder(workspaceId, id, { to: 'closed', note: '', edition: await at() }, by);
}

async function selling(workspaceId: string, laneId: string, of: DemoSelling): Promise<Selling> {
  const [kept] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ document: launchedLane.document })
      .from(launchedLane)
      .where(and(eq(launchedLane.workspaceId, workspaceId), eq(launchedLane.laneId, laneId))),
  );
  if (kept === undefined) throw new Error(`The demo did not put ${of.candidate} on sale`);
  const twists = of.story.map(({ from, lost, ...twist }): Twist => {
    return {
      ...twist,
      ...(from !== undefined && { from: ago(from) }),
      ...(lost !== undefined && { lost: { ...lost, month: ago(lost.ago).slice(0, 7) } }),
    };
  });
  return { code: of.code, document: kept.document, since: ago(of.since), twists };
}

/** Reports of a place, each of some weeks; one of them nobody has fetched. */
async function settle(
  workspaceId: string,
  market: string,
  lanes: readonly Selling[],
  by: string,
): Promise<void> {
  const [marketplace = '', country = ''] = market.split('/');
  const rows = settlementRows(lanes, ago(SETTLED_TO), market.length * 7919);
  const first = rows[0]?.day ?? today();
  const skipped = market === demoMissing.market ? demoMissing : null;
  const ends = skipped === null ? [] : [ago(skipped.from + 1)];
  let from = first;
  while (from <= ago(SETTLED_TO)) {
    if (skipped !== null && from >= ago(skipped.from) && from <= ago(skipped.to)) from = ago(skipped.to - 1);
    const whole = daysBefore(from, -(REPORT_DAYS - 1));
    const until = [whole, ago(SETTLED_TO), ...ends.filter((e) => e >= from)].sort()[0] as string;
    const { id } = await receiveSettlement(
      workspaceId,
      `${marketplace}-${country}-${from}.csv`,
      Readable.from([settlementFile(rows, from, until)]),
      by,
    );
    const map = settlementMap.parse({ ...REPORT_MAP, decimal: 'comma', days: 'dayFirst' });
    const { currency } = (lanes[0] as Selling).document;
    await readSettlement(workspaceId, id, { place: { marketplace, country, currency }, map, sheet: null });
    from = daysBefore(until, -1);
  }
  const dearer = lanes.find((l) => l.twists.some((t) => t.adverts !== undefined));
  if (dearer !== undefined) await tellAdverts(workspaceId, rows, dearer, by);
}

/** The advert report of a lane, read as its headings make one guess. */
async function tellAdverts(
  workspaceId: string,
  rows: readonly ReportRow[],
  lane: Selling,
  by: string,
): Promise<void> {
  const file = advertFile(rows, lane);
  if (file === null) return;
  const { marketplace, country, currency } = lane.document;
  const name = `${marketplace}-${country}-adverts.csv`;
  const { id } = await receiveSettlement(workspaceId, name, Readable.from([file]), by);
  const { guessed: map } = await loadSettlement(workspaceId, id);
  await readSettlement(workspaceId, id, { place: { marketplace, country, currency }, map, sheet: null });
}

export async function loadDemoSelling(workspaceId: string, by: string): Promise<void> {
  const places = new Map<string, Selling[]>();
  for (const of of demoSelling) {
    const laneId = await laneOf(workspaceId, of);
    await launchLane(workspaceId, { laneId, codes: [of.code], since: ago(of.since) }, by);
    const sold = await selling(workspaceId, laneId, of);
    await received(workspaceId, laneId, of, sold.document, by);
    places.set(of.market, [...(places.get(of.market) ?? []), sold]);
  }
  for (const [market, lanes] of places) await settle(workspaceId, market, lanes, by);
}
