/** What this device holds of the checks, and its sending: once, by one tab at a time, whenever there is a network. */
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { CheckGist } from '../../../core/check/check.ts';
import type { CheckSession, ShelfCheck } from '../../../core/check/schema.ts';
import { tell } from '../../ui/client.ts';
import type { Why } from '../../ui/client.ts';
import { DeviceStore, NOTHING_HELD } from './deviceStore.ts';
import type { Held, Owner } from './deviceStore.ts';

/** At most so many are sent at once. */
const A_TIME = 100;
const AGAIN_MS = 20_000;
const CHANNEL = 'bold-margin-checks';

type Answer = { taken: string[]; refused: { id: string; why: string }[] };

/** Sends what waits, a part at a time, until nothing does or the server does not take it. Null: all was sent. */
export async function sendHeld(store: DeviceStore): Promise<Why | null> {
  const { root, person } = store.owner;
  for (;;) {
    const held = await store.held();
    const checks = held.checks.filter((c) => !c.sent && c.refused === null).slice(0, A_TIME);
    const sessions = held.waiting.slice(0, A_TIME);
    if (checks.length === 0 && sessions.length === 0) return null;
    const answer = await tell<Answer>(`${root}/check/keep`, {
      person,
      sessions: sessions.map((s) => s.data),
      checks: checks.map((c) => c.data),
    });
    if (!answer.ok) return answer.why;
    const taken = new Set(answer.data.taken);
    const refused = new Map(answer.data.refused.map((r) => [r.id, r.why]));
    await store.told({ checks, sessions }, taken, refused);
    // A server that takes none of it would be asked for ever.
    if (![...checks, ...sessions].some((x) => taken.has(x.id) || refused.has(x.id))) return 'refused';
  }
}

/** One tab at a time; where the browser cannot say, the server keeps each once anyway. */
function alone<T>(work: () => Promise<T>, busy: T): Promise<T> {
  if (navigator.locks === undefined) return work();
  return navigator.locks.request(CHANNEL, { ifAvailable: true }, (lock) =>
    lock === null ? Promise.resolve(busy) : work(),
  ) as Promise<T>;
}

export type Device = {
  readonly held: Held;
  /** It has been read from the device. */
  readonly isRead: boolean;
  /** Why what waits could not be sent at the last try; null: it was, or nothing waits. */
  readonly trouble: Why | null;
  readonly keepCheck: (data: ShelfCheck, said: CheckGist) => Promise<void>;
  readonly keepSession: (data: CheckSession) => Promise<void>;
  readonly send: () => Promise<void>;
};

export function useDevice(owner: Owner, canSend: boolean): Device {
  const { root, person } = owner;
  const store = useMemo(() => new DeviceStore({ root, person }), [root, person]);
  const [held, setHeld] = useState<Held>(NOTHING_HELD);
  const [isRead, setRead] = useState(false);
  const [trouble, setTrouble] = useState<Why | null>(null);
  const channel = useRef<BroadcastChannel | null>(null);
  const read = useCallback(async () => {
    setHeld(await store.held());
    setRead(true);
  }, [store]);
  const changed = useCallback(async () => {
    await read();
    channel.current?.postMessage('changed');
  }, [read]);
  const send = useCallback(async () => {
    if (!canSend) return;
    setTrouble(await alone(() => sendHeld(store), null));
    await changed();
  }, [store, canSend, changed]);
  useEffect(() => {
    channel.current = new BroadcastChannel(CHANNEL);
    channel.current.onmessage = () => void read();
    void read().then(send);
    const again = setInterval(() => void send(), AGAIN_MS);
    const back = (): void => void send();
    window.addEventListener('online', back);
    return () => {
      clearInterval(again);
      window.removeEventListener('online', back);
      channel.current?.close();
      channel.current = null;
    };
  }, [read, send]);
  const keep = useCallback(
    async (work: Promise<void>) => {
      await work;
      // So that the browser does not let go of it when it wants room.
      await navigator.storage?.persist?.().catch(() => false);
      await changed();
      void send();
    },
    [changed, send],
  );
  return {
    held,
    isRead,
    trouble,
    keepCheck: (data, said) => keep(store.keepCheck(data, said)),
    keepSession: (data) => keep(store.keepSession(data)),
    send,
  };
}
