/** What suppliers are asked about candidates: drafted, sent, answered; an answer becomes a quote. */
import { and, desc, eq, sql } from 'drizzle-orm';
import type { z } from 'zod';
import { askedKeys, openQuestions, quantitiesAsked, targetPrice } from '../../core/enquiries/questions.ts';
import { enquiry as enquirySchema } from '../../core/enquiries/schema.ts';
import type { Enquiry, EnquiryState } from '../../core/enquiries/schema.ts';
import { firstIssue } from '../../core/issues.ts';
import { quote as quoteSchema } from '../../core/lane/schema.ts';
import type { Quote } from '../../core/lane/schema.ts';
import { minorDigits, powerOfTen } from '../../core/money/money.ts';
import type { QuoteSource } from '../../core/workspace/records.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, enquiry, quote, supplier } from '../db/schema.ts';
import { today } from '../env.ts';
import { canMail } from '../mail.ts';
import { gone, Refusal, refused } from '../refusal.ts';
import { documentOf, loadSheet } from './candidates.ts';
import { storeMail } from './mails.ts';
import { needRoomForEnquiries } from './quotas.ts';
import { savePatches } from './savePatches.ts';
import { addNotices, wake } from './tasks.ts';
import { newId } from './workspaces.ts';

export type EnquiryRow = {
  readonly id: string;
  readonly candidateId: string;
  readonly candidate: string;
  readonly state: EnquiryState;
  readonly data: Enquiry;
  readonly edition: number;
};
const columns = {
  id: enquiry.id,
  candidateId: enquiry.candidateId,
  candidate: sql<string>`${candidate.data} ->> 'name'`,
  state: enquiry.state,
  data: enquiry.data,
  edition: enquiry.edition,
};
const withCandidate = and(
  eq(candidate.workspaceId, enquiry.workspaceId),
  eq(candidate.id, enquiry.candidateId),
);

/** All enquiries of a workspace, the latest first. */
export const loadEnquiries = (workspaceId: string): Promise<EnquiryRow[]> =>
  inWorkspace(workspaceId, (tx) =>
    tx
      .select(columns)
      .from(enquiry)
      .innerJoin(candidate, withCandidate)
      .where(eq(enquiry.workspaceId, workspaceId))
      .orderBy(desc(enquiry.createdAt))
      .limit(1000),
  );

/** One enquiry. @throws Refusal `gone` */
export async function loadEnquiry(workspaceId: string, id: string): Promise<EnquiryRow> {
  const [row] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select(columns)
      .from(enquiry)
      .innerJoin(candidate, withCandidate)
      .where(and(eq(enquiry.workspaceId, workspaceId), eq(enquiry.id, id))),
  );
  if (row === undefined) throw gone();
  return row;
}

/**
 * A draft of what the candidate's first lane does not know yet, to the supplier of its source, with the price one can
 * pay. Nothing of it is sent. Returns its id.
 */
export async function draftEnquiry(workspaceId: string, candidateId: string, by: string): Promise<string> {
  const sheet = await loadSheet(workspaceId, candidateId);
  if (sheet === null) throw gone();
  const { settings } = sheet;
  const own = sheet.candidate.data;
  const lane = sheet.lanes.find((l) => l.id === own.launchLane) ?? sheet.lanes[0];
  const quotes = Object.fromEntries(sheet.quotes.map((q) => [q.id, q.data]));
  const source = lane === undefined ? undefined : quotes[lane.data.components[0]?.quoteId ?? ''];
  const quoted = source?.kind === 'quote' ? source : null;
  const doc = lane === undefined ? null : documentOf(sheet, lane);
  const currency = quoted?.currency ?? settings.homeCurrency;
  return inWorkspace(workspaceId, async (tx) => {
    await needRoomForEnquiries(tx, workspaceId);
    const name = quoted?.supplier ?? '';
    const [known] =
      name === ''
        ? []
        : await tx
            .select({ mail: supplier.mail, language: supplier.language })
            .from(supplier)
            .where(and(eq(supplier.workspaceId, workspaceId), sql`lower(${supplier.name}) = lower(${name})`));
    const id = newId();
    await tx
      .insert(enquiry)
      .values({
        workspaceId,
        id,
        candidateId,
        data: enquirySchema.parse({
          supplier: name,
          mail: known?.mail ?? '',
          language: known?.language ?? 'en',
          currency,
          questions: openQuestions(own, quoted, sheet.today),
          quantities: doc === null ? [] : quantitiesAsked(doc),
          target:
            doc === null
              ? null
              : targetPrice(doc, settings.hurdles[own.way] ?? [], powerOfTen(minorDigits(currency))),
        }),
        createdBy: by,
      });
    return id;
  });
}

async function lockEnquiry(tx: Tx, workspaceId: string, id: string) {
  const [row] = await tx
    .select()
    .from(enquiry)
    .where(and(eq(enquiry.workspaceId, workspaceId), eq(enquiry.id, id)))
    .for('update');
  if (row === undefined) throw gone();
  return row;
}

const store = (
  tx: Tx,
  workspaceId: string,
  row: typeof enquiry.$inferSelect,
  changed: { data?: Enquiry; state?: EnquiryState },
) =>
  tx
    .update(enquiry)
    .set({ ...changed, edition: row.edition + 1, updatedAt: new Date() })
    .where(and(eq(enquiry.workspaceId, workspaceId), eq(enquiry.id, row.id)));

/** What of a letter stands still once it has gone. */
const GONE_OUT = ['supplier', 'mail', 'language', 'questions', 'quantities', 'subject', 'text'] as const;

