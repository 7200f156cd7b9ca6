import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import ExcelJS from 'exceljs';
import { describe, expect, it } from 'vitest';
import { marketplaceDraft, withOneReferral } from '../../core/schedules/toCard.ts';
import { givenOfText } from '../../core/schedules/given.ts';
import { understand } from '../../core/schedules/understand.ts';
import type { MarketplaceCard, TaxCard } from '../../core/cards/rates.ts';
import { proof } from '../../core/proofs/schema.ts';
import { saidBy, signedIn } from '../../server/testing/people.ts';
import { makeWorkspace } from '../../server/testing/workspaces.ts';
import type { TestWorkspace } from '../../server/testing/workspaces.ts';
import { writeZip } from '../../server/testing/zip.ts';
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
  it('as the next version of a card is in force from its day; a second on one day is refused', async () => {
    const w = await makeWorkspace();
    const owner = await signedIn(w.id);
    const force = (over: object) =>
      saidBy(() => action(asked(w, owner.cookie, { intent: 'force', ...made(over) })));
    await force({});
    const [first] = (await listCards(w.id)).versions.filter((v) => v.key === keyOf);
    const next = { basedOn: first?.id, cells: cells({ inForceFrom: '2027-02-01' }) };
    expect((await force(next)).status).toBe(302);
    expect((await force(next)).status).toBe(422);
    expect((await listCards(w.id)).versions.filter((v) => v.key === keyOf)).toHaveLength(2);
  });
});

describe('the taxes of a country that is new', () => {
  const taxOf = async (w: TestWorkspace, country: string) => {
    const { versions } = await listCards(w.id);
    const [card] = await loadCards(w.id, [
      versions.find((v) => v.kind === 'tax' && v.key === country)?.id ?? '',
    ]);
    return card?.data as TaxCard | undefined;
  };
  const forceIn = async (w: TestWorkspace, country: string, vat: number | null) => {
    const owner = await signedIn(w.id);
    const body = { intent: 'force', ...made({ cells: cells({ country, name: country }), vat, proofs: [] }) };
    expect((await saidBy(() => action(asked(w, owner.cookie, body)))).status).toBe(302);
  };
  it('are the standard rate of a package with reduced ones, marked to be checked', async () => {
    const w = await makeWorkspace();
    await forceIn(w, 'PT', null);
    const tax = await taxOf(w, 'PT');
    expect(tax?.vatRates).toEqual({ standard: 0.23, reduced: 0.13, lower: 0.06 });
    expect(tax?.note).toMatch(/sales-tax .*reduced rates as published, 2026-01-01.*Check before/);
  });
  it('are what one types, also where no rate is known; without either there is no card', async () => {
    const w = await makeWorkspace();
    await forceIn(w, 'AT', 0.21);
    expect((await taxOf(w, 'AT'))?.vatRates).toEqual({ standard: 0.21, reduced: 0.13, lower: 0.1 });
    await forceIn(w, 'BT', null);
    expect(await taxOf(w, 'BT')).toBeUndefined();
    await forceIn(w, 'AQ', 0.05);
    expect(await taxOf(w, 'AQ')).toMatchObject({ vatRates: { standard: 0.05 }, regime: 'inclusive' });
    expect((await taxOf(w, 'AQ'))?.note).toMatch(/^Standard rate as typed; no reduced rates/);
  });
  it('stay as one’s own card has them', async () => {
    const w = await makeWorkspace();
    const before = await taxOf(w, 'FR');
    await forceIn(w, 'FR', 0.5);
    expect(await taxOf(w, 'FR')).toEqual(before);
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
  it('a workbook that unpacks beyond measure is let go of; formulas come as their values', async () => {
    const w = await makeWorkspace();
    const owner = await signedIn(w.id);
    const path = join(mkdtempSync(join(tmpdir(), 'books-')), 'a.xlsx');
    const send = async (bytes: Buffer) => {
      const form = new FormData();
      form.set('file', new File([new Uint8Array(bytes)], 'fees.xlsx'));
      return saidBy(() => action(asked(w, owner.cookie, form)));
    };
    const book = { name: 'xl/workbook.xml', end: '<workbook/>' };
    writeZip(path, [
      book,
      { name: 'xl/worksheets/sheet1.xml', repeat: '<row><c><v>1</v></c></row>'.repeat(40), times: 40_000 },
    ]);
    expect((await send(readFileSync(path))).status).toBe(422);
    writeZip(path, [
      book,
      { name: 'xl/worksheets/sheet1.xml', start: '<c>', repeat: 'x'.repeat(1000), times: 1000, end: '</c>' },
    ]);
    const said = await send(readFileSync(path));
    expect(said.status).toBe(422);
    expect(JSON.stringify(said.body)).not.toMatch(/\/tmp|Error:|at Object/);
    const formulas = new ExcelJS.Workbook();
    formulas.addWorksheet('Fees').addRow(['Small', { formula: '1+1', result: 2 }, '=HYPERLINK("x")']);
    formulas.addWorksheet('Empty');
    expect((await send(Buffer.from((await formulas.xlsx.writeBuffer()) as ArrayBuffer))).body).toEqual({
      text: expect.stringContaining('Small\t2\t=HYPERLINK("x")'),
    });
  });
});
