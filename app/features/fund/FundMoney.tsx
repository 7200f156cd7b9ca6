/** Cash, one-offs, advertising until the launch runs: what the launch is asked to pay. */
import { Box, Button, Typography } from '@mui/material';
import { ChoiceLine, NumField, TextLine } from '../../ui/Field.tsx';
import { CashFields } from './CashFields.tsx';
import type { FundPart } from './fundParts.tsx';
import { useWords } from '../../ui/useWords.ts';

export function FundMoney({ plan, set, home }: FundPart) {
  const { t } = useWords();
  return (
    <Box component="section" aria-label={t('fund.money')}>
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
        {t('fund.money')}
      </Typography>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', mb: 2 }}>
        <CashFields money={plan} set={set} currency={home} />
        <NumField
          label={t('fund.contingency')}
          value={plan.contingency}
          onChange={(v) => set({ contingency: v ?? 0 })}
          kind="percent"
          max={10}
          width={110}
        />
      </Box>
      <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
        {t('launch.oneOffsTitle')}
      </Typography>
      {plan.oneOffs.map((o, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by their place alone
        <Box key={i} sx={{ display: 'flex', gap: 1.5, alignItems: 'flex-end', mb: 0.75 }}>
          <TextLine
            label={t('form.name')}
            value={o.name}
            onChange={(v) => set({ oneOffs: plan.oneOffs.map((x, j) => (j === i ? { ...x, name: v } : x)) })}
            width={150}
          />
          <NumField
            label={t('form.amount')}
            value={o.amount}
            onChange={(v) =>
              set({ oneOffs: plan.oneOffs.map((x, j) => (j === i ? { ...x, amount: v } : x)) })
            }
            kind="money"
            currency={home}
            step={10}
            width={110}
          />
          <Button
            size="small"
            aria-label={t('line.removeNumber', { n: i + 1 })}
            sx={{ minWidth: 0, color: 'text.secondary' }}
            onClick={() => set({ oneOffs: plan.oneOffs.filter((_, j) => j !== i) })}>
            {t('line.remove')}
          </Button>
        </Box>
      ))}
      <Button size="small" onClick={() => set({ oneOffs: [...plan.oneOffs, { name: '', amount: null }] })}>
        {t('fund.addOneOff')}
      </Button>
      <Typography variant="h3" component="h2" sx={{ mt: 2, mb: 0.5 }}>
        {t('launch.advertisingTitle')}
      </Typography>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        <ChoiceLine
          label={t('fund.advertisingBy')}
          value={plan.advertising?.kind ?? ''}
          options={[
            { value: '', label: t('line.blank') },
            { value: 'daily', label: t('fund.daily') },
            { value: 'units', label: t('fund.byUnits') },
          ]}
          onChange={(v) =>
            set({
              advertising:
                v === 'daily'
                  ? { kind: 'daily', perDay: null, days: null }
                  : v === 'units'
                    ? { kind: 'units', units: null }
                    : null,
            })
          }
          width={150}
        />
        {plan.advertising?.kind === 'daily' && (
          <>
            <NumField
              label={t('fund.perDay')}
              value={plan.advertising.perDay}
              onChange={(v) =>
                set({
                  advertising: {
                    kind: 'daily',
                    perDay: v,
                    days: (plan.advertising as { days: number | null }).days,
                  },
                })
              }
              kind="money"
              currency={home}
              step={1}
              width={110}
            />
            <NumField
              label={t('fund.days')}
              value={plan.advertising.days}
              onChange={(v) =>
                set({
                  advertising: {
                    kind: 'daily',
                    perDay: (plan.advertising as { perDay: number | null }).perDay,
                    days: v,
                  },
                })
              }
              kind="number"
              width={80}
            />
          </>
        )}
        {plan.advertising?.kind === 'units' && (
          <NumField
            label={t('fund.advertUnits')}
            value={plan.advertising.units}
            onChange={(v) => set({ advertising: { kind: 'units', units: v } })}
            kind="number"
            width={140}
          />
        )}
        <NumField
          label={t('fund.discountUnits')}
          value={plan.discounts.units}
          onChange={(v) => set({ discounts: { ...plan.discounts, units: v ?? 0 } })}
          kind="number"
          width={120}
        />
        <NumField
          label={t('fund.discountEach')}
          value={plan.discounts.discount}
          onChange={(v) => set({ discounts: { ...plan.discounts, discount: v ?? 0 } })}
          kind="money"
          currency={home}
          width={120}
        />
      </Box>
    </Box>
  );
}
