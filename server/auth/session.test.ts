import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDatabase } from '../db/client.ts';
import { saidBy, signedIn } from '../testing/people.ts';
import { makeWorkspace } from '../testing/workspaces.ts';
import type { TestWorkspace } from '../testing/workspaces.ts';
import { safeTarget } from './forward.ts';
import { enterWorkspace, needPerson, personOf, workspacesOf } from './session.ts';
import type { Need } from './session.ts';

let w: TestWorkspace;
beforeAll(async () => {
  w = await makeWorkspace();
});
afterAll(closeDatabase);

const request = (cookie: string | null, over: { path?: string; json?: boolean } = {}): Request =>
  new Request(`http://127.0.0.1:4300${over.path ?? '/'}`, {
    headers: {
      ...(cookie === null ? {} : { cookie }),
      ...(over.json ? { 'content-type': 'application/json' } : {}),
    },
  });

describe('who is signed in', () => {
  it('is known by the cookie of the session; without one, or with one made up, it is nobody', async () => {
    const { cookie, personId } = await signedIn(null);
    expect(await personOf(request(cookie))).toMatchObject({ id: personId, name: 'Test' });
    expect(await personOf(request(null))).toBeNull();
    expect(await personOf(request('better-auth.session_token=made.up'))).toBeNull();
    expect(await personOf(request(`${cookie.slice(0, -6)}AAAAAA`))).toBeNull();
  });
  it(
    'nobody is led to signing in and back again, with what stood in the address; a request in the ' +
      'background is told',
    async () => {
      const page = await saidBy(() => needPerson(request(null, { path: '/w/shop/lists?sort=-margin' })));
      expect([page.status, page.headers.get('location')]).toEqual([
        302,
        '/sign-in?to=%2Fw%2Fshop%2Flists%3Fsort%3D-margin',
      ]);
      expect(
        (await saidBy(() => needPerson(request(null, { path: '/w/shop/lists.data' })))).headers.get(
          'location',
        ),
      ).toBe('/sign-in?to=%2Fw%2Fshop%2Flists');
      expect(await saidBy(() => needPerson(request(null, { json: true })))).toMatchObject({
        status: 401,
        body: { error: 'signedOut' },
      });
    },
  );
  it.each([
    ['/w/shop/weigh?x=1', '/w/shop/weigh?x=1'],
    ['//elsewhere.example', '/'],
    ['/\\elsewhere.example', '/'],
    ['https://elsewhere.example', '/'],
    ['javascript:alert(1)', '/'],
    ['', '/'],
    [null, '/'],
    ['/\t/elsewhere.example', '/'],
    ['/\n//elsewhere.example', '/'],
    ['\u0001//elsewhere.example', '/'],
    [' //elsewhere.example', '/'],
    ['/\\\\elsewhere.example', '/'],
    ['//user@elsewhere.example/w', '/'],
    ['http://127.0.0.1:4300.elsewhere.example/', '/'],
    ['http://127.0.0.1:4300/w/shop', '/w/shop'],
    ['weigh#x', '/weigh#x'],
  ])('after signing in %s leads to %s', (to, target) => expect(safeTarget(to)).toBe(target));
});

describe('a workspace', () => {
  const may: Readonly<Record<'owner' | 'editor' | 'viewer', Readonly<Record<Need, boolean>>>> = {
    owner: { view: true, edit: true, own: true },
    editor: { view: true, edit: true, own: false },
    viewer: { view: true, edit: false, own: false },
  };
  it.each(['owner', 'editor', 'viewer'] as const)(
    'lets an %s do what the role allows, and no more',
    async (role) => {
      const { cookie, personId } = await signedIn(w.id, role);
      for (const need of ['view', 'edit', 'own'] as const) {
        const said = await saidBy(() => enterWorkspace(request(cookie), w.slug, need));
        if (may[role][need])
          expect(said.body).toMatchObject({
            workspaceId: w.id,
            slug: w.slug,
            role,
            person: { id: personId },
          });
        else expect(said).toMatchObject({ status: 403, body: { error: 'notAllowed', role } });
      }
      expect((await workspacesOf(personId)).map((x) => [x.slug, x.role])).toEqual([[w.slug, role]]);
    },
  );
  it('of others is not there, as one is that never was', async () => {
    const { cookie, personId } = await signedIn(null);
    const theirs = await saidBy(() => enterWorkspace(request(cookie), w.slug));
    const never = await saidBy(() => enterWorkspace(request(cookie), 'no-such-workspace'));
    expect(theirs).toMatchObject({ status: 404 });
    expect(theirs.body).toEqual(never.body);
    expect((await saidBy(() => enterWorkspace(request(cookie), undefined))).status).toBe(404);
    expect(await workspacesOf(personId)).toEqual([]);
  });
});
