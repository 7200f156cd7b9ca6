/** Weigh as a table that is saved: each candidate's best lane, its own figures in its own currency. */
import type { TFunction } from 'i18next';
import { boundWithout } from '../../../core/lane/bounds.ts';
import type { TableToSave } from '../../ui/TableFile.tsx';
import type { CandidateLine } from './weighed.ts';

export function weighTable(t: TFunction, homeCurrency: string, list: readonly CandidateLine[]): TableToSave {
  return {
    name: t('nav.weigh'),
    columns: [
      t('weigh.candidate'),
      t('form.country'),
      t('family.marketplace'),
      t('weigh.keeps', { currency: homeCurrency }),
      t('figure.margin'),
      t('figure.roi'),
      t('form.currency'),
      t('weigh.breaksEven'),
      t('form.currency'),
      t('weigh.payAtMost'),
      t('weigh.launchCash', { currency: homeCurrency }),
      t('bound.column'),
    ].map((title, i) => ({ title, percent: i === 4 || i === 5 })),
    rows: list.map((l) => {
      const b = l.best;
      return [
        l.name,
        b?.country ?? null,
        b?.marketplace ?? null,
        b?.bar.currency === homeCurrency ? b.bar.figures.unitProfit : null,
        b?.margin ?? null,
        b?.roi ?? null,
        b?.currency ?? null,
        b?.breakEven ?? null,
        b?.mostToPayCurrency ?? null,
        b?.mostToPay ?? null,
        b?.launchCash ?? null,
        b === null
          ? null
          : t(`bound.word.${boundWithout(b.bar.incomplete.unitProfit ?? [], 'atMost') ?? 'whole'}`),
      ];
    }),
  };
}
