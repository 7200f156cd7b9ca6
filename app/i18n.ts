import i18next from 'i18next';
import { initReactI18next } from 'react-i18next';
import { en } from './locales/en.ts';

/** The message catalogue; another language is one more set of files beside those of English. */
export function startI18n(): void {
  if (i18next.isInitialized) return;
  void i18next
    .use(initReactI18next)
    .init({
      lng: 'en',
      fallbackLng: 'en',
      resources: { en: { translation: en } },
      interpolation: { escapeValue: false },
      returnNull: false,
      initAsync: false,
    });
}

/** Adds the words of a place that loads on demand, so that other pages do not carry them. */
export function addWords(words: object): void {
  startI18n();
  i18next.addResourceBundle('en', 'translation', words, true, false);
}
