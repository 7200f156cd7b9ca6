/** A chance in words: about 1 in 9. */
import type { TFunction } from 'i18next';

export function chanceInWords(chance: number, t: TFunction): string {
  if (chance <= 0) return t('sure.chance.never');
  if (chance >= 1) return t('sure.chance.always');
  if (chance <= 0.55) return t('sure.chance.about', { n: Math.max(2, Math.round(1 / chance)) });
  return t('sure.chance.most', { n: Math.min(9, Math.round(chance * 10)) });
}