/** Saves what was changed; what has gone out stays as it went. */
export async function saveEnquiry(workspaceId: string, id: string, changed: Partial<Enquiry>): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const row = await lockEnquiry(tx, workspaceId, id);
    if (row.state !== 'draft' && GONE_OUT.some((k) => k in changed)) throw refused('enquirySent');
    const data = enquirySchema.safeParse({ ...row.data, ...changed });
    if (!data.success) throw new Refusal('invalid', firstIssue(data.error));
    await store(tx, workspaceId, row, { data: data.data });
  });
}

/** Sends an enquiry by mail (`by mail`), or notes that it went another way. Once. */
export async function sendEnquiry(
  workspaceId: string,
  id: string,
  how: 'mail' | 'another',
  person: { id: string; email: string },
): Promise<void> {
  if (how === 'mail' && !canMail()) throw refused('mailNone');
  const begun = await inWorkspace(workspaceId, async (tx) => {
    const row = await lockEnquiry(tx, workspaceId, id);
    if (row.state !== 'draft') throw refused('enquirySent');
    const { data } = row;
    if (data.text.trim() === '') throw refused('enquiryNoText');
    await store(tx, workspaceId, row, { state: 'sent', data: { ...data, sentOn: today() } });
    if (how === 'another') return null;
    if (data.mail === '') throw refused('mailNoAddress');
    return storeMail(
      tx,
      workspaceId,
      `enquiry/${id}/1`,
      {
        to: data.mail,
        subject: data.subject,
        text: data.text,
        replyTo: person.email,
        asks: askedKeys(data.questions, data.quantities, data.currency),
      },
      [],
      person.id,
    );
  });
  if (begun !== null) await wake('sendMail', workspaceId, begun);
}

export type Answered = {
  readonly quote: z.input<typeof quoteSchema>;
  /** Of the goods themselves, where the answer says so. */
  readonly sides: [number, number, number] | null;
  readonly kg: number | null;
};

/**
 * Records what a supplier answered as a quote of the candidate with its day; size and weight go to the goods, where
 * they were not known. Returns the id of the quote.
 */
export async function answerEnquiry(
  workspaceId: string,
  id: string,
  said: Answered,
  by: string,
): Promise<string> {
  const quoteId = newId();
  const row = await inWorkspace(workspaceId, async (tx) => {
    const found = await lockEnquiry(tx, workspaceId, id);
    if (found.state === 'draft') throw refused('enquiryNotSent');
    const day = found.data.answeredOn ?? today();
    const parsed = quoteSchema.safeParse({ ...said.quote, supplier: found.data.supplier, date: day });
    if (!parsed.success) throw new Refusal('invalid', firstIssue(parsed.error));
    await tx
      .insert(quote)
      .values({
        workspaceId,
        id: quoteId,
        candidateId: found.candidateId,
        data: parsed.data satisfies Quote,
      });
    await store(tx, workspaceId, found, {
      state: 'answered',
      data: { ...found.data, answeredOn: day, quoteId, remindOn: null },
    });
    return found;
  });
  const [own] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ data: candidate.data })
      .from(candidate)
      .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, row.candidateId))),
  );
  const product = own?.data.product;
  const fresh = [
    ...(said.sides !== null && product?.sides === null ? [['sides', said.sides] as const] : []),
    ...(said.kg !== null && product?.kg === null ? [['kg', said.kg] as const] : []),
  ];
  if (fresh.length > 0)
    await savePatches(
      workspaceId,
      row.candidateId,
      fresh.map(([key, to]) => ({
        entity: 'candidate' as const,
        id: row.candidateId,
        path: ['product', key],
        from: null,
        to,
      })),
      by,
    );
  return quoteId;
}

/** Ends an enquiry, or takes it up again. */
export async function closeEnquiry(workspaceId: string, id: string, isClosed: boolean): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const row = await lockEnquiry(tx, workspaceId, id);
    const open = row.data.quoteId !== null ? 'answered' : row.data.sentOn !== null ? 'sent' : 'draft';
    await store(tx, workspaceId, row, { state: isClosed ? 'closed' : open });
  });
}

/** Gives notice of enquiries whose day to ask again has come, each once. Returns how many. */
export async function remindOfEnquiries(workspaceId: string): Promise<number> {
  return inWorkspace(workspaceId, async (tx) => {
    const due = await tx
      .select()
      .from(enquiry)
      .where(
        and(
          eq(enquiry.workspaceId, workspaceId),
          eq(enquiry.state, 'sent'),
          sql`${enquiry.data} ->> 'remindOn' <= ${today()}`,
          sql`coalesce(${enquiry.data} ->> 'remindedOn', '') < ${enquiry.data} ->> 'remindOn'`,
        ),
      )
      .for('update');
    for (const row of due) await store(tx, workspaceId, row, { data: { ...row.data, remindedOn: today() } });
    await addNotices(
      tx,
      workspaceId,
      due.map((row) => ({
        kind: 'enquiryDue' as const,
        data: { supplier: row.data.supplier, day: row.data.sentOn ?? '' },
        link: `/order/enquiries/${row.id}`,
      })),
    );
    return due.length;
  });
}

/** The newest quote of the enquiry's supplier for its candidate, beside which the answer is put; null: none. */
export async function quoteBefore(
  workspaceId: string,
  { candidateId, data }: Pick<EnquiryRow, 'candidateId' | 'data'>,
): Promise<QuoteSource | null> {
  const [row] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ data: quote.data })
      .from(quote)
      .where(
        and(
          eq(quote.workspaceId, workspaceId),
          eq(quote.candidateId, candidateId),
          sql`lower(${quote.data} ->> 'supplier') = lower(${data.supplier})`,
          sql`${quote.id} is distinct from ${data.quoteId}`,
        ),
      )
      .orderBy(desc(quote.createdAt))
      .limit(1),
  );
  return row?.data ?? null;
}
