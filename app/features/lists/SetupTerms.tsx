/** On what terms the rows of a list are weighed. */
import { Box, Typography } from '@mui/material';
import { ChoiceLine, NumField, TextLine } from '../../ui/Field.tsx';
import { useCurrencies } from '../../ui/names.ts';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import type { Setup, SetupData } from './useSetup.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = { data: SetupData; setup: Setup };

export function SetupTerms({ data: p, setup }: Props) {
  const { t } = useWords();
  const currencies = useCurrencies();
  const { name, setName, own, set, assume, buy, sellOn, market, previousId, setPrevious } = setup;
  return (
    <>
      <Typography variant="h2" sx={{ mb: 1 }}>
        {t('setup.terms')}
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: '10px 16px' }}>
        <Box sx={{ gridColumn: '1 / -1' }}>
          <TextLine label={t('setup.name')} value={name} onChange={setName} width="100%" />
        </Box>
        <SupplierLine data={p} setup={setup} />
        <ChoiceLine
          label={t('setup.market')}
          value={own.marketplaceCardId ?? ''}
          options={p.markets.map((m) => ({ value: m.id, label: m.name }))}
          onChange={sellOn}
          width="100%"
        />
        <ChoiceLine
          label={t('setup.method')}
          value={own.assumptions.method}
          options={(['warehouse', 'ownDispatch'] as const)
            .filter((m) => m === 'ownDispatch' || market?.hasWarehouse !== false)
            .map((m) => ({ value: m, label: t(`method.${m}`) }))}
          onChange={(method) => assume({ method })}
          width="100%"
        />
        <SearchChoice
          label={t('setup.currency')}
          value={own.assumptions.purchase.currency}
          options={currencies}
          onChange={(currency) => buy({ currency })}
          width="100%"
        />
        <ChoiceLine
          label={t('setup.packs')}
          value={own.packs}
          options={(['single', 'bought'] as const).map((v) => ({ value: v, label: t(`setup.${v}`) }))}
          onChange={(packs) => set({ packs })}
          width="100%"
        />
        <VatOfPrices setup={setup} />
        <Box sx={{ gridColumn: '1 / -1' }}>
          <ChoiceLine
            label={t('setup.category')}
            value={own.assumptions.category ?? ''}
            options={[
              { value: '', label: t('setup.noCategory') },
              ...(market?.categories ?? []).map((c) => ({ value: c.key, label: c.name })),
            ]}
            onChange={(c) => assume({ category: c === '' ? null : c })}
            width="100%"
          />
        </Box>
        {p.earlier.length > 0 && (
          <Box sx={{ gridColumn: '1 / -1' }}>
            <ChoiceLine
              label={t('setup.previous')}
              value={previousId ?? ''}
              options={[
                { value: '', label: t('setup.noPrevious') },
                ...p.earlier.map((e) => ({ value: e.id, label: e.name })),
              ]}
              onChange={(v) => setPrevious(v === '' ? null : v)}
              width="100%"
            />
          </Box>
        )}
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ mt: 1.5 }}>
        {t('setup.moreTerms')}
      </Typography>
    </>
  );
}

/** The supplier, by name or one of those that are known. */
function SupplierLine({ data: p, setup: { supplier, take } }: Props) {
  const { t } = useWords();
  return (
    <Box sx={{ gridColumn: '1 / -1' }}>
      <TextLine label={t('lists.supplier')} value={supplier} onChange={take} width="100%" />
      {supplier === '' && p.suppliers.length > 0 && (
        <Box sx={{ fontSize: '0.78rem', mt: 0.5 }}>
          {p.suppliers.slice(0, 6).map((s) => (
            <Box
              key={s.id}
              component="button"
              type="button"
              onClick={() => take(s.name)}
              sx={{
                font: 'inherit',
                color: 'inherit',
                border: 0,
                bgcolor: 'transparent',
                textDecoration: 'underline',
                cursor: 'pointer',
                p: 0.25,
                mr: 1,
              }}>
              {s.name}
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}

/** Whether prices of the file hold VAT, and at which rate. */
function VatOfPrices({ setup: { own, buy } }: { setup: Setup }) {
  const { t } = useWords();
  const asTyped = own.assumptions.purchase.vat === 'asTyped';
  return (
    <>
      <ChoiceLine
        label={t('setup.prices')}
        value={own.assumptions.purchase.vat}
        options={(['asTyped', 'included', 'added'] as const).map((v) => ({
          value: v,
          label: t(`setup.${v}`),
        }))}
        onChange={(vat) => buy({ vat, vatRate: vat === 'asTyped' ? 0 : own.assumptions.purchase.vatRate })}
        width="100%"
      />
      <NumField
        label={t('setup.vatRate')}
        kind="percent"
        value={asTyped ? null : own.assumptions.purchase.vatRate}
        max={1}
        onChange={(x) =>
          buy(
            x === null
              ? { vat: 'asTyped', vatRate: 0 }
              : { vatRate: x, vat: asTyped ? 'added' : own.assumptions.purchase.vat },
          )
        }
        width="100%"
      />
      {asTyped && (
        <Box sx={{ gridColumn: '1 / -1', fontSize: '0.76rem', color: 'text.secondary' }}>
          {t('setup.asTypedHelp')}
        </Box>
      )}
    </>
  );
}
