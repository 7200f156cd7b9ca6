/** By what goods without a barcode are known again, across lists and their editions. */
import { fold } from './tokens.ts';

/**
 * Brand and title as they stand, but for case, accents and blanks: whoever prices them anew, or lists them again, has
 * the same goods.
 *
 * @example goodsSaid('Acme ', 'Größe  XL') // 'acme\ngrosse xl'
 */
export const goodsSaid = (brand: string, title: string): string =>
  [brand, title].map((t) => fold(t).replace(/\s+/g, ' ').trim().slice(0, 400)).join('\n');

/** A barcode of 14 digits as it is written: without the zeros that lead shorter ones, thirteen at least. */
export const codeOfKey = (key: string): string => key.replace(/^0(?=\d{13}$)/, '');
