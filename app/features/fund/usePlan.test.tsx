import { act, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { cashTerms } from '../../../core/cash/schema.ts';
import { launchPlan } from '../../../core/launch/schema.ts';
import type { FundPlan } from '../../../core/workspace/fundPlan.ts';
import { stubServer } from '../../ui/testing/server.ts';
import { usePlan } from './usePlan.ts';

const revalidate = vi.fn(async () => undefined);
vi.mock('react-router', () => ({ useRevalidator: () => ({ revalidate }) }));

const stored: FundPlan = { ...launchPlan.parse({ cash: 4000 }), ...cashTerms.parse({}), sure: {} };
const server = stubServer(() => Response.json({ error: null }));
const sent = () => server.sent.map((x) => x.body as { changed: Partial<FundPlan>; candidate: string });
beforeEach(() => {
  vi.useFakeTimers();
  sessionStorage.clear();
  revalidate.mockClear();
});
afterEach(() => {
  vi.useRealTimers();
});

const plan = (canEdit = true) =>
  renderHook((p: { stored: FundPlan }) => usePlan(p.stored, 'c1', '/fund/save', canEdit), {
    initialProps: { stored },
  });
const wait = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));

describe('a launch plan while it is edited', () => {
  it('sends the fields that changed, and no others', async () => {
    const { result } = plan();
    act(() => result.current.set({ cash: 5000 }));
    expect([result.current.fields.cash, result.current.state]).toEqual([5000, 'unsaved']);
    expect(JSON.parse(sessionStorage.getItem('bm-unsaved-plan-c1') ?? '')).toEqual({ cash: 5000 });
    await wait(600);
    expect(sent()).toEqual([{ changed: { cash: 5000 }, candidate: 'c1' }]);
    expect([result.current.state, sessionStorage.length]).toEqual(['saved', 0]);
    expect(revalidate).toHaveBeenCalledTimes(1);
  });
  it('what others changed comes in under what one has changed oneself', async () => {
    const { result, rerender } = plan();
    act(() => result.current.set({ cash: 5000 }));
    rerender({ stored: { ...stored, cash: 4500, reserve: 300 } as FundPlan });
    expect(result.current.fields).toMatchObject({ cash: 5000, reserve: 300 });
    await wait(600);
    expect(sent().at(-1)?.changed).toEqual({ cash: 5000 });
  });
  it('what is refused says why, and is sent again once something in it is changed', async () => {
    const { result } = plan();
    server.answer = () => Response.json({ error: 'cash: This is under 0. Use at least 0.' }, { status: 422 });
    act(() => result.current.set({ cash: -1 }));
    await wait(10_000);
    expect([result.current.state, result.current.error, server.sent.length]).toEqual([
      'invalid',
      'cash: This is under 0. Use at least 0.',
      1,
    ]);
    server.answer = () => Response.json({ error: null });
    act(() => result.current.set({ cash: 1 }));
    await wait(600);
    expect([result.current.state, result.current.error, server.sent.length]).toEqual(['saved', null, 2]);
  });
  it('is sent again by itself where the server is away', async () => {
    const { result } = plan();
    server.answer = () => Response.json({}, { status: 503 });
    act(() => result.current.set({ cash: 7 }));
    await wait(600);
    expect(result.current.state).toBe('offline');
    server.answer = () => Response.json({ error: null });
    await wait(3100);
    expect([result.current.state, server.sent.length]).toEqual(['saved', 2]);
  });
  it('is saved at once when the page is left', async () => {
    const { result, unmount } = plan();
    act(() => result.current.set({ cash: 8 }));
    unmount();
    await wait(0);
    expect(sent()).toEqual([{ changed: { cash: 8 }, candidate: 'c1' }]);
  });
  it('what an earlier page of the tab could not save comes back', async () => {
    sessionStorage.setItem('bm-unsaved-plan-c1', JSON.stringify({ cash: 9 }));
    const { result } = plan();
    expect(result.current.fields.cash).toBe(9);
    await wait(600);
    expect(sent().at(-1)?.changed).toEqual({ cash: 9 });
    sessionStorage.setItem('bm-unsaved-plan-c1', JSON.stringify({ cash: 'much' }));
    expect(plan().result.current.fields.cash).toBe(4000);
  });
  it('of somebody who may only look goes nowhere', async () => {
    const { result } = plan(false);
    act(() => result.current.set({ cash: 5 }));
    await wait(2000);
    expect([result.current.fields.cash, result.current.state, server.sent.length]).toEqual([5, 'viewer', 0]);
  });
});
