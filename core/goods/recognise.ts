/** What somebody typed, scanned or pasted to name goods: a barcode, a listing's code or page, rows, or words. */
import { readGtin } from './gtin.ts';
import type { GtinTrouble } from './gtin.ts';

export type Recognised =
  | { readonly kind: 'nothing' }
  /** `key`: the barcode in 14 digits. */
  | { readonly kind: 'barcode'; readonly gtin: string; readonly key: string }
  /** Digits as long as a barcode that are none. */
  | { readonly kind: 'notABarcode'; readonly trouble: GtinTrouble }
  /** The page of a listing, by the address pattern of its market's card. */
  | { readonly kind: 'page'; readonly market: string; readonly code: string }
  /** An address that no card has a pattern for. */
  | { readonly kind: 'strangePage'; readonly host: string }
  /** Rows of a spreadsheet. */
  | { readonly kind: 'rows'; readonly rows: number }
  | { readonly kind: 'code'; readonly code: string }
  | { readonly kind: 'words'; readonly words: string };

/** A market with the address of its listings' pages; blank: not known. */
export type AddressedMarket = { readonly market: string; readonly address: string };

const LONGEST = 200;
const LONGEST_ADDRESS = 2000;
/** One word with a digit in it, as codes of listings are. */
const CODE = /^(?=.*\d)[\p{L}\d][\p{L}\d._-]{3,39}$/u;
const PLACE = '{code}';

/** Host and everything behind it, small where that does not matter; null: no address. */
function addressOf(text: string): { host: string; rest: string } | null {
  const whole = /^https?:\/\//i.test(text) ? text : `https://${text}`;
  if (/\s/.test(text) || !URL.canParse(whole)) return null;
  const url = new URL(whole);
  if (!url.hostname.includes('.') || (whole !== text && !/^[^/]+\.[^/]+\//.test(text))) return null;
  return { host: url.hostname.replace(/^www\./, ''), rest: url.pathname + url.search };
}

/**
 * The code of a listing in the address of its page, by a pattern such as `https://shop.example/item/{code}`; null where
 * the address does not follow it. What stands before the code counts, and where something stands behind it in the
 * pattern, that too; further parts of an address, such as where one came from, do not.
 *
 * @example codeInAddress('https://a.example/i/{code}', 'http://www.a.example/i/L1?from=x') // 'L1'
 */
export function codeInAddress(pattern: string, address: string): string | null {
  const [before, after] = pattern.split(PLACE);
  if (before === undefined || after === undefined) return null;
  const [shape, own] = [addressOf(before), addressOf(address)];
  if (shape === null || own === null || shape.host !== own.host) return null;
  if (!own.rest.startsWith(shape.rest)) return null;
  const rest = own.rest.slice(shape.rest.length);
  const raw = /^[^/?&#]+/.exec(rest)?.[0] ?? '';
  if (raw === '' || !rest.slice(raw.length).startsWith(after)) return null;
  try {
    return decodeURIComponent(raw).slice(0, LONGEST);
  } catch {
    return raw.slice(0, LONGEST);
  }
}

/**
 * Recognises goods by what was typed. A barcode has to prove itself by its check digit; digits that look like one and
 * do not are told, so that a slip of one digit is not searched for as a name.
 *
 * @example recognise('9521000000001').kind // 'barcode'
 */
export function recognise(text: string, markets: readonly AddressedMarket[] = []): Recognised {
  const rows = text
    .trim()
    .split(/\r?\n/)
    .filter((r) => r.trim() !== '').length;
  if (rows > 1 || text.trim().includes('\t')) return { kind: 'rows', rows };
  const whole = text.trim().slice(0, LONGEST_ADDRESS);
  const page = addressOf(whole);
  if (page !== null) {
    for (const { market, address } of markets) {
      const code = codeInAddress(address, whole);
      if (code !== null) return { kind: 'page', market, code };
    }
    return { kind: 'strangePage', host: page.host };
  }
  const typed = whole.slice(0, LONGEST);
  if (typed === '') return { kind: 'nothing' };
  const read = readGtin(typed);
  if (read.ok) return { kind: 'barcode', gtin: read.code, key: read.key };
  if (/^[\d\s-]{7,}$/.test(typed)) return { kind: 'notABarcode', trouble: read.trouble };
  return CODE.test(typed) ? { kind: 'code', code: typed } : { kind: 'words', words: typed };
}

/** What else a text could be, the likelier first: digits of a barcode or one word may be a listing's code. */
export function alsoCouldBe(r: Recognised): Recognised[] {
  if (r.kind === 'barcode') return [{ kind: 'code', code: r.gtin }];
  return r.kind === 'code' ? [{ kind: 'words', words: r.code }] : [];
}
