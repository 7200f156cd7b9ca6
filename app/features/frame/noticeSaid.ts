/** A notice in words, on screen and in mail alike. */
import type { TFunction } from 'i18next';
import type { NoticeKind } from '../../../core/workspace/notices.ts';
import type { Format } from '../../ui/locale.ts';

type Told = { readonly kind: NoticeKind; readonly data: Record<string, string | number> };

export function noticeSaid({ kind, data }: Told, t: TFunction, f: Format): string {
  const money = (amount: string | number | undefined): string =>
    f.money(Number(amount), String(data.currency));
  switch (kind) {
    case 'underHurdle':
      return t('notices.underHurdle', {
        ...data,
        figure: t(`figure.${data.figure}`),
        before: money(data.before),
        after: money(data.after),
      });
    case 'underBreakEven':
      return t('notices.underBreakEven', {
        ...data,
        price: money(data.price),
        breakEven: money(data.breakEven),
      });
    case 'drift':
      return t(Number(data.each) < 0 ? 'notices.drift' : 'notices.driftUp', {
        name: data.name,
        line: data.line === 'price' ? t('notices.driftPrice') : t(`lines.${data.line}`),
        each: money(Math.abs(Number(data.each))),
        year: money(Math.abs(Number(data.year))),
      });
    default:
      return t(`notices.${kind}`, { ...data, count: Number(data.count ?? 0) });
  }
}
