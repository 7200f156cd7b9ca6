import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { gatesOf, planOf, summarise } from '../core/workspace/summary.ts';
import { weighLine } from '../core/workspace/weighLine.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { lane } from './db/schema.ts';
import { makeWorkspace, pricePatch, someCandidate } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { createCandidates, documentsOf, loadSheet } from './use/candidates.ts';
import { savePatches } from './use/savePatches.ts';
import { loadWeighed, loadWeighedLanes } from './use/weigh.ts';
import type { Weighed } from './use/weigh.ts';
import { changeSettings } from './use/workspaces.ts';

let w: TestWorkspace;
let id: string;
beforeAll(async () => {
  w = await makeWorkspace();
  [id = ''] = await createCandidates(
    w.id,
    [someCandidate(w), someCandidate(w, { name: 'Other' })],
    w.personId,
  );
});

afterAll(closeDatabase);

const weighed = async (): Promise<Weighed> => (await loadWeighed(w.id)) as Weighed;
const lineOf = async (of: string) => (await weighed()).candidates.find((c) => c.row.id === of)?.best;
const storedOf = (of: string) =>
  inWorkspace(w.id, (tx) => tx.select({ shown: lane.shown }).from(lane).where(eq(lane.candidateId, of)));
/** The same worked out from the sheet, without what is stored. */
async function anew(of: string) {
  const sheet = await loadSheet(w.id, of);
  if (sheet === null) throw new Error('no sheet');
  const [doc] = documentsOf(sheet, sheet.candidate.data, sheet.quotes);
  if (doc === undefined) throw new Error('no lane');
  const { data } = sheet.candidate;
  const hurdles = sheet.settings.hurdles[data.way] ?? [];
  const line = weighLine(doc, summarise(doc, hurdles, planOf(data, sheet.settings.launch)));
  return { ...JSON.parse(JSON.stringify(line)), id: sheet.lanes[0]?.id };
}

describe('the list of candidates', () => {
  it('shows of each what its sheet comes to, and reads it as stored the next time', async () => {
    const first = await lineOf(id);
    expect(first).toEqual(await anew(id));
    const [stored] = await storedOf(id);
    expect(stored?.shown?.line).toEqual({ ...(await anew(id)), id: undefined });
    // What is stored is what is shown: nothing is worked out as long as nothing has changed.
    await inWorkspace(w.id, (tx) =>
      tx.execute(
        sql`update bm.lane set shown = jsonb_set(shown, '{line,margin}', '0.123') where candidate_id = ${id}`,
      ),
    );
    expect((await lineOf(id))?.margin).toBe(0.123);
  });

  it('an edit, changed settings and a changed plan are worked out anew', async () => {
    const sheet = await loadSheet(w.id, id);
    if (sheet === null) throw new Error('no sheet');
    const before = await lineOf(id);
    await savePatches(w.id, id, [pricePatch(sheet, 29.9, 44)], w.personId);
    const dearer = await lineOf(id);
    expect(dearer).toEqual(await anew(id));
    expect(dearer?.bar.figures.unitProfit).toBeGreaterThan(before?.bar.figures.unitProfit as number);

    const way = sheet.candidate.data.way;
    await inWorkspace(w.id, (tx) =>
      changeSettings(tx, w.id, (now) => ({
        ...now,
        hurdles: {
          ...now.hurdles,
          [way]: [{ figure: 'unitProfit', bound: 'atLeast', level: 9000, near: 0 }],
        },
        launch: { ...now.launch, cash: 1 },
      })),
    );
    const held = (await weighed()).candidates.find((c) => c.row.id === id);
    expect(held?.best).toEqual(await anew(id));
    expect(held?.best?.hurdles).toEqual([{ figure: 'unitProfit', verdict: 'fail' }]);
    expect(gatesOf(held?.row.data as never, held?.best ?? null)).toMatchObject({
      profitable: 'failed',
      affordable: 'failed',
    });
  });

  it('opens the lanes of one candidate, and none of another workspace', async () => {
    const lanes = await loadWeighedLanes(w.id, id);
    expect(lanes).toEqual([await anew(id)]);
    const stranger = await makeWorkspace();
    expect(await loadWeighedLanes(stranger.id, id)).toEqual([]);
    expect((await loadWeighed(stranger.id))?.candidates).toEqual([]);
  });
});
