import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { closeDatabase } from './db/client.ts';
import { closeQueue } from './jobs/boss.ts';
import { startStandIn } from './testing/outside.ts';
import type { StandIn } from './testing/outside.ts';
import { makeWorkspace, someCandidate } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { anythingSaid } from './use/anything.ts';
import { createCandidates } from './use/candidates.ts';
import { decide } from './use/evidence.ts';
import { keepFeed } from './use/feeds.ts';

let standIn: StandIn;
let w: TestWorkspace;
let other: TestWorkspace;
let id: string;
const GTIN = '9520000010010';
beforeAll(async () => {
  [standIn, w, other] = await Promise.all([startStandIn(), makeWorkspace(), makeWorkspace()]);
  await keepFeed(w.id, { address: '', secret: null }, w.personId);
  [id = ''] = await createCandidates(
    w.id,
    [someCandidate(w, { gtin: GTIN, name: 'Bird 100% bath' })],
    w.personId,
  );
  await decide(w.id, id, { market: 'Alderway/DE', change: { listing: 'LT000007' } }, w.personId);
});
beforeEach(() => standIn.behave({}));
afterAll(async () => {
  standIn.stop();
  await Promise.all([closeDatabase(), closeQueue()]);
});
const said = async (text: string, of = w) => {
  const found = await anythingSaid(of.id, text, new AbortController().signal);
  if (found === null) throw new Error('the workspace is there');
  return found;
};

describe('where something leads', () => {
  it('a barcode: to the product that has it, and to its listings', async () => {
    const found = await said(GTIN);
    expect(found.meanings.map((m) => m.kind)).toEqual(['barcode', 'code']);
    expect(found.candidates).toEqual([{ id, name: 'Bird 100% bath' }]);
    expect(found.listings.length).toBeGreaterThan(0);
    expect(found.listings[0]).toMatchObject({ market: 'Alderway/DE', currency: 'EUR' });
    expect(found.faults).toEqual([]);
  });
  it('a listing’s code: to the product that follows it', async () => {
    const found = await said('LT000007');
    expect(found.meanings.map((m) => m.kind)).toEqual(['code', 'words']);
    expect(found.candidates).toEqual([{ id, name: 'Bird 100% bath' }]);
    expect(found.listings.map((l) => l.code)).toEqual(['LT000007']);
  });
  it('however it is written, and to nobody else’s', async () => {
    expect((await said(` 0${GTIN}`)).candidates).toHaveLength(1);
    expect((await said(GTIN, other)).candidates).toEqual([]);
  });
  it('a page by the address on its card; one of no card is said', async () => {
    const page = await said('https://alderway.example/listing/LT000001?from=mail');
    expect(page.meanings[0]).toMatchObject({ kind: 'page', code: 'LT000001' });
    expect(page.listings.map((l) => l.code)).toEqual(['LT000001']);
    const strange = await said('https://elsewhere.example/LT000001');
    expect(strange.faults.map((f) => f.code)).toEqual(['strangePage']);
  });
  it('a name, with whatever signs are in it', async () => {
    expect((await said('100% bath')).candidates).toHaveLength(1);
    expect((await said('100_ bath')).candidates).toEqual([]);
  });
  it('what the market does not know is an answer; a market that is away is told', async () => {
    expect((await said('NOSUCH99')).faults).toEqual([]);
    await standIn.behave({ failNext: 20 });
    const away = await said(GTIN);
    expect(away.candidates).toHaveLength(1);
    expect(away.faults).toHaveLength(1);
  });
  it('anything at all comes to an answer', async () => {
    for (const text of [
      '',
      '   ',
      '%',
      "'; drop table",
      'https://',
      '\u202eabc',
      '9'.repeat(1999),
      'a\tb\nc',
    ])
      expect((await said(text)).meanings.length).toBeGreaterThan(0);
  });
});
