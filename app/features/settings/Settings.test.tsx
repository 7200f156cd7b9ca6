import { act, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { createRoutesStub, useActionData } from 'react-router';
import { describe, expect, it } from 'vitest';
import { settings as settingsSchema } from '../../../core/workspace/settings.ts';
import type { WorkspaceHead } from '../frame/Shell.tsx';
import { SettingsPage } from './Settings.tsx';

type Sent = { path?: unknown; to?: unknown; intent?: unknown; email?: unknown };
/** The settings of a workspace as somebody with a role sees them, and what was sent of them. */
function shown(role: 'owner' | 'editor' | 'viewer', answer: object = { error: null, link: null }) {
  const sent: Sent[] = [];
  const head = { slug: 'shop', name: 'Shop', role, homeCurrency: 'EUR' } as unknown as WorkspaceHead;
  const settings = settingsSchema.parse({ ways: ['ownBrand', 'wholesale'] });
  function Page() {
    return (
      <SettingsPage
        settings={settings}
        me="me"
        members={[
          { id: 'm1', userId: 'me', role, name: 'Ada', email: 'ada@example.com' },
          { id: 'm2', userId: 'other', role: 'viewer', name: 'Ben', email: 'ben@example.com' },
        ]}
        invitations={[{ id: 'i1', email: 'cy@example.com', role: 'editor', link: 'https://example.com/i1' }]}
        feed={null}
        byMail={{ groups: [], email: 'ada@example.com', canMail: true }}
        countries={['DE', 'FR']}
        said={useActionData() ?? null}
        head={head}
      />
    );
  }
  const Stub = createRoutesStub([
    {
      path: '/w/shop/settings',
      Component: Page,
      action: async ({ request }) => {
        const json = request.headers.get('content-type')?.includes('json');
        sent.push(json ? await request.json() : Object.fromEntries(await request.formData()));
        return answer;
      },
    },
  ]);
  render(<Stub initialEntries={['/w/shop/settings']} />);
  return sent;
}
const typed = (label: string | RegExp, value: string): void => {
  const field = screen.getAllByLabelText(label)[0] as HTMLElement;
  fireEvent.focus(field);
  fireEvent.change(field, { target: { value } });
  fireEvent.blur(field);
};

/** Whatever was begun has come to its end. */
const settled = () => act(async () => undefined);

describe('the settings of a workspace', () => {
  it('each change is saved where it stands, by its path', async () => {
    const sent = shown('owner');
    typed(/^Kept back/, '250');
    await waitFor(() => expect(sent.at(-1)).toEqual({ path: ['launch', 'reserve'], to: 250 }));
    typed(/^Returned/, '7');
    await waitFor(() => expect(sent.at(-1)).toEqual({ path: ['defaults', 'returnRate'], to: 0.07 }));
  });
  it('a blank default is not known, never nothing', async () => {
    const sent = shown('owner');
    typed(/^Preparation/, '');
    await waitFor(() => expect(sent.at(-1)).toEqual({ path: ['defaults', 'prep'], to: null }));
  });
  it('one way of selling stays ticked at least', async () => {
    const sent = shown('owner');
    const boxes = screen.getAllByRole('checkbox') as HTMLInputElement[];
    const ticked = boxes.filter((b) => b.checked);
    expect(ticked).toHaveLength(2);
    fireEvent.click(ticked[0] as HTMLElement);
    await waitFor(() => expect(sent).toHaveLength(1));
    fireEvent.click(ticked[1] as HTMLElement);
    await settled();
    expect(sent).toHaveLength(1);
    expect((sent[0] as { to: string[] }).to).toHaveLength(1);
  });
  it('a hurdle is changed and removed by its place', async () => {
    const sent = shown('owner');
    const removes = screen.getAllByRole('button', { name: /^Remove/ });
    const before = removes.length;
    fireEvent.click(removes[0] as HTMLElement);
    await waitFor(() => expect((sent.at(-1) as { path: unknown[] }).path.slice(0, 1)).toEqual(['hurdles']));
    expect(screen.getAllByRole('button', { name: /^Remove/ }).length).toBe(before - 1);
  });
  it('who only looks changes nothing, and is told', async () => {
    const sent = shown('viewer');
    expect(screen.getByRole('status').textContent).toMatch(/nothing is saved/);
    typed(/^Kept back/, '250');
    await settled();
    expect(sent).toEqual([]);
  });
  it('what the server refuses is said in its words', async () => {
    shown('owner', { error: 'launch.reserve: This is under 0. Use at least 0.', link: null });
    typed(/^Kept back/, '250');
    await waitFor(() => expect(screen.getByRole('status').textContent).toContain('Use at least 0.'));
  });
});

describe('members', () => {
  it('an owner invites by an address that is one', async () => {
    const sent = shown('owner');
    const field = screen.getByLabelText('E-mail to invite');
    fireEvent.input(field, { target: { value: 'nobody' } });
    fireEvent.click(screen.getByRole('button', { name: 'Invite' }));
    expect(await screen.findByText(/^This is not an e-mail address/)).toBeTruthy();
    expect(sent).toEqual([]);
    fireEvent.input(field, { target: { value: 'dee@example.com' } });
    fireEvent.click(screen.getByRole('button', { name: 'Invite' }));
    await waitFor(() => expect(sent).toMatchObject([{ intent: 'invite', email: 'dee@example.com' }]));
  });
  it('nobody changes a role of their own, and only owners change those of others', () => {
    shown('owner');
    const line = (name: string) => screen.getByText(name).closest('div')?.parentElement as HTMLElement;
    expect(within(line('Ben')).getAllByRole('button').length).toBeGreaterThan(2);
    expect(within(line('Ada')).queryAllByRole('button')).toEqual([]);
  });
  it('an editor sees them, and neither invites nor deletes', () => {
    shown('editor');
    expect(screen.getByText('Ben')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Invite' })).toBeNull();
    expect(screen.queryByLabelText('E-mail to invite')).toBeNull();
  });
});
