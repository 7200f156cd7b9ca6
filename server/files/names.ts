/** The one place that makes names of files and of sheets out of what people type. */
import { keepable } from '../text.ts';

/** A header that has the browser save an answer under a name, whatever the name holds. */
export function savedAs(name: string): { readonly 'content-disposition': string } {
  const clean =
    keepable(name)
      // biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are what is taken out
      .replace(/[\u0000-\u001f\u007f"\\/:*?<>|]+/g, ' ')
      .replace(/\s+/g, ' ')
      .trim()
      .slice(0, 200) || 'file';
  const plain = clean.replace(/[^\w. -]/g, '_');
  const encoded = encodeURIComponent(clean).replace(
    /['()*]/g,
    (c) => `%${c.charCodeAt(0).toString(16).toUpperCase()}`,
  );
  return { 'content-disposition': `attachment; filename="${plain}"; filename*=UTF-8''${encoded}` };
}

/** Characters a sheet's name may have. */
const MOST = 31;

/**
 * A name that a workbook takes: no forbidden character, no apostrophe at either end, not "History", not
 * longer than 31, not taken.
 */
export function sheetName(wanted: string, taken: ReadonlySet<string> = new Set()): string {
  const clean = keepable(wanted)
    // biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are what is taken out
    .replace(/[\u0000-\u001f\u007f\\/?*[\]:]+/g, ' ')
    .trim()
    .replace(/^'+|'+$/g, '')
    .trim()
    .slice(0, MOST)
    .replace(/'+$/, '')
    .trim();
  const base = clean === '' || clean.toLowerCase() === 'history' ? `${clean} sheet`.trim() : clean;
  for (let n = 1; ; n++) {
    const end = n === 1 ? '' : ` ${n}`;
    const name = `${base.slice(0, MOST - end.length)}${end}`;
    if (![...taken].some((t) => t.toLowerCase() === name.toLowerCase())) return name;
  }
}
