/** The reports of a workspace: what each came to, and what is still to say of it. */
import { Box, Typography } from '@mui/material';
import { Link } from 'react-router';
import { STEPS } from '../../../core/actuals/schema.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useWords } from '../../ui/useWords.ts';

export type ReportLine = {
  readonly id: string;
  readonly name: string;
  readonly marketplace: string | null;
  readonly country: string | null;
  readonly currency: string | null;
  readonly said: {
    readonly lines: number;
    readonly amount: number;
    readonly waiting: readonly unknown[];
    readonly refusedRows: number;
    readonly first: string | null;
    readonly last: string | null;
  } | null;
};

export function Reports({ reports, base }: { reports: readonly ReportLine[]; base: string }) {
  const { t } = useWords();
  const f = useFormat();
  const openOf = ({ said }: ReportLine): string =>
    said === null
      ? t('selling.reports.notRead')
      : [
          said.waiting.length > 0 && t('selling.reports.waiting', { count: said.waiting.length }),
          said.refusedRows > 0 && t('selling.reports.refused', { count: said.refusedRows }),
        ]
          .filter(Boolean)
          .join(', ');
  return (
    <>
      <Typography variant="h3" component="h2" sx={{ mt: 3, mb: 0.5 }}>
        {t('selling.reports.title')}
      </Typography>
      {reports.length === 0 ? (
        <Typography color="text.secondary">{t('selling.reports.none')}</Typography>
      ) : (
        <FigureTable label={t('selling.reports.title')}>
          <thead>
            <tr>
              {(['name', 'place', 'period', 'lines', 'amount', 'open'] as const).map((c) => (
                <th key={c} scope="col" {...(c !== 'lines' && c !== 'amount' && { className: 'text' })}>
                  {t(`selling.reports.${c}`)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {reports.map((r) => (
              <tr key={r.id}>
                <th scope="row">
                  <Box
                    component={Link}
                    to={`${base}/selling/reports/${r.id}`}
                    sx={{ color: 'text.primary', fontWeight: 650 }}>
                    <bdi>{r.name}</bdi>
                  </Box>
                </th>
                <td className="text">{r.marketplace === null ? '–' : `${r.marketplace} ${r.country}`}</td>
                <td className="text">
                  {r.said?.first == null || r.said.last === null
                    ? '–'
                    : t('selling.period', { from: f.day(r.said.first), to: f.day(r.said.last) })}
                </td>
                <td>{r.said === null ? '–' : f.number(r.said.lines, 0)}</td>
                <td>
                  {r.said === null || r.currency === null ? '–' : f.money(r.said.amount / STEPS, r.currency)}
                </td>
                <td className="text">{openOf(r)}</td>
              </tr>
            ))}
          </tbody>
        </FigureTable>
      )}
    </>
  );
}
