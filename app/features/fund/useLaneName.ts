/** What a lane of the purse is called: its product, country and marketplace. */
import { useCallback } from 'react';
import type { PurseDocument } from '../../../core/purse/schema.ts';
import { countryName } from '../../ui/names.ts';
import { useWords } from '../../ui/useWords.ts';

export function useLaneName(document: PurseDocument): (key: string) => string {
  const { i18n } = useWords();
  return useCallback(
    (key) => {
      const lane = document.lanes.find((l) => l.key === key);
      if (lane === undefined) return key;
      const where = [countryName(lane.lane.country, i18n.language), lane.lane.marketplace];
      return [lane.name, ...where].filter((x) => x !== '').join(' · ');
    },
    [document, i18n.language],
  );
}
