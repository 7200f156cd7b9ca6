/** Orders and their mail on the real database: drafts, steps, money, marks, and that nothing is sent twice. */
import { and, eq } from 'drizzle-orm';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { lantern } from '../core/testing/lantern.ts';
import type { OrderLine, OrderTerms } from '../core/orders/schema.ts';
import { orderLine } from '../core/orders/schema.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { goodsMark, lane, notice, outgoingMail, task } from './db/schema.ts';
import { env } from './env.ts';
import { closeQueue } from './jobs/boss.ts';
import { pauseAfter, sendStoredMail } from './jobs/sendMail.ts';
import { outcomeOf } from './mail.ts';
import { Refusal } from './refusal.ts';
import { startStandIn } from './testing/outside.ts';
import type { StandIn } from './testing/outside.ts';
import { makeWorkspace } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { loadSheet } from './use/candidates.ts';
import { openAsCandidate } from './use/laneDocuments.ts';
import { mailsAbout } from './use/mails.ts';
import { needRoomForOrders } from './use/quotas.ts';
import { draftOrders, loadToOrder } from './use/draftOrders.ts';
import { agreedOrders, loadOrder, loadOrders } from './use/orders.ts';
import type { OrderRow } from './use/orders.ts';
import {
  dropPayment,
  dropReceipt,
  moveOrder,
  payOrder,
  receiveGoods,
  saveOrder,
  stepBack,
} from './use/orderSteps.ts';
import { takePaidPrice } from './use/paidPrices.ts';
import { mailOrder } from './use/sendOrders.ts';
import { saveSupplier } from './use/suppliers.ts';
import { saveSettings, settingsOf } from './use/workspaces.ts';

let w: TestWorkspace;
let other: TestWorkspace;
let standIn: StandIn;
let candidateId: string;
beforeAll(async () => {
  [standIn, w, other] = await Promise.all([startStandIn(), makeWorkspace(), makeWorkspace()]);
  await saveSupplier(w.id, null, {
    name: 'Brackwater',
    country: null,
    currency: null,
    contact: '',
    mail: 'sales@brackwater.supplier.example',
    language: 'en',
    notes: '',
  });
  candidateId = await openAsCandidate(
    w.id,
    lantern({ name: 'Lantern' }, { supplier: 'Brackwater' }),
    w.personId,
  );
  await saveSettings(w.id, (s) => ({ ...s, launch: { ...s.launch, cash: 5000, reserve: 500 } }));
});
beforeEach(() => standIn.behave({ mail: { answerMs: null } }));
afterAll(async () => {
  standIn.stop();
  await Promise.all([closeDatabase(), closeQueue()]);
});

const laneId = async (): Promise<string> => (await loadSheet(w.id, candidateId))?.lanes[0]?.id ?? '';
const orderAt = async (id: string): Promise<OrderRow> => (await loadOrder(w.id, id)).order;
/** A draft of the lantern. */
async function draft(): Promise<OrderRow> {
  const { ids } = await draftOrders(w.id, { lanes: [await laneId()], goods: [], byHand: false }, w.personId);
  return orderAt(ids[0] ?? '');
}
const save = (id: string, terms: Partial<OrderTerms>, lines: Record<string, OrderLine | null> = {}) =>
  saveOrder(w.id, id, { terms, lines }, w.personId);
const move = async (id: string, to: OrderRow['state'], more: object = {}): Promise<void> =>
  moveOrder(w.id, id, { to, note: '', edition: (await orderAt(id)).edition, ...more }, w.personId);
const codeOf = (work: Promise<unknown>): Promise<string | undefined> =>
  work.then(
    () => undefined,
    (e: unknown) => (e instanceof Refusal ? (e.fault?.code ?? e.reason) : String(e)),
  );

