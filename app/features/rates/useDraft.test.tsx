import { act, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Tables } from '../../../core/cards/reader.ts';
import { away, stubServer } from '../../ui/testing/server.ts';
import { useDraft } from './useDraft.ts';

const tables = (rate: number): Tables => ({ rates: [['standard', rate]] });
let edition = 1;
const server = stubServer(() => Response.json({ ok: true, edition: ++edition }));
const sent = () => server.sent.map((x) => x.body as { edition: number; cells: Tables });
beforeEach(() => {
  vi.useFakeTimers();
  sessionStorage.clear();
  edition = 1;
});
afterEach(() => {
  vi.useRealTimers();
});

const draft = (canEdit = true, edition = 1) =>
  renderHook(() => useDraft(tables(0.2), edition, '/drafts/d/save', canEdit)).result;
const wait = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));

describe('the cells of a draft while they are edited', () => {
  it('change at once and are saved a moment later, a run of changes as one', async () => {
    const d = draft();
    act(() => d.current.change(tables(0.21)));
    act(() => d.current.change(tables(0.22)));
    expect([d.current.cells, d.current.saving, server.sent.length]).toEqual([tables(0.22), 'unsaved', 0]);
    await wait(600);
    expect(sent()).toEqual([{ edition: 1, cells: tables(0.22) }]);
    expect(d.current.saving).toBe('saved');
    act(() => d.current.change(tables(0.23)));
    await wait(600);
    expect(sent()[1]?.edition).toBe(2);
    expect(sessionStorage.length).toBe(0);
  });
  it('go back and forth step by step, and what is gone back to is saved too', async () => {
    const d = draft();
    act(() => d.current.change(tables(0.21)));
    act(() => d.current.change(tables(0.22)));
    act(() => d.current.undo());
    expect(d.current.cells).toEqual(tables(0.21));
    act(() => d.current.undo());
    act(() => d.current.undo());
    expect(d.current.cells).toEqual(tables(0.2));
    act(() => d.current.redo());
    await wait(600);
    expect(sent().at(-1)?.cells).toEqual(tables(0.21));
    act(() => d.current.change(tables(0.3)));
    act(() => d.current.redo());
    expect(d.current.cells).toEqual(tables(0.3));
  });
  it('that changed while they were on their way are sent once more', async () => {
    const d = draft();
    let arrive: () => void = () => undefined;
    server.answer = () =>
      new Promise((done) => {
        arrive = () => done(Response.json({ ok: true, edition: 2 }));
      });
    act(() => d.current.change(tables(0.21)));
    await wait(600);
    act(() => d.current.change(tables(0.22)));
    server.answer = () => Response.json({ ok: true, edition: 3 });
    await act(async () => arrive());
    expect(d.current.saving).toBe('unsaved');
    await wait(700);
    expect([sent().at(-1), d.current.saving]).toEqual([{ edition: 2, cells: tables(0.22) }, 'saved']);
  });
  it('are tried again by themselves where the server is away, and stand in the tab meanwhile', async () => {
    const d = draft();
    server.answer = away;
    act(() => d.current.change(tables(0.21)));
    await wait(600);
    expect(d.current.saving).toBe('offline');
    expect(sessionStorage.length).toBe(1);
    server.answer = () => Response.json({ ok: true, edition: 2 });
    await wait(3100);
    expect([d.current.saving, server.sent.length, sessionStorage.length]).toEqual(['saved', 2, 0]);
  });
  it.each([
    [409, 'conflict'],
    [404, 'gone'],
    [403, 'notAllowed'],
    [400, 'refused'],
  ])('that are answered %i are told as %s, and not sent again by themselves', async (status, saving) => {
    const d = draft();
    server.answer = () => Response.json({ ok: false }, { status });
    act(() => d.current.change(tables(0.21)));
    await wait(10_000);
    expect([d.current.saving, server.sent.length]).toEqual([saving, 1]);
    expect(await act(() => d.current.flush())).toBe(false);
  });
  it('that an earlier page of the tab could not save come back, unless the draft has moved on since', async () => {
    const key = 'bm-unsaved-draft-/drafts/d/save';
    const keep = () => sessionStorage.setItem(key, JSON.stringify({ edition: 1, cells: tables(0.25) }));
    keep();
    const back = draft();
    expect(back.current.cells).toEqual(tables(0.25));
    await wait(600);
    expect(sent().at(-1)?.cells).toEqual(tables(0.25));
    keep();
    expect(draft(true, 2).current.cells).toEqual(tables(0.2));
    sessionStorage.setItem(key, '{"edition":1,"cells":"no"}');
    expect(draft().current.cells).toEqual(tables(0.2));
  });
  it('of somebody who may only look are tried and sent nowhere', async () => {
    const d = draft(false);
    act(() => d.current.change(tables(0.5)));
    await wait(2000);
    expect([d.current.cells, server.sent.length, sessionStorage.length]).toEqual([tables(0.5), 0, 0]);
  });
});
