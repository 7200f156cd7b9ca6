/** A page of what sells on its own, for tests: it answers what it is told. */
import { render } from '@testing-library/react';
import type { ReactElement } from 'react';
import { createRoutesStub } from 'react-router';

/** Shows it at the place of what sells; gives what was sent, as it comes. */
export function shown(element: ReactElement, answer: object = {}) {
  const acts: unknown[] = [];
  const Stub = createRoutesStub([
    {
      path: '/w/shop/selling',
      Component: () => element,
      action: async ({ request }) => {
        acts.push(await request.json());
        return answer;
      },
    },
  ]);
  render(<Stub initialEntries={['/w/shop/selling']} />);
  return acts;
}
