/** The groups of assumptions that all rows of a list are weighed under. */
import { Box } from '@mui/material';
import type { Hurdle } from '../../../core/lane/hurdleSchema.ts';
import { HURDLE_FIGURES } from '../../../core/lane/hurdles.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';
import { ChoiceLine, NumField } from '../../ui/Field.tsx';
import { hurdleKind } from '../../ui/figures.ts';
import { NewHurdle } from '../../ui/NewHurdle.tsx';
import type { ReactNode } from 'react';
import { useWords } from '../../ui/useWords.ts';

/** Figures of a row that a hurdle can be about here. */
const ROW_HURDLES = HURDLE_FIGURES.filter((h) => !['yearlyReturnOnCash', 'coverMonths'].includes(h));
export type Terms = {
  own: ListSettings;
  onChange: (s: ListSettings) => void;
  home: string;
  sales: string;
  categories: readonly { key: string; name: string }[];
  hasBasis: readonly string[];
  /** The supplier's categories that the card does not have. */
  strange: readonly (readonly [string, number])[];
};

const half = '100%';
const assuming =
  (own: ListSettings, onChange: Terms['onChange']) =>
  (over: Partial<ListSettings['assumptions']>): void =>
    onChange({ ...own, assumptions: { ...own.assumptions, ...over } });

function Heading({ children }: { children: ReactNode }) {
  return (
    <Box component="h3" sx={{ gridColumn: '1 / -1', m: 0, mt: 1, fontSize: '0.8rem', fontWeight: 680 }}>
      {children}
    </Box>
  );
}

/** How the supplier's prices are meant, and what comes off them. */
export function BuyingTerms({ own, onChange }: Terms) {
  const { t } = useWords();
  const a = own.assumptions;
  const assume = assuming(own, onChange);
  const buy = (over: Partial<ListSettings['assumptions']['purchase']>): void =>
    assume({ purchase: { ...a.purchase, ...over } });
  const asTyped = a.purchase.vat === 'asTyped';
  return (
    <>
      <Heading>{t('assume.money')}</Heading>
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
    </>
  );
}

/** What it takes to have the goods where they are sold. */
export function CostTerms({ own, onChange, home }: Terms) {
  const { t } = useWords();
  const a = own.assumptions;
  const assume = assuming(own, onChange);
  return (
    <>
      <Heading>{t('assume.cost')}</Heading>
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
    </>
  );
}

/** How they sell, and in which categories. */
export function SaleTerms({ own, onChange, home, sales, categories, hasBasis, strange }: Terms) {
  const { t } = useWords();
  const a = own.assumptions;
  const assume = assuming(own, onChange);
  const terms = a.returns === null || a.returns === 'none' ? null : a.returns;
  return (
    <>
      <Heading>{t('assume.sale')}</Heading>
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
    </>
  );
}

/** What a row has to reach. */
export function HurdleTerms({ own, onChange, home }: Terms) {
  const { t } = useWords();
  const a = own.assumptions;
  const assume = assuming(own, onChange);
  const hurdle = (i: number, over: Partial<Hurdle>): void =>
    assume({ hurdles: a.hurdles.map((h, k) => (k === i ? { ...h, ...over } : h)) });
  return (
    <>
      <Heading>{t('assume.hurdle')}</Heading>
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
    </>
  );
}
