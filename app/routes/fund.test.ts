/** The routes of Fund as a browser uses them, on a real database. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cashTerms } from '../../core/cash/schema.ts';
import { purseKept } from '../../core/purse/schema.ts';
import { sureTerms } from '../../core/risk/schema.ts';
import type { PurseSource } from '../../core/workspace/purse.ts';
import { closeDatabase } from '../../server/db/client.ts';
import { closeQueue } from '../../server/jobs/boss.ts';
import { saidBy, signedIn } from '../../server/testing/people.ts';
import type { Said } from '../../server/testing/people.ts';
import { makeWorkspace, someCandidate } from '../../server/testing/workspaces.ts';
import type { TestWorkspace } from '../../server/testing/workspaces.ts';
import { createCandidates, loadSheet, setFate } from '../../server/use/candidates.ts';
import { adoptPlan, loadPurse } from '../../server/use/purse.ts';
import { loader as months } from './fundMonths.tsx';
import { loader as purse } from './fundPurse.tsx';
import { action as act, loader as working } from './fundPurseAct.ts';
import { action as save } from './fundSave.ts';

let mine: TestWorkspace;
let theirs: TestWorkspace;
let id: string;
let editor: string;
let viewer: string;
let stranger: string;
beforeAll(async () => {
  [mine, theirs] = await Promise.all([makeWorkspace(), makeWorkspace()]);
  [id = ''] = await createCandidates(mine.id, [someCandidate(mine)], mine.personId);
  [editor, viewer, stranger] = (
    await Promise.all([signedIn(mine.id, 'editor'), signedIn(mine.id, 'viewer'), signedIn(null)])
  ).map((p) => p.cookie) as [string, string, string];
});
afterAll(() => Promise.all([closeDatabase(), closeQueue()]));

type Route = (args: never) => unknown;
function send(route: Route, cookie: string, body?: unknown): Promise<Said> {
  const request = new Request(`http://127.0.0.1:4300/w/${mine.slug}/x`, {
    ...(body !== undefined && {
      method: 'POST',
      body: typeof body === 'string' ? body : JSON.stringify(body),
    }),
    headers: { cookie, 'content-type': 'application/json' },
  });
  return saidBy(() => route({ request, params: { workspace: mine.slug } } as never));
}
const keep = (changed: object = {}) => ({ act: 'keep', changed });
const candidateOf = async (which = id) => (await loadSheet(mine.id, which))?.candidate.data;
const laneOf = async (which = id) => (await loadSheet(mine.id, which))?.lanes[0];

describe('who may come through these doors', () => {
  it('strangers see nothing and change nothing', async () => {
    for (const [route, body] of [
      [purse],
      [months],
      [act, keep()],
      [act, { act: 'solve', seconds: 5 }],
      [act, { act: 'stop' }],
      [working],
      [save, { changed: {}, candidate: id }],
    ] as const)
      expect((await send(route as Route, stranger, body)).status).toBeGreaterThanOrEqual(300);
  });
  it('a viewer sees and changes nothing', async () => {
    expect((await send(purse, viewer)).status).toBe(200);
    expect((await send(months, viewer)).status).toBe(200);
    for (const [route, body] of [
      [act, keep()],
      [act, { act: 'solve', seconds: 5 }],
      [act, { act: 'stop' }],
      [act, { act: 'adopt', launches: [{ candidate: id, lane: 'x', quantity: 5, start: '2027-01-01' }] }],
      [save, { changed: { cash: 1 }, candidate: id }],
    ] as const)
      expect((await send(route as Route, viewer, body)).status).toBe(403);
  });
  it.each([
    ['no JSON', '{'],
    ['another act', { act: 'sell' }],
    ['rules that are none', keep({ weeks: 0 })],
    [
      'a start that is no day',
      { act: 'adopt', launches: [{ candidate: 'a', lane: 'b', quantity: 5, start: 'soon' }] },
    ],
    [
      'a quantity of nothing',
      { act: 'adopt', launches: [{ candidate: 'a', lane: 'b', quantity: 0, start: '2027-01-01' }] },
    ],
    ['no launches', { act: 'adopt', launches: [] }],
    ['cash under nothing', keep({ cash: -5 })],
    ['a solver that thinks for an hour', { act: 'solve', seconds: 3600 }],
    ['a solver that thinks for no time', { act: 'solve', seconds: 0 }],
  ])('%s is refused, and nothing is kept', async (_, body) => {
    const before = await loadPurse(mine.id);
    expect((await send(act, editor, body)).status).toBeGreaterThanOrEqual(400);
    expect(await loadPurse(mine.id)).toEqual(before);
  });
});

describe('the purse', () => {
  it('keeps rules, ticks and cash, for this workspace alone', async () => {
    const kept = purseKept.parse({ most: 2, caution: 0.3, must: { 'a/b': true }, out: ['c/d'] });
    expect((await send(act, editor, keep({ ...kept, cash: 8000, reserve: 500 }))).status).toBe(200);
    const { settings } = ((await send(purse, editor)).body as { source: PurseSource }).source;
    expect(settings.purse).toEqual(kept);
    expect(settings.launch).toMatchObject({ cash: 8000, reserve: 500 });
    // What is not sent stays.
    await send(act, editor, keep({ most: 2 }));
    expect((await loadPurse(mine.id))?.settings.launch.cash).toBe(8000);
    expect((await loadPurse(theirs.id))?.settings.purse).toEqual(purseKept.parse({}));
  });
  it('shows candidates with their lanes, none that was archived, dropped or deleted, none of others', async () => {
    const more = await createCandidates(
      mine.id,
      ['archived', 'dropped', 'deleted'].map((name) => someCandidate(mine, { name })),
      mine.personId,
    );
    const [a = '', b = '', c = ''] = more;
    await setFate(mine.id, [a], { archived: true });
    await setFate(mine.id, [b], { dropped: 'too dear' });
    await setFate(mine.id, [c], { deleted: true });
    await createCandidates(theirs.id, [someCandidate(theirs, { name: 'theirs' })], theirs.personId);
    const { candidates, cards } = ((await send(purse, viewer)).body as { source: PurseSource }).source;
    expect(candidates.map((x) => x.data.name)).toEqual(['Bird bath']);
    expect(candidates[0]?.lanes).toHaveLength(1);
    expect(Object.keys(candidates[0]?.quotes ?? {})).toHaveLength(1);
    expect(Object.keys(cards)).toContain(candidates[0]?.lanes[0]?.data.marketplaceCardId);
  });
  it('a workspace without candidates has an empty purse', async () => {
    const empty = await makeWorkspace();
    expect((await loadPurse(empty.id))?.candidates).toEqual([]);
  });
});

describe('a plan that is made the candidates’ own', () => {
  it('sets the lane, its order quantity and its first day, and keeps the rest of the plan', async () => {
    const lane = await laneOf();
    const overTime = cashTerms.parse({ ramp: [0.4, 1], safetyDays: 20 });
    await send(save, editor, { changed: { ramp: [0.4, 1], safetyDays: 20 }, candidate: id });
    const launches = [{ candidate: id, lane: lane?.id, quantity: 320, start: '2027-03-01' }];
    expect(await send(act, editor, { act: 'adopt', launches })).toMatchObject({
      status: 200,
      body: { refused: [] },
    });
    expect(await candidateOf()).toMatchObject({
      launchLane: lane?.id,
      overTime: { ...overTime, start: '2027-03-01' },
    });
    const after = await laneOf();
    expect(after?.data.orderQuantity).toBe(320);
    expect(after?.resultAt?.getTime()).toBeGreaterThanOrEqual(lane?.resultAt?.getTime() ?? 0);
  });
  it('candidates and lanes that are not there, or of others, are named and nothing is changed', async () => {
    const lane = await laneOf();
    const [other = ''] = await createCandidates(theirs.id, [someCandidate(theirs)], theirs.personId);
    const otherLane = (await loadSheet(theirs.id, other))?.lanes[0]?.id ?? '';
    const chosen = [
      { candidate: 'nobody', lane: 'x', quantity: 5, start: '2027-01-01' },
      { candidate: id, lane: 'not its own', quantity: 5, start: '2027-01-01' },
      { candidate: other, lane: otherLane, quantity: 5, start: '2027-01-01' },
    ];
    expect(await adoptPlan(mine.id, chosen, mine.personId)).toEqual(['nobody', id, other]);
    expect((await laneOf())?.data.orderQuantity).toBe(lane?.data.orderQuantity);
    expect((await loadSheet(theirs.id, other))?.candidate.data.launchLane ?? null).toBeNull();
  });
});

describe('the plan of Fund', () => {
  it('keeps time and ranges of the candidate beside what it costs', async () => {
    const sure = {
      [(await laneOf())?.id ?? '']: sureTerms.parse({
        seed: 7,
        ranges: { price: { low: 1, likely: 2, high: 3 } },
      }),
    };
    expect((await send(save, editor, { changed: { sure, contingency: 0.1 }, candidate: id })).status).toBe(
      200,
    );
    const data = await candidateOf();
    expect(data).toMatchObject({ sure, launch: { contingency: 0.1 }, overTime: { safetyDays: 20 } });
  });
  it.each([
    ['another field', { days: 5 }],
    ['no days', { horizon: 0 }],
    ['a ramp of zeros', { ramp: [0, 0] }],
    ['a share over one', { reserveShare: 2 }],
    ['a range out of order', { sure: { x: { ranges: { price: { low: 3, likely: 2, high: 1 } } } } }],
  ])('%s is refused', async (_, changed) => {
    const before = await candidateOf();
    expect((await send(save, editor, { changed, candidate: id })).status).toBeGreaterThanOrEqual(400);
    expect(await candidateOf()).toEqual(before);
  });
});
