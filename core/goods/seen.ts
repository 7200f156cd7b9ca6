/** Barcodes as a camera sees them: which are of goods, which are of another kind. */
import { checkDigit, readGtin } from './gtin.ts';

export type SeenCode = { readonly format: string; readonly text: string };
export type CodesSeen = {
  /** Barcodes of goods, each once. */
  readonly goods: readonly string[];
  /** Format of one that is no barcode of goods; null: there is none. */
  readonly other: string | null;
};

/**
 * A UPC-E code as the UPC-A that it is short for (GS1 General Specifications, section 5.2.2): its sixth digit says
 * where the zeros were left out.
 *
 * @example upcAOf('01234565') // '012345000065'
 */
export function upcAOf(upcE: string): string {
  const [system = '', body = ''] = [upcE.slice(0, 1), upcE.slice(1, 7)];
  const last = body.charCodeAt(5) - 48;
  const d = body.slice(0, 5);
  const middle =
    last <= 2
      ? `${d.slice(0, 2)}${last}0000${d.slice(2)}`
      : last === 3
        ? `${d.slice(0, 3)}00000${d.slice(3)}`
        : last === 4
          ? `${d.slice(0, 4)}00000${d.slice(4)}`
          : `${d}0000${last}`;
  const digits = system + middle;
  return `${digits}${checkDigit(digits)}`;
}

/** Formats that hold nothing but a barcode of goods; in others one may stand beside something else. */
const OF_GOODS = new Set(['ean_13', 'ean_8', 'upc_a', 'upc_e']);

/** What was seen, sorted: a code of goods proves itself by its check digit, whatever it is printed as. */
export function codesSeen(seen: readonly SeenCode[]): CodesSeen {
  const goods = new Map<string, string>();
  let other: string | null = null;
  for (const { format, text } of seen) {
    const digits = format === 'upc_e' && /^\d{8}$/.test(text) ? upcAOf(text) : text;
    const read = readGtin(digits);
    // In a general format digits may prove themselves by chance: there a code has to have a length of cartons.
    const counts =
      OF_GOODS.has(format) || (/^\d{14}$/.test(digits) && (format === 'itf' || format === 'code_128'));
    if (read.ok && read.repaired === null && counts) goods.set(read.key, read.code);
    else other = format;
  }
  return { goods: [...goods.values()], other };
}
