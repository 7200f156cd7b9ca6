import { render } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { drawnFor } from './drawnFor.ts';
import type { PaneProps } from './parts.tsx';

let drawn = 0;
const season = { peak: 5 };
const Pane = drawnFor(
  () => {
    drawn++;
    return null;
  },
  (p) => [p.market.said.season],
);
const decide = async () => true;
const props = (more: object = {}): PaneProps =>
  ({
    canEdit: true,
    url: '/w/x',
    decide,
    onChanged: () => undefined,
    market: { key: 'A/DE', view: 'lane', said: { season } },
    ...more,
  }) as unknown as PaneProps;
const same = props();
beforeEach(() => {
  drawn = 0;
});
/** How often the pane is drawn when its props change from one to the other. */
function again(before: PaneProps, after: PaneProps): number {
  const { rerender, unmount } = render(<Pane {...before} />);
  const first = drawn;
  rerender(<Pane {...after} />);
  unmount();
  return drawn - first;
}
const marketOf = (more: object) => ({ ...same.market, ...more });

describe('a pane that is drawn for what it shows', () => {
  it('stands where everything else of the market is new', () => {
    const said = { season, rivals: { rows: 3 } };
    expect(again(same, { ...same, market: marketOf({ said }) } as never)).toBe(0);
    expect(again(same, { ...same })).toBe(0);
  });
  it.each([
    ['what it shows', { market: marketOf({ said: { season: { ...season } } }) }],
    ['the market', { market: marketOf({ key: 'A/FR' }) }],
    ['the lane', { market: marketOf({ view: 'another' }) }],
    ['who may edit', { canEdit: false }],
    ['where it saves', { url: '/w/y' }],
    ['what a decision does', { decide: async () => false }],
  ])('is drawn again where %s is another', (_, more) => {
    expect(again(same, { ...same, ...more } as never)).toBe(1);
  });
});
