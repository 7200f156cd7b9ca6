import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { createRoutesStub, useLocation } from 'react-router';
import { describe, expect, it } from 'vitest';
import type { ReactElement } from 'react';
import Palette from './Palette.tsx';
import { Notices } from './Notices.tsx';
import { Shell } from './Shell.tsx';
import type { WorkspaceHead } from './Shell.tsx';

const HEAD: WorkspaceHead = {
  slug: 'shop',
  name: 'Ina sells',
  role: 'owner',
  person: { name: 'Ina Maria Kern', email: 'ina@example.com' },
  workspaces: [
    { slug: 'shop', name: 'Ina sells' },
    { slug: 'other', name: 'The other one' },
  ],
  deleted: false,
  homeCurrency: 'EUR',
  ratesOf: '2026-11-20',
};
type Pulse = { tasks: object[]; notices: object[] };
/** A page under a workspace; what its parts ask of the server is answered, and what they post is noted. */
function shown(element: ReactElement, pulse: Pulse = { tasks: [], notices: [] }, at = '/w/shop/weigh') {
  const posted: Record<string, string>[] = [];
  let where = at;
  function Page() {
    const { pathname, hash } = useLocation();
    where = `${pathname}${hash}`;
    return element;
  }
  const action = async ({ request }: { request: Request }) => {
    posted.push(Object.fromEntries(await request.formData()) as Record<string, string>);
    return { ok: true };
  };
  const Stub = createRoutesStub([
    { path: '/w/shop/pulse', loader: () => pulse, action },
    {
      path: '/w/shop/names',
      loader: () => ({
        names: [
          { id: 'c1', name: 'Bird house' },
          { id: 'c2', name: 'Bird bath' },
        ],
      }),
    },
    { path: '*', Component: Page },
  ]);
  render(<Stub initialEntries={[at]} />);
  return { posted, where: () => where };
}

describe('the command bar', () => {
  const bar = (started = { text: '', enter: false }) => {
    const closed: number[] = [];
    const page = shown(<Palette base="/w/shop" started={started} onClose={() => closed.push(1)} />);
    return { ...page, closed };
  };
  const field = () => screen.getByRole('combobox');
  const options = () => screen.getAllByRole('option').map((x) => x.textContent);
  it('offers the places, and candidates once their names have come', async () => {
    bar();
    expect(options()).toContain('Go to Weigh');
    fireEvent.change(field(), { target: { value: 'bird' } });
    await waitFor(() =>
      expect(options()).toEqual([
        'Bird houseCandidate',
        'Bird bathCandidate',
        'Search the market for bird',
        'Weigh a new product: bird',
      ]),
    );
  });
  it('takes over keys that were pressed after it was first drawn and before it stood', async () => {
    // The field before it goes on taking keys until this one stands: each reading finds more.
    const typed = ['bird', 'bird', 'bird b', 'bird bath'];
    let at = 0;
    const started = {
      enter: false,
      get text() {
        at = Math.min(at + 1, typed.length - 1);
        return typed[at] as string;
      },
    };
    bar(started);
    await waitFor(() => expect((field() as HTMLInputElement).value).not.toBe('bird'));
    expect((field() as HTMLInputElement).value).toMatch(/^bird b/);
  });
  it('says where nothing is called so', async () => {
    bar();
    fireEvent.change(field(), { target: { value: 'zzz' } });
    await waitFor(() =>
      expect(screen.getByRole('dialog').textContent).toContain('Nothing goes by that name.'),
    );
    // What can be begun with it is offered all the same.
    expect(options()).toEqual(['Search the market for zzz', 'Weigh a new product: zzz']);
  });
  it('arrows choose, and stop at either end; Enter goes there and closes it', async () => {
    const page = bar();
    fireEvent.change(field(), { target: { value: 'bird' } });
    await waitFor(() => expect(options()).toHaveLength(4));
    const chosen = () => screen.getByRole('option', { selected: true }).textContent;
    fireEvent.keyDown(field(), { key: 'ArrowUp' });
    expect(chosen()).toContain('Bird house');
    for (let i = 0; i < 9; i++) fireEvent.keyDown(field(), { key: 'ArrowDown' });
    expect(chosen()).toContain('Weigh a new product');
    for (let i = 0; i < 2; i++) fireEvent.keyDown(field(), { key: 'ArrowUp' });
    expect(chosen()).toContain('Bird bath');
    expect(field().getAttribute('aria-activedescendant')).toBe('palette-c2');
    fireEvent.keyDown(field(), { key: 'Enter' });
    await waitFor(() => expect(page.where()).toBe('/w/shop/weigh/c2'));
    expect(page.closed).toHaveLength(1);
  });
  it('Enter pressed before it stood here goes on as soon as the names have come', async () => {
    const page = bar({ text: 'bird h', enter: true });
    await waitFor(() => expect(page.where()).toBe('/w/shop/weigh/c1'));
    expect(page.closed).toHaveLength(1);
  });
  it('an option is chosen by the pointer too', async () => {
    const page = bar();
    fireEvent.click(screen.getByRole('option', { name: /Go to Rates/ }));
    await waitFor(() => expect(page.where()).toBe('/w/shop/rates'));
  });
});

