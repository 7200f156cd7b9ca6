/**
 * The words of the screens. The library's own hook copies its whole catalogue for every component that asks, which
 * took a tenth of what it takes to render a page of many rows; there is one catalogue, and it is here before any page.
 */
import i18next from 'i18next';

const words = { t: i18next.t, i18n: i18next } as const;

/** `t` says a key of the catalogue; it stays the same from one rendering to the next. */
export const useWords = (): typeof words => words;
