/** The purse that the server solves, seen from its page: begun, watched, ended; and whose answer stands. */
import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import loadHighs from 'highs';
import { createMemoryRouter, RouterProvider, useLoaderData } from 'react-router';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { PurseAnswered } from '../../../between/purseWork.ts';
import { solverOf } from '../../../between/solver.ts';
import { purseOf } from '../../../core/purse/purse.ts';
import type { PurseDocument } from '../../../core/purse/schema.ts';
import { purseOfWorkspace } from '../../../core/workspace/purse.ts';
import type { PurseSource } from '../../../core/workspace/purse.ts';
import { away, stubServer } from '../../ui/testing/server.ts';
import { PursePage } from './PursePage.tsx';
import { candidate, FOUR, lane, sourceOf } from './testing/purseSource.ts';

const solver = solverOf(await loadHighs());
/** Purses that were to be solved in the browser. */
const here: PurseDocument[] = [];
vi.mock('./usePurse.ts', () => ({
  usePurse: (document: PurseDocument | null) => {
    if (document !== null) here.push(document);
    return { step: null, state: document === null ? 'idle' : 'working', stop: () => undefined };
  },
}));
const server = stubServer(() => Response.json({ refused: [] }));
beforeEach(() => here.splice(0));
const answerTo = (source: PurseSource, more: Partial<PurseAnswered> = {}): PurseAnswered => ({
  state: 'done',
  done: 16,
  all: 16,
  asked: 120,
  at: '2026-12-01T10:00:00.000Z',
  said: purseOf(purseOfWorkspace(source), solver),
  took: 93,
  isCurrent: true,
  ...more,
});

/** The page; `next` is what it reads when it is read again. */
function shown(source: PurseSource, answered: PurseAnswered | null, next = answered, canEdit = true): void {
  let reads = 0;
  const Page = () => {
    const now = useLoaderData<PurseAnswered | null>();
    return <PursePage source={source} answered={now} canEdit={canEdit} base="/w/x" />;
  };
  const loader = () => (reads++ === 0 ? answered : next);
  const router = createMemoryRouter([{ path: '/', element: <Page />, loader, HydrateFallback: () => null }]);
  render(<RouterProvider router={router} />);
}
const answer = async (): Promise<string> => (await screen.findByTestId('purse-answer')).textContent ?? '';
const pane = (): string =>
  screen.getByText('For longer, on the server').closest('section')?.textContent ?? '';
const SOURCE = sourceOf(FOUR, 2000);

describe('a purse that the server solved', () => {
  it('stands on the page, and the browser solves nothing', async () => {
    shown(SOURCE, answerTo(SOURCE));
    expect(await answer()).toMatch(/^Launch (one|2)/);
    expect(pane()).toMatch(/What stands above was said by the server on 1 Dec 2026; the plan took it 93 s/);
    expect(here).toEqual([]);
  });
  it('is of an earlier purse once that changes: the browser solves the new one', async () => {
    shown(SOURCE, answerTo(SOURCE));
    await answer();
    fireEvent.click(screen.getByRole('checkbox', { name: /^In: Product good/ }));
    await waitFor(() => expect(pane()).toContain('is about the purse before it changed'));
    expect(here.at(-1)?.lanes.map((l) => l.key)).toEqual(['fair/de', 'poor/de', 'open/de']);
  });
  it('that is not of this purse is only said', async () => {
    shown(SOURCE, answerTo(SOURCE, { isCurrent: false }));
    await answer();
    expect(pane()).toContain('is about the purse before it changed');
    expect(here.at(-1)?.lanes).toHaveLength(4);
  });
});

describe('asking the server', () => {
  it('says for how many minutes, follows it, and shows what it said', async () => {
    shown(SOURCE, null, answerTo(SOURCE));
    await answer();
    expect(pane()).toContain('The server goes on with this page closed');
    fireEvent.change(screen.getByLabelText('Minutes'), { target: { value: '3' } });
    server.answer = ({ body }) =>
      Response.json(body === null ? { state: 'working', done: 4, all: 16 } : { refused: [] });
    fireEvent.click(screen.getByRole('button', { name: 'Let the server think' }));
    await waitFor(() => expect(pane()).toContain('The server begins'));
    expect(server.sent[0]?.body).toEqual({ act: 'solve', seconds: 180 });
    await waitFor(() => expect(pane()).toContain('4 of 16 done'));
    server.answer = away;
    const looked = server.sent.length;
    await waitFor(() => expect(server.sent.length).toBeGreaterThan(looked));
    expect(pane()).toContain('4 of 16 done');
    server.answer = () => Response.json({ state: 'done', done: 16, all: 16 });
    await waitFor(() => expect(pane()).toContain('said by the server'));
    expect(await answer()).toMatch(/^Launch/);
  });
  it('is ended by whoever wants it no longer', async () => {
    shown(
      SOURCE,
      { ...answerTo(SOURCE), state: 'working', said: null },
      { ...answerTo(SOURCE), state: 'ended', said: null },
    );
    await answer();
    fireEvent.click(screen.getByRole('button', { name: 'End it on the server' }));
    await waitFor(() => expect(pane()).toContain('ended before it had said anything'));
    expect(server.sent[0]?.body).toEqual({ act: 'stop' });
  });
  it('that cannot begin says why; minutes that are none ask for nothing', async () => {
    shown(SOURCE, null);
    await answer();
    server.answer = () => Response.json({ error: 'Not now.' }, { status: 422 });
    fireEvent.click(screen.getByRole('button', { name: 'Let the server think' }));
    await waitFor(() => expect(pane()).toContain('Not now.'));
    fireEvent.change(screen.getByLabelText('Minutes'), { target: { value: '99' } });
    expect(pane()).toContain('At most 10');
  });
  it('is not for a viewer', async () => {
    shown(SOURCE, null, null, false);
    await answer();
    expect(screen.queryByRole('button', { name: 'Let the server think' })).toBeNull();
  });
});

it('more lanes than a browser takes are left to the server', async () => {
  const many = sourceOf(
    Array.from({ length: 61 }, (_, i) => candidate(`p${i}`, lane(30 + i / 10))),
    5000,
  );
  shown(many, null);
  expect(await answer()).toMatch(/^61 lanes are many for a browser/);
  expect(here).toEqual([]);
  fireEvent.click(screen.getByRole('checkbox', { name: /^In: Product p7 / }));
  await waitFor(() => expect(here.at(-1)?.lanes).toHaveLength(60));
});
