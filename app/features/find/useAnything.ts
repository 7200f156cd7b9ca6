/** What somebody typed or pasted to name goods, and where it leads. */
import { useEffect, useMemo, useState } from 'react';
import type { AnythingSaid } from '../../../between/anythingSaid.ts';
import { recognise } from '../../../core/goods/recognise.ts';
import type { Recognised } from '../../../core/goods/recognise.ts';
import { tell } from '../../ui/client.ts';
import { useFormat } from '../../ui/locale.ts';
import { toListing } from './ways.ts';
import { useWords } from '../../ui/useWords.ts';

/** Somewhere it leads. `isPage`: opened as a page of its own. */
export type Way = {
  readonly key: string;
  readonly label: string;
  readonly hint: string;
  readonly to: string;
  readonly isPage?: boolean;
};
export type Anything = {
  readonly recognised: Recognised;
  /** What it is taken for, and what else it could be, in words; blank: nothing is said. */
  readonly is: string;
  readonly ways: readonly Way[];
  readonly wrong: readonly string[];
  readonly isAsking: boolean;
};

const PAUSE_MS = 250;
/** Words alone are looked for where one chooses to; the rest is asked about as it is typed. */
const ASKED: ReadonlySet<Recognised['kind']> = new Set(['barcode', 'code', 'page', 'strangePage']);

export function useAnything(base: string, text: string): Anything {
  const { t } = useWords();
  const f = useFormat();
  // Which page an address is of only the server knows, by the patterns of the cards.
  const first = useMemo(() => recognise(text), [text]);
  const asked = ASKED.has(first.kind) ? text.trim() : '';
  const [answer, setAnswer] = useState<{ asked: string; said: AnythingSaid | null }>();
  useEffect(() => {
    if (asked === '') return;
    const stop = new AbortController();
    const timer = setTimeout(() => {
      void tell<AnythingSaid>(`${base}/anything?${new URLSearchParams({ text: asked })}`, undefined, {
        signal: stop.signal,
      }).then((told) => {
        if (!stop.signal.aborted) setAnswer({ asked, said: told.ok ? told.data : null });
      });
    }, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [base, asked]);
  const said = asked !== '' && answer?.asked === asked ? answer.said : null;
  const recognised = said?.meanings[0] ?? first;
  const ways: Way[] = [
    ...(said?.candidates ?? []).map((c) => ({
      key: c.id,
      label: c.name,
      hint: t('anything.known'),
      to: `${base}/weigh/${c.id}`,
    })),
    ...(said?.listings ?? []).map((l) => ({
      key: `${l.market} ${l.code}`,
      label: l.title,
      hint: t('anything.listing', { code: l.code, market: l.market, price: f.money(l.price, l.currency) }),
      to: toListing({ root: base, market: l.market }, l.code),
    })),
    ...startsOf(recognised).map((s) => ({
      key: s,
      label: t(`anything.start.${s}`, { text: text.trim().slice(0, 60) }),
      hint: '',
      to: `${base}${startTo(s, recognised)}`,
      isPage: s === 'check',
    })),
  ];
  return {
    recognised,
    is: isIn(recognised, said, t),
    ways,
    wrong: said?.wrong ?? [],
    isAsking: asked !== '' && answer?.asked !== asked,
  };
}

type Start = 'check' | 'candidate' | 'search' | 'newName';
/** What can be begun with it, the likelier first. */
function startsOf(r: Recognised): readonly Start[] {
  switch (r.kind) {
    case 'barcode':
      return ['check', 'candidate'];
    case 'code':
      return ['search', 'check'];
    case 'words':
      return ['search', 'newName'];
    default:
      return [];
  }
}

function startTo(start: Start, r: Recognised): string {
  const text = r.kind === 'barcode' ? r.gtin : r.kind === 'code' ? r.code : r.kind === 'words' ? r.words : '';
  const query = (key: string): string => new URLSearchParams({ [key]: text }).toString();
  switch (start) {
    case 'check':
      return `/check?${query('goods')}`;
    case 'candidate':
      return `/find?${query('gtin')}`;
    case 'newName':
      return `/find?${query('name')}`;
    default:
      return `/find/market?${query('words')}`;
  }
}

function isIn(r: Recognised, said: AnythingSaid | null, t: ReturnType<typeof useWords>['t']): string {
  if (r.kind === 'nothing' || r.kind === 'words' || r.kind === 'strangePage') return '';
  if (r.kind === 'notABarcode') return t(`anything.notABarcode.${r.trouble}`);
  const also = said?.meanings[1]?.kind;
  const is = t(
    `anything.is.${r.kind}`,
    r.kind === 'page' ? { market: r.market } : { count: r.kind === 'rows' ? r.rows : 1 },
  );
  const decided = said?.decided == null ? '' : ` ${t(`anything.decided.${said.decided}`)}`;
  return (also === undefined ? is : `${is} ${t(`anything.also.${also}`)}`) + decided;
}
