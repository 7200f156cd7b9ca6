import { once } from 'node:events';
import { createServer, request as httpRequest } from 'node:http';
import type { IncomingMessage, Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { answeringBy } from './answer.ts';
import { addressIsKeepable, bodyIsKeepable, isKeepable, keepable } from '../text.ts';

const ORIGIN = 'http://127.0.0.1:4300';
let server: Server;
let port = 0;
/** Bytes of bodies that reached the application. */
let reached = 0;
beforeAll(async () => {
  const app = express();
  app.use(
    answeringBy(
      async (request) => {
        if (new URL(request.url).pathname.endsWith('/refuses')) return new Response('no', { status: 422 });
        let bytes = 0;
        for await (const piece of request.body ?? ([] as never)) bytes += (piece as Uint8Array).length;
        reached += bytes;
        return Response.json({ url: request.url, bytes });
      },
      ORIGIN,
      () => ({ nonce: '' }),
    ),
  );
  app.use(
    ((e: unknown, _req, res, _next) => void res.status(500).send(String(e))) as express.ErrorRequestHandler,
  );
  server = createServer(app);
  server.requestTimeout = 0;
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  port = (server.address() as AddressInfo).port;
});
afterAll(() => new Promise((done) => server.close(done)));

/** Sends pieces as they are given, chunked unless a length is named; ends where the server stops listening. */
async function send(
  path: string,
  pieces: Iterable<Buffer>,
  headers: Record<string, string> = {},
): Promise<{ status: number; text: string; sent: number }> {
  const req = httpRequest({ port, host: '127.0.0.1', path, method: 'POST', headers, agent: false });
  const answer = once(req, 'response') as Promise<[IncomingMessage]>;
  answer.catch(() => undefined);
  let over = false;
  req.on('error', () => {
    over = true;
  });
  req.once('response', () => {
    over = true;
  });
  let sent = 0;
  for (const p of pieces) {
    if (over) break;
    sent += p.length;
    if (!req.write(p))
      await Promise.race([once(req, 'drain'), answer, new Promise((done) => setTimeout(done, 3000))]);
    else await new Promise((done) => setImmediate(done));
  }
  req.end();
  const [res] = await answer;
  let text = '';
  for await (const piece of res) text += String(piece);
  return { status: res.statusCode ?? 0, text, sent };
}
function* zeros(megabytes: number): Generator<Buffer> {
  for (let i = 0; i < megabytes; i++) yield Buffer.alloc(1_000_000, 'x');
}

describe('a body', () => {
  it('of ten megabytes is read, chunked or not', async () => {
    expect(await send('/w/a/x', zeros(10))).toMatchObject({ status: 200 });
    expect(JSON.parse((await send('/w/a/x', zeros(3), { 'content-length': '3000000' })).text)).toEqual({
      url: `${ORIGIN}/w/a/x`,
      bytes: 3_000_000,
    });
  });
  it('over it is refused by what it says, and by what comes, and read no further', async () => {
    const before = reached;
    expect(await send('/w/a/x', zeros(1), { 'content-length': '60000000' })).toMatchObject({
      status: 413,
      text: expect.stringContaining('ten megabytes'),
    });
    const chunked = await send('/w/a/x', zeros(200), { 'content-type': 'application/json' });
    expect(chunked).toMatchObject({ status: 413, text: expect.stringContaining('ten megabytes') });
    expect(chunked.sent).toBeLessThan(40_000_000);
    expect(reached).toBe(before);
  });
  it('of an upload streams through, whatever its length; one that is refused half way hears why', async () => {
    expect(JSON.parse((await send('/w/a/lists/upload?name=x.csv', zeros(40))).text)).toMatchObject({
      bytes: 40_000_000,
    });
    const app = await send('/w/a/lists/upload/refuses', zeros(1));
    expect(app.status).toBe(422);
  });
  it('with a text that cannot be kept is refused with the reason', async () => {
    const json = (text: string) =>
      send('/w/a/x', [Buffer.from(text)], { 'content-type': 'application/json' });
    expect(await json('{"name":"Bird\\u0000bath"}')).toMatchObject({
      status: 400,
      text: expect.stringContaining('cannot be kept'),
    });
    expect((await json('{"name":"half a pair \\ud800"}')).status).toBe(400);
    expect((await json('{"\\ud800":1}')).status).toBe(400);
    expect((await json('{"name":"a pair \\ud83c\\udf31, and a word: \\\\u0000"}')).status).toBe(200);
    expect(
      (
        await send('/w/a/x', [Buffer.from('name=a%00b')], {
          'content-type': 'application/x-www-form-urlencoded',
        })
      ).status,
    ).toBe(400);
  });
});

describe('an address', () => {
  it.each([
    ['/w/%00/x', 400],
    ['/w/%E0%A4%A/x', 400],
    ['/w/%ED%A0%80', 400],
    ['/w/caf%C3%A9?q=a+b', 200],
  ])('%s is answered by %i', async (path, status) => {
    expect((await send(path, [])).status).toBe(status);
  });
});

describe('texts', () => {
  it('are kept, refused, or mended by one rule', async () => {
    expect([
      isKeepable('Bird bath 🌱'),
      isKeepable('a\0b'),
      isKeepable('\ud800'),
      keepable('a\0b\ud800'),
      keepable('plain'),
    ]).toEqual([true, false, false, 'ab\ufffd', 'plain']);
    expect([addressIsKeepable('/a%20b'), addressIsKeepable('/a%00b'), addressIsKeepable('/%')]).toEqual([
      true,
      false,
      false,
    ]);
    const form = new FormData();
    form.set('a', 'x\0y');
    const sent = new Response(form);
    expect(
      await bodyIsKeepable(
        Buffer.from(await sent.clone().arrayBuffer()),
        sent.headers.get('content-type') as string,
      ),
    ).toBe(false);
    const files = new FormData();
    files.set('file', new Blob([new Uint8Array([0, 1, 2])]), 'a.xlsx');
    const upload = new Response(files);
    expect(
      await bodyIsKeepable(
        Buffer.from(await upload.clone().arrayBuffer()),
        upload.headers.get('content-type') as string,
      ),
    ).toBe(true);
  });
});
