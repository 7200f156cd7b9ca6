/** Pictures of goods: as the feed has them, and nothing that only calls itself a picture. */
import { createServer } from 'node:http';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { closeDatabase } from './db/client.ts';
import { env, today } from './env.ts';
import { closeQueue } from './jobs/boss.ts';
import { Refusal } from './refusal.ts';
import { startStandIn } from './testing/outside.ts';
import type { StandIn } from './testing/outside.ts';
import { makeWorkspace } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { keepFeed } from './use/feeds.ts';
import { pictureOf } from './use/pictures.ts';

let standIn: StandIn;
let w: TestWorkspace;
beforeAll(async () => {
  standIn = await startStandIn();
  w = await makeWorkspace();
});
afterAll(async () => {
  standIn.stop();
  await Promise.all([closeDatabase(), closeQueue()]);
});
const reasonOf = (asking: Promise<unknown>): Promise<string> =>
  asking.then(
    () => 'a picture',
    (e: unknown) => (e instanceof Refusal ? e.reason : String(e)),
  );

describe('pictures of the stand-in', () => {
  beforeEach(() => keepFeed(w.id, { address: '', secret: null }, w.personId));
  it('a listing and goods of a shop have one; other goods look otherwise', async () => {
    const listing = await pictureOf(w.id, { market: 'Alderway/DE', code: 'LT000001' });
    const again = await pictureOf(w.id, { market: 'Alderway/DE', code: 'LT000001' });
    const other = await pictureOf(w.id, { market: 'Alderway/DE', code: 'LT000005' });
    const goods = await pictureOf(w.id, { shop: 'haldern', code: 'HA100001' });
    expect([listing.type, goods.type]).toEqual(['image/png', 'image/png']);
    expect(listing.bytes).toEqual(again.bytes);
    expect(listing.bytes).not.toEqual(other.bytes);
    // The same goods in a shop stand on ground of its own.
    expect(listing.bytes).not.toEqual(goods.bytes);
    // Width and height, as the file says them.
    expect(Buffer.from(listing.bytes).readUInt32BE(16)).toBe(128);
  });
  it.each([
    { market: 'Alderway/DE', code: 'XX' },
    { market: 'Nowhere/DE', code: 'LT000001' },
    { shop: 'nobody', code: 'HA100001' },
    { shop: 'haldern', code: 'HA999999' },
    { shop: 'haldern', code: '' },
  ])('there is none of %j', async (of) => {
    expect(await reasonOf(pictureOf(w.id, of))).toBe('gone');
  });
});

describe('a feed of one’s own', () => {
  let server: Server;
  let body: object = {};
  beforeAll(async () => {
    Object.assign(env(), { BM_FEED_PRIVATE: '1' });
    server = createServer((_, res) => {
      res.end(JSON.stringify({ asOf: today(), coverage: 1, ...body }));
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    await keepFeed(w.id, { address, secret: null }, w.personId);
  });
  afterAll(() => {
    Object.assign(env(), { BM_FEED_PRIVATE: undefined });
    server.close();
  });
  const asked = () => pictureOf(w.id, { market: 'M/DE', code: 'x' });
  const says = (type: string, bytes: string | Buffer): void => {
    body = { type, base64: Buffer.from(bytes as string, 'latin1').toString('base64') };
  };
  it.each([
    ['image/png', '\x89PNG\r\n\x1a\nand so on'],
    ['image/jpeg', '\xff\xd8\xff\xe0and so on'],
    ['image/webp', 'RIFF\x0a\x00\x00\x00WEBPVP8 '],
  ])('may send %s', async (type, bytes) => {
    says(type, bytes);
    expect(await asked()).toEqual({ type, bytes: Uint8Array.from(Buffer.from(bytes, 'latin1')) });
  });
  it.each([
    ['another kind than it says', () => says('image/png', '\xff\xd8\xff\xe0')],
    ['a page that says it is a picture', () => says('image/png', '<html><script>alert(1)</script>')],
    ['a drawing that may hold scripts', () => says('image/svg+xml', '<svg xmlns="x"/>')],
    ['more than a picture may be', () => says('image/png', `\x89PNG\r\n\x1a\n${'x'.repeat(500_000)}`)],
    [
      'what is no base64',
      () => {
        body = { type: 'image/png', base64: 'iVBORw0KGgo=%%%' };
      },
    ],
    [
      'nothing',
      () => {
        body = {};
      },
    ],
  ])('that sends %s has no picture', async (_, prepare) => {
    prepare();
    expect(await reasonOf(asked())).toBe('gone');
  });
  it('nor has a workspace without a feed', async () => {
    await keepFeed(w.id, null, w.personId);
    expect(await reasonOf(asked())).toBe('gone');
  });
});
