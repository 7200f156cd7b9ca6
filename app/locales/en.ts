/** Every word of the interface, by where it stands; places that load by themselves have files of their own. */
import { frameWords } from './en.frame.ts';
import { termsWords } from './en.terms.ts';
import { formWords } from './en.forms.ts';
import { sheetWords } from './en.sheet.ts';
import { placesWords } from './en.places.ts';

export const en = { ...frameWords, ...termsWords, ...sheetWords, ...formWords, ...placesWords };
