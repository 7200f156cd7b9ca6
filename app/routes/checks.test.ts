/** The routes of the quick check and its walks as a browser uses them, on a real database. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CheckKit } from '../../between/checkKit.ts';
import type { CheckSession, ShelfCheck } from '../../core/check/schema.ts';
import { closeDatabase } from '../../server/db/client.ts';
import { closeQueue } from '../../server/jobs/boss.ts';
import { saidBy, signedIn } from '../../server/testing/people.ts';
import type { Said } from '../../server/testing/people.ts';
import { makeWorkspace } from '../../server/testing/workspaces.ts';
import type { TestWorkspace } from '../../server/testing/workspaces.ts';
import { MOST_CHECKS } from '../../server/use/checks.ts';
import { loader as anything } from './anything.ts';
import { loader as page } from './check.tsx';
import { loader as ask } from './checkAsk.ts';
import { loader as home } from './checkHome.ts';
import { action as keep } from './checkKeep.ts';
import { action as takeIn, loader as walks } from './checks.tsx';
import { action as walkAct, loader as walk } from './checkSession.tsx';

type Person = { readonly cookie: string; readonly personId: string };
let mine: TestWorkspace;
let theirs: TestWorkspace;
let editor: Person;
let viewer: Person;
let stranger: Person;
beforeAll(async () => {
  [mine, theirs] = await Promise.all([makeWorkspace(), makeWorkspace()]);
  [editor, viewer, stranger] = (await Promise.all([
    signedIn(mine.id, 'editor'),
    signedIn(mine.id, 'viewer'),
    signedIn(null),
  ])) as [Person, Person, Person];
});
afterAll(() => Promise.all([closeDatabase(), closeQueue()]));

const sessionId = crypto.randomUUID();
async function send(
  route: unknown,
  { cookie }: Person,
  body?: unknown,
  { search = '', slug = mine.slug }: { search?: string; slug?: string } = {},
): Promise<Said> {
  const request = new Request(`http://127.0.0.1:4300/w/${slug}/check${search}`, {
    ...(body !== undefined && {
      method: 'POST',
      body: typeof body === 'string' ? body : JSON.stringify(body),
    }),
    headers: { cookie, 'content-type': 'application/json' },
  });
  const params = { workspace: slug, session: sessionId };
  return saidBy(() => (route as (args: never) => unknown)({ request, params } as never));
}
const json = async (said: Said): Promise<unknown> =>
  said.body instanceof Response ? said.body.json() : said.body;

const at = '2026-11-24T09:00:00.000Z';
const session: CheckSession = {
  id: sessionId,
  name: '',
  stretches: [{ from: at, to: null }],
  ended: false,
  changedAt: at,
};
async function check(over: Partial<ShelfCheck> = {}): Promise<ShelfCheck> {
  const { kit } = (await send(page, editor)).body as { kit: CheckKit };
  const market = kit.markets.find((m) => m.key === 'Alderway/DE');
  if (market === undefined) throw new Error('the market is there');
  return {
    id: crypto.randomUUID(),
    session: sessionId,
    at,
    changedAt: at,
    gtin: null,
    name: 'Cork mat',
    market: market.key,
    cards: market.cards,
    listing: null,
    typed: { sides: [30, 20, 5], kg: 0.5, category: null },
    basis: 'typed',
    typedPrice: 30,
    shelf: 8,
    till: { currency: 'EUR', off: 0, coupon: 0, cashback: 0, salesTax: 0, vatRate: 0 },
    take: 1,
    boughtPack: 1,
    state: 'kept',
    reason: '',
    ...over,
  };
}
const queue = (checks: readonly unknown[], person: Person = editor) => ({
  person: person.personId,
  sessions: [session],
  checks,
});

describe('who may come through these doors', () => {
  it('strangers see nothing, ask nothing and keep nothing', async () => {
    const c = await check();
    for (const [route, body] of [
      [page],
      [ask],
      [anything],
      [walks],
      [walk],
      [keep, queue([c], stranger)],
      [takeIn, { format: 'bold-margin/checks', version: 1, sessions: [], checks: [c] }],
      [walkAct, { intent: 'decide', ids: [c.id], state: 'left' }],
    ] as const)
      expect((await send(route, stranger, body)).status).toBeGreaterThanOrEqual(300);
  });
  it('a viewer checks and looks back, and keeps nothing', async () => {
    for (const route of [page, walks, walk]) expect((await send(route, viewer)).status).toBe(200);
    const c = await check();
    for (const [route, body] of [
      [keep, queue([c], viewer)],
      [takeIn, { format: 'bold-margin/checks', version: 1, sessions: [], checks: [c] }],
      [walkAct, { intent: 'weigh', ids: [c.id], notes: '' }],
      [walkAct, { intent: 'list', name: 'Finds' }],
    ] as const)
      expect((await send(route, viewer, body)).status).toBe(403);
  });
  it('a queue of somebody else on the same device is not taken as one’s own', async () => {
    const said = await send(keep, editor, queue([await check()], viewer));
    expect([said.status, await json(said)]).toEqual([409, { error: 'notYours' }]);
  });
  it('another workspace’s walk is not there', async () => {
    await send(keep, editor, queue([await check()]));
    const other = await signedIn(theirs.id, 'owner');
    const said = await send(walk, other, undefined, { slug: theirs.slug });
    expect((said.body as { found: unknown }).found).toBeNull();
  });
  it('the installed check begins in the first workspace, else at the start', async () => {
    expect((await send(home, editor)).headers.get('location')).toBe(`/w/${mine.slug}/check`);
    expect((await send(home, stranger)).headers.get('location')).toBe('/');
  });
});

describe('what a device sends', () => {
  it('is kept, and what is wrong with the rest is said in words', async () => {
    const [good, bad] = [await check(), await check({ take: 0 })];
    const said = (await json(await send(keep, editor, queue([good, bad])))) as {
      taken: string[];
      refused: { id: string; why: string }[];
    };
    expect(said.taken).toEqual([sessionId, good.id]);
    expect(said.refused).toEqual([{ id: bad.id, why: expect.stringMatching(/cannot be read \(take\)/) }]);
  });
  it.each([
    ['no JSON', 'nonsense'],
    ['no queue', '{"checks":[]}'],
    ['more than is taken at once', null],
  ])('%s is refused whole', async (_, body) => {
    const many = { ...queue([]), checks: Array.from({ length: MOST_CHECKS + 1 }, () => ({})) };
    const said = await send(keep, editor, body ?? many);
    expect(said.status).toBe(422);
  });
  it('taken along as a file it comes in by hand, and once', async () => {
    const c = await check({ name: 'Taken along' });
    const file = { format: 'bold-margin/checks', version: 1, sessions: [session], checks: [c] };
    for (let i = 0; i < 2; i++)
      expect((await send(takeIn, editor, file)).body).toMatchObject({ taken: 1, refused: [] });
    const { found } = (await send(walk, editor)).body as { found: { checks: { data: ShelfCheck }[] } };
    expect(found.checks.filter((x) => x.data.name === 'Taken along')).toHaveLength(1);
    const other = await send(takeIn, editor, { ...file, format: 'something/else' });
    expect([other.status, other.body]).toEqual([422, { error: expect.stringMatching(/no file of checks/) }]);
  });
});

describe('what is asked', () => {
  const known = async (search: string): Promise<Said> => send(ask, editor, undefined, { search });
  it('of a market that is none is not there', async () => {
    expect((await known('?market=Nowhere%2FXX&gtin=9521000000001')).status).toBe(404);
  });
  it('without a feed nothing is known, and that is said; a barcode that is none is no question', async () => {
    for (const search of [
      'gtin=9521000000001',
      'gtin=9521000000002',
      'words=%20',
      `code=${'x'.repeat(500)}`,
    ]) {
      const said = await known(`?market=Alderway%2FDE&${search}`);
      expect(await json(said)).toMatchObject({ listings: [], hasFeed: false, candidate: null, mark: null });
    }
  });
  it('anything at all has an answer', async () => {
    const said = await send(anything, editor, undefined, { search: '?text=https%3A%2F%2Fa.example%2F1' });
    expect(await json(said)).toMatchObject({
      meanings: [{ kind: 'strangePage', host: 'a.example' }],
      wrong: [expect.stringMatching(/a\.example/)],
    });
    expect(await json(await send(anything, editor))).toMatchObject({ meanings: [{ kind: 'nothing' }] });
  });
});

describe('what becomes of a walk', () => {
  it('a decision is changed; checks become a candidate or a list', async () => {
    const c = await check({ name: 'Slate bath' });
    await send(keep, editor, queue([c]));
    expect((await send(walkAct, editor, { intent: 'decide', ids: [c.id], state: 'left' })).status).toBe(200);
    const weighed = await send(walkAct, editor, { intent: 'weigh', ids: [c.id], notes: 'Seen' });
    expect(weighed.headers.get('location')).toMatch(new RegExp(`^/w/${mine.slug}/weigh/[0-9a-f-]{36}$`));
    const list = await send(walkAct, editor, { intent: 'list', name: 'Finds' });
    expect(list.headers.get('location')).toMatch(/\/lists\/[0-9a-f-]{36}\/setup$/);
  });
  it('checks that are not there become nothing', async () => {
    const said = await send(walkAct, editor, { intent: 'weigh', ids: ['nobody'], notes: '' });
    expect(said.status).toBe(404);
  });
  it.each([
    [{ intent: 'sell', ids: ['x'] }],
    [{ intent: 'decide', ids: [], state: 'kept' }],
    [{ intent: 'decide', ids: ['x'], state: 'eaten' }],
    [{ intent: 'list', name: '  ' }],
  ])('%j is refused', async (body) => expect((await send(walkAct, editor, body)).status).toBe(422));
});
