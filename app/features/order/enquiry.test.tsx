import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { enquiry, QUESTIONS } from '../../../core/enquiries/schema.ts';
import type { Enquiry } from '../../../core/enquiries/schema.ts';
import { quote } from '../../../core/lane/schema.ts';
import { LANGUAGES } from '../../../core/workspace/supplier.ts';
import { EnquiriesPage } from './EnquiriesPage.tsx';
import type { EnquiryLine } from './EnquiriesPage.tsx';
import { EnquiryPage } from './EnquiryPage.tsx';
import { letterOf } from './letter.ts';
import { shown } from './testing/shown.tsx';

const data = (over: object = {}): Enquiry =>
  enquiry.parse({
    supplier: 'Brackwater',
    mail: 'sales@brackwater.example',
    currency: 'EUR',
    questions: ['price', 'size'],
    quantities: [500, 1000],
    target: 4.2,
    ...over,
  });
const row = (over: Partial<EnquiryLine> = {}): EnquiryLine => ({
  id: 'e',
  candidateId: 'c',
  candidate: 'Lantern',
  state: 'draft',
  data: data(),
  ...over,
});
const before = quote.parse({
  kind: 'quote',
  currency: 'EUR',
  incoterm: 'FOB',
  priceBreaks: [{ minQty: 0, unitPrice: 5 }],
  leadDays: 30,
});
const page = (over: Partial<EnquiryLine> = {}, props: object = {}) =>
  shown(
    <EnquiryPage
      row={row(over)}
      mails={[]}
      canMail
      mailbox={null}
      from={'Fernhollow\nHauptstraße 1'}
      before={before}
      today="2026-11-24"
      base="/w/shop"
      canEdit
      {...props}
    />,
  );
const press = (name: string | RegExp) => fireEvent.click(screen.getByRole('button', { name }));

describe('the letter', () => {
  it('asks what is ticked, with the quantities, and names the price only where one wants it', () => {
    const { subject, text } = letterOf(data(), 'Lantern', 'Fernhollow');
    expect(subject).toBe('Enquiry: Lantern');
    expect(text).toContain('1. Your price for one unit at 500 / 1,000 units');
    expect(text).toContain('2. Length, width and height');
    expect(text).toMatch(/Fernhollow$/);
    expect(text).not.toContain('4.20');
    expect(letterOf(data({ tellTarget: true }), 'Lantern', 'x').text).toContain('€4.20 a unit');
    expect(letterOf(data({ tellTarget: true, target: null }), 'Lantern', 'x').text).not.toContain(
      'could pay',
    );
  });
  it('is written in each language, every question with a sentence of its own', () => {
    for (const language of LANGUAGES) {
      const { text } = letterOf(
        data({ language, questions: [...QUESTIONS], quantities: [] }),
        'Lantern',
        'x',
      );
      const asked = text.split('\n').filter((l) => /^\d+\. /.test(l));
      expect(new Set(asked.map((l) => l.replace(/^\d+\. /, ''))).size, language).toBe(QUESTIONS.length);
      expect(text, language).not.toMatch(/\{\{|undefined/);
    }
    expect(letterOf(data({ language: 'de' }), 'Laterne', 'x').text).toContain('500 / 1.000 Stück');
  });
});

describe('an enquiry', () => {
  it('is written of its questions, saved, and sent by a press', async () => {
    const { acts, saved } = page();
    press('Write the letter of these questions');
    await waitFor(() => expect(saved.at(-1)).toMatchObject({ subject: 'Enquiry: Lantern' }), {
      timeout: 3000,
    });
    await waitFor(() =>
      expect(screen.getByRole('button', { name: 'Send by mail' })).toHaveProperty('disabled', false),
    );
    press('Send by mail');
    await waitFor(() => expect(acts).toEqual([{ intent: 'send', how: 'mail' }]));
  });
  it('what it asks is ticked, quantities typed; one that is emptied goes', async () => {
    const { saved } = page();
    fireEvent.click(screen.getByRole('checkbox', { name: 'Weight' }));
    fireEvent.change(screen.getByLabelText('Units 3'), { target: { value: '2000' } });
    fireEvent.change(screen.getByLabelText('Units 1'), { target: { value: '' } });
    await waitFor(
      () =>
        expect(saved.at(-1)).toMatchObject({
          questions: ['price', 'size', 'weight'],
          quantities: [1000, 2000],
        }),
      { timeout: 3000 },
    );
  });
  it('the answer is typed over into a quote, what one knew before beside it; blank stays blank', async () => {
    const { acts } = page({ state: 'sent' });
    expect(screen.getByText('Known before: 30')).toBeTruthy();
    expect(screen.getAllByText('Known before: €5.00')).toHaveLength(2);
    const record = screen.getByRole('button', { name: 'Record it as a quote' });
    expect(record).toHaveProperty('disabled', true);
    fireEvent.change(screen.getByLabelText(/^Unit price from 500/), { target: { value: '4.1' } });
    fireEvent.click(record);
    await waitFor(() => expect(acts).toHaveLength(1));
    expect(acts[0]).toMatchObject({
      intent: 'answer',
      quote: {
        incoterm: 'FOB',
        priceBreaks: [{ minQty: 500, unitPrice: 4.1 }],
        leadDays: null,
        carton: null,
        depositShare: null,
      },
      sides: null,
      kg: null,
    });
  });
  it('a negotiation is noted step by step', async () => {
    const { saved } = page({ state: 'sent' });
    fireEvent.change(screen.getByLabelText(/^Unit price, EUR/), { target: { value: '3.9' } });
    press('Note a step');
    expect(screen.getByText('24 Nov 2026: asked €3.90')).toBeTruthy();
    await waitFor(
      () => expect(saved.at(-1)).toMatchObject({ path: [{ kind: 'asked', unitPrice: 3.9, units: null }] }),
      { timeout: 3000 },
    );
  });
  it('what is recorded leads to the sheet; it is closed by a press', async () => {
    const { acts } = page({ state: 'answered', data: data({ quoteId: 'q', text: 'Dear all' }) });
    expect(screen.getByText(/It stands on the sheet as a quote/)).toBeTruthy();
    press('Close the enquiry');
    await waitFor(() => expect(acts).toEqual([{ intent: 'close' }]));
  });
  it('who only looks reads letter and answer', () => {
    page({ state: 'sent', data: data({ text: 'Dear all', answer: 'It costs 4.' }) }, { canEdit: false });
    expect(screen.getByText('It costs 4.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /Send|Record|Close/ })).toBeNull();
  });
});

describe('all enquiries', () => {
  it('say whose answer is waited for', () => {
    const lines = [
      row({ state: 'sent', data: data({ sentOn: '2026-11-20' }) }),
      row({ id: 'f', candidate: 'Nest box', data: data({ supplier: '' }) }),
    ];
    shown(<EnquiriesPage lines={lines} candidates={[]} base="/w/shop" canEdit={false} />);
    expect(screen.getByText(/has not answered/).textContent).toBe('1 supplier has not answered.');
    expect(screen.getByRole('row', { name: /Lantern/ }).textContent).toContain('20 Nov 2026');
    expect(screen.getByRole('row', { name: /Nest box/ }).textContent).toContain('no supplier yet');
  });
  it('without any the page says what to do', () => {
    shown(<EnquiriesPage lines={[]} candidates={[]} base="/w/shop" canEdit />);
    expect(screen.getByText(/Nothing has been asked yet/)).toBeTruthy();
  });
});
