/** What a list of lanes on sale says of each and of each place, kept so that no look at it works it out anew. */
import type { LaneDocument } from '../lane/schema.ts';
import { exchangeFactor } from '../money/money.ts';
import { cashOfKinds, laneMonths } from './allMonths.ts';
import type { LaneMonth } from './allMonths.ts';
import { mixPartOf, standsAt } from './compare.ts';
import type { MixPart, Stands } from './compare.ts';
import type { Decision } from './decide.ts';
import type { Drift, Lately } from './drift.ts';
import { missesOf } from './estimates.ts';
import type { Misses } from './estimates.ts';
import { gistOf } from './gist.ts';
import type { Gist } from './gist.ts';
import type { Sold } from './onSale.ts';
import { settledRule, STEPS } from './schema.ts';
import type { SettledKind } from './schema.ts';
import type { Stock } from './stock.ts';
import { addKinds } from './sums.ts';
import type { KindSum, SettledSums } from './sums.ts';

/** The last two periods as a list shows them. */
export type LatelySaid = {
  readonly from: string;
  readonly to: string;
  readonly stands: Stands;
  readonly drifts: readonly Drift[];
  readonly gist: Gist;
};
export type LaneBook = {
  /** What it was worked out from; another key: it has changed. */
  readonly key: string;
  readonly until: string | null;
  /** Over all months. */
  readonly stands: Stands;
  readonly gist: Gist | null;
  /** What the mix, and how good estimates were, go by; null: it is not known. */
  readonly mix: MixPart | null;
  readonly misses: Misses;
  readonly lately: LatelySaid | null;
  readonly stock: Stock;
  readonly decisions: readonly Decision[];
  readonly months: readonly LaneMonth[];
  /** One of the sales currency in the home currency; null: not known. */
  readonly home: number | null;
};

const OPEN: Stands = { standing: 'open', because: null, amount: null };

export const latelySaid = ({ from, to, compared, stands, drifts }: Lately): LatelySaid => ({
  ...{ from, to, stands, drifts },
  gist: gistOf(compared),
});

/** A lane's entry. @param last the last day that reports of its place speak of */
export function bookOf(
  key: string,
  doc: LaneDocument,
  { whole, months }: Pick<Sold, 'whole' | 'months'>,
  lately: Lately | null,
  of: { readonly last: string | null; readonly stock: Stock; readonly decisions: readonly Decision[] },
): LaneBook {
  const home = exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency);
  return {
    key,
    until: of.last,
    stands: whole === null ? OPEN : standsAt(whole),
    gist: whole === null ? null : gistOf(whole),
    mix: whole === null ? null : mixPartOf(whole),
    misses: whole === null ? {} : missesOf(whole),
    lately: lately === null ? null : latelySaid(lately),
    stock: of.stock,
    decisions: of.decisions,
    months: laneMonths(doc, months),
    home: Number.isFinite(home) ? home : null,
  };
}

/** What a code's lines come to, transfers apart, in the place's currency. */
export type CodeSum = { readonly code: string; readonly units: number; readonly amount: number };
/** What a place settled in a month, and what of it was paid out; null: no line says so. */
export type PlaceMonth = {
  readonly month: string;
  readonly settled: number;
  readonly paidOut: number | null;
};

/** A place by code and by month. */
export function placeBook(sums: SettledSums): { codes: CodeSum[]; months: PlaceMonth[] } {
  const codes = [...sums].map(([code, by]): CodeSum => {
    const kinds = Object.entries(addKinds(by.values())) as [SettledKind, KindSum][];
    const counted = kinds.filter(([kind]) => !['aside', 'told'].includes(settledRule(kind).is));
    return {
      code,
      units: kinds.find(([kind]) => kind === 'sale')?.[1].units ?? 0,
      amount: counted.reduce((s, [, k]) => s + k.amount, 0) / STEPS,
    };
  });
  const months = [...new Set([...sums.values()].flatMap((by) => [...by.keys()]))].map((month): PlaceMonth => {
    const kinds = addKinds([...sums.values()].flatMap((by) => by.get(month) ?? []));
    const { settled, paidOut } = cashOfKinds(kinds);
    return { month, settled, paidOut: kinds.transfer === undefined ? null : paidOut };
  });
  return { codes, months };
}
