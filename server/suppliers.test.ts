import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDatabase } from './db/client.ts';
import { makeWorkspace, someCandidate } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import type { Fault } from '../core/fault.ts';
import { inWords } from '../words/index.ts';
import type { Refusal } from './refusal.ts';
import { componentsFrom } from './use/bundles.ts';
import { createCandidates, loadSheet } from './use/candidates.ts';
import { savePatches } from './use/savePatches.ts';
import { supplierRecord } from '../core/workspace/supplier.ts';
import { loadSuppliers, saveSupplier } from './use/suppliers.ts';

let w: TestWorkspace;
beforeAll(async () => {
  w = await makeWorkspace();
});
afterAll(closeDatabase);

const make = async (name: string): Promise<string> =>
  (await createCandidates(w.id, [someCandidate(w, { name, cost: 4 })], w.personId))[0] as string;
const sheetOf = async (id: string) =>
  (await loadSheet(w.id, id)) as NonNullable<Awaited<ReturnType<typeof loadSheet>>>;
/** Puts one candidate's goods into another, as the sheet does. */
async function put(part: string, into: string) {
  const components = await componentsFrom(w.id, into, part);
  const [lane] = (await sheetOf(into)).lanes;
  const saved = await savePatches(
    w.id,
    into,
    [
      {
        entity: 'lane',
        id: lane?.id ?? '',
        path: ['components'],
        from: lane?.data.components,
        to: [...(lane?.data.components ?? []), ...components],
      },
    ],
    w.personId,
  );
  return { saved };
}

describe('suppliers', () => {
  it('a record and quotes under its name are one; a new name goes to the quotes too', async () => {
    const id = await make('Owl box');
    const [quote] = (await sheetOf(id)).quotes;
    await savePatches(
      w.id,
      id,
      [{ entity: 'quote', id: quote?.id ?? '', path: ['supplier'], from: '', to: 'Birch & Bay' }],
      w.personId,
    );
    expect((await loadSuppliers(w.id)).find((s) => s.name === 'Birch & Bay')).toMatchObject({
      id: null,
      quotes: [{ candidate: 'Owl box', lanes: 1 }],
    });
    const record = await saveSupplier(
      w.id,
      null,
      supplierRecord.parse({ name: 'birch & bay', country: 'SE', currency: 'SEK', contact: '', notes: '' }),
    );
    await saveSupplier(
      w.id,
      record,
      supplierRecord.parse({ name: 'Birch and Bay', country: 'SE', currency: 'SEK', contact: '', notes: '' }),
    );
    const list = await loadSuppliers(w.id);
    expect(list.filter((s) => /birch/i.test(s.name))).toMatchObject([
      { id: record, name: 'Birch and Bay', quotes: [{ candidate: 'Owl box' }] },
    ]);
    expect((await sheetOf(id)).quotes[0]?.data.supplier).toBe('Birch and Bay');
  });
  it('are those of the workspace alone', async () => {
    const other = await makeWorkspace();
    expect(await loadSuppliers(other.id)).toEqual([]);
    const [own] = await loadSuppliers(w.id);
    await expect(
      saveSupplier(
        other.id,
        own?.id ?? '',
        supplierRecord.parse({ name: 'Taken', country: null, currency: null, contact: '', notes: '' }),
      ),
    ).rejects.toMatchObject({ reason: 'gone' });
  });
  it('a record without a name is refused', () => {
    expect(
      supplierRecord.safeParse({ name: '  ', country: null, currency: null, contact: '', notes: '' }).error
        ?.issues[0],
    ).toMatchObject({ path: ['name'], message: 'supplierNoName' });
  });
});

describe('bundles of candidates', () => {
  it('cost the sum of their components', async () => {
    const [pan, set] = [await make('Pan'), await make('Set')];
    const before = (await sheetOf(set)).lanes[0]?.result?.lines.goods as number;
    expect(await put(pan, set)).toMatchObject({ saved: { ok: true } });
    const after = await sheetOf(set);
    expect(after.lanes[0]?.result?.lines.goods).toBeCloseTo(before + 4, 9);
    expect(after.lanes[0]?.data.components[1]).toMatchObject({ name: 'Pan', candidateId: pan });
    // The copy is the bundle's own: the pan keeps its quote.
    expect((await sheetOf(pan)).quotes.length).toBe(1);
  });
  it('a circle is refused and its way named, whichever way it is asked', async () => {
    const [lid, box, set] = [await make('Lid'), await make('Box'), await make('Hamper')];
    await put(lid, box);
    await put(box, set);
    const why = (into: string) =>
      componentsFrom(w.id, into, set).then(
        () => '',
        (e: Refusal) => inWords(e.fault as Fault),
      );
    expect(await why(lid)).toBe(
      '"Hamper" is itself made of "Box \u2192 Lid": a bundle cannot contain itself. ' +
        'Choose another product, or take that component out there first.',
    );
    expect(await why(set)).toBe('"Hamper" cannot be a component of itself. Choose another product.');
    const sheet = await sheetOf(lid);
    const [lane] = sheet.lanes;
    const to = [
      ...(lane?.data.components ?? []),
      { quoteId: sheet.quotes[0]?.id, name: '', unitsInSoldPack: 1, unitsInBoughtPack: 1, candidateId: set },
    ];
    expect(
      await savePatches(
        w.id,
        lid,
        [{ entity: 'lane', id: lane?.id ?? '', path: ['components'], from: lane?.data.components, to }],
        w.personId,
      ),
    ).toMatchObject({
      ok: false,
      invalid: [{ patch: { path: ['components'] }, fault: { code: 'bundleCircle' } }],
    });
    expect((await sheetOf(lid)).lanes[0]?.data.components.length).toBe(1);
  });
  it('of another workspace, or without a quote: said', async () => {
    const other = await makeWorkspace();
    const [theirs] = await createCandidates(other.id, [someCandidate(other)], other.personId);
    await expect(componentsFrom(w.id, await make('Own'), theirs as string)).rejects.toMatchObject({
      fault: { code: 'productGone' },
    });
  });
  it('a bundle put into another brings all its components', async () => {
    const [inner, outer, part] = [await make('Inner'), await make('Outer'), await make('Part')];
    await put(part, inner);
    await put(inner, outer);
    expect((await sheetOf(outer)).lanes[0]?.data.components.map((c) => c.candidateId)).toEqual([
      null,
      inner,
      inner,
    ]);
  });
});
