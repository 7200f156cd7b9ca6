/** Fee tables and proofs at a prompt: what a table is understood as, and whether a card is what was charged. */
import Papa from 'papaparse';
import { isCurrency } from '../core/cards/cells.ts';
import { cardDocument } from '../core/cards/schema.ts';
import { compareCards, readTables } from '../core/cards/tables.ts';
import type { MarketplaceCard } from '../core/cards/rates.ts';
import { fault } from '../core/fault.ts';
import { issuesOf } from '../core/issues.ts';
import type { Issue } from '../core/issues.ts';
import { holdAll } from '../core/proofs/check.ts';
import { mendsFor } from '../core/proofs/mends.ts';
import { proofsOfRows } from '../core/proofs/rows.ts';
import { givenOfText } from '../core/schedules/given.ts';
import { marketplaceDraft } from '../core/schedules/toCard.ts';
import { understand } from '../core/schedules/understand.ts';
import { broughtUp } from '../core/versions.ts';
import { sayFault } from '../words/index.ts';
import { cannot, readText } from './files.ts';

type Write = (value: object) => void;
type Report = (issues: readonly Issue[]) => void;

/** The marketplace card in a file; null where it is none, which is said. */
function marketplaceCardIn(path: string | undefined, report: Report): MarketplaceCard | null {
  let input: unknown;
  try {
    input = JSON.parse(readText(path));
  } catch (e) {
    if (!(e instanceof SyntaxError)) throw e;
    report([{ path: '(document)', ...fault('notJson') }]);
    return null;
  }
  const parsed = cardDocument.safeParse(broughtUp(input));
  if (!parsed.success) {
    report(issuesOf(parsed.error));
    return null;
  }
  if (parsed.data.kind !== 'marketplace') throw cannot('notMarketplace');
  return parsed.data.data as MarketplaceCard;
}

/** Reads a fee table. 0: every cell is sure; 1: some are not; 2: it cannot be read. */
export function readCard(
  path: string | undefined,
  options: { readonly currency?: string | undefined; readonly like?: string | undefined },
  write: Write,
  report: Report,
): number {
  const base = options.like === undefined ? null : marketplaceCardIn(options.like, report);
  if (options.like !== undefined && base === null) return 2;
  const currency = options.currency ?? base?.currency ?? 'EUR';
  if (!isCurrency(currency)) {
    report([{ path: '--currency', ...fault('notCurrency', { text: currency }) }]);
    return 2;
  }
  const understood = understand(givenOfText(readText(path)), currency);
  const about = { name: '', marketplace: '', country: '', currency, inForceFrom: '' };
  const cells = marketplaceDraft(understood.parts, about, base);
  const after = base === null ? null : readTables('marketplace', cells);
  write({
    format: 'bold-margin/schedule',
    version: 1,
    currency,
    ...understood,
    faults: understood.faults.map((f) => ({ line: f.line, code: f.code, ...sayFault(f) })),
    cells,
    ...(after?.ok === true ? { changes: compareCards('marketplace', base, after.data) } : {}),
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
