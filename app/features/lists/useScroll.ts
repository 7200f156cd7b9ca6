/**
 * Which rows of a grid are in view, a million deep: the scroll bar stands for a height that no browser could
 * draw. The wheel moves by rows; dragging the bar moves by its share of the whole.
 */
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import type { UIEvent } from 'react';
import { useLatest } from '../../ui/useLatest.ts';
import { FOOT, HEAD, ROW } from './gridLayout.ts';

/**
 * No element is drawn taller than this: browsers cap an element's height, so beyond it the scroll position is
 * scaled.
 */
const TALLEST = 8_000_000;
const isClient = typeof document !== 'undefined';
const useBefore = isClient ? useLayoutEffect : useEffect;

type Needs = {
  count: number;
  hasFoot: boolean;
  /** Changes with the question: the grid goes back to its top. */
  question: string;
  inView: (from: number, to: number) => void;
};
export function useScroll({ count, hasFoot, question, inView }: Needs) {
  const box = useRef<HTMLDivElement>(null);
  const [tall, setTall] = useState(560);
  /** First row in view, with its fraction. */
  const [top, setTop] = useState(0);
  const ours = useRef(-1);
  const visible = Math.max(1, tall / ROW);
  const full = count * ROW;
  const drawn = Math.min(full, TALLEST);
  const last = Math.max(0, count - visible);
  /** Rows for a pixel of the scroll bar. */
  const scaled = full > TALLEST;
  const ratio = drawn <= tall ? 0 : last / (drawn - tall);

  useBefore(() => {
    const el = box.current;
    if (el === null) return;
    const measure = (): void => setTall(Math.max(ROW, el.clientHeight - HEAD - (hasFoot ? FOOT : 0)));
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(el);
    return () => watch.disconnect();
  }, [hasFoot]);

  const moveTo = (row: number): void => {
    const next = Math.max(0, Math.min(last, row));
    setTop(next);
    const el = box.current;
    if (el === null) return;
    const at = ratio === 0 ? 0 : next / ratio;
    ours.current = Math.round(at);
    el.scrollTop = at;
  };
  const move = useLatest(moveTo);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another question begins at its top
  useEffect(() => {
    move(0);
  }, [question]);
  const from = Math.min(Math.floor(top), Math.max(0, count - 1));
  const to = Math.min(count - 1, Math.ceil(top + visible));
  useEffect(() => {
    if (count > 0) inView(Math.max(0, from - 10), Math.min(count - 1, to + 20));
  }, [from, to, count, inView]);

  // The wheel moves by rows where the bar is scaled; a listener of our own, since React's may not hold the
  // page still.
  const wheel = useLatest((e: WheelEvent): void => {
    if (!scaled || Math.abs(e.deltaX) > Math.abs(e.deltaY)) return;
    e.preventDefault();
    moveTo(top + (e.deltaMode === 1 ? e.deltaY : e.deltaY / ROW));
  });
  useEffect(() => {
    const el = box.current;
    el?.addEventListener('wheel', wheel, { passive: false });
    return () => el?.removeEventListener('wheel', wheel);
  }, [wheel]);
  /** Moves no further than it takes to have a row in view. */
  const show = (row: number): void => {
    if (row < top) moveTo(row);
    else if (row > top + visible - 1) moveTo(row - visible + 1);
  };
  const onScroll = (e: UIEvent<HTMLElement>): void => {
    const at = e.currentTarget.scrollTop;
    if (Math.abs(at - ours.current) <= 1) return;
    ours.current = -1;
    setTop(Math.max(0, Math.min(last, at * ratio)));
  };
  return { box, top, visible, from, to, drawn, pane: Math.min(tall, Math.max(full, ROW)), show, onScroll };
}

/** The row a key leads to from another, `page` rows a page; null: the key leads nowhere. */
export function rowAfter(key: string, from: number, page: number, count: number): number | null {
  const by: Readonly<Record<string, number>> = {
    ArrowDown: from + 1,
    ArrowUp: from - 1,
    PageDown: from + page,
    PageUp: from - page,
    Home: 0,
    End: count - 1,
  };
  const to = by[key];
  return to === undefined ? null : Math.max(0, Math.min(count - 1, to));
}
