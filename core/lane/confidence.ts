import type { LaneResult } from './result.ts';
import { isQuoted, LINES, sourceOf } from './costLines.ts';
import type { Line } from './costLines.ts';
import type { LaneDocument } from './schema.ts';
import { SOURCES } from './schema.ts';
import { daysBetween } from '../money/days.ts';

/** `proven` and `disputed`: a card's fee that agrees with what was really charged, and one that does not. */
export type SourceOfNumber = (typeof SOURCES)[number] | 'proven' | 'disputed';
/** What proofs say of a card's fees; a fee of which none says anything is not in it. */
export type Proven = Partial<Record<Line, 'proven' | 'disputed'>>;
const ORDER: readonly SourceOfNumber[] = [...SOURCES, 'proven', 'disputed'];
export type Confidence = {
  /** Money of the unit's costs by where it comes from, sales currency; blank lines stay out. */
  readonly bySource: Partial<Record<SourceOfNumber, number>>;
  /** The same as shares of all costs, largest first. */
  readonly shares: readonly { readonly source: SourceOfNumber; readonly share: number }[];
  /** Share of the costs that rests on guesses, estimates, defaults, borrowed figures and disputed fees. */
  readonly unsure: number;
};

const UNSURE: ReadonlySet<SourceOfNumber> = new Set(['guess', 'estimate', 'default', 'borrowed', 'disputed']);
/** Days after which a quote or an exchange rate counts as old. */
export const OLD_DAYS = { quote: 120, exchange: 14, card: 400 } as const;

/** The inputs a person answers for, each as it stands in the provenance of a lane. */
export const OWN_INPUTS = [
  'price',
  'orderQuantity',
  'goods',
  'prep',
  'route',
  'dispatch',
  'supplierDelivery',
  'storage',
  'returns',
  'breakage',
  'adverts',
  'demand',
  'otherPerUnit',
] as const;
export type OwnInput = (typeof OWN_INPUTS)[number];
/** What a person may say of such an input. */
export const OWN_SOURCES = ['guess', 'estimate', 'borrowed', 'quote', 'actual', 'typed'] as const;

/**
 * The inputs of a lane that say something, each with where it comes from: what is noted of it, else the quote
 * or card, else typed.
 */
export function ownInputs(
  doc: LaneDocument,
): {
  readonly input: OwnInput;
  readonly source: SourceOfNumber;
  readonly date: string | null;
  readonly note: string;
}[] {
  return OWN_INPUTS.flatMap((input) => {
    const value = doc[input];
    if (
      value === null ||
      value === 'none' ||
      value === 'card' ||
      value === 0 ||
      (Array.isArray(value) && value.length === 0)
    )
      return [];
    const said =
      doc.provenance[input] ?? Object.entries(doc.provenance).find(([k]) => k.startsWith(`${input}.`))?.[1];
    const first = Array.isArray(doc.goods) ? doc.goods[0]?.source : undefined;
    if (said !== undefined) return [{ input, ...said }];
    return [
      input === 'goods' && first !== undefined
        ? {
            input,
            source: isQuoted(first) ? ('quote' as const) : ('typed' as const),
            date: first.date,
            note: first.supplier,
          }
        : { input, source: 'typed' as const, date: null, note: '' },
    ];
  });
}

/**
 * How much of a lane's costs rests on what: proven fees, quotes, rate cards, figures typed, defaults, guesses,
 * borrowed ones.
 */
export function confidenceOf(doc: LaneDocument, result: LaneResult, proven: Proven = {}): Confidence {
  const bySource: Partial<Record<SourceOfNumber, number>> = {};
  let all = 0;
  for (const line of LINES) {
    const amount = Math.abs(result.lines[line] ?? 0);
    if (amount === 0) continue;
    const said = sourceOf(doc, line);
    const source = said === 'card' ? (proven[line] ?? said) : said;
    bySource[source] = (bySource[source] ?? 0) + amount;
    all += amount;
  }
  const shares =
    all === 0
      ? []
      : ORDER.filter((s) => bySource[s] !== undefined)
          .map((source) => ({ source, share: (bySource[source] as number) / all }))
          .sort((a, b) => b.share - a.share);
  return {
    bySource,
    shares,
    unsure: shares.filter((s) => UNSURE.has(s.source)).reduce((sum, s) => sum + s.share, 0),
  };
}

export type Stale = {
  readonly what: 'quote' | 'exchange' | 'card';
  readonly name: string;
  readonly date: string;
  readonly days: number;
};

/** Quotes, exchange rates and cards that are old on the lane's date; each with its age. */
export function staleInputs(doc: LaneDocument): Stale[] {
  const age = (date: string): number => daysBetween(date, doc.date);
  const out: Stale[] = [];
  const add = (what: Stale['what'], name: string, date: string | null | undefined): void => {
    if (date == null) return;
    const days = age(date);
    if (days > OLD_DAYS[what]) out.push({ what, name, date, days });
  };
  if (Array.isArray(doc.goods)) for (const c of doc.goods) add('quote', c.source.supplier, c.source.date);
  const foreign = [
    doc.homeCurrency,
    ...(Array.isArray(doc.goods) ? doc.goods.map((c) => c.source.currency) : []),
  ].some((c) => c !== doc.currency);
  if (foreign) add('exchange', '', doc.rates.exchange?.date);
  add('card', doc.rates.marketplace?.name ?? '', doc.rates.marketplace?.inForceFrom);
  return out;
}
