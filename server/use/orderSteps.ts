/** Changing purchase orders: drafts saved as they are edited, every step, what came in, what was paid. */
import { and, eq, inArray, sql } from 'drizzle-orm';
import Papa from 'papaparse';
import { z } from 'zod';
import { fault, isFault } from '../../core/fault.ts';
import { firstIssue } from '../../core/issues.ts';
import { orderProgress, orderTerms } from '../../core/orders/schema.ts';
import type {
  OrderChange,
  OrderLine,
  OrderProgress,
  OrderState,
  OrderTerms,
  Payment,
  Receipt,
} from '../../core/orders/schema.ts';
import { readBills } from '../../core/orders/billFile.ts';
import type { Bill } from '../../core/orders/bills.ts';
import { isAllHere, ORDER_WAYS, SENT, stateBefore } from '../../core/orders/states.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, goodsMark, purchaseOrder } from '../db/schema.ts';
import { today } from '../env.ts';
import { gone, Refusal, refused } from '../refusal.ts';
import { orderColumns, ordersIn, stepTo } from './orders.ts';
import type { OrderRow } from './orders.ts';
import { needOwn } from './own.ts';
import { changeSettings, newId } from './workspaces.ts';

const own = (workspaceId: string, id: string) =>
  and(eq(purchaseOrder.workspaceId, workspaceId), eq(purchaseOrder.id, id));

/** Locks an order; whoever comes with an older edition is told so. */
export async function lockOrder(
  tx: Tx,
  workspaceId: string,
  id: string,
  edition: number | null,
): Promise<OrderRow> {
  const [row] = await tx.select(orderColumns).from(purchaseOrder).where(own(workspaceId, id)).for('update');
  if (row === undefined) throw gone();
  if (edition !== null && row.edition !== edition) throw new Refusal('invalid', fault('orderChanged'));
  return row;
}

async function store(
  tx: Tx,
  workspaceId: string,
  row: OrderRow,
  changed: { terms?: OrderTerms; progress?: OrderProgress; state?: OrderState },
  by: string,
): Promise<void> {
  await tx
    .update(purchaseOrder)
    .set({ ...changed, edition: row.edition + 1, updatedAt: new Date(), updatedBy: by })
    .where(own(workspaceId, row.id));
}

/** Saves what of a draft was changed. What was sent is not changed any more. */
export async function saveOrder(
  workspaceId: string,
  id: string,
  changed: OrderChange,
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const row = await lockOrder(tx, workspaceId, id, null);
    if (row.state !== 'draft') throw refused('orderSent', { number: row.number });
    const lines = changedLines(row.terms.lines, changed);
    const own = Object.values(changed.lines).filter((l) => l !== null);
    await needOwn(tx, workspaceId, {
      candidate: own.map((l) => l.candidateId),
      quote: own.map((l) => l.quoteId),
    });
    const terms = orderTerms.safeParse({ ...row.terms, ...changed.terms, lines });
    if (!terms.success) throw new Refusal('invalid', firstIssue(terms.error));
    await store(tx, workspaceId, row, { terms: terms.data }, by);
  });
}

/** The lines as a change leaves them; those that somebody else has added meanwhile stay, at the end. */
function changedLines(lines: readonly OrderLine[], changed: OrderChange): OrderLine[] {
  const now = new Map(lines.map((l) => [l.id, l]));
  for (const [lineId, line] of Object.entries(changed.lines))
    if (line === null) now.delete(lineId);
    else now.set(lineId, { ...line, id: lineId });
  const sequence = [...new Set([...(changed.sequence ?? []), ...now.keys()])];
  return sequence.flatMap((lineId) => now.get(lineId) ?? []);
}

/** Takes an order one step on; a way that there is not is refused. */
export async function moveOrder(
  workspaceId: string,
  id: string,
  step: { to: OrderState; note: string; edition: number; confirmed?: readonly ConfirmedLine[] },
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const row = await lockOrder(tx, workspaceId, id, step.edition);
    await moveIn(tx, workspaceId, row, step, by);
  });
}

export const confirmedLine = z.strictObject({
  id: z.string().max(64),
  units: z.number().min(0).max(1e9),
  unitPrice: z.number().min(0).max(1e12),
});
type ConfirmedLine = z.output<typeof confirmedLine>;

