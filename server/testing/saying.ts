import { inWords } from '../../words/index.ts';
import type { Refusal } from '../refusal.ts';

/** Matches a refusal by the words in which a reader gets it. */
export const saying = (words: string | RegExp) => ({
  asymmetricMatch: (e: Refusal): boolean => {
    const said = e.fault === null ? e.reason : inWords(e.fault);
    return typeof words === 'string' ? said.includes(words) : words.test(said);
  },
  toString: () => `a refusal that says ${words}`,
});
