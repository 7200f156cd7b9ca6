/** A pack as it comes in from outside, checked as a whole: the cards row by row as if each came alone. */
import { draftOf, readTables } from '../cards/tables.ts';
import { cardName } from '../cards/schema.ts';
import { issuesOf } from '../issues.ts';
import type { Issue } from '../issues.ts';
import { broughtUp } from '../versions.ts';
import { cardPack } from './schema.ts';
import type { CardPack } from './schema.ts';

export type PackRead =
  | { readonly ok: true; readonly pack: CardPack }
  | { readonly ok: false; readonly issues: readonly Issue[] };
/** So many of what is wrong are told. */
const MOST_ISSUES = 100;

/** Reads a parsed document. Total: what is wrong is named by card, sheet, row and column. */
export function readPack(json: unknown): PackRead {
  const parsed = cardPack.safeParse(broughtUp(json));
  if (!parsed.success) return { ok: false, issues: issuesOf(parsed.error).slice(0, MOST_ISSUES) };
  const pack: CardPack = parsed.data;
  const issues = pack.cards.flatMap(({ kind, data }, i): Issue[] => {
    const read = readTables(kind, draftOf(kind, data));
    return read.ok
      ? []
      : read.errors.map(({ sheet, row, column, ...what }) => ({
          path: [`cards.${i} (${cardName(data)})`, sheet, row, column].filter((x) => x !== null).join(', '),
          ...what,
        }));
  });
  return issues.length === 0 ? { ok: true, pack } : { ok: false, issues: issues.slice(0, MOST_ISSUES) };
}
