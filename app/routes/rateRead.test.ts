import ExcelJS from 'exceljs';
import { describe, expect, it } from 'vitest';
import { marketplaceDraft, withOneReferral } from '../../core/schedules/toCard.ts';
import { givenOfText } from '../../core/schedules/given.ts';
import { understand } from '../../core/schedules/understand.ts';
import type { MarketplaceCard } from '../../core/cards/rates.ts';
import { proof } from '../../core/proofs/schema.ts';
import { saidBy, signedIn } from '../../server/testing/people.ts';
import { makeWorkspace } from '../../server/testing/workspaces.ts';
import type { TestWorkspace } from '../../server/testing/workspaces.ts';
import { listCards, loadCards } from '../../server/use/cards.ts';
import { loadDraft } from '../../server/use/cardDrafts.ts';
import { loadChoices, loadProofs } from '../../server/use/proofs.ts';
import { exportWorkspace, settingsOf } from '../../server/use/workspaces.ts';
import { action, loader } from './rateRead.tsx';

const asked = (w: TestWorkspace, cookie: string, body?: unknown, search = '') => {
  const init: RequestInit =
    body === undefined
      ? {}
      : body instanceof FormData
        ? { method: 'POST', body }
        : { method: 'POST', body: JSON.stringify(body), headers: { 'content-type': 'application/json' } };
  return {
    request: new Request(`http://bold-margin.test/w/${w.slug}/rates/read${search}`, {
      ...init,
      headers: { ...init.headers, cookie },
    }),
    params: { workspace: w.slug },
  } as never;
};
const TEXT = 'Tier\tWeight\tFee\nSmall\tup to 1 kg\t2.50\nSmall\tup to 2 kg\t2.90';
const ABOUT = {
  name: 'Ostrelle PT',
  marketplace: 'Ostrelle',
  country: 'PT',
  currency: 'EUR',
  inForceFrom: '2026-11-01',
};
const cells = (over: Partial<typeof ABOUT> = {}) =>
  withOneReferral(marketplaceDraft(understand(givenOfText(TEXT), 'EUR').parts, { ...ABOUT, ...over }), 0.15);
const PROOF = proof.parse({ sides: [20, 10, 5], kg: 0.8, charged: { fulfilment: 2.5 } });
const made = (over: object = {}) => ({
  kind: 'marketplace',
  cells: cells(),
  basedOn: null,
  standing: { kind: 'registered' },
  choices: { 'a|b|5,26': 1 },
  proofs: [PROOF],
  ...over,
});
const keyOf = 'Ostrelle/PT';

describe('a fee table read into a card', () => {
  it('is put in force with its proofs, its taxes, one’s standing, and how cells were read', async () => {
    const w = await makeWorkspace();
    const owner = await signedIn(w.id);
    const said = await saidBy(() => action(asked(w, owner.cookie, { intent: 'force', ...made() })));
    expect(said.status).toBe(302);
    const { versions } = await listCards(w.id);
    const card = versions.find((v) => v.key === keyOf);
    const [whole] = await loadCards(w.id, [card?.id ?? '']);
    expect((whole?.data as MarketplaceCard | undefined)?.warehouse?.tiers[0]?.bands[0]?.table.steps).toEqual([
      { upToKg: 1, fee: 2.5 },
      { upToKg: 2, fee: 2.9 },
    ]);
    expect((await loadProofs(w.id, keyOf)).map((p) => p.proof)).toEqual([PROOF]);
    expect(await exportWorkspace(w.id, 'All')).toMatchObject({ proofs: [{ cardKey: keyOf, data: PROOF }] });
    expect(await loadChoices(w.id)).toEqual({ 'a|b|5,26': 1 });
    expect((await settingsOf(w.id))?.standings.PT).toEqual({ kind: 'registered' });
    const tax = versions.find((v) => v.kind === 'tax' && v.key === 'PT');
    expect((await loadCards(w.id, [tax?.id ?? '']))[0]?.data).toMatchObject({
      regime: 'inclusive',
      vatRates: { standard: 0.23 },
      note: expect.stringContaining('Check before you rely on it'),
    });
  });
  it('leaves a standing and a tax card that are there as they are', async () => {
    const w = await makeWorkspace();
    const owner = await signedIn(w.id);
    const before = await settingsOf(w.id);
    const own = (await listCards(w.id)).versions.filter((v) => v.kind === 'tax' && v.key === 'DE');
    await saidBy(() =>
      action(
        asked(w, owner.cookie, {
          intent: 'force',
          ...made({ cells: cells({ country: 'DE' }), standing: { kind: 'notRegistered' } }),
        }),
      ),
    );
    expect((await settingsOf(w.id))?.standings.DE).toEqual(before?.standings.DE ?? { kind: 'notRegistered' });
    expect((await listCards(w.id)).versions.filter((v) => v.kind === 'tax' && v.key === 'DE')).toEqual(own);
  });
  it('with something missing becomes a draft, right or wrong, and no card', async () => {
    const w = await makeWorkspace();
    const owner = await signedIn(w.id);
    const half = marketplaceDraft(understand(givenOfText(TEXT), 'EUR').parts, { ...ABOUT, name: '' });
    const refused = await saidBy(() =>
      action(asked(w, owner.cookie, { intent: 'force', ...made({ cells: half }) })),
    );
    expect(refused.status).toBe(422);
    expect((await listCards(w.id)).versions.some((v) => v.key === keyOf)).toBe(false);
    const said = await saidBy(() =>
      action(asked(w, owner.cookie, { intent: 'draft', ...made({ cells: half }) })),
    );
    const id = String(said.headers.get('location')).split('/').pop() ?? '';
    expect((await loadDraft(w.id, id))?.draft.cells).toEqual(half);
  });
  it('as the next version of a card takes today; a second on one day is refused', async () => {
    const w = await makeWorkspace();
    const owner = await signedIn(w.id);
    const force = (over: object) =>
      saidBy(() => action(asked(w, owner.cookie, { intent: 'force', ...made(over) })));
    await force({});
    const [first] = (await listCards(w.id)).versions.filter((v) => v.key === keyOf);
    expect((await force({ basedOn: first?.id })).status).toBe(302);
    expect((await force({ basedOn: first?.id })).status).toBe(422);
    expect((await listCards(w.id)).versions.filter((v) => v.key === keyOf)).toHaveLength(2);
  });
});

