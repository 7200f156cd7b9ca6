/** What the launch takes line by line, and what the cash allows. */
import { Box, Typography } from '@mui/material';
import { NumField } from '../../ui/Field.tsx';
import { lacksOfLine } from '../../../core/launch/bounds.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { floorTo, useFormat } from '../../ui/locale.ts';
import { useBounds } from '../../ui/bounds.ts';
import { budgetLines, useFundRows } from './fundParts.tsx';
import type { FundPart } from './fundParts.tsx';
import { useWords } from '../../ui/useWords.ts';

export function FundBudget({ plan, set, result, view, orders, home }: FundPart) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const { row, explain, bound } = useFundRows(result, plan, home);
  const b = result.budget;
  const Q = view.doc.orderQuantity ?? orders.first;
  return (
    <Box component="section" aria-label={t('fund.budget')} sx={{ fontSize: '0.9rem' }}>
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
        {t('fund.budget')}
      </Typography>
      {b === null ? (
        <Typography variant="body2">{t('launch.noQuantity')}</Typography>
      ) : (
        <>
          {budgetLines(result, b, t, f).map(([key, label, amount]) => {
            const said = bounds.of(amount, lacksOfLine(key, view.result, result), 'atLeast');
            return (
              <Box key={key}>
                {row(label, key === 'goods' || key === 'contingency' ? explain(key, label, said) : said)}
              </Box>
            );
          })}
          {row(
            t('launch.total'),
            explain(
              'total',
              t('launch.total'),
              b.total === null ? '–' : bounds.of(f.money(b.total, home), result.incomplete, 'atLeast'),
            ),
            true,
          )}
          {b.leftOfCash !== null &&
            row(
              t(b.leftOfCash < 0 ? 'fund.shortfall' : 'fund.left'),
              bounds.of(
                f.money(Math.abs(b.leftOfCash), home),
                result.incomplete,
                b.leftOfCash < 0 ? 'atLeast' : 'atMost',
              ),
            )}
        </>
      )}
      <Typography variant="h3" component="h2" sx={{ mt: 3, mb: 1 }}>
        {t('fund.affordTitle')}
      </Typography>
      {row(
        t('fund.productBudget'),
        explain(
          'productBudget',
          t('fund.productBudget'),
          bound('productBudget', f.money(result.productBudget, home)),
        ),
      )}
      {row(
        t('fund.mostUnits'),
        explain(
          'mostUnits',
          t('fund.mostUnits'),
          result.mostUnits === null
            ? '–'
            : bounds.of(
                f.number(result.mostUnits),
                result.bounds.mostUnits === undefined ? [] : result.incomplete,
              ),
        ),
      )}
      {result.smallestOrder !== Q &&
        row(
          t('fund.mostPerUnit', { quantity: f.number(result.smallestOrder) }),
          explain(
            'mostPerUnitSmallest',
            t('fund.mostPerUnit', { quantity: f.number(result.smallestOrder) }),
            bound(
              'mostPerUnitSmallest',
              f.money(
                result.mostPerUnitSmallest === null ? null : floorTo(result.mostPerUnitSmallest, 2),
                home,
              ),
            ),
          ),
        )}
      {row(
        t('fund.mostPerUnit', { quantity: f.number(Q) }),
        explain(
          'mostPerUnit',
          t('fund.mostPerUnit', { quantity: f.number(Q) }),
          bound(
            'mostPerUnit',
            f.money(result.mostPerUnit === null ? null : floorTo(result.mostPerUnit, 2), home),
          ),
        ),
      )}
      {row(
        t('fund.mostUnitPrice'),
        bound(
          'mostUnitPrice',
          f.money(
            result.mostUnitPrice === null
              ? null
              : floorTo(result.mostUnitPrice, minorDigits(result.mostUnitPriceCurrency)),
            result.mostUnitPriceCurrency,
          ),
        ),
      )}
      {row(
        t('fund.band', { low: f.number(plan.priceMultiples.low), high: f.number(plan.priceMultiples.high) }),
        result.shelfPriceBand === null
          ? '–'
          : bound(
              'shelfPriceBand',
              `${f.money(result.shelfPriceBand.low, home)} – ${f.money(result.shelfPriceBand.high, home)}`,
            ),
      )}
      <Box sx={{ display: 'flex', gap: 1.5, mt: 0.5 }}>
        <NumField
          label={t('fund.multipleLow')}
          value={plan.priceMultiples.low}
          onChange={(v) => set({ priceMultiples: { ...plan.priceMultiples, low: v ?? 0 } })}
          kind="number"
          step={0.5}
          width={110}
        />
        <NumField
          label={t('fund.multipleHigh')}
          value={plan.priceMultiples.high}
          onChange={(v) => set({ priceMultiples: { ...plan.priceMultiples, high: v ?? 0 } })}
          kind="number"
          step={0.5}
          width={110}
        />
      </Box>
    </Box>
  );
}
