import { describe, expect, it } from 'vitest';
import { member } from '../../server/db/authSchema.ts';
import { authDb } from '../../server/db/client.ts';
import { saidBy, signedIn } from '../../server/testing/people.ts';
import { makeWorkspace } from '../../server/testing/workspaces.ts';
import type { TestWorkspace } from '../../server/testing/workspaces.ts';
import { membersOf, openInvitations, resetLinkFor } from '../../server/use/members.ts';
import { newId } from '../../server/use/workspaces.ts';
import { loader as find } from './find.tsx';
import { loader as fund } from './fund.tsx';
import { loader as invitationLoader } from './invitation.tsx';
import { loader as rates } from './rates.tsx';
import { action as change, loader as settings } from './settings.tsx';
import { loader as workspace } from './workspace.tsx';

const asked = (w: TestWorkspace, cookie: string, init: RequestInit = {}) =>
  ({
    request: new Request(`http://bold-margin.test/w/${w.slug}`, {
      ...init,
      headers: { cookie, ...init.headers },
    }),
    params: { workspace: w.slug },
  }) as never;

describe('what the places of a workspace are given', () => {
  it('settings: members, countries with their cards, and invitations for owners alone', async () => {
    const w = await makeWorkspace();
    const owner = await signedIn(w.id);
    const viewer = await signedIn(w.id, 'viewer');
    const of = async (cookie: string) =>
      (await saidBy(() => settings(asked(w, cookie)))).body as {
        members: { userId: string; role: string }[];
        invitations: unknown[];
        countries: string[];
        me: string;
      };
    const seen = await of(owner.cookie);
    expect(seen.me).toBe(owner.personId);
    expect(seen.members.map((m) => m.role).sort()).toEqual(['owner', 'owner', 'viewer']);
    expect(seen.countries).toContain('DE');
    expect(seen.invitations).toEqual([]);
    expect((await of(viewer.cookie)).invitations).toEqual([]);
  });
  it('a setting that is changed is checked, kept, and refused to who only looks', async () => {
    const w = await makeWorkspace();
    const owner = await signedIn(w.id);
    const viewer = await signedIn(w.id, 'viewer');
    const put = (cookie: string, body: unknown) =>
      saidBy(() =>
        change(
          asked(w, cookie, {
            method: 'POST',
            body: JSON.stringify(body),
            headers: { 'content-type': 'application/json' },
          }),
        ),
      );
    expect((await put(owner.cookie, { path: ['bestBy'], to: 'margin' })).status).toBe(200);
    expect((await put(owner.cookie, { path: ['bestBy'], to: 'luck' })).status).toBe(422);
    expect((await put(owner.cookie, 'nonsense')).status).toBe(422);
    expect((await put(viewer.cookie, { path: ['bestBy'], to: 'roi' })).status).toBe(403);
    const { settings: now } = (await saidBy(() => settings(asked(w, owner.cookie)))).body as {
      settings: { bestBy: string };
    };
    expect(now.bestBy).toBe('margin');
  });
  it('find, rates, fund and the frame: cards in force, and the day they are of', async () => {
    const w = await makeWorkspace();
    const { cookie } = await signedIn(w.id);
    const body = async (loader: (a: never) => unknown) =>
      (await saidBy(() => loader(asked(w, cookie)))).body as Record<string, unknown>;
    expect(await body(find)).toMatchObject({ country: 'DE', markets: expect.anything() });
    expect(await body(workspace)).toMatchObject({ slug: w.slug, deleted: false, homeCurrency: 'EUR' });
    expect((await body(workspace)).ratesOf).toMatch(/^\d{4}-\d\d-\d\d$/);
    expect(await body(fund)).toMatchObject({ names: [], sheet: null });
    expect(Object.keys(await body(rates))).toContain('versions');
  });
  it('whoever is no member is shown nothing', async () => {
    const w = await makeWorkspace();
    const { cookie } = await signedIn(null);
    for (const loader of [settings, find, rates, fund, workspace])
      expect([302, 403, 404]).toContain((await saidBy(() => loader(asked(w, cookie)))).status);
  });
});

describe('members of a workspace', () => {
  it('an owner makes a new password possible for those who belong here alone', async () => {
    const [here, there] = [await makeWorkspace(), await makeWorkspace()];
    const alone = await signedIn(here.id, 'viewer');
    const both = await signedIn(here.id, 'viewer');
    await authDb()
      .insert(member)
      .values({ id: newId(), organizationId: there.id, userId: both.personId, role: 'viewer' });
    const members = await membersOf(here.id);
    const idOf = (personId: string): string => members.find((m) => m.userId === personId)?.id ?? '';
    expect(await resetLinkFor(here.id, idOf(alone.personId))).toMatch(/^http/);
    expect(await resetLinkFor(here.id, idOf(both.personId))).toBeNull();
    // Of another workspace's members nothing is known here.
    expect(await resetLinkFor(there.id, idOf(alone.personId))).toBeNull();
    expect(await openInvitations(here.id)).toEqual([]);
  });
  it('an invitation that does not exist is over', async () => {
    const { cookie } = await signedIn(null);
    const request = new Request('http://bold-margin.test/invitation/none', { headers: { cookie } });
    const said = await saidBy(() => invitationLoader({ request, params: { id: 'none' } } as never));
    expect(said.body).toMatchObject({ state: 'over', name: '' });
  });
});
