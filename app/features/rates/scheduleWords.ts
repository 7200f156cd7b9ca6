/** The words of reading fee tables and of proofs, and what is said of proofs in more than one place. */
import type { TFunction } from 'i18next';
import type { HeldAll } from '../../../core/proofs/check.ts';
import { addWords } from '../../i18n.ts';
import { scheduleWords } from '../../locales/en.schedules.ts';

addWords(scheduleWords);

/** How many proofs a card meets, and how many of them cannot be told. */
export function meetsSaid(t: TFunction, { held, met, open }: HeldAll): string {
  const count = held.length;
  const one = met === 1 ? 'proofs.meetsIt' : open === 1 ? 'proofs.cannotTell' : 'proofs.meetsNot';
  if (count === 1) return t(one);
  const all = t('proofs.meets', { count, met });
  return open === 0 ? all : `${all} ${t('proofs.open', { count: open })}`;
}
