import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDatabase } from '../db/client.ts';
import { refusalOf, signedIn } from '../testing/people.ts';
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

const request = (cookie: string | null): Request =>
  new Request('http://127.0.0.1:4300/', { headers: cookie === null ? {} : { cookie } });

describe('who is signed in', () => {
  it('is known by the cookie of the session; without one, or with one made up, it is nobody', async () => {
    const { cookie, personId } = await signedIn(null);
    expect(await personOf(request(cookie))).toMatchObject({ id: personId, name: 'Test' });
    expect(await personOf(request(null))).toBeNull();
    expect(await personOf(request('better-auth.session_token=made.up'))).toBeNull();
    expect(await personOf(request(`${cookie.slice(0, -6)}AAAAAA`))).toBeNull();
  });
  it('nobody is refused', async () => {
    expect(await refusalOf(() => needPerson(request(null)))).toBe('signedOut');
    expect(await refusalOf(() => enterWorkspace(request(null), w.slug))).toBe('signedOut');
  });
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
        const enter = () => enterWorkspace(request(cookie), w.slug, need);
        if (may[role][need])
          expect(await enter()).toMatchObject({
            workspaceId: w.id,
            slug: w.slug,
            role,
            person: { id: personId },
          });
        else expect(await refusalOf(enter)).toBe('notAllowed');
      }
      expect((await workspacesOf(personId)).map((x) => [x.slug, x.role])).toEqual([[w.slug, role]]);
    },
  );
  it('of others is not there, as one is that never was', async () => {
    const { cookie, personId } = await signedIn(null);
    for (const slug of [w.slug, 'no-such-workspace', undefined])
      expect(await refusalOf(() => enterWorkspace(request(cookie), slug))).toBe('gone');
    expect(await workspacesOf(personId)).toEqual([]);
  });
});
