/** Enquiries on the real database: drafted of what is open, sent once, answered, reminded of. */
import { and, eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { lantern } from '../core/testing/lantern.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { notice, task } from './db/schema.ts';
import { closeQueue } from './jobs/boss.ts';
import { sendStoredMail } from './jobs/sendMail.ts';
import { Refusal } from './refusal.ts';
import { startStandIn } from './testing/outside.ts';
import type { StandIn } from './testing/outside.ts';
import { makeWorkspace } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { loadSheet } from './use/candidates.ts';
import {
  answerEnquiry,
  closeEnquiry,
  draftEnquiry,
  loadEnquiries,
  loadEnquiry,
  quoteBefore,
  remindOfEnquiries,
  saveEnquiry,
  sendEnquiry,
} from './use/enquiries.ts';
import { openAsCandidate } from './use/laneDocuments.ts';
import { mailsAbout } from './use/mails.ts';
import { needRoomForEnquiries } from './use/quotas.ts';

let w: TestWorkspace;
let other: TestWorkspace;
let standIn: StandIn;
let candidateId: string;
beforeAll(async () => {
  [standIn, w, other] = await Promise.all([startStandIn(), makeWorkspace(), makeWorkspace()]);
  await standIn.behave({ mail: { answerMs: 0 } });
  const doc = lantern({ name: 'Lantern', product: { sides: null, kg: null } }, { supplier: 'Brackwater' });
  candidateId = await openAsCandidate(w.id, doc, w.personId);
});
afterAll(async () => {
  standIn.stop();
  await Promise.all([closeDatabase(), closeQueue()]);
});
const me = () => ({ id: w.personId, email: 'me@shop.example' });
const codeOf = (work: Promise<unknown>): Promise<string | undefined> =>
  work.then(
    () => undefined,
    (e: unknown) => (e instanceof Refusal ? (e.fault?.code ?? e.reason) : String(e)),
  );
async function written(): Promise<string> {
  const id = await draftEnquiry(w.id, candidateId, w.personId);
  await saveEnquiry(w.id, id, {
    mail: 'sales@brackwater.supplier.example',
    subject: 'Enquiry: Lantern',
    text: 'Dear all, what does it cost?',
  });
  return id;
}

describe('an enquiry', () => {
  it('is drafted of what the candidate does not know, with the price one can pay; nothing is sent by it', async () => {
    const id = await draftEnquiry(w.id, candidateId, w.personId);
    const row = await loadEnquiry(w.id, id);
    expect(row).toMatchObject({
      state: 'draft',
      candidate: 'Lantern',
      data: { supplier: 'Brackwater', text: '' },
    });
    expect(row.data.questions).toEqual(expect.arrayContaining(['size', 'weight', 'carton', 'deposit']));
    expect(row.data.questions).not.toContain('price');
    expect(row.data.quantities).toEqual([50, 100, 200]);
    expect(row.data.target).toBeGreaterThan(0);
    expect(await mailsAbout(w.id, `enquiry/${id}/`)).toEqual([]);
    expect((await loadEnquiries(w.id)).map((l) => l.id)).toContain(id);
  });
  it('is known to its workspace alone', async () => {
    const id = await written();
    expect(await codeOf(loadEnquiry(other.id, id))).toBe('gone');
    expect(await codeOf(draftEnquiry(other.id, candidateId, other.personId))).toBe('gone');
    expect(await codeOf(saveEnquiry(other.id, id, { answer: 'x' }))).toBe('gone');
    expect(await loadEnquiries(other.id)).toEqual([]);
    expect(await codeOf(inWorkspace(w.id, (tx) => needRoomForEnquiries(tx, w.id, 1)))).toBe('quotaEnquiries');
  });
  it('goes out once; what has gone out stays as it went', async () => {
    const id = await written();
    const said = await Promise.all([1, 2].map(() => codeOf(sendEnquiry(w.id, id, 'mail', me()))));
    expect(said.sort()).toEqual(['enquirySent', undefined]);
    const [work] = await inWorkspace(w.id, (tx) =>
      tx
        .select({ id: task.id })
        .from(task)
        .where(and(eq(task.kind, 'sendMail'), eq(task.state, 'waiting'))),
    );
    await sendStoredMail({ workspaceId: w.id, taskId: work?.id ?? '' });
    expect(await mailsAbout(w.id, `enquiry/${id}/`)).toMatchObject([{ state: 'sent' }]);
    expect(await codeOf(saveEnquiry(w.id, id, { text: 'Another' }))).toBe('enquirySent');
    await saveEnquiry(w.id, id, { answer: 'It costs 9.' });
    expect((await loadEnquiry(w.id, id)).data).toMatchObject({
      answer: 'It costs 9.',
      text: 'Dear all, what does it cost?',
    });
  });
  it('without text or address it is not sent, and stays a draft', async () => {
    const id = await draftEnquiry(w.id, candidateId, w.personId);
    expect(await codeOf(sendEnquiry(w.id, id, 'another', me()))).toBe('enquiryNoText');
    await saveEnquiry(w.id, id, { subject: 'x', text: 'y' });
    expect(await codeOf(sendEnquiry(w.id, id, 'mail', me()))).toBe('mailNoAddress');
    expect((await loadEnquiry(w.id, id)).state).toBe('draft');
    await sendEnquiry(w.id, id, 'another', me());
    expect((await loadEnquiry(w.id, id)).state).toBe('sent');
  });
  it('an answer becomes a quote with its day; size and weight go to goods that did not know them', async () => {
    const id = await written();
    const said = {
      quote: { kind: 'quote' as const, currency: 'EUR', priceBreaks: [{ minQty: 100, unitPrice: 8.5 }] },
      sides: [30, 20, 10] as [number, number, number],
      kg: 0.8,
    };
    expect(await codeOf(answerEnquiry(w.id, id, said, w.personId))).toBe('enquiryNotSent');
    await sendEnquiry(w.id, id, 'another', me());
    await saveEnquiry(w.id, id, { answeredOn: '2026-11-27' });
    const quoteId = await answerEnquiry(w.id, id, said, w.personId);
    const sheet = await loadSheet(w.id, candidateId);
    expect(sheet?.quotes.find((q) => q.id === quoteId)?.data).toMatchObject({
      supplier: 'Brackwater',
      date: '2026-11-27',
      priceBreaks: [{ minQty: 100, unitPrice: 8.5 }],
    });
    expect(sheet?.candidate.data.product).toMatchObject({ sides: [30, 20, 10], kg: 0.8 });
    const row = await loadEnquiry(w.id, id);
    expect(row).toMatchObject({ state: 'answered', data: { quoteId, remindOn: null } });
    // What one knew before stands beside it: the quote of the same supplier, not this one.
    expect(await quoteBefore(w.id, row)).toMatchObject({ priceBreaks: [{ minQty: 0, unitPrice: 10 }] });
    // The second answer does not overwrite what is known of the goods.
    const again = await written();
    await sendEnquiry(w.id, again, 'another', me());
    await answerEnquiry(w.id, again, { ...said, sides: [1, 1, 1], kg: 9 }, w.personId);
    expect((await loadSheet(w.id, candidateId))?.candidate.data.product.kg).toBe(0.8);
  });
  it('an answer that cannot be read is refused, and nothing of it is kept', async () => {
    const id = await written();
    await sendEnquiry(w.id, id, 'another', me());
    const before = (await loadSheet(w.id, candidateId))?.quotes.length;
    const bad = {
      quote: { kind: 'quote' as const, currency: 'EUR', priceBreaks: [] },
      sides: null,
      kg: null,
    };
    expect(await codeOf(answerEnquiry(w.id, id, bad, w.personId))).not.toBeUndefined();
    expect((await loadSheet(w.id, candidateId))?.quotes.length).toBe(before);
    expect(await codeOf(saveEnquiry(w.id, id, { answer: 'x'.repeat(100_001) }))).not.toBeUndefined();
  });
  it('is closed and taken up again where it stood', async () => {
    const id = await written();
    await closeEnquiry(w.id, id, true);
    expect((await loadEnquiry(w.id, id)).state).toBe('closed');
    await closeEnquiry(w.id, id, false);
    expect((await loadEnquiry(w.id, id)).state).toBe('draft');
  });
  it('one is reminded once of each day to ask again', async () => {
    const [due, later] = [await written(), await written()];
    for (const id of [due, later]) await sendEnquiry(w.id, id, 'another', me());
    await saveEnquiry(w.id, due, { remindOn: '2026-11-01' });
    await saveEnquiry(w.id, later, { remindOn: '2999-01-01' });
    expect(await remindOfEnquiries(w.id)).toBe(1);
    expect(await remindOfEnquiries(w.id)).toBe(0);
    const told = await inWorkspace(w.id, (tx) =>
      tx.select().from(notice).where(eq(notice.kind, 'enquiryDue')),
    );
    expect(told).toMatchObject([{ link: `/order/enquiries/${due}` }]);
    expect(await remindOfEnquiries(other.id)).toBe(0);
  });
});
