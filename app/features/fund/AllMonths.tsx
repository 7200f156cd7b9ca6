/** All planned launches, month by month: own units, revenue apart from profit, the account; as a range. */
import { Box, Button, Typography } from '@mui/material';
import { useMemo } from 'react';
import { Trans } from 'react-i18next';
import { Link } from 'react-router';
import { allMonthsOf } from '../../../core/workspace/allMonths.ts';
import type { PurseSource } from '../../../core/workspace/purse.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { FundWays } from './FundWays.tsx';
import { useLacks } from './useLacks.ts';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

export function AllMonths({ source, base }: { source: PurseSource; base: string }) {
  const { t } = useWords();
  const f = useFormat();
  const lacksInWords = useLacks();
  const said = useMemo(() => allMonthsOf(source), [source]);
  const home = source.settings.homeCurrency;
  const { launch } = source.settings;
  const { months, total, launches } = said;
  const monthName = (m: string): string => `${f.monthName(Number(m.slice(5)))} ${m.slice(0, 4)}`;
  const range = (low: number, high: number): string => `${f.number(low, 0)} – ${f.number(high, 0)}`;
  const plans = launches
    .map((l) => `${l.name}, ${f.number(l.quantity, 0)} ${t('allMonths.on', { day: f.dayShort(l.start) })}`)
    .join('; ');
  const loss = total.profit.low < 0 ? 'error.main' : 'inherit';
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Typography variant="h1" sx={{ mb: 1.5 }}>
        {t('nav.fund')}
      </Typography>
      <FundWays base={base} candidate={null} lane={null} here="months" />
      <Typography
        variant="h4"
        component="p"
        data-testid="months-answer"
        sx={{ mb: 1, '& strong': { fontWeight: 720 } }}>
        {launches.length === 0 ? (
          t('allMonths.none')
        ) : (
          <Trans
            i18nKey="allMonths.answer"
            count={launches.length}
            values={{
              from: f.day(said.from),
              to: f.day(said.to),
              count: launches.length,
              low: f.money(total.profit.low, home),
              mid: f.money(total.profit.expected, home),
              high: f.money(total.profit.high, home),
              revenue: f.money(total.revenue.expected, home),
            }}
            components={{
              b: <Box component="strong" sx={{ color: loss }} />,
              k: (
                <Box
                  component="strong"
                  sx={{ color: total.profit.expected < 0 ? 'error.main' : 'primary.main' }}
                />
              ),
            }}
          />
        )}
      </Typography>
      {launches.length === 0 ? (
        <Button component={Link} to={`${base}/fund/purse`} variant="contained">
          {t('fundViews.purse')}
        </Button>
      ) : (
        <>
          <Typography variant="body2" color="text.secondary" sx={{ mb: 2 }}>
            {t('allMonths.assumes', { plans, fixed: f.money(launch.monthlyFixedCosts, home) })}
          </Typography>
          <Box sx={{ display: 'flex', justifyContent: 'flex-end' }}>
            <TableFile
              table={() => ({
                name: t('allMonths.title'),
                columns: [
                  t('allMonths.month'),
                  ...(['units', 'revenue', 'profit', 'cash'] as const).flatMap((k) =>
                    (['low', 'expected', 'high'] as const).map(
                      (c) => `${t(`allMonths.${k}`)}, ${t(`allMonths.case.${c}`)}`,
                    ),
                  ),
                ].map((title) => ({ title })),
                rows: months.map((m) => [
                  m.month,
                  ...[m.units, m.revenue, m.profit, m.account].flatMap((x) => [x.low, x.expected, x.high]),
                ]),
              })}
            />
          </Box>
          <FigureTable label={t('allMonths.title')}>
            <thead>
              <tr>
                <th scope="col">{home}</th>
                {(['units', 'revenue', 'profit', 'range', 'cash'] as const).map((k) => (
                  <th scope="col" key={k}>
                    {t(`allMonths.${k}`)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {months.map((m) => (
                <tr key={m.month}>
                  <th scope="row">{monthName(m.month)}</th>
                  <td>{f.number(m.units.expected, 0)}</td>
                  <td>{f.plain(m.revenue.expected, home)}</td>
                  <td className={m.profit.expected < 0 ? 'total loss' : 'total'}>
                    {f.plain(m.profit.expected, home)}
                  </td>
                  <td className="quiet">
                    {range(Math.min(m.profit.low, m.profit.high), Math.max(m.profit.low, m.profit.high))}
                  </td>
                  <td className={m.account.expected < 0 ? 'loss' : undefined}>
                    {f.plain(m.account.expected, home)}
                  </td>
                </tr>
              ))}
              <Box component="tr" sx={{ fontWeight: 680 }}>
                <th scope="row">{t('allMonths.year')}</th>
                <td>{f.number(total.units.expected, 0)}</td>
                <td>{f.plain(total.revenue.expected, home)}</td>
                <td>{f.plain(total.profit.expected, home)}</td>
                <td>{range(total.profit.low, total.profit.high)}</td>
                <td />
              </Box>
            </tbody>
          </FigureTable>
        </>
      )}
      {said.unknown.map((u) => (
        <Typography key={u.name} variant="body2" sx={{ mt: 1 }}>
          {u.name}: {t('overTime.lacks', { what: lacksInWords(u.lacks, u.problems) })}
        </Typography>
      ))}
    </Box>
  );
}
