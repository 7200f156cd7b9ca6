/** The lines of a comparison: its lanes under headings of their groups, and what tells each lane apart. */
import { useMemo } from 'react';
import type { CardData } from '../../../core/cards/schema.ts';
import type { QuoteSource } from '../../../core/workspace/records.ts';
import { countryName } from '../../ui/names.ts';
import type { Compared, Group } from './useCompared.ts';
import { useWords } from '../../ui/useWords.ts';

export type Line =
  | { readonly kind: 'lane'; readonly lane: Compared }
  | { readonly kind: 'group'; readonly title: string; readonly count: number };

export function useLines(
  lanes: readonly Compared[],
  group: Group,
  quotes: readonly { id: string; data: QuoteSource }[],
  cards: Record<string, CardData>,
): { lines: Line[]; detailOf: (c: Compared) => string } {
  const { t, i18n } = useWords();
  const supplierOf = (c: Compared): string =>
    quotes.find((q) => q.id === c.data.components[0]?.quoteId)?.data.supplier || t('proposals.noQuote');
  const routeOf = (c: Compared): string => {
    const card = c.data.freightCardId == null ? undefined : cards[c.data.freightCardId];
    return card !== undefined && 'name' in card
      ? card.name
      : c.doc.route === 'none' || c.doc.route === null
        ? t('line.none')
        : c.doc.route.name || t('proposals.defaultRoute');
  };
  /** The usual route says nothing that tells lanes apart. */
  const ownRoute = (c: Compared): boolean => routeOf(c) !== t('proposals.defaultRoute');
  // biome-ignore lint/correctness/useExhaustiveDependencies: names of suppliers and routes follow quotes and cards
  const lines = useMemo<Line[]>(() => {
    if (group === 'none') return lanes.map((lane) => ({ kind: 'lane', lane }));
    const of = (c: Compared): string =>
      group === 'country'
        ? countryName(c.doc.country, i18n.language)
        : group === 'marketplace'
          ? c.doc.marketplace || t('sheet.noMarketplace')
          : group === 'method'
            ? t(`method.${c.doc.method}`)
            : group === 'supplier'
              ? supplierOf(c)
              : routeOf(c);
    const groups = new Map<string, Compared[]>();
    for (const lane of lanes) groups.set(of(lane), [...(groups.get(of(lane)) ?? []), lane]);
    return [...groups].flatMap(([title, list]): Line[] => [
      { kind: 'group', title, count: list.length },
      ...list.map((lane): Line => ({ kind: 'lane', lane })),
    ]);
  }, [lanes, group, i18n.language, t, quotes, cards]);
  const detailOf = (c: Compared): string =>
    [
      c.doc.marketplace || t('sheet.noMarketplace'),
      t(`method.${c.doc.method}`),
      ...(ownRoute(c) ? [routeOf(c)] : []),
      ...(quotes.length > 1 ? [supplierOf(c)] : []),
    ].join(' · ');
  return { lines, detailOf };
}
