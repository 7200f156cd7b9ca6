/** What a tax card says, as tables. */
import { Box } from '@mui/material';
import type { TFunction } from 'i18next';
import type { TaxCard } from '../../../core/cards/rates.ts';
import type { Standing } from '../../../core/lane/schema.ts';
import { useFormat } from '../../ui/locale.ts';
import type { Format } from '../../ui/locale.ts';
import { Rows } from './tableParts.tsx';
import { useWords } from '../../ui/useWords.ts';

const listed = (parts: (string | false)[], none: string) => parts.filter(Boolean).join(' + ') || none;

function dutyText(d: TaxCard['duties'][number], currency: string, t: TFunction, f: Format): string {
  const duty = listed(
    [
      d.pct > 0 && f.percent(d.pct),
      d.perUnit > 0 && t('rates.aUnit', { amount: f.money(d.perUnit, currency) }),
      d.perKg > 0 && t('rates.aKg', { amount: f.money(d.perKg, currency) }),
    ],
    f.percent(0),
  );
  return d.additional ? t('rates.onTop', { duty }) : duty;
}

function chargeText(c: TaxCard['importCharges'][number], currency: string, t: TFunction, f: Format): string {
  const limits = [
    c.min !== null && t('rates.atLeast', { amount: f.money(c.min, currency) }),
    c.max !== null && t('rates.atMost', { amount: f.money(c.max, currency) }),
  ].filter(Boolean);
  const share =
    (c.pct > 0 || limits.length > 0) &&
    [t('rates.ofCustoms', { pct: f.percent(c.pct) }), ...limits].join(', ');
  return listed(
    [share, c.flat > 0 && `${f.money(c.flat, currency)} ${t('rates.aShipment')}`],
    t('line.none'),
  );
}

/** A country's tax card, readable. */
export function TaxTables({
  card,
  standing,
  base,
}: {
  card: TaxCard;
  standing: Standing | null;
  base: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  return (
    <Box sx={{ maxWidth: 640 }}>
      <Rows
        caption={t('rates.vat')}
        head={[
          t('form.taxClass'),
          t('rates.rate'),
          ...(card.importVatRates === null ? [] : [t('rates.importVat')]),
        ]}>
        {Object.entries(card.vatRates).map(([k, v]) => (
          <tr key={k}>
            <td>{k}</td>
            <td>{f.percent(v)}</td>
            {card.importVatRates !== null && <td>{f.percent(card.importVatRates[k] ?? v)}</td>}
          </tr>
        ))}
      </Rows>
      <Rows caption={t('rates.rules')} head={[t('rates.what'), t('rates.howMuch')]}>
        <tr>
          <td>{t('rates.regime')}</td>
          <td>{t(`regime.${card.regime}`)}</td>
        </tr>
        <tr>
          <td>{t('rates.standing')}</td>
          <td>
            {standing === null ? t('standing.missing') : t(`standing.${standing.kind}`)} ·{' '}
            <a href={`${base}/settings#standing`}>{t('rates.change')}</a>
          </td>
        </tr>
        {card.checkoutTax > 0 && (
          <tr>
            <td>{t('rates.checkoutTax')}</td>
            <td>{f.percent(card.checkoutTax)}</td>
          </tr>
        )}
        <tr>
          <td>{t('rates.customsBasis')}</td>
          <td>{t(`rates.basis.${card.customsBasis}`)}</td>
        </tr>
        <tr>
          <td>{t('rates.importVatBase')}</td>
          <td>{t(`rates.vatBase.${card.importVatBase}`)}</td>
        </tr>
        <tr>
          <td>{t('rates.dutyFree')}</td>
          <td>{card.dutyFreeLimit === null ? t('line.none') : f.money(card.dutyFreeLimit, card.currency)}</td>
        </tr>
      </Rows>
      <Rows caption={t('rates.duty')} head={[t('rates.heading'), t('form.origin'), t('rates.rate')]}>
        {card.duties.map((d) => (
          <tr key={`${d.heading}${d.origins?.join()}`}>
            <td>{d.heading === '' ? t('rates.anyHeading') : d.heading}</td>
            <td>{d.origins?.join(', ') ?? t('rates.anyOrigin')}</td>
            <td>{dutyText(d, card.currency, t, f)}</td>
          </tr>
        ))}
      </Rows>
      <Rows caption={t('rates.charges')} head={[t('rates.what'), t('rates.howMuch')]}>
        {card.importCharges.map((c) => (
          <tr key={c.name}>
            <td>{c.name}</td>
            <td>{chargeText(c, card.currency, t, f)}</td>
          </tr>
        ))}
      </Rows>
    </Box>
  );
}
