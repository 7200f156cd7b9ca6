import { beforeEach, describe, expect, it, vi } from 'vitest';
import { candidateData, quoteSource, storedLane } from '../../../core/workspace/records.ts';
import { patched } from '../../../core/workspace/patch.ts';
import type { Patch } from '../../../core/workspace/patch.ts';
import { SheetStore } from './store.ts';

const lane = storedLane.parse({ country: 'DE', currency: 'EUR', price: 20 });
const state = () => ({
  candidate: { id: 'c', data: candidateData.parse({ name: 'Bird bath', way: 'ownBrand' }) },
  quotes: [
    {
      id: 'q',
      data: quoteSource.parse({ kind: 'quote', currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice: 5 }] }),
    },
  ],
  lanes: [{ id: 'l', position: 0, data: lane, scenarioOf: null }],
});
const price = (to: unknown) => ({ entity: 'lane' as const, id: 'l', path: ['price'], to });

let kept: Map<string, string>;
let sent: Patch[][];
let answer: () => Response;
beforeEach(() => {
  vi.useFakeTimers();
  kept = new Map();
  sent = [];
  answer = () => Response.json({ ok: true, results: {} });
  vi.stubGlobal('sessionStorage', {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => void kept.set(k, v),
    removeItem: (k: string) => void kept.delete(k),
  });
  vi.stubGlobal('fetch', async (_url: string, init: { body: string }) => {
    sent.push((JSON.parse(init.body) as { patches: Patch[] }).patches);
    return answer();
  });
});
const settle = () => vi.advanceTimersByTimeAsync(1000);
const store = (canEdit = true) => new SheetStore(state(), '/save', canEdit, '2026-11-24');
const priceOf = (s: SheetStore) => s.get().state.lanes[0]?.data.price;

