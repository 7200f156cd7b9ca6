/** The goods in one's hand: what was typed or scanned, and what is known of it. */
import { useEffect, useMemo, useState } from 'react';
import type { ShelfSaid } from '../../../between/shelfSaid.ts';
import { recognise } from '../../../core/goods/recognise.ts';
import type { Recognised } from '../../../core/goods/recognise.ts';
import { tell } from '../../ui/client.ts';
import type { Why } from '../../ui/client.ts';

export type Goods = {
  readonly text: string;
  readonly recognised: Recognised;
  readonly isAsking: boolean;
  readonly said: ShelfSaid | null;
  /** Why nothing could be asked; null: it was answered, or nothing was asked. */
  readonly trouble: Why | null;
};

/** A moment without keys, so that a name is asked for once; a barcode is asked for as soon as it proves itself. */
const PAUSE_MS = 350;

const questionOf = (r: Recognised): Record<string, string> | null =>
  r.kind === 'barcode'
    ? { gtin: r.gtin }
    : r.kind === 'code'
      ? { code: r.code }
      : r.kind === 'words'
        ? { words: r.words }
        : null;

/** `first`: what is in one's hand when the page is opened. */
export function useGoods(root: string, market: string, first: string) {
  const [text, setText] = useState(first);
  const recognised = useMemo(() => recognise(text), [text]);
  const question = questionOf(recognised);
  const asked = question === null ? '' : new URLSearchParams({ market, ...question }).toString();
  const [answer, setAnswer] = useState<{ asked: string; said: ShelfSaid | null; trouble: Why | null }>();
  const isBarcode = recognised.kind === 'barcode';
  useEffect(() => {
    if (asked === '') return;
    const stop = new AbortController();
    const timer = setTimeout(
      () => {
        void tell<ShelfSaid>(`${root}/check/ask?${asked}`, undefined, { signal: stop.signal }).then(
          (told) => {
            if (stop.signal.aborted) return;
            setAnswer(
              told.ok ? { asked, said: told.data, trouble: null } : { asked, said: null, trouble: told.why },
            );
          },
        );
      },
      isBarcode ? 0 : PAUSE_MS,
    );
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [root, asked, isBarcode]);
  // What was said of other goods says nothing of these.
  const current = answer?.asked === asked ? answer : null;
  const goods: Goods = {
    text,
    recognised,
    isAsking: asked !== '' && current === null,
    said: asked === '' ? null : (current?.said ?? null),
    trouble: asked === '' ? null : (current?.trouble ?? null),
  };
  return { goods, setText };
}