describe('drafts', () => {
  it('of candidates: the quote’s price and terms, the supplier’s address, the next number', async () => {
    const [first, second] = [await draft(), await draft()];
    expect(second.number).toBe(first.number + 1);
    expect(first).toMatchObject({
      state: 'draft',
      terms: {
        supplier: 'Brackwater',
        mail: 'sales@brackwater.supplier.example',
        leadDays: 30,
        currency: 'EUR',
      },
    });
    expect(first.terms.lines).toMatchObject([{ units: 100, candidateId, name: 'Lantern' }]);
    expect((await loadToOrder(w.id)).candidates).toMatchObject([
      { candidateId, units: 100, isOrdered: true },
    ]);
  });
  it('numbers are given once, however many are made at the same time', async () => {
    await Promise.all([1, 2, 3, 4].map(() => draft()));
    const numbers = (await loadOrders(w.id)).orders.map((o) => o.number);
    expect(new Set(numbers).size).toBe(numbers.length);
  });
  it('by hand an empty one; lanes and lists of others make nothing', async () => {
    const byHand = await draftOrders(w.id, { lanes: [], goods: [], byHand: true }, w.personId);
    expect((await orderAt(byHand.ids[0] ?? '')).terms.lines).toEqual([]);
    const wish = { lanes: [await laneId()], goods: [{ key: 1, listId: 'none' }], byHand: false };
    expect(await draftOrders(other.id, wish, other.personId)).toEqual({ ids: [], left: 1 });
    expect((await loadOrders(other.id)).orders).toEqual([]);
  });
  it('two people who change different lines and terms keep both; a line taken out stays out', async () => {
    const o = await draft();
    const extra = (id: string) =>
      orderLine.parse({ id, name: `Extra ${id}`, units: 1, priceBreaks: [{ minQty: 0, unitPrice: 2 }] });
    await Promise.all([
      save(o.id, { note: 'One' }, { x: extra('x') }),
      save(o.id, { delivery: 12 }, { y: extra('y') }),
    ]);
    const both = await orderAt(o.id);
    expect(both.terms).toMatchObject({ note: 'One', delivery: 12 });
    expect(both.terms.lines.map((l) => l.name).sort()).toEqual(['Extra x', 'Extra y', 'Lantern']);
    await saveOrder(
      w.id,
      o.id,
      { terms: {}, lines: { x: null }, sequence: ['y', o.terms.lines[0]?.id ?? ''] },
      'me',
    );
    expect((await orderAt(o.id)).terms.lines.map((l) => l.id)).toEqual(['y', o.terms.lines[0]?.id]);
  });
  it('goods of another workspace are refused, and so is more than a workspace may keep', async () => {
    const o = await draft();
    const [line] = o.terms.lines;
    if (line === undefined) throw new Error('a line is there');
    const theirs = await openAsCandidate(other.id, lantern(), other.personId);
    expect(await codeOf(save(o.id, {}, { [line.id]: { ...line, candidateId: theirs } }))).toBe('foreign');
    expect(await codeOf(saveOrder(other.id, o.id, { terms: { note: 'x' }, lines: {} }, 'me'))).toBe('gone');
    expect(await codeOf(inWorkspace(w.id, (tx) => needRoomForOrders(tx, w.id, 1)))).toBe('quotaOrders');
  });
});

