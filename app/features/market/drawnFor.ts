/** Panes that are drawn again only where something they show is new: a strike-out is answered within a frame. */
import { memo } from 'react';
import type { FunctionComponent } from 'react';
import type { PaneProps } from './parts.tsx';

/** A pane that hangs on these things, besides who may edit and the lane. */
export function drawnFor<P extends PaneProps = PaneProps>(
  pane: FunctionComponent<P>,
  of: (p: P) => readonly unknown[],
): FunctionComponent<P> {
  const all = (p: P): readonly unknown[] => [
    p.canEdit,
    p.url,
    p.decide,
    p.onChanged,
    p.market.key,
    p.market.view,
    ...of(p),
  ];
  return memo(pane, (before, after) => {
    const [a, b] = [all(before), all(after)];
    return a.every((x, i) => x === b[i]);
  });
}
