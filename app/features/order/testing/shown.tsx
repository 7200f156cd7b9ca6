/** A page of orders or enquiries in tests: what is done on it, and what is saved of it. */
import { render } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import type { ReactElement } from 'react';
import { vi } from 'vitest';

export function shown(element: ReactElement) {
  // What one test leaves unsaved in the tab is none of the next.
  sessionStorage.clear();
  const acts: Record<string, unknown>[] = [];
  const saved: Record<string, unknown>[] = [];
  const Stub = createRoutesStub([
    {
      path: '/w/shop/order',
      Component: () => element,
      action: async ({ request }) => {
        acts.push(await request.json());
        return {};
      },
    },
  ]);
  vi.stubGlobal('fetch', async (_: unknown, init?: { body?: string }) => {
    saved.push(JSON.parse(init?.body ?? '{}'));
    return new Response('{}', { headers: { 'content-type': 'application/json' } });
  });
  render(<Stub initialEntries={['/w/shop/order']} />);
  return { acts, saved };
}
