import { Box } from '@mui/material';
import { memo } from 'react';
import { useTranslation } from 'react-i18next';
import type { Hurdle } from '../../../core/lane/hurdles.ts';
import { HURDLE_FIGURES } from '../../../core/lane/hurdles.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';
import { ChoiceLine, NumField } from '../../ui/Field.tsx';
import { hurdleKind } from '../../ui/figures.ts';
import { NewHurdle } from '../../ui/NewHurdle.tsx';

/** Figures of a row that a hurdle can be about here. */
const ROW_HURDLES = HURDLE_FIGURES.filter((h) => !['yearlyReturnOnCash', 'coverMonths'].includes(h));
type Props = {
  own: ListSettings;
  onChange: (s: ListSettings) => void;
  home: string;
  sales: string;
  categories: readonly { key: string; name: string }[];
  hasBasis: readonly string[];
  /** The supplier's categories that the card does not have. */
  strange: readonly (readonly [string, number])[];
  saved: 'saved' | 'saving' | 'tried';
  canEdit: boolean;
};

/** The assumptions all rows are weighed under, beside them: each change answers for the whole list at once. */
export const Assumptions = memo(function Assumptions({
  own,
  onChange,
  home,
  sales,
  categories,
  hasBasis,
  strange,
  saved,
  canEdit,
}: Props) {
  const { t } = useTranslation();
  const a = own.assumptions;
  const assume = (over: Partial<ListSettings['assumptions']>): void =>
    onChange({ ...own, assumptions: { ...a, ...over } });
  const buy = (over: Partial<ListSettings['assumptions']['purchase']>): void =>
    assume({ purchase: { ...a.purchase, ...over } });
  const hurdle = (i: number, over: Partial<Hurdle>): void =>
    assume({ hurdles: a.hurdles.map((h, k) => (k === i ? { ...h, ...over } : h)) });
  const terms = a.returns === null || a.returns === 'none' ? null : a.returns;
  const asTyped = a.purchase.vat === 'asTyped';
  const heading = (text: string) => (
    <Box component="h3" sx={{ gridColumn: '1 / -1', m: 0, mt: 1, fontSize: '0.8rem', fontWeight: 680 }}>
      {text}
    </Box>
  );
  const half = '100%';
  return (
    <Box component="section" aria-label={t('list.assumptions')} sx={{ fontSize: '0.86rem' }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline' }}>
        <Box
          component="h2"
          sx={{ m: 0, fontSize: '1rem', fontFamily: '"Bricolage Grotesque Variable", sans-serif' }}>
          {t('list.assumptions')}
        </Box>
        <Box role="status" sx={{ ml: 'auto', fontSize: '0.76rem', color: 'text.secondary' }}>
          {t(canEdit ? `assume.${saved}` : 'assume.tried')}
        </Box>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: '6px 14px', alignItems: 'start' }}>
        {heading(t('assume.money'))}
        <ChoiceLine
          label={t('assume.prices')}
          value={a.purchase.vat}
          options={(['asTyped', 'included', 'added'] as const).map((v) => ({
            value: v,
            label: t(`setup.${v}`),
          }))}
          onChange={(vat) => buy({ vat, vatRate: vat === 'asTyped' ? 0 : a.purchase.vatRate })}
          width={half}
        />
        <NumField
          label={t('assume.vatRate')}
          kind="percent"
          max={1}
          value={asTyped ? null : a.purchase.vatRate}
          onChange={(x) =>
            buy(
              x === null
                ? { vat: 'asTyped', vatRate: 0 }
                : { vatRate: x, vat: asTyped ? 'added' : a.purchase.vat },
            )
          }
          width={half}
        />
        <NumField
          label={t('assume.discount')}
          kind="percent"
          max={1}
          value={a.purchase.discount}
          onChange={(x) => buy({ discount: x ?? 0 })}
          width={half}
        />
        <NumField
          label={t('assume.cashback')}
          kind="percent"
          max={1}
          value={a.purchase.cashback}
          onChange={(x) => buy({ cashback: x ?? 0 })}
          width={half}
        />
        <NumField
          label={t('assume.salesTax')}
          kind="percent"
          max={1}
          value={a.purchase.salesTax}
          onChange={(x) => buy({ salesTax: x ?? 0 })}
          width={half}
        />
        <ChoiceLine
          label={t('assume.packs')}
          value={own.packs}
          options={(['single', 'bought'] as const).map((v) => ({ value: v, label: t(`setup.${v}`) }))}
          onChange={(packs) => onChange({ ...own, packs })}
          width={half}
        />
        {heading(t('assume.cost'))}
        <NumField
          label={t('assume.inboundUnit')}
          kind="money"
          currency={home}
          step={0.05}
          value={a.inbound.perUnit}
          onChange={(x) => assume({ inbound: { ...a.inbound, perUnit: x ?? 0 } })}
          width={half}
        />
        <NumField
          label={t('assume.inboundKg')}
          kind="money"
          currency={home}
          step={0.05}
          value={a.inbound.perKg}
          onChange={(x) => assume({ inbound: { ...a.inbound, perKg: x ?? 0 } })}
          width={half}
        />
        <NumField
          label={t('assume.prep')}
          kind="money"
          currency={home}
          step={0.05}
          value={a.prep}
          onChange={(prep) => assume({ prep })}
          width={half}
        />
        <NumField
          label={t('assume.quantity')}
          kind="number"
          min={1}
          value={a.orderQuantity}
          onChange={(x) => assume({ orderQuantity: x ?? 1 })}
          width={half}
        />
        {heading(t('assume.sale'))}
        {hasBasis.length > 0 && (
          <ChoiceLine
            label={t('assume.basis')}
            value={own.basis}
            options={[
              { value: 'now' as const, label: t('assume.now') },
              ...(['30', '90'] as const)
                .filter((b) => hasBasis.includes(`price${b}`))
                .map((b) => ({ value: b, label: t(`assume.${b}`) })),
            ]}
            onChange={(basis) => onChange({ ...own, basis })}
            width={half}
          />
        )}
        <NumField
          label={t('assume.adverts')}
          kind="money"
          currency={sales}
          step={0.05}
          value={a.advertPerSale}
          onChange={(advertPerSale) => assume({ advertPerSale })}
          width={half}
        />
        <NumField
          label={t('assume.units')}
          kind="percent"
          max={1}
          step={5}
          value={a.unitsShare}
          onChange={(x) => assume({ unitsShare: x ?? 1 })}
          width={half}
        />
        <NumField
          label={t('assume.returns')}
          kind="percent"
          max={0.99}
          value={terms === null ? (a.returns === 'none' ? 0 : null) : terms.rate}
          onChange={(x) =>
            assume({
              returns:
                x === null
                  ? null
                  : x === 0
                    ? 'none'
                    : { ...(terms ?? { resaleShare: 0.5, handling: null, disposal: null }), rate: x },
            })
          }
          width={half}
        />
        <NumField
          label={t('assume.months')}
          kind="number"
          value={a.monthsHeld}
          onChange={(monthsHeld) => assume({ monthsHeld })}
          width={half}
        />
        <NumField
          label={t('assume.other')}
          kind="money"
          currency={home}
          step={0.05}
          value={a.otherPerUnit}
          onChange={(x) => assume({ otherPerUnit: x ?? 0 })}
          width={half}
        />
        <ChoiceLine
          label={t('assume.category')}
          value={a.category ?? ''}
          options={[
            { value: '', label: t('setup.noCategory') },
            ...categories.map((c) => ({ value: c.key, label: c.name })),
          ]}
          onChange={(c) => assume({ category: c === '' ? null : c })}
          width={half}
        />
        {[
          ...Object.keys(own.categories),
          ...strange.map(([w]) => w).filter((w) => own.categories[w] === undefined),
        ]
          .slice(0, 40)
          .map((w) => (
            <ChoiceLine
              key={w}
              label={t('assume.theirs', { category: w })}
              value={own.categories[w] ?? ''}
              options={[
                { value: '', label: t('assume.notMatched') },
                ...categories.map((c) => ({ value: c.key, label: c.name })),
              ]}
              onChange={(c) => {
                const { [w]: _, ...rest } = own.categories;
                onChange({ ...own, categories: c === '' ? rest : { ...rest, [w]: c } });
              }}
              width={half}
            />
          ))}
        {heading(t('assume.hurdle'))}
        {a.hurdles.map((h, i) => (
          <Box
            // biome-ignore lint/suspicious/noArrayIndexKey: hurdles have no other name
            key={i}
            sx={{
              gridColumn: '1 / -1',
              display: 'grid',
              gridTemplateColumns: '1fr 78px 66px 24px',
              gap: 1,
              alignItems: 'end',
            }}>
            <ChoiceLine
              label={h.bound === 'atLeast' ? t('assume.atLeast') : t('list.to')}
              value={h.figure}
              options={ROW_HURDLES.map((x) => ({ value: x, label: t(`figure.${x}`) }))}
              onChange={(figure) => hurdle(i, { figure })}
              width="100%"
            />
            <NumField
              label={t('assume.level')}
              kind={hurdleKind(h.figure)}
              currency={home}
              min={-1e6}
              value={h.level}
              required
              onChange={(x) => x !== null && hurdle(i, { level: x })}
              width="100%"
            />
            <NumField
              label={t('assume.near')}
              kind="percent"
              max={1}
              value={h.near}
              onChange={(x) => hurdle(i, { near: x ?? 0 })}
              width="100%"
            />
            <Box
              component="button"
              type="button"
              aria-label={t('assume.drop', { name: t(`figure.${h.figure}`) })}
              onClick={() => assume({ hurdles: a.hurdles.filter((_, k) => k !== i) })}
              sx={{
                width: 24,
                height: 28,
                border: 0,
                bgcolor: 'transparent',
                color: 'text.secondary',
                font: 'inherit',
                cursor: 'pointer',
              }}>
              ×
            </Box>
          </Box>
        ))}
        {a.hurdles.length < 12 && (
          <Box sx={{ gridColumn: '1 / -1' }}>
            <NewHurdle
              add={t('assume.add')}
              figures={ROW_HURDLES}
              home={home}
              onAdd={(h) => assume({ hurdles: [...a.hurdles, h] })}
            />
          </Box>
        )}
      </Box>
    </Box>
  );
});
