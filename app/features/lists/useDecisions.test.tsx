import { act, renderHook } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { ListRow } from '../../../between/ask.ts';
import { away, stubServer } from '../../ui/testing/server.ts';
import { useAct, useDecisions } from './useDecisions.ts';
import { BIT } from '../../../core/lane/blanks.ts';
import type { Screen } from './useScreen.ts';
import './words.ts';

const TALLY = { shortlisted: 0, kept: 0, dropped: 0, profitPerMonth: null } as never;
const row = (i: number, over: Partial<ListRow> = {}): ListRow =>
  ({
    line: i + 2,
    key: 100 + i,
    title: `Row ${i}`,
    listingPack: 0,
    ...over,
    figures: { profitPerMonth: i, ...over.figures },
  }) as ListRow;

type Body = {
  what: string;
  lines?: number[];
  quantity?: number;
  change?: { rows: unknown[]; pack?: unknown };
};
let rows: ListRow[];
const refresh = vi.fn();
const server = stubServer(({ body }) =>
  Response.json({
    ok: true,
    kept: ((body as Body).lines ?? []).map(String),
    tally: { ...(TALLY as object), kept: 9 },
  }),
);
const sent = () => server.sent.map((x) => x.body as Body);
beforeEach(() => {
  rows = Array.from({ length: 250 }, (_, i) => row(i));
  refresh.mockClear();
});

const decisions = (over: { count?: number; saves?: boolean } = {}) =>
  renderHook(() => {
    const acting = useAct('/lists/l', TALLY);
    const screen = {
      rowAt: (i: number) => rows[i],
      rowsUpTo: async (most: number) => rows.slice(0, most),
      refresh,
    } as unknown as Screen;
    return {
      ...acting,
      ...useDecisions({
        screen,
        count: over.count ?? rows.length,
        act: acting.act,
        setSaid: acting.setSaid,
        saveSettings: async () => over.saves ?? true,
      }),
    };
  }).result;
const keys = (d: ReturnType<typeof decisions>): number[] => [...d.current.ticked.keys()];

describe('what is ticked', () => {
  it('goes on and off row by row, and from the last one to another with a range', () => {
    const d = decisions();
    act(() => d.current.tick(row(3), 3, false));
    act(() => d.current.tick(row(6), 6, true));
    expect(keys(d)).toEqual([103, 104, 105, 106]);
    act(() => d.current.tick(row(4), 4, false));
    expect(keys(d)).toEqual([103, 105, 106]);
    act(() => d.current.untick());
    expect(keys(d)).toEqual([]);
  });
  it('all at once is all that the query leaves, and none where all are', async () => {
    const d = decisions();
    await act(() => d.current.tickAll());
    expect([keys(d).length, d.current.allTicked]).toEqual([250, true]);
    await act(() => d.current.tickAll());
    expect([keys(d).length, d.current.allTicked]).toEqual([0, false]);
  });
  it('of more rows than can be ticked the first are, and it is said', async () => {
    const d = decisions({ count: 90_000 });
    await act(() => d.current.tickAll());
    expect(d.current.said).toMatch(/250.*90,000/);
  });
});

describe('what is decided', () => {
  it('goes to the server with each row by its barcode, and the rows are asked for again', async () => {
    const d = decisions();
    const bound = row(2, { blanks: BIT.freight | BIT.demand });
    await act(() => d.current.mark([row(1), bound], { state: 'dropped' } as never));
    expect(sent()).toEqual([
      {
        what: 'mark',
        change: {
          rows: [
            { key: 101, name: 'Row 1', profitPerMonth: 1, lacks: [] },
            { key: 102, name: 'Row 2', profitPerMonth: 2, lacks: ['freight'] },
          ],
          state: 'dropped',
        },
      },
    ]);
    expect(refresh).toHaveBeenCalledTimes(1);
    expect([d.current.tally.kept, d.current.edition]).toEqual([9, 1]);
  });
  it('rows become candidates a hundred at a time, under the assumptions that are seen', async () => {
    const d = decisions();
    await act(() => d.current.keep(rows, 40));
    expect(sent().map((s) => [s.what, s.lines?.length, s.quantity])).toEqual([
      ['keep', 100, 40],
      ['keep', 100, 40],
      ['keep', 50, 40],
    ]);
    expect(d.current.said).toContain('250');
  });
  it('nothing is kept under assumptions that could not be saved', async () => {
    const d = decisions({ saves: false });
    await act(() => d.current.keep([row(1)]));
    expect(sent()).toEqual([]);
  });
  it('what is refused is said, and what comes after it is not tried', async () => {
    const d = decisions();
    server.answer = () => Response.json({ error: 'notAllowed' }, { status: 403 });
    await act(() => d.current.keep(rows));
    expect(sent()).toHaveLength(1);
    expect(d.current.said).toMatch(/your role in this workspace does not allow it/);
    server.answer = () => Response.json({ error: 'A row names no product.' }, { status: 422 });
    await act(() => d.current.keep([row(1)]));
    expect(d.current.said).toBe('A row names no product.');
    server.answer = away;
    await act(() => d.current.keep([row(1)]));
    expect(d.current.said).toMatch(/no answer from the server/);
  });
  it('packs are confirmed with one request for each ratio', async () => {
    const d = decisions();
    const twos = [row(1, { figures: { pack: 2 } }), row(2, { figures: { pack: 2 } })];
    const set = row(3, { figures: { pack: 6 }, listingPack: 3 });
    await act(() => d.current.confirmPacks([...twos, set]));
    expect(sent().map((s) => s.change?.rows.length)).toEqual([2, 1]);
    expect(new Set(sent().map((s) => JSON.stringify(s.change?.pack))).size).toBe(2);
  });
});