describe('steps', () => {
  it('sent: dated, goods marked on every list, the candidate ordering; then nothing of it changes', async () => {
    const o = await draft();
    const [line] = o.terms.lines;
    await save(o.id, {}, { [line?.id ?? '']: { ...(line as OrderLine), gtin: '9520000010010' } });
    await move(o.id, 'sent');
    const sent = await orderAt(o.id);
    expect(sent.state).toBe('sent');
    expect(sent.terms.placedOn).toMatch(/^\d{4}-\d{2}-\d{2}$/);
    expect((await loadSheet(w.id, candidateId))?.candidate.data.stage).toBe('ordering');
    const mark = () =>
      inWorkspace(w.id, (tx) =>
        tx
          .select({ state: goodsMark.state })
          .from(goodsMark)
          .where(and(eq(goodsMark.workspaceId, w.id), eq(goodsMark.key, 9520000010010))),
      );
    expect(await mark()).toEqual([{ state: 'ordered' }]);
    expect(await codeOf(save(o.id, { note: 'late' }))).toBe('orderSent');
    expect(await codeOf(move(o.id, 'draft'))).toBe('orderNoWay');
    await move(o.id, 'cancelled');
    expect(await mark()).toEqual([{ state: 'shortlisted' }]);
    await stepBack(w.id, o.id, (await orderAt(o.id)).edition, 'me');
    expect((await orderAt(o.id)).state).toBe('sent');
  });
  it('goods of two orders stay marked while one of them stands', async () => {
    const both = [await draft(), await draft()];
    for (const o of both) {
      const [line] = o.terms.lines;
      await save(o.id, {}, { [line?.id ?? '']: { ...(line as OrderLine), gtin: '9520000010027' } });
      await move(o.id, 'sent');
    }
    await move(both[0]?.id ?? '', 'cancelled');
    const [mark] = await inWorkspace(w.id, (tx) =>
      tx.select({ state: goodsMark.state }).from(goodsMark).where(eq(goodsMark.key, 9520000010027)),
    );
    expect(mark?.state).toBe('ordered');
  });
  it('an empty order, one without a quantity, and one that somebody has changed meanwhile are not sent', async () => {
    const empty = await draftOrders(w.id, { lanes: [], goods: [], byHand: true }, w.personId);
    expect(await codeOf(move(empty.ids[0] ?? '', 'sent'))).toBe('orderNoLines');
    const o = await draft();
    const [line] = o.terms.lines;
    await save(o.id, {}, { [line?.id ?? '']: { ...(line as OrderLine), units: null } });
    expect(await codeOf(move(o.id, 'sent'))).toBe('orderNoUnits');
    expect(
      await codeOf(moveOrder(w.id, o.id, { to: 'sent', note: '', edition: o.edition }, w.personId)),
    ).toBe('orderChanged');
  });
  it('confirmed figures count; a step back forgets them; a draft has no step back', async () => {
    const o = await draft();
    expect(await codeOf(stepBack(w.id, o.id, o.edition, 'me'))).toBe('orderNoWay');
    await move(o.id, 'sent');
    const confirmed = [{ id: o.terms.lines[0]?.id ?? '', units: 80, unitPrice: 9 }];
    await move(o.id, 'confirmed', { confirmed });
    expect((await orderAt(o.id)).terms.lines[0]?.confirmed).toEqual({ units: 80, unitPrice: 9 });
    expect((await agreedOrders(w.id, candidateId)).map((x) => x.id)).toContain(o.id);
    await stepBack(w.id, o.id, (await orderAt(o.id)).edition, 'me');
    expect(await orderAt(o.id)).toMatchObject({ state: 'sent', terms: { lines: [{ confirmed: null }] } });
    expect(await agreedOrders(other.id, candidateId)).toEqual([]);
  });
  it('goods come in parts; once all are here it is received; then what was paid goes into the lane', async () => {
    const o = await draft();
    const line = o.terms.lines[0]?.id ?? '';
    await move(o.id, 'sent');
    await move(o.id, 'confirmed', { confirmed: [{ id: line, units: 100, unitPrice: 9.2 }] });
    const receive = async (units: number, damaged = 0) =>
      receiveGoods(
        w.id,
        o.id,
        { day: '2026-11-29', note: '', lines: [{ line, units, damaged }] },
        (await orderAt(o.id)).edition,
        w.personId,
      );
    expect(await codeOf(takePaidPrice(w.id, o.id, line, w.personId))).toBe('orderNothingPaid');
    await receive(60, 3);
    expect((await orderAt(o.id)).state).toBe('confirmed');
    await receive(30);
    const before = await orderAt(o.id);
    await dropReceipt(w.id, o.id, before.progress.receipts[1]?.id ?? '', before.edition, 'me');
    await receive(37);
    expect((await orderAt(o.id)).state).toBe('received');
    await takePaidPrice(w.id, o.id, line, w.personId);
    const sheet = await loadSheet(w.id, candidateId);
    const own = sheet?.lanes.find((l) => l.id === o.terms.lines[0]?.laneId);
    expect(own?.data.provenance.goods).toMatchObject({ source: 'actual', date: '2026-11-29' });
    const source = sheet?.quotes.find((q) => q.id === own?.data.components[0]?.quoteId)?.data;
    expect(source).toMatchObject({ supplier: 'Brackwater', priceBreaks: [{ minQty: 0, unitPrice: 9.2 }] });
    expect(sheet?.quotes).toHaveLength(2);
    expect(
      await codeOf(
        receiveGoods(
          w.id,
          o.id,
          { day: '2026-11-29', note: '', lines: [{ line: 'x', units: 1, damaged: 0 }] },
          (await orderAt(o.id)).edition,
          'me',
        ),
      ),
    ).toBe('gone');
    // The lane has it now: there is nothing to take over twice.
    expect(await codeOf(takePaidPrice(w.id, o.id, line, w.personId))).toBe('orderNothingPaid');
    await inWorkspace(w.id, (tx) =>
      tx
        .update(lane)
        .set({
          data: {
            ...(own?.data as never as object),
            components: [{ ...own?.data.components[0], quoteId: o.terms.lines[0]?.quoteId }],
          } as never,
        })
        .where(and(eq(lane.workspaceId, w.id), eq(lane.id, own?.id ?? ''))),
    );
  });
  it('payments move the cash at hand, both ways; more than there is is refused', async () => {
    const o = await draft();
    const cash = async () => (await settingsOf(w.id))?.launch.cash;
    const paid = { day: '2026-11-29', amount: 300, home: 300 };
    expect(await codeOf(payOrder(w.id, o.id, paid, o.edition, 'me'))).toBe('orderNoWay');
    await move(o.id, 'sent');
    await payOrder(w.id, o.id, paid, (await orderAt(o.id)).edition, 'me');
    expect(await cash()).toBe(4700);
    const too = { ...paid, home: 4701 };
    expect(await codeOf(payOrder(w.id, o.id, too, (await orderAt(o.id)).edition, 'me'))).toBe('orderNoCash');
    const now = await orderAt(o.id);
    expect(now.progress.payments).toHaveLength(1);
    await dropPayment(w.id, o.id, now.progress.payments[0]?.id ?? '', now.edition, 'me');
    expect(await cash()).toBe(5000);
    expect(await codeOf(dropPayment(w.id, o.id, 'none', (await orderAt(o.id)).edition, 'me'))).toBe('gone');
  });
});