export async function moveIn(
  tx: Tx,
  workspaceId: string,
  row: OrderRow,
  { to, note, confirmed }: { to: OrderState; note: string; confirmed?: readonly ConfirmedLine[] },
  by: string,
): Promise<void> {
  if (!ORDER_WAYS[row.state].includes(to)) throw refused('orderNoWay', { number: row.number });
  if (to === 'sent' && row.terms.lines.length === 0) throw refused('orderNoLines');
  if (to === 'sent' && row.terms.lines.some((l) => l.units === null)) throw refused('orderNoUnits');
  const terms = {
    ...row.terms,
    placedOn: to === 'sent' ? (row.terms.placedOn ?? today()) : row.terms.placedOn,
    lines: row.terms.lines.map((l) => {
      const said = confirmed?.find((c) => c.id === l.id);
      return said === undefined ? l : { ...l, confirmed: { units: said.units, unitPrice: said.unitPrice } };
    }),
  };
  const progress = { ...row.progress, steps: [...row.progress.steps, stepTo(to, by, note)] };
  await store(tx, workspaceId, row, { state: to, terms, progress }, by);
  await markOrdered(tx, workspaceId, { ...row, terms }, to, by);
}

/** Takes the last step of an order back; never to a draft, since the supplier has it. */
export async function stepBack(workspaceId: string, id: string, edition: number, by: string): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const row = await lockOrder(tx, workspaceId, id, edition);
    const before = row.state === 'draft' ? null : stateBefore(row);
    if (before === null && row.state !== 'cancelled') throw refused('orderNoWay', { number: row.number });
    const state = before ?? 'draft';
    const terms =
      row.state === 'confirmed'
        ? { ...row.terms, lines: row.terms.lines.map((l) => ({ ...l, confirmed: null })) }
        : row.terms;
    const progress = { ...row.progress, steps: row.progress.steps.slice(0, -1) };
    await store(tx, workspaceId, row, { state, terms, progress }, by);
    await markOrdered(tx, workspaceId, row, state, by);
  });
}

/** Goods that are on order are marked so on every list; those of a cancelled order are what they were before. */
async function markOrdered(
  tx: Tx,
  workspaceId: string,
  row: OrderRow,
  state: OrderState,
  by: string,
): Promise<void> {
  const goods = row.terms.lines.flatMap((l) =>
    l.gtin === null ? [] : [{ key: Number(l.gtin), name: l.name }],
  );
  const candidates = row.terms.lines.flatMap((l) => l.candidateId ?? []);
  if (state === 'sent') {
    if (goods.length > 0)
      await tx
        .insert(goodsMark)
        .values([
          ...new Map(
            goods.map((g) => [g.key, { ...g, workspaceId, state: 'ordered' as const, by, at: new Date() }]),
          ).values(),
        ])
        .onConflictDoUpdate({
          target: [goodsMark.workspaceId, goodsMark.key],
          set: { state: 'ordered', by, at: new Date() },
        });
    if (candidates.length > 0)
      await tx
        .update(candidate)
        .set({ data: sql`jsonb_set(${candidate.data}, '{stage}', '"ordering"')` })
        .where(
          and(
            eq(candidate.workspaceId, workspaceId),
            inArray(candidate.id, candidates),
            sql`${candidate.data} ->> 'stage' in ('idea', 'checking', 'sampling')`,
          ),
        );
  }
  if (state !== 'cancelled' && state !== 'draft') return;
  const others = new Set(
    (await ordersIn(tx, workspaceId, SENT))
      .filter((o) => o.id !== row.id)
      .flatMap((o) => o.terms.lines.flatMap((l) => (l.gtin === null ? [] : [Number(l.gtin)]))),
  );
  const free = goods.map((g) => g.key).filter((k) => !others.has(k));
  if (free.length > 0)
    await tx
      .update(goodsMark)
      .set({
        state: sql`case when ${goodsMark.candidateId} is null then 'shortlisted' else 'kept' end`,
        by,
        at: new Date(),
      })
      .where(
        and(
          eq(goodsMark.workspaceId, workspaceId),
          inArray(goodsMark.key, free),
          eq(goodsMark.state, 'ordered'),
        ),
      );
}

/** Notes goods that came in. Once everything is here, the order is received. */
export async function receiveGoods(
  workspaceId: string,
  id: string,
  said: Omit<Receipt, 'id'>,
  edition: number,
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const row = await lockOrder(tx, workspaceId, id, edition);
    if (row.state === 'draft' || row.state === 'cancelled' || row.state === 'closed')
      throw refused('orderNoWay', { number: row.number });
    const known = new Set(row.terms.lines.map((l) => l.id));
    if (said.lines.some((l) => !known.has(l.line))) throw gone();
    const receipts = [...row.progress.receipts, { ...said, id: newId() }];
    const progress = orderProgress.parse({ ...row.progress, receipts });
    const here = row.state !== 'received' && isAllHere({ terms: row.terms, progress });
    const steps = here ? [...progress.steps, stepTo('received', by)] : progress.steps;
    await store(
      tx,
      workspaceId,
      row,
      { progress: { ...progress, steps }, ...(here && { state: 'received' as const }) },
      by,
    );
  });
}

