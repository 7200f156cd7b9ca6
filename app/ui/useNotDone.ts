import { useCallback } from 'react';
import { useTranslation } from 'react-i18next';
import type { Told } from './client.ts';

/** Why something did not come about, in a sentence: the server's own, else what the kind of refusal means. */
export function useNotDone(): (told: Extract<Told<unknown>, { ok: false }>) => string {
  const { t } = useTranslation();
  return useCallback((told) => told.error ?? t(`notDone.${told.why}`), [t]);
}