// ---- mail
const letters = async (): Promise<
  { to: string; from: string; subject: string; attachments: { name: string }[] }[]
> => (await fetch(`${standIn.url}/mail.json`)).json() as never;
const letter = (over: object = {}) => ({
  to: 'sales@brackwater.supplier.example',
  subject: 'Our order',
  text: 'Please.',
  replyTo: 'me@shop.example',
  ...over,
});
const files = [{ name: 'PO.pdf', type: 'application/pdf', base64: Buffer.from('x').toString('base64') }];
/** Work on an order's mail as the worker would; what became of it. */
async function sendOut(orderId: string): Promise<string | undefined> {
  const [mail] = await inWorkspace(w.id, (tx) =>
    tx
      .select({ id: outgoingMail.id })
      .from(outgoingMail)
      .where(and(eq(outgoingMail.workspaceId, w.id), eq(outgoingMail.about, `order/${orderId}/1`))),
  );
  const tasks = await inWorkspace(w.id, (tx) => tx.select().from(task).where(eq(task.kind, 'sendMail')));
  const own = tasks.find((t) => z.object({ mailId: z.string() }).parse(t.data).mailId === mail?.id);
  await sendStoredMail({ workspaceId: w.id, taskId: own?.id ?? '' });
  return (await mailsAbout(w.id, `order/${orderId}/`)).at(-1)?.state;
}