describe('what long work is doing, and what has happened', () => {
  const task = (over: object) => ({
    id: 't',
    kind: 'weighAgain',
    state: 'running',
    done: 3,
    total: 9,
    changed: 0,
    ...over,
  });
  const notice = (id: string, read: boolean) => ({
    id,
    kind: 'underHurdle',
    data: {
      candidate: 'Bird bath',
      card: 'Alderway DE',
      figure: 'unitProfit',
      before: 5,
      after: 1,
      currency: 'EUR',
    },
    link: '/weigh/c2',
    at: '2026-11-27T10:00:00Z',
    read,
  });
  it('work under way says how far it is, and is stopped by a press', async () => {
    const page = shown(<Notices base="/w/shop" />, { tasks: [task({})], notices: [] });
    await waitFor(() => expect(screen.getByRole('status').textContent).toMatch(/3.*9/));
    fireEvent.click(screen.getByRole('button', { name: /notice|happened/i }));
    fireEvent.click(await screen.findByRole('button', { name: 'Cancel' }));
    await waitFor(() => expect(page.posted).toEqual([{ intent: 'cancel', id: 't' }]));
  });
  it('work that is over says nothing', async () => {
    shown(<Notices base="/w/shop" />, { tasks: [task({ state: 'done' })], notices: [notice('a', false)] });
    await screen.findByRole('button', { name: /1 / });
    expect(screen.queryByRole('status')).toBeNull();
  });
  it('what is not read yet is counted, said with its amounts, and read once it was looked at', async () => {
    const page = shown(<Notices base="/w/shop" />, {
      tasks: [],
      notices: [notice('a', false), notice('b', false), notice('c', true)],
    });
    fireEvent.click(await screen.findByRole('button', { name: /2 / }));
    const links = await screen.findAllByRole('link');
    expect(links.map((l) => l.getAttribute('href')).slice(3)).toEqual(['/w/shop/settings#notices']);
    expect(links[0]?.textContent).toMatch(/Bird bath.*€5\.00.*€1\.00/);
    expect(links[0]?.getAttribute('href')).toBe('/w/shop/weigh/c2');
    fireEvent.click(links[0] as HTMLElement);
    await waitFor(() => expect(page.posted).toEqual([{ intent: 'read' }]));
  });
  it('where nothing has happened that is said, and nothing is marked as read', async () => {
    const page = shown(<Notices base="/w/shop" />);
    fireEvent.click(await screen.findByRole('button', { name: /notice|happened/i }));
    const dialog = await screen.findByRole('dialog');
    expect(dialog.textContent).toMatch(/Nothing|No /);
    fireEvent.keyDown(dialog, { key: 'Escape' });
    expect(page.posted).toEqual([]);
  });
});

describe('the frame', () => {
  const frame = (over: Partial<WorkspaceHead> = {}, at = '/w/shop/weigh') =>
    shown(<Shell head={{ ...HEAD, ...over }}>A page</Shell>, undefined, at);
  it('has the way past it, the places, the home currency and the day of the rates', () => {
    frame();
    expect(screen.getByRole('link', { name: /Skip|content/ }).getAttribute('href')).toBe('#main');
    const places = screen.getByRole('navigation').querySelectorAll('a');
    expect([...places].map((a) => a.getAttribute('href'))).toEqual([
      '/w/shop/weigh',
      ...['find', 'weigh', 'fund', 'order', 'selling', 'rates', 'settings'].map((p) => `/w/shop/${p}`),
    ]);
    const bar = screen.getByRole('banner').textContent;
    expect(bar).toContain('EUR');
    expect(bar).toContain('20 Nov 2026');
    expect(screen.getByRole('main').textContent).toBe('A page');
  });
  it('marks the place one is at; lists are a part of Find', () => {
    frame({}, '/w/shop/lists/l1');
    const marked = [...document.querySelectorAll('nav a.active')].map((a) => a.getAttribute('href'));
    expect(marked).toEqual(['/w/shop/find']);
  });
  it('the person is called by initials; one who only looks is told so', () => {
    frame({ role: 'viewer', ratesOf: null });
    expect(screen.getByRole('button', { name: /Ina Maria Kern/ }).textContent).toBe('IM');
    expect(screen.getByRole('banner').textContent).toMatch(/look|view/i);
    expect(screen.queryByText(/Rates of/)).toBeNull();
  });
  it('other workspaces are a press away', async () => {
    frame();
    fireEvent.click(screen.getByRole('button', { name: /Ina sells/ }));
    const other = await screen.findByRole('menuitem', { name: 'The other one' });
    expect(other.getAttribute('href')).toBe('/w/other/weigh');
  });
});
