/** Limits of a size in one cell: "12 oz or less, longest side 15 in or less, shortest side 0.75 in or less". */
import { sidesIn, weightsIn } from './forms.ts';
import { withoutFootnote } from './numbers.ts';
import type { Around } from './forms.ts';
import { COLUMN_WORDS, OVER, SUM_OF_SIDES, UP_TO } from './vocabulary.ts';

/** Sides in cm, longest first; one of which nothing is said is as long as the one before. */
export type Limits = {
  readonly is: 'limits';
  readonly sides: readonly number[] | null;
  readonly maxKg: number | null;
  readonly girth: number | null;
};

type Clause = 'weight' | 'length' | 'width' | 'height' | 'girth';
const WORDS: readonly Clause[] = ['girth', 'length', 'width', 'height'];

/** What one clause limits, and to how much; null where it says something else. */
function clauseOf(text: string, around: Around): { of: Clause; x: number } | null {
  const isOver = OVER.test(text) && !UP_TO.test(text);
  if (SUM_OF_SIDES.test(text) || isOver) return null;
  const weights = weightsIn(text, { ...around, kg: null });
  if (weights?.or.length === 0 && weights.said.upTo !== null && weights.said.from === null)
    return { of: 'weight', x: weights.said.upTo };
  const side = sidesIn(text, around, true);
  const [cm, ...more] = side?.or.length === 0 ? side.said.cm : [];
  const of = WORDS.find((w) => COLUMN_WORDS[w].test(text));
  return of === undefined || cm === undefined || more.length > 0 ? null : { of, x: cm };
}

/** The limits that a cell says, where each of its clauses is understood; null otherwise. */
export function limitsIn(text: string, around: Around): Limits | null {
  const clauses = withoutFootnote(text)
    .split(/[;,](?!\d)\s*|\s+(?:and|und|et|y|e|i)\s+/u)
    .filter((c) => c !== '');
  const found = new Map<Clause, number>();
  for (const text of clauses) {
    const clause = clauseOf(text, around);
    if (clause === null || found.has(clause.of)) return null;
    found.set(clause.of, clause.x);
  }
  const l = found.get('length') ?? null;
  const w = found.get('width') ?? l;
  const h = found.get('height') ?? w;
  if (found.size < 2 || (l === null && (w ?? h) !== null)) return null;
  const sides = l === null || w === null || h === null ? null : [l, w, h].sort((a, b) => b - a);
  return { is: 'limits', sides, maxKg: found.get('weight') ?? null, girth: found.get('girth') ?? null };
}
