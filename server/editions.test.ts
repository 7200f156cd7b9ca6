import { afterAll, describe, expect, it } from 'vitest';
import { fundPart } from '../core/workspace/fundPlan.ts';
import { planOf } from '../core/workspace/summary.ts';
import { closeDatabase } from './db/client.ts';
import { closeQueue } from './jobs/boss.ts';
import { makeWorkspace, someCandidate } from './testing/workspaces.ts';
import { createCandidates, loadSheet } from './use/candidates.ts';
import { saveFundPlan, savePatches } from './use/savePatches.ts';
import { editionOf } from './use/editions.ts';

afterAll(async () => {
  await closeQueue();
  await closeDatabase();
});

describe('what two people see of each other', () => {
  it('a change moves the edition of the candidate and names who made it; other workspaces see none', async () => {
    const w = await makeWorkspace();
    const [id] = (await createCandidates(w.id, [someCandidate(w)], w.personId)) as [string];
    const before = await editionOf(w.id, id);
    expect(
      await savePatches(
        w.id,
        id,
        [{ entity: 'candidate', id, path: ['name'], from: 'Bird bath', to: 'Bird bath, blue' }],
        w.personId,
      ),
    ).toMatchObject({ ok: true });
    const after = await editionOf(w.id, id);
    expect(after).toMatchObject({ by: { id: w.personId, name: 'Test' } });
    expect(after?.at).not.toBe(before?.at);
    expect(await editionOf((await makeWorkspace()).id, id)).toBeNull();
  });

  it('two who change different fields of a launch plan both keep theirs', async () => {
    const w = await makeWorkspace();
    const [id] = (await createCandidates(w.id, [someCandidate(w)], w.personId)) as [string];
    expect(await saveFundPlan(w.id, id, { cash: 5000 }, w.personId)).toBe(true);
    expect(await saveFundPlan(w.id, id, { contingency: 0.1 }, w.personId)).toBe(true);
    const sheet = await loadSheet(w.id, id);
    expect(
      planOf(
        (sheet as NonNullable<typeof sheet>).candidate.data,
        (sheet as NonNullable<typeof sheet>).settings.launch,
      ),
    ).toMatchObject({ cash: 5000, contingency: 0.1 });
  });

  it('a part of a plan gets no defaults for what it leaves out, and is refused like a whole one', () => {
    expect(fundPart.parse({ cash: 12 })).toEqual({ cash: 12 });
    expect(fundPart.parse({})).toEqual({});
    expect(fundPart.safeParse({ cash: -1 }).error?.issues[0]?.path).toEqual(['cash']);
    for (const bad of [{ cahs: 1 }, null, 'x', [], { contingency: 'much' }])
      expect(fundPart.safeParse(bad).success, JSON.stringify(bad)).toBe(false);
  });
});
