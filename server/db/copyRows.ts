/**
 * Rows of a list in COPY's binary writing (PostgreSQL, "COPY", file formats): numbers go over as they are,
 * and no text needs escaping.
 */
import type { TextColumn } from '../../core/columns/rank.ts';
import { Bytes } from '../../between/bytes.ts';
import { codeOf, PART_WORDS, textsOf } from '../../between/parts.ts';
import type { Part } from '../../between/parts.ts';

/** The columns of a row, in this order. */
export const COPY_COLUMNS = 'line, key, code, title, brand, category, cost, price, units, more';
const FIELDS = 10;

/**
 * A part's rows for COPY. `more`: JSON of each row, blank where it has none. Texts hold no NUL, which the
 * database does not take: what reads files leaves them out.
 */
export function copyRows(
  {
    rows,
    numbers,
    texts,
    words,
  }: Pick<Part, 'rows' | 'numbers' | 'words'> & { readonly texts: { readonly title: TextColumn } },
  more: TextColumn | null,
): Buffer {
  const out = new Bytes();
  for (const c of 'PGCOPY\n\xff\r\n\0') out.byte(c.charCodeAt(0));
  out.int32(0);
  out.int32(0);
  const number = (x: number): void => {
    if (Number.isNaN(x)) out.int32(-1);
    else {
      out.int32(8);
      out.float64(x);
    }
  };
  const text = ({ bytes, offsets }: TextColumn, at: number): void => {
    const [from, to] = [offsets[at] as number, offsets[at + 1] as number];
    out.int32(to - from);
    out.copy(bytes, from, to);
  };
  const few = PART_WORDS.map((w) => ({ column: textsOf(words[w].values), codes: words[w].codes }));
  for (let i = 0; i < rows; i++) {
    out.int16(FIELDS);
    out.int32(4);
    out.int32(numbers.line[i] as number);
    out.int32(8);
    out.int64(numbers.key[i] as number);
    const code = codeOf(numbers.key[i] as number, numbers.digits[i] as number);
    out.int32(code.length);
    out.text(code);
    text(texts.title, i);
    for (const { column, codes } of few) text(column, codes[i] as number);
    number(numbers.cost[i] as number);
    number(numbers.price[i] as number);
    number(numbers.units[i] as number);
    const [from, to] = more === null ? [0, 0] : [more.offsets[i] as number, more.offsets[i + 1] as number];
    if (more === null || from === to) out.int32(-1);
    else {
      // Binary jsonb: its version, then the text.
      out.int32(1 + to - from);
      out.byte(1);
      out.copy(more.bytes, from, to);
    }
  }
  out.int16(-1);
  return out.written();
}
