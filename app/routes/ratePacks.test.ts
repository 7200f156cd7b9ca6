import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createHash } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import { marketplaceCard } from '../../core/cards/rates.ts';
import type { MarketplaceCard } from '../../core/cards/rates.ts';
import type { PackLine } from '../../core/packs/compare.ts';
import type { CardPack, PackedCard } from '../../core/packs/schema.ts';
import { proof } from '../../core/proofs/schema.ts';
import { cardPackOf } from '../../core/testing/documents.ts';
import { packOfFile, PACK_LIMITS, zipOfPack } from '../../server/files/packFiles.ts';
import { saidBy, signedIn } from '../../server/testing/people.ts';
import { makeWorkspace } from '../../server/testing/workspaces.ts';
import type { TestWorkspace } from '../../server/testing/workspaces.ts';
import { writeZip } from '../../server/testing/zip.ts';
import { listCards, loadCards, withdraw } from '../../server/use/cards.ts';
import { loadDraft } from '../../server/use/cardDrafts.ts';
import { packOf } from '../../server/use/packs.ts';
import { addProofs, loadProofs } from '../../server/use/proofs.ts';
import { action as give } from './ratePackFile.ts';
import { action as take, loader } from './ratePacks.tsx';

const PROOF = proof.parse({ sides: [20, 10, 5], kg: 0.8, charged: { fulfilment: 2.5 }, note: 'bill 7' });
const ABOUT = { name: 'Autumn', source: 'Tern', madeOn: '2026-11-20' };

let w: TestWorkspace;
let owner: string;
beforeAll(async () => {
  w = await makeWorkspace();
  owner = (await signedIn(w.id)).cookie;
});
const card = (key: string) => w.cards.find((c) => c.key === key) as TestWorkspace['cards'][number];
const packed = (data: MarketplaceCard): PackedCard => ({
  kind: 'marketplace',
  data,
  from: { source: 'Tern', day: '2026-10-02' },
});
const changed = (over: Partial<MarketplaceCard>): MarketplaceCard =>
  marketplaceCard.parse({ ...(card('Alderway/DE').data as MarketplaceCard), ...over });
const asked = (to: TestWorkspace, cookie: string, body: FormData | object, path = 'packs') =>
  ({
    request: new Request(`http://bold-margin.test/w/${to.slug}/rates/${path}`, {
      method: 'POST',
      headers: { cookie, ...(body instanceof FormData ? {} : { 'content-type': 'application/json' }) },
      body: body instanceof FormData ? body : JSON.stringify(body),
    }),
    params: { workspace: to.slug },
  }) as never;
const fileOf = (bytes: Buffer | string): FormData => {
  const form = new FormData();
  form.set('file', new File([typeof bytes === 'string' ? bytes : new Uint8Array(bytes)], 'a.zip'));
  return form;
};
const shown = async (p: CardPack): Promise<PackLine[]> => {
  const said = await saidBy(() => take(asked(w, owner, fileOf(JSON.stringify(p)))));
  expect(said.status).toBe(200);
  return (said.body as { lines: PackLine[] }).lines;
};
const takings = (...as: ('force' | 'draft')[]) => as.map((x, at) => ({ at, as: x }));
const takeIn = (p: CardPack, what: object, cookie = owner) =>
  saidBy(() => take(asked(w, cookie, { intent: 'take', pack: p, takings: what })));

describe('a pack of a workspace’s cards', () => {
  it('holds cards and proofs, and comes back from JSON and zip as it was', async () => {
    await addProofs(w.id, 'Alderway/FR', [PROOF], w.personId);
    const made = await packOf(w.id, [card('Alderway/FR').id, card('DE').id], ABOUT);
    expect(made.cards.map((c) => c.kind)).toEqual(['marketplace', 'tax']);
    expect(made.proofs).toEqual([{ card: 'Alderway/FR', proof: PROOF }]);
    expect(await packOfFile(Buffer.from(JSON.stringify(made)))).toEqual({ ok: true, pack: made });
    expect(await packOfFile(await zipOfPack(made))).toEqual({ ok: true, pack: made });
  });
  it('is saved by anybody who may look, under its name', async () => {
    const viewer = (await signedIn(w.id, 'viewer')).cookie;
    const form = new FormData();
    for (const [k, v] of Object.entries({ name: 'Ours', source: 'Us', as: 'json' })) form.set(k, v);
    form.append('card', card('Alderway/DE').id);
    const said = await saidBy(() => give(asked(w, viewer, form, 'packs/file')));
    expect(said.headers.get('content-disposition')).toContain('Ours.json');
    form.delete('card');
    expect((await saidBy(() => give(asked(w, viewer, form, 'packs/file')))).status).toBe(422);
  });
  it('does not hold cards of another workspace', async () => {
    const other = await makeWorkspace();
    await expect(packOf(other.id, [card('Alderway/DE').id], ABOUT)).rejects.toMatchObject({
      fault: { code: 'packNoCards' },
    });
  });
});