describe('the sheet while it is edited', () => {
  it('applies at once, saves a moment later, notes what was typed', async () => {
    const s = store();
    s.edit([price(21)]);
    expect([priceOf(s), s.get().saving, s.get().state.lanes[0]?.data.provenance.price?.source]).toEqual([
      21,
      'unsaved',
      'typed',
    ]);
    await settle();
    expect(s.get().saving).toBe('saved');
    expect(sent.flat().filter((p) => p.path[0] === 'price')).toEqual([{ ...price(21), from: 20 }]);
  });
  it('a run of keystrokes is one step of undo; redo brings it back; both are saved', async () => {
    const s = store();
    for (const v of [2, 23, 23.5]) s.edit([price(v)]);
    await settle();
    s.undo();
    expect([priceOf(s), s.get().canUndo, s.get().canRedo]).toEqual([20, false, true]);
    s.redo();
    expect(priceOf(s)).toBe(23.5);
    await settle();
    expect(
      sent
        .flat()
        .filter((p) => p.path[0] === 'price')
        .at(-1),
    ).toMatchObject({ to: 23.5 });
    expect(s.get().saving).toBe('saved');
  });
  it('undoing the first edit of a value takes its note away again, here and on the server', async () => {
    const s = store();
    s.edit([price(21)]);
    await settle();
    s.undo();
    expect(s.get().state.lanes[0]?.data).toEqual(lane);
    await settle();
    let data: unknown = {
      ...lane,
      price: 21,
      provenance: { price: { source: 'typed', date: '2026-11-24', note: '' } },
    };
    for (const p of sent.at(-1) ?? []) data = patched(data, p);
    expect(storedLane.parse(data)).toEqual(lane);
  });
  it('a conflict keeps both values until one is chosen', async () => {
    for (const mine of [true, false]) {
      const s = store();
      answer = () =>
        Response.json(
          { ok: false, conflicts: [{ patch: { ...price(25), from: 20 }, current: 30 }] },
          { status: 409 },
        );
      s.edit([price(25)]);
      await settle();
      expect([s.get().saving, s.get().conflicts.length, priceOf(s)]).toEqual(['conflict', 1, 25]);
      answer = () => Response.json({ ok: true, results: {} });
      s.resolve(s.get().conflicts[0] as never, mine);
      await settle();
      expect(priceOf(s)).toBe(mine ? 25 : 30);
      if (mine) expect(sent.at(-1)).toContainEqual({ ...price(25), from: 30 });
      expect(s.get().saving).toBe('saved');
    }
  });
  it('a session that ended keeps what was typed for the next page of the tab', async () => {
    const s = store();
    answer = () => Response.json({ error: 'signedOut' }, { status: 401 });
    s.edit([price(26)]);
    await settle();
    expect(s.get().saving).toBe('signedOut');
    answer = () => Response.json({ ok: true, results: {} });
    const next = store();
    next.recover();
    expect(priceOf(next)).toBe(26);
    await settle();
    expect([next.get().saving, kept.size]).toEqual(['saved', 0]);
  });
  it('without a server it tries again until it is there', async () => {
    const s = store();
    answer = () => {
      throw new TypeError('offline');
    };
    s.edit([price(27)]);
    await settle();
    expect(s.get().saving).toBe('offline');
    answer = () => Response.json({ ok: true, results: {} });
    await vi.advanceTimersByTimeAsync(4000);
    expect(s.get().saving).toBe('saved');
  });
  it('what the server refuses is marked at its field, and the rest is saved', async () => {
    const s = store();
    let first = true;
    answer = () => {
      if (!first) return Response.json({ ok: true, results: {} });
      first = false;
      return Response.json(
        {
          ok: false,
          invalid: [
            {
              patch: Object.fromEntries(Object.entries(sent[0]?.[0] ?? {}).reverse()),
              message: 'Use at most 1.',
            },
          ],
        },
        { status: 422 },
      );
    };
    s.edit([{ entity: 'lane', id: 'l', path: ['averageDiscount'], to: 5 }]);
    await settle();
    expect(s.get().invalid).toMatchObject([
      { message: 'Use at most 1.', patch: { path: ['averageDiscount'] } },
    ]);
    expect(sent.at(-1)?.every((p) => p.path[0] === 'provenance')).toBe(true);
    expect([sent.length, s.get().saving]).toEqual([2, 'invalid']);
    s.edit([{ entity: 'lane', id: 'l', path: ['averageDiscount'], to: 0.5 }]);
    await settle();
    expect([s.get().saving, s.get().invalid]).toEqual(['saved', []]);
  });
  it('what is typed while a save is on its way goes out after it, from where that left off', async () => {
    const s = store();
    let arrive: () => void = () => {};
    answer = () => Response.json({ ok: true, results: {} });
    const plain = globalThis.fetch;
    vi.stubGlobal('fetch', async (url: string, init: RequestInit) => {
      const reply = await plain(url, init);
      await new Promise<void>((done) => (arrive = done));
      return reply;
    });
    s.edit([price(21)]);
    await vi.advanceTimersByTimeAsync(400);
    await vi.advanceTimersByTimeAsync(2000);
    s.edit([price(22)]);
    arrive();
    await settle();
    arrive();
    await settle();
    expect(
      sent.map((patches) => patches.filter((p) => p.path[0] === 'price').map((p) => [p.from, p.to])),
    ).toEqual([[[20, 21]], [[21, 22]]]);
    expect([s.get().saving, priceOf(s)]).toEqual(['saved', 22]);
  });
  it('a viewer tries values without saving any', async () => {
    const s = store(false);
    s.edit([price(99)]);
    await settle();
    expect([priceOf(s), s.get().saving, sent.length, kept.size]).toEqual([99, 'viewer', 0, 0]);
    s.undo();
    expect(priceOf(s)).toBe(20);
  });
  it('a fresh answer from the server keeps edits that are still on their way', () => {
    const s = store();
    s.edit([price(28)]);
    s.refresh({
      ...state(),
      lanes: [{ id: 'l', position: 0, data: { ...lane, price: 20, shippingCharged: 3 }, scenarioOf: null }],
    });
    expect([priceOf(s), s.get().state.lanes[0]?.data.shippingCharged]).toEqual([28, 3]);
  });
});