describe('an order by mail', () => {
  it('goes out once, however often one presses, with its files, and answers go to the person', async () => {
    const o = await draft();
    const press = () =>
      codeOf(
        mailOrder(
          w.id,
          o.id,
          { ...letter({ subject: `Order ${o.number}` }), edition: o.edition },
          files,
          'me',
        ),
      );
    expect((await Promise.all([press(), press(), press()])).sort()).toEqual([
      'orderChanged',
      'orderChanged',
      undefined,
    ]);
    expect((await orderAt(o.id)).state).toBe('sent');
    expect(await sendOut(o.id)).toBe('sent');
    // Work that comes a second time finds nothing to do.
    expect(await sendOut(o.id)).toBe('sent');
    const came = (await letters()).filter((l) => l.subject === `Order ${o.number}`);
    expect(came).toMatchObject([
      { to: 'sales@brackwater.supplier.example', from: 'me@shop.example', attachments: [{ name: 'PO.pdf' }] },
    ]);
    const again = { ...letter(), edition: (await orderAt(o.id)).edition };
    expect(await codeOf(mailOrder(w.id, o.id, again, files, 'me'))).toBe('orderMailed');
  });
  it('an address or a subject that would begin another header is refused, and nothing is half sent', async () => {
    const o = await draft();
    for (const [bad, code] of [
      [{ to: 'a@b.example\nBcc: c@d.example' }, 'mailShape'],
      [{ to: 'a@b.example, c@d.example' }, 'mailShape'],
      [{ subject: 'x\r\nBcc: c@d.example' }, 'mailLineBreak'],
      [{ subject: ' ' }, 'mailNoSubject'],
    ] as const)
      expect(
        await codeOf(mailOrder(w.id, o.id, { ...letter(bad), edition: o.edition }, files, 'me')),
        JSON.stringify(bad),
      ).toBe(code);
    expect((await orderAt(o.id)).state).toBe('draft');
    expect(await mailsAbout(w.id, `order/${o.id}/`)).toEqual([]);
  });
  it('a server that is away is tried again later; then it goes', async () => {
    const o = await draft();
    await mailOrder(w.id, o.id, { ...letter(), edition: o.edition }, files, 'me');
    await standIn.behave({ mail: { awayNext: 1, answerMs: null } });
    expect(await sendOut(o.id)).toBe('waiting');
    expect(await sendOut(o.id)).toBe('sent');
    expect(pauseAfter(1)).toBe(10_000);
    expect(pauseAfter(3)).toBe(40_000);
    expect(pauseAfter(30)).toBe(3_600_000);
  });
  it('an address that is refused ends it, with a notice; one may send again', async () => {
    const o = await draft();
    await mailOrder(w.id, o.id, { ...letter(), edition: o.edition }, files, 'me');
    await standIn.behave({ mail: { refuse: true, answerMs: null } });
    expect(await sendOut(o.id)).toBe('failed');
    const told = await inWorkspace(w.id, (tx) =>
      tx.select().from(notice).where(eq(notice.kind, 'mailFailed')),
    );
    expect(told.map((n) => n.link)).toContain(`/order/${o.id}`);
    const again = { ...letter(), edition: (await orderAt(o.id)).edition };
    expect(await codeOf(mailOrder(w.id, o.id, again, files, 'me'))).toBeUndefined();
    expect(await mailsAbout(w.id, `order/${o.id}/`)).toHaveLength(2);
  });
  it('a line that breaks after the mail was handed over leaves it unsure; it is not sent again', async () => {
    const o = await draft();
    const subject = `Broken ${o.number}`;
    await mailOrder(w.id, o.id, { ...letter({ subject }), edition: o.edition }, files, 'me');
    await standIn.behave({ mail: { breakNext: 1, answerMs: null } });
    expect(await sendOut(o.id)).toBe('unsure');
    expect(await sendOut(o.id)).toBe('unsure');
    expect((await letters()).filter((l) => l.subject === subject)).toHaveLength(1);
  });
  it('a mail whose worker died while it was handed over is unsure', async () => {
    const o = await draft();
    const subject = `Died ${o.number}`;
    await mailOrder(w.id, o.id, { ...letter({ subject }), edition: o.edition }, files, 'me');
    await inWorkspace(w.id, (tx) =>
      tx
        .update(outgoingMail)
        .set({ state: 'sending' })
        .where(and(eq(outgoingMail.workspaceId, w.id), eq(outgoingMail.about, `order/${o.id}/1`))),
    );
    expect(await sendOut(o.id)).toBe('unsure');
    expect((await letters()).filter((l) => l.subject === subject)).toEqual([]);
  });
  it('what an error means for a mail', () => {
    const how = (responseCode: number | undefined, taken: boolean) =>
      outcomeOf(responseCode === undefined ? {} : { responseCode }, 'a@b.example', taken).how;
    expect(how(550, false)).toBe('never');
    expect(how(554, true)).toBe('never');
    expect(how(421, true)).toBe('later');
    expect(how(undefined, false)).toBe('later');
    expect(how(undefined, true)).toBe('unsure');
  });
  it('without a mail server it says so', async () => {
    const { BM_SMTP_URL } = env();
    Object.assign(env(), { BM_SMTP_URL: undefined });
    const o = await draft();
    expect(await codeOf(mailOrder(w.id, o.id, { ...letter(), edition: o.edition }, files, 'me'))).toBe(
      'mailNone',
    );
    Object.assign(env(), { BM_SMTP_URL });
  });
});