describe('a pack taken in', () => {
  it('says what is new, differs and is there; what is chosen comes in with proofs and origin', async () => {
    const p = cardPackOf(
      [
        packed(changed({ marketplace: 'Larkfield', name: 'Larkfield DE' })),
        packed(changed({ inForceFrom: '2027-05-01', subscriptionMonthly: 77 })),
        packed(card('Alderway/ES').data as MarketplaceCard),
      ],
      [{ card: 'Larkfield/DE', proof: PROOF }],
    );
    expect((await shown(p)).map((l) => [l.state, l.newProofs])).toEqual([
      ['new', 1],
      ['version', 0],
      ['same', 0],
    ]);
    const said = await takeIn(p, takings('force', 'force', 'force'));
    expect(said.body).toEqual({ taken: { inForce: 2, drafts: 0, proofs: 1 } });
    const { versions } = await listCards(w.id);
    const mine = versions.find((v) => v.key === 'Larkfield/DE');
    const [whole] = await loadCards(w.id, [mine?.id ?? '']);
    expect(whole).toMatchObject({ example: false, origin: { source: 'Tern', day: '2026-10-02' } });
    expect((await loadProofs(w.id, 'Larkfield/DE')).map((x) => x.proof)).toEqual([PROOF]);
    // Given on, it is still from where it came.
    const again = await packOf(w.id, [mine?.id ?? ''], ABOUT);
    expect(again.cards[0]?.from).toEqual({ source: 'Tern', day: '2026-10-02' });
    expect((await shown(p)).map((l) => l.state)).toEqual(['same', 'same', 'same']);
    expect((await takeIn(p, takings('force'))).body).toEqual({ taken: { inForce: 0, drafts: 0, proofs: 0 } });
  });
  it('one’s own version of a day is never overwritten: a draft, or nothing of the pack at all', async () => {
    const p = cardPackOf([
      packed(changed({ marketplace: 'Fernway', name: 'Fernway DE' })),
      packed(changed({ subscriptionMonthly: 12 })),
    ]);
    expect((await shown(p)).map((l) => l.state)).toEqual(['new', 'conflict']);
    const before = await listCards(w.id);
    const said = await takeIn(p, takings('force', 'force'));
    expect(said.status).toBe(422);
    expect(JSON.stringify(said.body)).toContain('another version of Alderway DE');
    expect(await listCards(w.id)).toEqual(before);
    expect((await takeIn(p, [{ at: 1, as: 'draft' }])).body).toEqual({
      taken: { inForce: 0, drafts: 1, proofs: 0 },
    });
    const { drafts } = await listCards(w.id);
    const draft = await loadDraft(w.id, drafts[0]?.id ?? '');
    expect(draft?.base?.id).toBe(card('Alderway/DE').id);
    expect(draft?.draft.cells.card).toContainEqual(['subscriptionMonthly', '12']);
  });
  it('what was taken out of force comes back only where one says so', async () => {
    const gone = card('Alderway/IT');
    await withdraw(w.id, gone.id, false);
    const p = cardPackOf([packed(gone.data as MarketplaceCard)]);
    expect((await shown(p))[0]?.state).toBe('withdrawn');
    expect((await takeIn(p, takings('force'))).body).toMatchObject({ taken: { inForce: 1 } });
  });
  it('needs the right to edit', async () => {
    const viewer = (await signedIn(w.id, 'viewer')).cookie;
    const p = cardPackOf([packed(changed({ marketplace: 'Gorseway' }))]);
    expect((await takeIn(p, takings('force'), viewer)).status).toBe(403);
    const seen = await saidBy(() =>
      loader({
        request: new Request(`http://bold-margin.test/w/${w.slug}/rates/packs`, {
          headers: { cookie: viewer },
        }),
        params: { workspace: w.slug },
      } as never),
    );
    expect((seen.body as { versions: unknown[] }).versions.length).toBeGreaterThan(5);
  });
  it('a pack that was tampered with on its way back is read anew', async () => {
    const p = cardPackOf([packed({ ...changed({ marketplace: 'Gorseway' }), currency: 'euro' })]);
    expect((await takeIn(p, takings('force'))).status).toBe(422);
    expect((await takeIn(p, [{ at: -1, as: 'force' }])).status).toBe(422);
  });
});