/** Takes a note of goods that came in back. The state stays: whether all is here is said by a step. */
export async function dropReceipt(
  workspaceId: string,
  id: string,
  receiptId: string,
  edition: number,
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const row = await lockOrder(tx, workspaceId, id, edition);
    const receipts = row.progress.receipts.filter((r) => r.id !== receiptId);
    await store(tx, workspaceId, row, { progress: { ...row.progress, receipts } }, by);
  });
}

/** Notes a payment, and takes what it took off the workspace's cash, where that is known. */
export async function payOrder(
  workspaceId: string,
  id: string,
  said: Omit<Payment, 'id'>,
  edition: number,
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const row = await lockOrder(tx, workspaceId, id, edition);
    if (row.state === 'draft' || row.state === 'cancelled')
      throw refused('orderNoWay', { number: row.number });
    const payments = [...row.progress.payments, { ...said, id: newId() }];
    await store(tx, workspaceId, row, { progress: orderProgress.parse({ ...row.progress, payments }) }, by);
    await moveCash(tx, workspaceId, -said.home);
  });
}

/** Takes a payment back: the cash has it again. */
export async function dropPayment(
  workspaceId: string,
  id: string,
  paymentId: string,
  edition: number,
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const row = await lockOrder(tx, workspaceId, id, edition);
    const gonePayment = row.progress.payments.find((p) => p.id === paymentId);
    if (gonePayment === undefined) throw gone();
    const payments = row.progress.payments.filter((p) => p.id !== paymentId);
    await store(tx, workspaceId, row, { progress: { ...row.progress, payments } }, by);
    await moveCash(tx, workspaceId, gonePayment.home);
  });
}

/** Notes a bill of the way in. It is a cost of the goods; the cash at hand stays. */
export async function noteBill(
  workspaceId: string,
  id: string,
  said: Omit<Bill, 'id'>,
  edition: number,
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const row = await lockOrder(tx, workspaceId, id, edition);
    if (row.state === 'draft' || row.state === 'cancelled')
      throw refused('orderNoWay', { number: row.number });
    const bills = [...row.progress.bills, { ...said, id: newId() }];
    await store(tx, workspaceId, row, { progress: orderProgress.parse({ ...row.progress, bills }) }, by);
  });
}

/** Bills that an order keeps. */
const MOST_BILLS = 100;

/**
 * Notes the bills of a file, all of them or none; such as stand there already are not noted twice.
 *
 * @param text of the file: rows with headings, commas, semicolons or tabs between
 * @throws Refusal `invalid` with the row that cannot be read
 */
export async function noteBillFile(
  workspaceId: string,
  id: string,
  text: string,
  edition: number,
  by: string,
): Promise<void> {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  await inWorkspace(workspaceId, async (tx) => {
    const row = await lockOrder(tx, workspaceId, id, edition);
    if (row.state === 'draft' || row.state === 'cancelled')
      throw refused('orderNoWay', { number: row.number });
    const read = readBills(data, row.number, today());
    if (isFault(read)) throw new Refusal('invalid', read);
    const said = ({ day, kind, amount, note }: Omit<Bill, 'id'>) => [day, kind, amount, note].join('|');
    const known = new Set(row.progress.bills.map(said));
    const fresh = read.filter((b) => !known.has(said(b))).map((b) => ({ ...b, id: newId() }));
    const bills = [...row.progress.bills, ...fresh];
    if (bills.length > MOST_BILLS) throw refused('billMany', { most: MOST_BILLS });
    await store(tx, workspaceId, row, { progress: orderProgress.parse({ ...row.progress, bills }) }, by);
  });
}

/** Takes a bill back. */
export async function dropBill(
  workspaceId: string,
  id: string,
  billId: string,
  edition: number,
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const row = await lockOrder(tx, workspaceId, id, edition);
    const bills = row.progress.bills.filter((b) => b.id !== billId);
    if (bills.length === row.progress.bills.length) throw gone();
    await store(tx, workspaceId, row, { progress: { ...row.progress, bills } }, by);
  });
}

/** Where the cash at hand is known, it moves with a payment; one that it does not hold is refused. */
export async function moveCash(tx: Tx, workspaceId: string, by: number): Promise<void> {
  await changeSettings(tx, workspaceId, (s) => {
    if (s.launch.cash === null) return s;
    const cash = s.launch.cash + by;
    if (cash < -0.005) throw refused('orderNoCash', { cash: s.launch.cash, currency: s.homeCurrency });
    return { ...s, launch: { ...s.launch, cash: Math.max(0, cash) } };
  });
}
