import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { closeDatabase } from './db/client.ts';
import { ask, freightFromOutside, ratesFromOutside } from './outside/client.ts';
import { startStandIn } from './testing/outside.ts';
import type { StandIn } from './testing/outside.ts';
import { makeWorkspace } from './testing/workspaces.ts';

let standIn: StandIn;
let url: string;
const behave = (how: object) => standIn.behave(how);
const anything = z.object({ date: z.string(), rates: z.record(z.string(), z.number().positive()) });

beforeAll(async () => {
  standIn = await startStandIn();
  url = standIn.url;
});
beforeEach(() => behave({}));
afterAll(async () => {
  standIn.stop();
  await closeDatabase();
});

describe('the stand-in', () => {
  it('describes itself, and answers the same question the same way', async () => {
    const api = (await (await fetch(`${url}/openapi.json`)).json()) as { paths: object };
    expect(Object.keys(api.paths)).toEqual(['/exchange-rates', '/freight-quotes', '/behaviour']);
    const text = () => fetch(`${url}/exchange-rates?date=2026-11-24&base=EUR`).then((r) => r.text());
    expect(await text()).toBe(await text());
    const day = (d: string) =>
      fetch(`${url}/exchange-rates?date=${d}&base=EUR`).then(
        (r) => r.json() as Promise<{ rates: Record<string, number> }>,
      );
    const [a, b] = [await day('2026-11-24'), await day('2026-11-25')];
    expect(a.rates.USD).not.toBe(b.rates.USD);
    expect(Math.abs((a.rates.USD as number) / (b.rates.USD as number) - 1)).toBeLessThan(0.02);
    const usd = (await (await fetch(`${url}/exchange-rates?date=2026-11-24&base=USD`)).json()) as {
      rates: Record<string, number>;
    };
    expect((usd.rates.EUR as number) * (a.rates.USD as number)).toBeCloseTo(1, 4);
  });
  it('refuses what it does not understand', async () => {
    expect((await fetch(`${url}/exchange-rates?date=soon`)).status).toBe(422);
    expect((await fetch(`${url}/freight-quotes?from=CN&to=DE&mode=rocket&date=2026-11-24`)).status).toBe(422);
    expect((await fetch(`${url}/weather`)).status).toBe(404);
    expect((await behave({ speed: 9 })).status).toBe(422);
  });
});

describe('the client', () => {
  const question = '/exchange-rates?date=2026-11-24&base=EUR';
  it('tries again where the service fails or limits, and gives up in time', async () => {
    await behave({ failNext: 2 });
    expect(await ask(url, question, anything, [5, 5])).not.toBeNull();
    await behave({ failNext: 3 });
    expect(await ask(url, question, anything, [5, 5])).toBeNull();
    await behave({ perMinute: 0 });
    expect(await ask(url, question, anything, [5])).toBeNull();
    await behave({ slowMs: 400 });
    const started = Date.now();
    expect(await ask(url, question, anything, [5], 100)).toBeNull();
    expect(Date.now() - started).toBeLessThan(2000);
    expect(await ask('http://127.0.0.1:9', question, anything, [5], 100)).toBeNull();
  });
  it('takes no odd data', async () => {
    await behave({ odd: true });
    const w = await makeWorkspace();
    expect(await ratesFromOutside(w.id)).toBeNull();
    expect(await freightFromOutside(w.id, 'CN', 'DE', 'sea')).toBeNull();
  });
  it('keeps what was said, gives it again while fresh, and another workspace asks for itself', async () => {
    const [w, other] = [await makeWorkspace(), await makeWorkspace()];
    const first = await ratesFromOutside(w.id);
    expect(first).toMatchObject({ stale: false, table: { base: 'EUR' } });
    await behave({ failNext: 1000 });
    expect(await ratesFromOutside(w.id)).toEqual(first);
    expect(await ratesFromOutside(other.id)).toBeNull();
    await behave({});
    expect(await freightFromOutside(w.id, 'CN', 'DE', 'air')).toMatchObject({
      stale: false,
      value: { mode: 'air', basis: 'perKg' },
    });
  });
});
