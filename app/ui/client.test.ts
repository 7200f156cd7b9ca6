import { afterEach, describe, expect, it, vi } from 'vitest';
import { tell, whyNot } from './client.ts';

const of = (status: number, type: ResponseType = 'basic') =>
  whyNot({ ok: status >= 200 && status < 300, status, type });

describe('an answer of our server', () => {
  it('is tried again only where the server did not answer or was not able to', () => {
    expect([null, 500, 502, 503, 408, 429].map((s) => (s === null ? whyNot(null) : of(s)))).toEqual(
      Array(6).fill('offline'),
    );
    for (const status of [400, 401, 403, 404, 405, 409, 413, 415, 422])
      expect(of(status), String(status)).not.toBe('offline');
  });
  it('is told for what it is', () => {
    expect([200, 401, 403, 404, 409, 413, 422, 400].map((s) => of(s))).toEqual([
      null,
      'signedOut',
      'notAllowed',
      'gone',
      'conflict',
      'tooLarge',
      'invalid',
      'refused',
    ]);
    expect(of(0, 'opaqueredirect')).toBe('signedOut');
  });
});

describe('something told to our server', () => {
  const sent: { url: string; init: RequestInit }[] = [];
  const answers = (make: () => Response) =>
    vi.stubGlobal('fetch', (url: string, init: RequestInit) => {
      sent.push({ url, init });
      try {
        return Promise.resolve(make());
      } catch (e) {
        return Promise.reject(e);
      }
    });
  afterEach(() => {
    vi.unstubAllGlobals();
    sent.length = 0;
  });

  it('brings back what was asked for', async () => {
    answers(() => Response.json({ edition: 7 }));
    expect(await tell<{ edition: number }>('/there', { a: 1 })).toEqual({ ok: true, data: { edition: 7 } });
    expect(sent).toHaveLength(1);
    expect(sent[0]).toMatchObject({
      url: '/there',
      init: { method: 'POST', body: '{"a":1}', redirect: 'manual', keepalive: false },
    });
  });
  it('only asks where nothing is sent along, and outlives the page where that is wanted', async () => {
    answers(() => Response.json(null));
    await tell('/there');
    await tell('/there', {}, { leaving: true });
    expect(sent.map((s) => [s.init.method, s.init.keepalive])).toEqual([
      [undefined, false],
      ['POST', true],
    ]);
  });
  it('brings a refusal with its sentence and all that came with it', async () => {
    answers(() => Response.json({ error: 'Give the view a name', field: 'name' }, { status: 422 }));
    expect(await tell('/there', {})).toEqual({
      ok: false,
      why: 'invalid',
      error: 'Give the view a name',
      data: { error: 'Give the view a name', field: 'name' },
    });
  });
  it('that breaks off after its head is no answer', async () => {
    answers(
      () =>
        new Response(
          new ReadableStream({
            start(c) {
              c.enqueue(new TextEncoder().encode('{"rows": ['));
              c.error(new DOMException('nobody waits any more', 'AbortError'));
            },
          }),
        ),
    );
    expect(await tell('/w/shop/ask', {})).toEqual({ ok: false, why: 'offline', error: null, data: null });
  });
  it('never throws: no server, and answers that are no JSON', async () => {
    answers(() => {
      throw new TypeError('no network');
    });
    expect(await tell('/there', {})).toEqual({ ok: false, why: 'offline', error: null, data: null });
    answers(() => new Response('<html>', { status: 500 }));
    expect(await tell('/there', {})).toEqual({ ok: false, why: 'offline', error: null, data: null });
    answers(() => new Response('This is more than ten megabytes.', { status: 413 }));
    expect(await tell('/there', {})).toMatchObject({ ok: false, why: 'tooLarge' });
  });
});
