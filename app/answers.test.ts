import { redirect } from 'react-router';
import { describe, expect, it } from 'vitest';
import { Refusal, refused, type Reason } from '../server/refusal.ts';
import { saidBy } from '../server/testing/people.ts';
import { fault } from '../core/fault.ts';
import { answering } from './answers.ts';

const request = (path: string, json = false): Request =>
  new Request(`http://127.0.0.1:4300${path}`, {
    headers: json ? { 'content-type': 'application/json' } : {},
  });
/** What a loader of a use case that throws this answers. */
const said = (thrown: unknown, from = request('/w/shop/weigh')) =>
  saidBy(() => answering(async () => Promise.reject(thrown))({ request: from }));

describe('a refusal becomes an answer', () => {
  it.each([
    ['notAllowed', 403],
    ['gone', 404],
    ['invalid', 422],
    ['tooLarge', 413],
    ['noRoom', 507],
    ['tooMany', 429],
    ['away', 503],
  ] as [Reason, number][])('%s is answered %i, with its sentence or its name', async (reason, status) => {
    expect(await said(new Refusal(reason))).toMatchObject({ status, body: { error: reason } });
    expect(await said(new Refusal(reason, fault('productGone')))).toMatchObject({
      status,
      body: { error: 'This product is no longer there. Choose another one.' },
    });
  });
  it('what a person can put right comes back to the form that sent it', async () => {
    const sent = new Request('http://127.0.0.1:4300/w/shop', { method: 'POST' });
    const work = (e: unknown) => answering(async () => Promise.reject(e))({ request: sent });
    expect(await work(refused('productGone'))).toMatchObject({
      data: { error: 'This product is no longer there. Choose another one.' },
      init: { status: 422 },
    });
    await expect(work(new Refusal('notAllowed'))).rejects.toMatchObject({ data: { error: 'notAllowed' } });
    await expect(work(new Refusal('tooMany', fault('tooManyRequests')))).rejects.toBeDefined();
  });
  it('nobody is led to signing in and back again, with what stood in the address', async () => {
    const to = async (path: string) => {
      const { status, headers } = await said(new Refusal('signedOut'), request(path));
      expect(status).toBe(302);
      return headers.get('location');
    };
    expect(await to('/w/shop/lists?sort=-margin')).toBe('/sign-in?to=%2Fw%2Fshop%2Flists%3Fsort%3D-margin');
    expect(await to('/w/shop/lists.data')).toBe('/sign-in?to=%2Fw%2Fshop%2Flists');
  });
  it('a request in the background is told that nobody is signed in', async () => {
    expect(await said(new Refusal('signedOut'), request('/w/shop/save', true))).toMatchObject({
      status: 401,
      body: { error: 'signedOut' },
    });
  });
  it('anything else goes through as it is: redirects, and errors that nobody foresaw', async () => {
    expect((await said(redirect('/elsewhere'))).headers.get('location')).toBe('/elsewhere');
    await expect(said(new TypeError('a fault of ours'))).rejects.toThrow('a fault of ours');
  });
  it('what a loader returns is what it returns', async () => {
    expect(await answering(async () => ({ rows: 3 }))({ request: request('/') })).toEqual({ rows: 3 });
  });
});
