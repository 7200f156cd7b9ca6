/** Fee tables and proofs at a prompt: what a table is understood as, and whether a card is what was charged. */
import Papa from 'papaparse';
import { isCurrency } from '../core/cards/cells.ts';
import { cardDay, cardDocument, cardName } from '../core/cards/schema.ts';
import type { CardData, CardKind, FreightCard, PostageCard } from '../core/cards/schema.ts';
import { compareCards, readTables } from '../core/cards/tables.ts';
import type { Tables } from '../core/cards/reader.ts';
import type { MarketplaceCard } from '../core/cards/rates.ts';
import { fault } from '../core/fault.ts';
import { issuesOf } from '../core/issues.ts';
import type { Issue } from '../core/issues.ts';
import { holdAll } from '../core/proofs/check.ts';
import { mendsFor } from '../core/proofs/mends.ts';
import { proofsOfRows } from '../core/proofs/rows.ts';
import { givenOfText, textOfSheets } from '../core/schedules/given.ts';
import { freightDraft, marketplaceDraft, postageDraft } from '../core/schedules/toCard.ts';
import { understand, understandFreight } from '../core/schedules/understand.ts';
import type { Understood } from '../core/schedules/understood.ts';
import { broughtUp } from '../core/versions.ts';
import { readTables as workbookTables } from '../server/files/workbook.ts';
import { inWords, sayFault } from '../words/index.ts';
import { cannot, readBytes, readText, UsageError } from './files.ts';

type Write = (value: object) => void;
type Report = (issues: readonly Issue[]) => void;

/** The card in a file; null where it is none, which is said. */
function cardIn(path: string | undefined, report: Report): { kind: CardKind; data: CardData } | null {
  let input: unknown;
  try {
    input = JSON.parse(readText(path));
  } catch (e) {
    if (!(e instanceof SyntaxError)) throw e;
    report([{ path: '(document)', ...fault('notJson') }]);
    return null;
  }
  const parsed = cardDocument.safeParse(broughtUp(input));
  if (parsed.success) return parsed.data;
  report(issuesOf(parsed.error));
  return null;
}

/** The marketplace card in a file; null where it is none, which is said. */
function marketplaceCardIn(path: string | undefined, report: Report): MarketplaceCard | null {
  const card = cardIn(path, report);
  if (card !== null && card.kind !== 'marketplace') throw cannot('notMarketplace');
  return card === null ? null : (card.data as MarketplaceCard);
}

/** What a table may be read as. */
const AS = ['marketplace', 'postage', 'freight'] as const;
type As = (typeof AS)[number];
export type ReadOptions = {
  readonly currency?: string | undefined;
  readonly like?: string | undefined;
  readonly as?: string | undefined;
};

/** The text of a table: of a workbook its sheets one after the other, else the file as it stands. */
async function tableText(path: string | undefined): Promise<string> {
  if (path === undefined || !/\.xlsx$/i.test(path)) return readText(path);
  const read = await workbookTables(readBytes(path));
  if (!read.ok) throw new UsageError(inWords(read.fault));
  return textOfSheets(read.sheets);
}

/** The currency that a card counts in. */
function currencyOf({ kind, data }: { kind: CardKind; data: CardData }): string | undefined {
  if (kind === 'marketplace') return (data as MarketplaceCard).currency;
  if (kind === 'postage') return (data as PostageCard).zones[0]?.postage.currency;
  return (data as FreightCard).route.legs[0]?.currency;
}

/** The sheets that a table makes of a card of a kind. */
function cellsAs(as: As, u: Understood, currency: string, base: CardData | null): Tables {
  const head = { name: '', country: '', currency, inForceFrom: '', ...(base === null ? {} : headOf(base)) };
  if (as === 'marketplace')
    return marketplaceDraft(u.parts, { ...head, marketplace: '' }, base as MarketplaceCard | null);
  if (as === 'postage') return postageDraft(u.parts, head, base as PostageCard | null);
  const { from, to, mode } = (base as FreightCard | null) ?? { from: null, to: null, mode: '' };
  return freightDraft(u.freight ?? NO_FREIGHT, head, { from: from ?? '', to: to ?? '', mode });
}
const NO_FREIGHT = { legs: [], transitDays: null, insuranceRate: null };
const headOf = (card: CardData): { name: string; inForceFrom: string; country: string } => ({
  name: cardName(card),
  inForceFrom: cardDay(card),
  country: 'country' in card ? (card.country ?? '') : '',
});

/** Reads a fee table. 0: every cell is sure; 1: some are not; 2: it cannot be read. */
export async function readCard(
  path: string | undefined,
  options: ReadOptions,
  write: Write,
  report: Report,
): Promise<number> {
  const base = options.like === undefined ? null : cardIn(options.like, report);
  if (options.like !== undefined && base === null) return 2;
  const wanted = options.as ?? base?.kind ?? 'marketplace';
  const as = AS.find((a) => a === wanted);
  if (as === undefined || (base !== null && base.kind !== as))
    throw cannot('noneOf', { text: wanted, choices: base === null ? AS.join(', ') : base.kind });
  const currency = options.currency ?? (base === null ? undefined : currencyOf(base)) ?? 'EUR';
  if (!isCurrency(currency)) {
    report([{ path: '--currency', ...fault('notCurrency', { text: currency }) }]);
    return 2;
  }
  const given = givenOfText(await tableText(path));
  const understood = (as === 'freight' ? understandFreight : understand)(given, currency);
  const cells = cellsAs(as, understood, currency, base?.data ?? null);
  const after = base === null ? null : readTables(as, cells);
  write({
    format: 'bold-margin/schedule',
    version: 1,
    currency,
    ...understood,
    faults: understood.faults.map((f) => ({ line: f.line, code: f.code, ...sayFault(f) })),
    cells,
    ...(base !== null && after?.ok === true ? { changes: compareCards(as, base.data, after.data) } : {}),
  });
  const { doubtful, notUnderstood } = understood.counts;
  return doubtful + notUnderstood + understood.faults.length > 0 ? 1 : 0;
}

/** Holds a card against proofs. 0: none fails; 1: one does; 2: something was invalid. */
export function checkCard(
  cardPath: string | undefined,
  proofsPath: string | undefined,
  write: Write,
  report: Report,
): number {
  if (cardPath === undefined || proofsPath === undefined) throw cannot('whichCard');
  const card = marketplaceCardIn(cardPath, report);
  if (card === null) return 2;
  const { data } = Papa.parse<string[]>(readText(proofsPath).trim(), { skipEmptyLines: false });
  const { proofs, wrong } = proofsOfRows(data, card);
  if (wrong.length > 0) {
    report(
      wrong.map(({ row, column, ...f }) => ({
        path: column === null ? `row ${row}` : `row ${row}, ${column}`,
        ...f,
      })),
    );
    return 2;
  }
  const by = { homeCurrency: card.currency, standings: {}, today: card.inForceFrom };
  const { held, ...counts } = holdAll(card, null, by, proofs);
  write({
    format: 'bold-margin/proofs-held',
    version: 1,
    currency: card.currency,
    ...counts,
    held: held.map((h, i) => ({ row: i + 2, ...h })),
    mends: mendsFor(card, null, by, proofs),
  });
  return counts.fails > 0 ? 1 : 0;
}
