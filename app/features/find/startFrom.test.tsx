import { act, createEvent, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it } from 'vitest';
import type { AnythingSaid } from '../../../between/anythingSaid.ts';
import { alsoCouldBe, recognise } from '../../../core/goods/recognise.ts';
import { away, stubServer } from '../../ui/testing/server.ts';
import { untilTimersHaveRun } from '../../ui/testing/timers.ts';
import { StartFrom } from './StartFrom.tsx';

const said = (text: string, over: Partial<AnythingSaid> = {}): Response => {
  const first = recognise(text);
  const whole: AnythingSaid = {
    meanings: [first, ...alsoCouldBe(first)],
    candidates: [],
    decided: null,
    listings: [],
    market: 'Alderway/DE',
    wrong: [],
    ...over,
  };
  return Response.json(whole);
};
const asked = (url: string): string => new URL(url, 'http://x').searchParams.get('text') ?? '';
const server = stubServer(({ url }) => said(asked(url)));

function shown(): string[] {
  const rows: string[] = [];
  const Stub = createRoutesStub([
    { path: '/', Component: () => <StartFrom root="/w/shop" onRows={(text) => rows.push(text)} /> },
  ]);
  render(<Stub />);
  return rows;
}
const field = () => screen.getByLabelText(/^Barcode, listing code, page address/);
const type = (value: string) => fireEvent.change(field(), { target: { value } });
const ways = (): (string | null)[][] =>
  screen.getAllByRole('link').map((l) => [l.textContent, l.getAttribute('href')]);
const GTIN = '9521000000001';

describe('one field for whatever one holds', () => {
  it('a barcode: known goods first, then listings, then what can be begun', async () => {
    server.answer = () =>
      said(GTIN, {
        candidates: [{ id: 'c1', name: 'Cork mat' }],
        decided: 'dropped',
        listings: [{ market: 'Alderway/DE', code: 'L 1', title: 'Mat of cork', price: 30, currency: 'EUR' }],
      });
    shown();
    type(GTIN);
    await screen.findByText('Mat of cork');
    expect(ways()).toEqual([
      ['Cork mat', '/w/shop/weigh/c1'],
      ['Mat of cork', '/w/shop/find/listing?market=Alderway%2FDE&code=L+1'],
      [`Check ${GTIN} at a shelf`, `/w/shop/check?goods=${GTIN}`],
      ['Weigh a new product with this barcode', `/w/shop/find?gtin=${GTIN}`],
    ]);
    expect(screen.getByText('A barcode. It could be a listing’s code too. Dropped already.')).toBeTruthy();
  });
  it('words are not asked about, and lead to a search or a new product', async () => {
    shown();
    await untilTimersHaveRun(() => type('cork mat'));
    expect(ways()).toEqual([
      ['Search the market for cork mat', '/w/shop/find/market?words=cork+mat'],
      ['Weigh a new product: cork mat', '/w/shop/find?name=cork+mat'],
    ]);
    expect(server.sent).toEqual([]);
  });
  it('a slip in a barcode is an error of the field, and leads nowhere', () => {
    shown();
    type('9521000000002');
    expect(screen.getByRole('alert').textContent).toMatch(/its last digit does not fit/);
    expect(screen.queryAllByRole('link')).toEqual([]);
  });
  it('an address that no card knows is told by the server', async () => {
    server.answer = ({ url }) => said(asked(url), { wrong: ['No marketplace here has pages at a.example.'] });
    shown();
    type('https://a.example/i/1');
    await screen.findByText('No marketplace here has pages at a.example.');
  });
  it('an answer that comes late says nothing of what is typed by then', async () => {
    let answerLate = (): void => undefined;
    const late = new Promise<void>((done) => {
      answerLate = done;
    });
    server.answer = async ({ url }) => {
      if (asked(url) === 'OLD1') await late;
      return said(asked(url), { candidates: [{ id: asked(url), name: `Goods ${asked(url)}` }] });
    };
    shown();
    type('OLD1');
    await waitFor(() => expect(server.sent).toHaveLength(1));
    type('NEW2');
    await screen.findByText('Goods NEW2');
    await act(async () => answerLate());
    expect(screen.queryByText('Goods OLD1')).toBeNull();
  });
  it('without a network what can be begun is offered all the same', async () => {
    server.answer = away;
    shown();
    type(GTIN);
    await waitFor(() => expect(server.sent).toHaveLength(1));
    expect(ways().map(([name]) => name)).toContain('Weigh a new product with this barcode');
  });
  it('rows that are pasted go on as rows, one line stays in the field', () => {
    const rows = shown();
    const paste = (text: string) => {
      const event = createEvent.paste(field(), { clipboardData: { getData: () => text } });
      fireEvent(field(), event);
      return event.defaultPrevented;
    };
    expect(paste('Cork mat')).toBe(false);
    expect(paste('Cork mat\t12\nBell\t4')).toBe(true);
    expect(rows).toEqual(['Cork mat\t12\nBell\t4']);
  });
});
