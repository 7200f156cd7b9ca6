import { useCallback } from 'react';
import type { Told } from './client.ts';
import { useWords } from './useWords.ts';

/** Why something did not come about, in a sentence: the server's own, else what the kind of refusal means. */
export function useNotDone(): (told: Extract<Told<unknown>, { ok: false }>) => string {
  const { t } = useWords();
  return useCallback((told) => told.error ?? t(`notDone.${told.why}`), [t]);
}
