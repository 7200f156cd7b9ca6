/** What stands under and above the rows of a list. */
import { useCallback, useEffect, useRef, useState } from 'react';
import { useFormat } from '../../ui/locale.ts';
import { useLatest } from '../../ui/useLatest.ts';
import { Bounded } from '../../ui/Bounded.tsx';
import type { Column } from './gridLayout.ts';
import { figureText } from './RangeLimit.tsx';
import type { Screen } from './useScreen.ts';
import { blanksIn } from '../../../core/lane/blanks.ts';
import { listFigureRule } from '../../../core/lists/figures.ts';
import { useBounds } from '../../ui/bounds.ts';
import { useWords } from '../../ui/useWords.ts';

/** Sums under the columns. */
export function useFoot(screen: Screen, shownCount: number, list: string, sales: string) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  return useCallback(
    (c: Column) => {
      const s = screen.sums?.stats.find((x) => x.figure === c.id);
      if (c.id === 'title')
        return (
          <>
            {t('list.shown', { count: shownCount, n: f.number(shownCount, 0) })}
            <small>
              {t('list.median')} · {t('list.sum')}
            </small>
          </>
        );
      if (s === undefined || s.known === 0) return null;
      const { adds, bound } = listFigureRule(s.figure);
      const lacks = blanksIn(s.lacks);
      const median = figureText(f, s.figure, s.median, list, sales);
      const sum = adds === true ? figureText(f, s.figure, s.sum, list, sales) : ' ';
      return (
        <span title={lacks.length > 0 ? t('list.footLacks', { blanks: bounds.list(lacks) }) : undefined}>
          <Bounded amount={median} words={bounds.of(median, lacks, bound)} />
          <small>{sum}</small>
        </span>
      );
    },
    [screen.sums, shownCount, f, t, bounds, list, sales],
  );
}

/** What stands above the rows (rows to mend, the edition before) is known once all are read. */
export function useRevalidatedWhenRead({ work }: Screen, revalidate: () => void): void {
  const running = work?.state === 'waiting' || work?.state === 'running';
  const wasRunning = useRef(running);
  const again = useLatest(revalidate);
  useEffect(() => {
    if (wasRunning.current && !running) again();
    wasRunning.current = running;
  }, [running, again]);
}

/** Where the rows begin: what stands above them may take a line more or less. */
export function useRowsTop() {
  const above = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(176);
  useEffect(() => {
    const el = above.current;
    if (el === null) return;
    const watch = new ResizeObserver(() =>
      setTop(Math.round(el.getBoundingClientRect().bottom + window.scrollY)),
    );
    watch.observe(el);
    return () => watch.disconnect();
  }, []);
  return { above, top };
}
