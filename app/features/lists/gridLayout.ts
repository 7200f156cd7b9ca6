/** Measures of the grid of a list, in pixels, and where its columns stand. */
import type { ListLook } from '../../../core/lists/query.ts';

export const ROW = 34;
export const HEAD = 40;
export const FOOT = 46;
/** Width of the column with the ticks. */
export const TICK = 30;

export type Column = ListLook['columns'][number] & { readonly title: string; readonly right: boolean };
/** Where each column begins if it is pinned, in pixels from the left. */
export function placesOf(columns: readonly Column[]): number[] {
  let pinnedAt = TICK;
  return columns.map((c) => {
    const left = pinnedAt;
    if (c.pinned) pinnedAt += c.width;
    return left;
  });
}

/** A pinned column stays where it is while the others move under it. */
export const pinnedAt = (c: Column, left: number | undefined) =>
  c.pinned ? { position: 'sticky' as const, left: left as number, zIndex: 1 } : undefined;