describe('proofs of a card', () => {
  it('are added in their order and taken away; those of another workspace are out of reach', async () => {
    const [w, other] = [await makeWorkspace(), await makeWorkspace()];
    const [owner, stranger] = [await signedIn(w.id), await signedIn(other.id)];
    const proofs = [2.5, 2.6, 2.7].map((fulfilment) => proof.parse({ kg: 0.8, charged: { fulfilment } }));
    await saidBy(() => action(asked(w, owner.cookie, { intent: 'addProofs', key: keyOf, proofs })));
    const kept = await loadProofs(w.id, keyOf);
    expect(kept.map((p) => p.proof)).toEqual(proofs);
    const ids = kept.map((p) => p.id);
    await saidBy(() => action(asked(other, stranger.cookie, { intent: 'dropProofs', ids })));
    expect(await loadProofs(w.id, keyOf)).toHaveLength(3);
    expect(await loadProofs(other.id, keyOf)).toEqual([]);
    await saidBy(() => action(asked(w, owner.cookie, { intent: 'dropProofs', ids: ids.slice(0, 2) })));
    expect((await loadProofs(w.id, keyOf)).map((p) => p.proof)).toEqual(proofs.slice(2));
  });
  it('are given with the card that the table is read into', async () => {
    const w = await makeWorkspace();
    const owner = await signedIn(w.id);
    const card = w.cards.find((c) => c.key === 'Alderway/DE');
    await saidBy(() =>
      action(asked(w, owner.cookie, { intent: 'addProofs', key: 'Alderway/DE', proofs: [PROOF] })),
    );
    const { body } = await saidBy(() => loader(asked(w, owner.cookie, undefined, `?card=${card?.id}`)));
    expect(body).toMatchObject({
      base: { key: 'Alderway/DE' },
      proofs: [{ proof: PROOF }],
      tax: { country: 'DE' },
    });
    const { body: bare } = await saidBy(() => loader(asked(w, owner.cookie)));
    expect(bare).toMatchObject({ base: null, proofs: [], currencies: { JP: 'JPY', US: 'USD' } });
  });
});

describe('the door', () => {
  it.each([
    ['nothing', null],
    ['no intent', { ...made() }],
    ['another kind', { intent: 'draft', ...made({ kind: 'tax' }) }],
    ['a proof without a fee', { intent: 'addProofs', key: keyOf, proofs: [{ ...PROOF, charged: {} }] }],
    ['a negative weight', { intent: 'addProofs', key: keyOf, proofs: [{ ...PROOF, kg: -1 }] }],
    ['something more', { intent: 'dropProofs', ids: [], all: true }],
  ])('%s is refused', async (_, body) => {
    const w = await makeWorkspace();
    const owner = await signedIn(w.id);
    expect((await saidBy(() => action(asked(w, owner.cookie, body)))).status).toBe(422);
  });
  it('whoever only looks changes nothing', async () => {
    const w = await makeWorkspace();
    const viewer = await signedIn(w.id, 'viewer');
    for (const body of [
      { intent: 'force', ...made() },
      { intent: 'addProofs', key: keyOf, proofs: [PROOF] },
    ])
      expect((await saidBy(() => action(asked(w, viewer.cookie, body)))).status).toBe(403);
    expect(await loadProofs(w.id, keyOf)).toEqual([]);
  });
  it('a workbook comes back as text, cells between tabs; what is none is refused', async () => {
    const w = await makeWorkspace();
    const owner = await signedIn(w.id);
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet('Fees');
    for (const r of [
      ['Tier', 'Weight', 'Fee'],
      ['Small', 'up to 1 kg', 2.5],
    ])
      sheet.addRow(r);
    const send = async (bytes: BlobPart) => {
      const form = new FormData();
      form.set('file', new File([bytes], 'fees.xlsx'));
      return saidBy(() => action(asked(w, owner.cookie, form)));
    };
    const said = await send((await book.xlsx.writeBuffer()) as ArrayBuffer);
    expect(said.body).toEqual({ text: 'Tier\tWeight\tFee\nSmall\tup to 1 kg\t2.5' });
    expect((await send('not a workbook')).status).toBe(422);
    expect((await saidBy(() => action(asked(w, owner.cookie, new FormData())))).status).toBe(422);
  });
});
