import { describe, expect, it } from 'vitest';
import type { CheckGist } from '../../../core/check/check.ts';
import { shelfCheck } from '../../../core/check/schema.ts';
import type { CheckSession, ShelfCheck } from '../../../core/check/schema.ts';
import { away, stubServer } from '../../ui/testing/server.ts';
import { DeviceStore } from './deviceStore.ts';
import { FakeDevice } from './testing/device.ts';
import { sendHeld } from './useDevice.ts';

const OWNER = { root: '/w/shop', person: 'p1' };
const SESSION = crypto.randomUUID();
const at = (minute: number): string => new Date(Date.UTC(2026, 10, 30, 9, minute)).toISOString();
const session = (over: Partial<CheckSession> = {}): CheckSession => ({
  id: SESSION,
  name: '',
  stretches: [{ from: at(0), to: null }],
  ended: false,
  changedAt: at(0),
  ...over,
});
const check = (over: Partial<ShelfCheck> = {}): ShelfCheck =>
  shelfCheck.parse({
    id: crypto.randomUUID(),
    session: SESSION,
    at: at(1),
    changedAt: at(1),
    name: 'Cork mat',
    market: 'Alderway/DE',
    cards: { marketplace: 'm', tax: null, exchange: null },
    till: { currency: 'EUR' },
    state: 'kept',
    ...over,
  });
const GIST = { verdict: 'open', lacks: [] } as unknown as CheckGist;

type SentBody = { person: string; checks: { id: string }[]; sessions: { id: string }[] };
const idsOf = (body: unknown): string[] =>
  [...(body as SentBody).checks, ...(body as SentBody).sessions].map((x) => x.id);
const server = stubServer(({ body }) => Response.json({ taken: idsOf(body), refused: [] }));

describe('what a device keeps', () => {
  it('stands there when it is opened again, for its owner alone', async () => {
    const device = new FakeDevice();
    const store = new DeviceStore(OWNER, device.open);
    await store.keepSession(session());
    const c = check();
    await store.keepCheck(c, GIST);
    const again = await new DeviceStore(OWNER, device.open).held();
    expect(again.session?.data.id).toBe(SESSION);
    expect(again.checks.map((x) => [x.id, x.sent])).toEqual([[c.id, false]]);
    expect((await new DeviceStore({ ...OWNER, person: 'p2' }, device.open).held()).checks).toEqual([]);
    expect((await new DeviceStore({ ...OWNER, root: '/w/other' }, device.open).held()).checks).toEqual([]);
  });
  it('what it has no room for is in memory, said, and kept once there is room', async () => {
    const device = new FakeDevice();
    const store = new DeviceStore(OWNER, device.open);
    device.isFull = true;
    const c = check();
    await store.keepCheck(c, GIST);
    expect(await store.held()).toMatchObject({ isSafe: false, checks: [{ id: c.id }] });
    expect((await new DeviceStore(OWNER, device.open).held()).checks).toEqual([]);
    device.isFull = false;
    await store.keepCheck({ ...c, changedAt: at(2) }, GIST);
    expect(await store.held()).toMatchObject({ isSafe: true, checks: [{ id: c.id }] });
  });
  it('a browser that keeps nothing works on in memory, and says so', async () => {
    const device = new FakeDevice();
    device.isAway = true;
    const store = new DeviceStore(OWNER, device.open);
    await store.keepCheck(check(), GIST);
    const held = await store.held();
    expect([held.isSafe, held.checks.length]).toEqual([false, 1]);
  });
});

describe('sending what waits', () => {
  it('in parts, once; what ended and is sent is let go', async () => {
    const device = new FakeDevice();
    const store = new DeviceStore(OWNER, device.open);
    await store.keepSession(session({ ended: true }));
    for (let i = 0; i < 230; i++) await store.keepCheck(check(), GIST);
    expect(await sendHeld(store)).toBeNull();
    const bodies = server.sent.map((s) => s.body as SentBody);
    expect(bodies.map((b) => b.checks.length)).toEqual([100, 100, 30]);
    expect(new Set(bodies.flatMap((b) => b.checks.map((c) => c.id))).size).toBe(230);
    expect(bodies[0]?.person).toBe('p1');
    expect([device.tables.checks?.size, device.tables.sessions?.size]).toEqual([0, 0]);
    expect(await sendHeld(store)).toBeNull();
    expect(server.sent).toHaveLength(3);
  });
  it('without a network all of it stays', async () => {
    const device = new FakeDevice();
    const store = new DeviceStore(OWNER, device.open);
    await store.keepCheck(check(), GIST);
    server.answer = away;
    expect(await sendHeld(store)).toBe('offline');
    expect((await store.held()).checks[0]?.sent).toBe(false);
  });
  it('what is refused says why, is not sent again, and does not hold up the rest', async () => {
    const device = new FakeDevice();
    const store = new DeviceStore(OWNER, device.open);
    const [bad, good] = [check(), check()];
    await store.keepCheck(bad, GIST);
    await store.keepCheck(good, GIST);
    server.answer = ({ body }) =>
      Response.json({
        taken: idsOf(body).filter((id) => id !== bad.id),
        refused: [{ id: bad.id, why: 'its rates are gone' }],
      });
    expect(await sendHeld(store)).toBeNull();
    const held = await store.held();
    expect(held.checks.map((c) => [c.id, c.refused])).toEqual([[bad.id, 'its rates are gone']]);
    await sendHeld(store);
    expect(server.sent).toHaveLength(1);
  });
  it('a server that takes nothing is not asked for ever', async () => {
    const store = new DeviceStore(OWNER, new FakeDevice().open);
    await store.keepCheck(check(), GIST);
    server.answer = () => Response.json({ taken: [], refused: [] });
    expect(await sendHeld(store)).toBe('refused');
    expect(server.sent).toHaveLength(1);
  });
  it('what is changed while it is on its way is sent again', async () => {
    const store = new DeviceStore(OWNER, new FakeDevice().open);
    const c = check();
    await store.keepCheck(c, GIST);
    let first = true;
    server.answer = async ({ body }) => {
      if (first) await store.keepCheck({ ...c, state: 'left', changedAt: at(9) }, GIST);
      first = false;
      return Response.json({ taken: idsOf(body), refused: [] });
    };
    expect(await sendHeld(store)).toBeNull();
    const sent = server.sent.map((s) => (s.body as { checks: ShelfCheck[] }).checks[0]?.state);
    expect(sent).toEqual(['kept', 'left']);
  });
  it('a session signed out of is told, and nothing is lost', async () => {
    const store = new DeviceStore(OWNER, new FakeDevice().open);
    await store.keepCheck(check(), GIST);
    server.answer = () => Response.json({ error: 'signedOut' }, { status: 401 });
    expect(await sendHeld(store)).toBe('signedOut');
    expect((await store.held()).checks).toHaveLength(1);
  });
});
