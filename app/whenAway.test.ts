import { describe, expect, it } from 'vitest';
import { lastAnswer, unlessAway } from './whenAway.ts';

const away = (): Promise<never> => Promise.reject(new TypeError('Failed to fetch'));

describe('without a network', () => {
  it('the last answer stands, before any the first', async () => {
    const load = lastAnswer<{ n: number }>({ n: 0 });
    expect(await load({ serverLoader: away })).toEqual({ n: 0 });
    expect(await load({ serverLoader: () => Promise.resolve({ n: 5 }) })).toEqual({ n: 5 });
    expect(await load({ serverLoader: away })).toEqual({ n: 5 });
  });
  it('what a server refuses is no want of a network', async () => {
    const refused = new Response(null, { status: 403 });
    await expect(lastAnswer(0)({ serverLoader: () => Promise.reject(refused) })).rejects.toBe(refused);
    await expect(unlessAway({ serverAction: () => Promise.reject(refused) })).rejects.toBe(refused);
  });
  it('what could not be sent is told', async () => {
    expect(await unlessAway({ serverAction: away })).toEqual({ ok: false });
    expect(await unlessAway({ serverAction: () => Promise.resolve('done') })).toBe('done');
  });
});
