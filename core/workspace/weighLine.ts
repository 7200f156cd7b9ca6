/** What a list of candidates shows of a lane: worked out once, and stored beside the lane until something changes. */
import { isQuoted } from '../lane/costLines.ts';
import type { Verdict } from '../lane/hurdles.ts';
import type { LaneResult } from '../lane/result.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { conversionsOf } from '../money/money.ts';
import { completeness } from './summary.ts';
import type { LaneSummary } from './summary.ts';

/**
 * Money of the bar in the home currency (in that of the lane where there is no rate), break-even price in the
 * lane's, most to pay in the quote's, launch cash in the home currency.
 */
export type WeighLine = {
  readonly country: string;
  readonly marketplace: string;
  readonly currency: string;
  readonly bar: {
    readonly currency: string;
    readonly families: LaneResult['families'];
    readonly figures: { readonly gross: number | null; readonly unitProfit: number | null };
    readonly incomplete: { readonly unitProfit?: LaneResult['incomplete']['unitProfit'] };
  };
  readonly margin: number | null;
  readonly roi: number | null;
  readonly breakEven: number | null;
  readonly mostToPay: number | null;
  readonly mostToPayCurrency: string;
  readonly launchCash: number | null;
  readonly launchLacks: readonly string[];
  readonly affordable: boolean | null;
  readonly hurdles: readonly { readonly figure: string; readonly verdict: Verdict }[];
  readonly blanks: readonly string[];
  readonly problems: readonly string[];
  readonly stale: boolean;
  /** Day of the oldest quote it is bought on. */
  readonly quoteDate: string | null;
  /** Some of it came from evidence. */
  readonly fed: boolean;
  /** Share of its lines that are known. */
  readonly complete: number;
  /** The exchange rates that turn it into the home currency. */
  readonly conversions: ReturnType<typeof conversionsOf>;
};

/** The line of a lane that was summed up. */
export function weighLine(doc: LaneDocument, s: LaneSummary): WeighLine {
  const shown = s.home ?? s.result;
  return {
    country: doc.country,
    marketplace: doc.marketplace,
    currency: s.result.currency,
    bar: {
      currency: shown.currency,
      families: shown.families,
      figures: { gross: shown.figures.gross, unitProfit: shown.figures.unitProfit },
      incomplete: { unitProfit: s.result.incomplete.unitProfit },
    },
    margin: s.result.figures.margin,
    roi: s.result.figures.roi,
    breakEven: s.breakEvenPrice,
    mostToPay: s.mostToPay,
    mostToPayCurrency: s.mostToPayCurrency,
    launchCash: s.launchCash,
    launchLacks: s.launchLacks,
    affordable: s.affordable,
    hurdles: s.hurdles.map((h) => ({ figure: h.hurdle.figure, verdict: h.verdict })),
    blanks: s.result.blanks,
    problems: s.result.problems.map((p) => p.code),
    stale: s.result.notices.some((n) => n.code === 'quoteExpired'),
    quoteDate: oldestQuote(doc),
    fed: Object.values(doc.provenance).some((p) => p.source === 'evidence'),
    complete: completeness(s.result),
    conversions: conversionsOf([doc], doc.homeCurrency),
  };
}

function oldestQuote(doc: LaneDocument): string | null {
  const days = Array.isArray(doc.goods)
    ? doc.goods.flatMap((c) => (isQuoted(c.source) ? (c.source.date ?? []) : []))
    : [];
  return days.length === 0 ? null : days.reduce((a, b) => (a < b ? a : b));
}

/** The exchange rates of several lines, each once. */
export function conversionsIn(lines: readonly WeighLine[]): WeighLine['conversions'] {
  const each = new Map(lines.flatMap((l) => l.conversions.map((c) => [`${c.from}${c.date}`, c] as const)));
  return [...each.values()];
}