describe('files that are no packs', () => {
  const folder = mkdtempSync(join(tmpdir(), 'packs-'));
  const zipped = (parts: Parameters<typeof writeZip>[1]): Buffer => {
    const path = join(folder, 'a.zip');
    writeZip(path, parts);
    return readFileSync(path);
  };
  const codesOf = async (bytes: Buffer): Promise<string[]> => {
    const read = await packOfFile(bytes);
    return read.ok ? ['ok'] : read.issues.map((i) => `${i.path} ${i.code}`);
  };
  const hash = (text: string) => createHash('sha256').update(text).digest('hex');
  const manifest = (files: object[]): string =>
    JSON.stringify({
      format: 'bold-margin/card-pack-manifest',
      version: 1,
      name: 'A',
      madeOn: '2026-11-01',
      files,
    });
  const from = { source: '', day: '2026-10-02' };
  const cardText = () =>
    JSON.stringify({
      format: 'bold-margin/rate-card',
      version: 1,
      kind: 'marketplace',
      data: card('Alderway/DE').data,
    });
  const entry = (path: string, text: string) => ({ path, holds: 'card', from, sha256: hash(text) });

  it('are named: no JSON, no zip, half a zip, no manifest', async () => {
    expect(await codesOf(Buffer.from('hello'))).toEqual(['(document) notPack']);
    expect(await codesOf(Buffer.alloc(0))).toEqual(['(document) notPack']);
    expect(await codesOf(Buffer.from('PK nothing'))).toEqual(['(file) notPack']);
    const whole = await zipOfPack(cardPackOf([packed(changed({}))]));
    expect(await codesOf(whole.subarray(0, whole.length / 2))).toEqual(['(file) notPack']);
    expect(await codesOf(zipped([{ name: 'a.txt', end: 'hi' }]))).toEqual(['manifest.json packNoManifest']);
    expect((await codesOf(zipped([{ name: 'manifest.json', end: '{}' }])))[0]).toMatch(/^manifest.json, /);
  });
  it('what the manifest does not name, what is missing, and what was changed', async () => {
    const text = cardText();
    const files = [
      {
        name: 'manifest.json',
        end: manifest([entry('cards/1.json', `${text} `), entry('cards/2.json', text)]),
      },
      { name: 'cards/1.json', end: text },
      { name: 'cards/3.json', end: text },
    ];
    expect(await codesOf(zipped(files))).toEqual([
      'cards/3.json packNotListed',
      'cards/1.json packFileChanged',
      'cards/2.json packFileMissing',
    ]);
  });
  it('no file stands outside of its folder', async () => {
    const text = cardText();
    for (const path of ['../1.json', '/cards/1.json', 'cards/../1.json', 'cards/a/1.json']) {
      const said = await codesOf(
        zipped([
          { name: 'manifest.json', end: manifest([entry(path, text)]) },
          { name: 'cards/1.json', end: text },
        ]),
      );
      expect(said.some((s) => s.endsWith('packPath'))).toBe(true);
    }
  });
  it('proofs of no card, and rows of proofs that cannot be read, with row and column', async () => {
    const text = cardText();
    const proofs = 'Weight,Fulfilment\nheavy,2.00\n';
    const listed = (of: string) =>
      manifest([
        entry('cards/1.json', text),
        { path: 'proofs/1.csv', holds: 'proofs', card: of, sha256: hash(proofs) },
      ]);
    const parts = (of: string) => [
      { name: 'manifest.json', end: listed(of) },
      { name: 'cards/1.json', end: text },
      { name: 'proofs/1.csv', end: proofs },
    ];
    expect(await codesOf(zipped(parts('Nobody/DE')))).toEqual(['proofs/1.csv packProofOfNone']);
    expect(await codesOf(zipped(parts('Alderway/DE')))).toEqual(['proofs/1.csv, row 2, weight proofWeight']);
  });
  it('what unpacks to more than any pack is let go of before it is unpacked', async () => {
    const bomb = zipped([{ name: 'cards/1.json', repeat: ' '.repeat(1000), times: 20_000 }]);
    expect(bomb.length).toBeLessThan(PACK_LIMITS.file / 10);
    expect(await codesOf(bomb)).toEqual(['cards/1.json packUnpacks']);
    const many = Array.from({ length: PACK_LIMITS.files + 1 }, (_, i) => ({
      name: `cards/${i}.json`,
      end: '1',
    }));
    expect(await codesOf(zipped(many))).toEqual(['(file) packTooManyCards']);
  });
});
