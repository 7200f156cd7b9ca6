import { act, renderHook, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { ListSettings } from '../../../core/lists/settings.ts';
import { stubServer } from '../../ui/testing/server.ts';
import { useScreen } from './useScreen.ts';

type Body = {
  from?: number;
  count: number;
  settings: unknown;
  facets?: boolean;
  ahead?: number[];
  query: { text: string };
};

const rowOf = (index: number, profit: number) => ({
  line: index + 2,
  title: `row ${index}`,
  verdict: 'pass',
  figures: { unitProfit: profit, cost: 4 },
  remedies: ['dearer'],
});
const QUERY = { text: '', filters: [], sort: [] };
const ASK = { query: QUERY, show: 'kept', settings: null, more: false } as const;
/** Settings that are tried; the hook passes them on unread. */
const TRIED = { assumptions: { inbound: 1 } } as unknown as ListSettings;

const whole = (body: Body, rows = 300, work: object | null = null): Response =>
  Response.json({
    rows,
    kept: rows,
    window: Array.from({ length: Math.min(body.count, rows - (body.from ?? 0)) }, (_, i) =>
      rowOf((body.from ?? 0) + i, body.settings === null ? 1 : 2),
    ),
    verdicts: { pass: rows, near: 0, fail: 0, unknown: 0 },
    stats: body.facets ? [{ figure: 'price' }] : [],
    facets: null,
    funnel: [],
    strange: [],
    work,
  });

const server = stubServer(({ body }) => whole(body as Body));
const sent = () => server.sent.map((x) => x.body as Body);

const screenOf = (ask: Parameters<typeof useScreen>[1] = ASK) =>
  renderHook((p: { ask: Parameters<typeof useScreen>[1] }) => useScreen('/ask', p.ask, null, [], null), {
    initialProps: { ask },
  });

describe('the rows of a list on screen', () => {
  it('are asked for first, sums and distributions after them', async () => {
    const { result } = screenOf();
    await waitFor(() => expect(result.current.sums).not.toBeNull());
    expect(sent().map((b) => [b.count, b.facets === true])).toEqual([
      [200, false],
      [0, true],
    ]);
    expect(result.current.rowAt(199)?.title).toBe('row 199');
    expect(result.current.rowAt(200)).toBeUndefined();
    expect(result.current.busy).toBe(false);
  });
  it('that come into view are asked for once, by the hundred', async () => {
    const { result } = screenOf();
    await waitFor(() => expect(result.current.sums).not.toBeNull());
    act(() => {
      result.current.inView(190, 215);
      result.current.inView(191, 216);
    });
    await waitFor(() => expect(result.current.rowAt(215)?.title).toBe('row 215'));
    expect(
      sent()
        .slice(2)
        .map((b) => [b.from, b.count]),
    ).toEqual([[200, 100]]);
  });
  it('that came into view before the first answer are asked for again where it does not hold them', async () => {
    let letFirst: () => void = () => undefined;
    const held = new Promise<void>((done) => {
      letFirst = done;
    });
    server.answer = async ({ body }) => {
      if ((body as Body).from === 0) await held;
      return whole(body as Body);
    };
    const { result } = screenOf();
    act(() => result.current.inView(280, 299));
    await waitFor(() => expect(result.current.rowAt(299)?.title).toBe('row 299'));
    letFirst();
    await waitFor(() => expect(result.current.sums).not.toBeNull());
    await waitFor(() => expect(result.current.rowAt(299)?.title).toBe('row 299'));
    expect(result.current.rowAt(0)?.title).toBe('row 0');
  });
  it('that came into view while the server was away come once it is back', async () => {
    const { result } = screenOf();
    await waitFor(() => expect(result.current.sums).not.toBeNull());
    let isAway = true;
    server.answer = ({ body }) =>
      isAway ? Response.json({ error: 'away' }, { status: 503 }) : whole(body as Body);
    act(() => result.current.inView(280, 299));
    await waitFor(() => expect(result.current.notAnswered).toBe('offline'));
    isAway = false;
    await waitFor(() => expect(result.current.rowAt(299)?.title).toBe('row 299'), { timeout: 3000 });
    expect(result.current.notAnswered).toBeNull();
  });
  it('in view are told ahead under other assumptions; of the rest the whole answer tells', async () => {
    const { result, rerender } = screenOf();
    await waitFor(() => expect(result.current.sums).not.toBeNull());
    const before = server.sent.length;
    let letWhole: () => void = () => undefined;
    const held = new Promise<void>((done) => {
      letWhole = done;
    });
    server.answer = async (asked) => {
      const body = asked.body as Body;
      if (body.ahead !== undefined)
        return Response.json({
          ahead: body.ahead.map((line) => ({ line, verdict: 'near', figures: { unitProfit: 2 } })),
        });
      await held;
      return whole(body);
    };
    rerender({ ask: { ...ASK, settings: TRIED } });
    await waitFor(() => expect(result.current.rowAt(0)?.figures.unitProfit).toBe(2));
    expect(sent()[before]?.ahead?.[0]).toBe(2);
    expect(sent()[before]?.ahead?.length).toBeGreaterThan(30);
    // What the assumptions do not change stays; a remedy may be wrong now and vanishes.
    const row = result.current.rowAt(0);
    expect([row?.figures.cost, row?.verdict, row?.remedies]).toEqual([4, 'near', []]);
    expect(result.current.rowAt(199)?.figures.unitProfit).toBe(1);
    expect(result.current.busy).toBe(true);
    letWhole();
    await waitFor(() => expect(result.current.rowAt(199)?.figures.unitProfit).toBe(2));
    await waitFor(() => expect(result.current.rowAt(0)?.remedies).toEqual(['dearer']));
  });
  it('under another query are not told ahead, and begin at the top', async () => {
    const { result, rerender } = screenOf();
    await waitFor(() => expect(result.current.sums).not.toBeNull());
    act(() => result.current.inView(150, 190));
    const before = server.sent.length;
    rerender({ ask: { ...ASK, query: { ...QUERY, text: 'lamp' } } });
    await waitFor(() => expect(server.sent.length).toBe(before + 2));
    expect(
      sent()
        .slice(before)
        .map((b) => [b.ahead, b.from, b.query.text]),
    ).toEqual([
      [undefined, 0, 'lamp'],
      [undefined, undefined, 'lamp'],
    ]);
  });
  it('are asked for again while the server is away, and say so', async () => {
    let isAway = true;
    server.answer = ({ body }) =>
      isAway ? Response.json({ error: 'away' }, { status: 503 }) : whole(body as Body);
    const { result } = screenOf();
    await waitFor(() => expect(result.current.notAnswered).toBe('offline'));
    expect(result.current.busy).toBe(true);
    isAway = false;
    await waitFor(() => expect(result.current.notAnswered).toBeNull(), { timeout: 3000 });
    await waitFor(() => expect(result.current.rowAt(0)?.title).toBe('row 0'));
  });
  it('that are refused say why, once, and are not asked for again', async () => {
    server.answer = () => Response.json({ error: 'notAllowed' }, { status: 403 });
    const { result } = screenOf();
    await waitFor(() => expect(result.current.notAnswered).toBe('notAllowed'));
    await waitFor(() => expect(result.current.busy).toBe(false));
    expect(sent()).toHaveLength(1);
  });
  it('of a list that is still being read have no sums yet, and are asked for every second', async () => {
    let reading = true;
    server.answer = ({ body }) =>
      whole(body as Body, 300, reading ? { state: 'running', done: 10, total: 300, error: null } : null);
    const { result } = screenOf();
    await waitFor(() => expect(result.current.work?.state).toBe('running'));
    expect(sent().some((b) => b.facets)).toBe(false);
    reading = false;
    await waitFor(() => expect(result.current.sums).not.toBeNull(), { timeout: 3000 });
    await waitFor(() => expect(result.current.work).toBeNull());
  });
  it('that are wanted in number come in pieces of five hundred, without remedies', async () => {
    server.answer = ({ body }) => whole(body as Body, 1200);
    const { result } = screenOf();
    await waitFor(() => expect(result.current.sums).not.toBeNull());
    const before = server.sent.length;
    const rows = await result.current.rowsUpTo(5000);
    expect(rows).toHaveLength(1200);
    expect(
      sent()
        .slice(before)
        .map((b) => [b.from, b.count]),
    ).toEqual([
      [0, 500],
      [500, 500],
      [1000, 500],
    ]);
    expect(await result.current.rowsUpTo(7)).toHaveLength(7);
  });
});
