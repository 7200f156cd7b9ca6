import i18next from 'i18next';
import { initReactI18next } from 'react-i18next';
import { en } from './locales/en.ts';

/** One message catalogue; another language is one more file beside en.ts. */
export function startI18n(): void {
  if (i18next.isInitialized) return;
  void i18next.use(initReactI18next).init({ lng: 'en', fallbackLng: 'en', resources: { en: { translation: en } }, interpolation: { escapeValue: false }, returnNull: false, initAsync: false });
}
