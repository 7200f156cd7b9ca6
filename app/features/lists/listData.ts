/** What the page of a list is given. */
import type { ListLook, ListQuery } from '../../../core/lists/query.ts';
import type { CatalogueSaid } from '../../../core/shops/place.ts';
import type { ListSettings, ScreenSettings } from '../../../core/lists/settings.ts';
import type { Answer } from '../../../between/ask.ts';

/** A card version the list is weighed with, and the one in force where that is another. */
export type ListCard = {
  field: 'marketplaceCardId' | 'taxCardId' | 'exchangeCardId';
  id: string;
  name: string;
  day: string;
  now: { id: string; day: string } | null;
};
export type Tally = {
  kept: number;
  shortlisted: number;
  dropped: number;
  ordered: number;
  profitPerMonth: number;
  /** Costs which some of these profits leave out, and how many are not known at all. */
  lacks: readonly string[];
  unknownProfit: number;
};
export type View = {
  id: string;
  name: string;
  look: ListLook;
  assumptions: ListSettings['assumptions'] | null;
};
export type ListData = {
  list: {
    id: string;
    name: string;
    extras: string[];
    listCurrency: string;
    /** Whether it is read from a shop. */
    isCatalogue: boolean;
    /** Goods that were looked at a second time. */
    looked: number;
    hasPrevious: boolean;
    hasReference: boolean;
    has: string[];
  };
  supplierName: string;
  own: ListSettings;
  screen: ScreenSettings;
  look: ListLook;
  query: ListQuery;
  answer: Answer | null;
  work: {
    id: string;
    state: string;
    done: number;
    total: number;
    error: string | null;
    startedAt: string | null;
    catalogue: CatalogueSaid | null;
    shown: boolean;
  } | null;
  home: string;
  counts: {
    valid: number;
    invalid: number;
    repaired: number;
    completed: number;
    garbled: number;
    /** What kept rows out, by kind. */
    troubles: Record<string, number>;
    changes: Record<string, number>;
    gone: number | null;
  };
  views: View[];
  tally: Tally;
  cards: ListCard[];
  root: string;
  canEdit: boolean;
};
