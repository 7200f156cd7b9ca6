/** Which cards a workspace is offered: its own first; the invented examples can be hidden. */
import type { CardKind } from '../cards/schema.ts';
import type { Settings } from './settings.ts';

type Head = { readonly kind: CardKind; readonly key: string; readonly example: boolean };
/** Examples of these kinds are invented; those of the others are real rates. */
const INVENTED: ReadonlySet<CardKind> = new Set(['marketplace', 'freight', 'postage']);

/** Whether a card is offered where one chooses; what lanes hold already stays with them. */
export const isOffered = (
  card: Pick<Head, 'kind' | 'example'>,
  { hideExamples }: Pick<Settings, 'hideExamples'>,
): boolean => !(hideExamples && card.example && INVENTED.has(card.kind));

/**
 * The marketplace that a workspace begins with, of those in force: its own at home, its own elsewhere, then the
 * examples in the same order; null where there is none.
 */
export function firstMarket<C extends Head>(cards: readonly C[], homeCountry: string): C | null {
  const markets = cards.filter((c) => c.kind === 'marketplace');
  const isHome = (c: C): boolean => c.key.endsWith(`/${homeCountry}`);
  return (
    markets.find((c) => !c.example && isHome(c)) ??
    markets.find((c) => !c.example) ??
    markets.find(isHome) ??
    markets[0] ??
    null
  );
}

/** The marketplaces that are offered, one's own before the examples. */
export const marketsOffered = <C extends Head>(
  cards: readonly C[],
  settings: Pick<Settings, 'hideExamples'>,
): C[] =>
  cards
    .filter((c) => c.kind === 'marketplace' && isOffered(c, settings))
    .sort((a, b) => Number(a.example) - Number(b.example));
