/** Which lines of a table are its headings, and what they say over each column. */
import { rangeIn, weightsIn } from './forms.ts';
import type { Around } from './forms.ts';
import type { Line } from './given.ts';
import { weightUnitIn } from './units.ts';
import { COLUMN_WORDS, FREE, monthsOf, NO_FIGURE } from './vocabulary.ts';

/** "Storage a 1 m³" is a heading, whatever number stands in it. */
const isFeeHeading = (text: string): boolean =>
  /^[^\d\p{Sc}]/u.test(text) && (COLUMN_WORDS.storage.test(text) || COLUMN_WORDS.fee.exec(text)?.index === 0);
const hasFigure = (text: string): boolean =>
  (/\d/.test(text) && !isFeeHeading(text)) || NO_FIGURE.test(text) || FREE.test(text);

/** How many lines at the top are headings: those before the first whose fees or weights are figures. */
export function headLines(rows: readonly Line[]): number {
  const share = ({ cells }: Line): number => {
    const own = cells.slice(1).filter((c) => c !== '');
    return own.length === 0 ? 0 : own.filter(hasFigure).length / own.length;
  };
  const isRange = ({ cells }: Line): boolean => cells[0] === '' || !hasFigure(cells[0] ?? '');
  if (weightsAcross(rows)) return 1;
  let heads = 0;
  while (heads < Math.min(3, rows.length - 1) && isHeadLine(rows[heads + 1] as Line)) heads++;
  if (heads > 0) return heads + 1;
  while (
    heads < Math.min(3, rows.length - 1) &&
    share(rows[heads] as Line) < 0.5 &&
    !(heads > 0 && isAlone(rows[heads] as Line))
  )
    heads++;
  // Weights or months may stand as headings: a line of figures over lines of figures whose first cell is none.
  if (heads === 0 && isRange(rows[0] as Line) && looksLikeHead(rows)) heads = 1;
  else if (heads > 0 && heads < 3 && (rows[heads]?.cells[0] ?? '') === '' && looksLikeHead(rows.slice(heads)))
    heads++;
  return heads;
}
/** A name between rows: it stands over those that follow. */
const isAlone = ({ cells }: Line): boolean => cells[0] !== '' && cells.slice(1).every((c) => c === '');
/** A line that begins with the name of a column and has no amounts. */
const isHeadLine = ({ cells }: Line): boolean =>
  isHeadWord(cells[0] ?? '') && !cells.some((c) => /\d[.,]\d{2}(?!\d)|\p{Sc}/u.test(c));
/** A name of a column and no more. */
const isHeadWord = (text: string): boolean =>
  !/\d/.test(text) &&
  [COLUMN_WORDS.weight, COLUMN_WORDS.tier, COLUMN_WORDS.category].some(
    (w) => w.exec(text.replace(/\s*\(.*\)$/, ''))?.[0] === text.replace(/\s*\(.*\)$/, ''),
  ) &&
  weightUnitIn(text) === null;

/** "Weight (kg) | 0.5 | 1 | 2": a line of rising numbers behind a heading that names their unit. */
export function weightsAcross(rows: readonly Line[]): boolean {
  const [head, ...body] = rows;
  const [first = '', ...others] = head?.cells ?? [];
  const own = others.filter((c) => c !== '');
  const numbers = own.map((c) => Number(c.replace(',', '.')));
  return (
    body.length > 0 &&
    own.length > 1 &&
    COLUMN_WORDS.weight.test(first) &&
    weightUnitIn(first) !== null &&
    numbers.every((x, i) => Number.isFinite(x) && (i === 0 || x > (numbers[i - 1] as number)))
  );
}
/** A first line of ranges or months over lines of money. */
function looksLikeHead(rows: readonly Line[]): boolean {
  const [head, ...body] = rows;
  const own = head?.cells.slice(1).filter((c) => c !== '') ?? [];
  const around: Around = { mark: null, currency: '', kg: 1, cm: 1 };
  return (
    body.length > 0 &&
    own.length > 1 &&
    own.every(
      (c) =>
        !/\d/.test(c) ||
        monthsOf(c) !== null ||
        (/\p{L}|[<>≤+–-]/u.test(c) && (weightsIn(c, around) !== null || rangeIn(c, around) !== null)),
    ) &&
    own.some((c) => /\d/.test(c) || monthsOf(c) !== null)
  );
}

/**
 * The words over each column; a heading over several columns holds for those to its right that have none of
 * their own.
 */
export function headings(heads: readonly Line[], width: number): { own: string[]; whole: string[] } {
  const whole = Array.from({ length: width }, () => '');
  heads.forEach((h, level) => {
    let over = '';
    for (let i = 0; i < width; i++) {
      const text = h.cells[i] ?? '';
      if (text !== '') over = text;
      const mine = text !== '' || (level < heads.length - 1 && i > 0) ? (text !== '' ? text : over) : '';
      if (mine !== '') whole[i] = `${whole[i]} ${mine}`.trim();
    }
  });
  const last = heads[heads.length - 1];
  return { own: Array.from({ length: width }, (_, i) => last?.cells[i] || (whole[i] as string)), whole };
}
