/** Quantities beside each other, and the goal a month. */
import { unitsADay } from '../../../core/rules/result.ts';
import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { boundWithout } from '../../../core/lane/bounds.ts';
import type { BudgetAt } from '../../../core/launch/schema.ts';
import { conversionsOf } from '../../../core/money/money.ts';
import { RatesUsed } from '../../ui/RatesUsed.tsx';
import { TableFile } from '../../ui/TableFile.tsx';
import { NumField } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Bounded } from '../../ui/Bounded.tsx';
import { useBounds } from '../../ui/bounds.ts';
import { useFundRows } from './fundParts.tsx';
import type { FundPart } from './fundParts.tsx';
import { QuantityChart } from './QuantityChart.tsx';
import { useWords } from '../../ui/useWords.ts';

export function FundCompare({ plan, set, result, view, orders, quantities, candidate, home }: FundPart) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const { bound } = useFundRows(result, plan, home);
  const unitLacks = view.result.incomplete.unitProfit;
  const goodsLack = view.result.incomplete.landedCash;
  const said = (x: number | null, lacks: readonly string[] | undefined, way?: 'atLeast'): ReactNode =>
    x === null ? '–' : <Bounded amount={f.plain(x, home)} words={bounds.of(f.plain(x, home), lacks, way)} />;
  return (
    <Box component="section" aria-label={t('fund.compare')} sx={{ fontSize: '0.9rem' }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
          {t('fund.compare')}
        </Typography>
        <TableFile
          table={() => ({
            name: `${candidate.name} ${t('fund.compare')}`,
            columns: [
              'form.orderQuantity',
              'fund.unitCash',
              'fund.goodsCash',
              'fund.totalCash',
              'fund.leftRow',
              'fund.unitProfitRow',
              'fund.cover',
              'fund.fits',
              'fund.boundColumn',
            ].map((k) => ({ title: t(k) })),
            rows: result.compared.map((c) => [
              c.quantity,
              c.unitLandedCash,
              c.lines.goods,
              c.total,
              c.leftOfCash,
              c.unitProfit,
              c.coverMonths,
              c.admissible,
              t(`bound.word.${boundWithout(result.incomplete, 'atLeast') ?? 'whole'}`),
            ]),
          })}
        />
      </Box>
      <Box
        component="table"
        sx={{
          width: '100%',
          borderCollapse: 'collapse',
          '& th, & td': { textAlign: 'right', py: 0.35, fontWeight: 400 },
          '& th:first-of-type': { textAlign: 'left' },
        }}>
        <thead>
          <tr>
            <th scope="col">{t('form.orderQuantity')}</th>
            {result.compared.map((_, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: three columns in fixed places
              <th scope="col" key={i}>
                <Box sx={{ display: 'flex', justifyContent: 'flex-end' }}>
                  <NumField
                    label={t('fund.quantity', { n: i + 1 })}
                    value={quantities[i] ?? null}
                    onChange={(v) => set({ quantities: quantities.map((q, j) => (j === i ? (v ?? q) : q)) })}
                    kind="number"
                    min={0.000001}
                    max={1e9}
                    step={orders.step}
                    width={76}
                  />
                </Box>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {(
            [
              ['unitCash', (c) => said(c.unitLandedCash, goodsLack, 'atLeast')],
              ['goodsCash', (c) => said(c.lines.goods, goodsLack, 'atLeast')],
              ['totalCash', (c) => said(c.total, result.incomplete, 'atLeast')],
              ['leftRow', (c) => said(c.leftOfCash, result.incomplete), (c) => c.leftOfCash],
              ['unitProfitRow', (c) => said(c.unitProfit, unitLacks), (c) => c.unitProfit],
              ['cover', (c) => f.number(c.coverMonths, 1)],
              ['fits', (c) => t(c.admissible ? 'yes' : 'no')],
            ] as [string, (c: BudgetAt) => ReactNode, ((c: BudgetAt) => number | null)?][]
          ).map(([k, get, loses]) => (
            <tr key={k}>
              <th scope="row">{t(`fund.${k}`)}</th>
              {result.compared.map((c) => (
                <Box
                  component="td"
                  key={c.quantity}
                  sx={{ color: (loses?.(c) ?? 0) < 0 ? 'error.main' : 'inherit' }}>
                  {get(c)}
                </Box>
              ))}
            </tr>
          ))}
        </tbody>
      </Box>
      <QuantityChart
        compared={result.compared}
        cash={plan.cash === null ? null : plan.cash - plan.reserve}
        currency={home}
      />
      <Typography variant="h3" component="h2" sx={{ mt: 2, mb: 1 }}>
        {t('fund.goalTitle')}
      </Typography>
      <Box sx={{ display: 'flex', gap: 2 }}>
        <NumField
          label={t('fund.goal')}
          value={plan.monthlyProfitGoal}
          onChange={(v) => set({ monthlyProfitGoal: v })}
          kind="money"
          currency={home}
          step={50}
          width={140}
        />
        <NumField
          label={t('form.monthlyFixed')}
          value={plan.monthlyFixedCosts}
          onChange={(v) => set({ monthlyFixedCosts: v ?? 0 })}
          kind="money"
          currency={home}
          step={10}
          width={170}
        />
      </Box>
      <Box sx={{ mt: 0.75 }} data-testid="goal-answer">
        {result.unitsADay === null
          ? result.reasons.unitsADay
            ? t('fund.noGoalUnits')
            : ''
          : t('fund.goalUnits', {
              units: bound('unitsADay', f.number(result.unitsADay, 1)),
              sells: f.number(unitsADay(view.result.figures.expectedMonthlyUnits ?? 0), 1),
            })}
      </Box>
      <RatesUsed rates={conversionsOf([view.doc], home)} />
      <Box>
        {result.monthsToPayBack !== null
          ? t('fund.payBack', { months: bound('monthsToPayBack', f.number(result.monthsToPayBack, 1)) })
          : result.reasons.monthsToPayBack?.startsWith('beyond')
            ? t('fund.payBackBeyond')
            : ''}{' '}
        {result.breakEvenUnits === null
          ? ''
          : t('fund.breakEvenUnits', {
              units: bound('breakEvenUnits', f.number(result.breakEvenUnits)),
              month: f.number(result.breakEvenMonth),
            })}
      </Box>
    </Box>
  );
}
