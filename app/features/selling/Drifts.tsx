/** Lines that have left the plan for two periods running, and hurdles held against what came. */
import { Box, Typography } from '@mui/material';
import type { Drift } from '../../../core/actuals/drift.ts';
import { unitOf } from '../../../core/lane/figures.ts';
import type { HurdleResult } from '../../../core/lane/hurdles.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useLineName } from './parts.tsx';
import { useWords } from '../../ui/useWords.ts';

export function Drifts({ drifts, currency }: { drifts: readonly Drift[]; currency: string }) {
  const { t } = useWords();
  const f = useFormat();
  const nameOf = useLineName();
  if (drifts.length === 0) return null;
  const money = (x: number): string => f.money(x, currency);
  const signed = (x: number): string => `${x > 0 ? '+' : ''}${money(x)}`;
  return (
    <>
      <Typography variant="h3" component="h2" sx={{ mt: 2.5, mb: 0.5 }}>
        {t('launched.drift.title')}
      </Typography>
      <FigureTable label={t('launched.drift.title')}>
        <thead>
          <tr>
            {(['line', 'planned', 'actual', 'each', 'year'] as const).map((h) => (
              <th scope="col" key={h}>
                {t(`launched.drift.${h}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {drifts.map((d) => (
            <tr key={d.what}>
              <th scope="row">{d.what === 'price' ? t('launched.price') : nameOf(d.what)}</th>
              <td>{money(d.planned)}</td>
              <td>{money(d.actual)}</td>
              <td className={d.each < 0 ? 'loss' : undefined}>{signed(d.each)}</td>
              <td className={d.each < 0 ? 'loss' : undefined}>{signed(d.year)}</td>
            </tr>
          ))}
        </tbody>
      </FigureTable>
    </>
  );
}

/** Hurdles by what came in the last two periods, each in words. */
export function HurdlesMet({ hurdles, currency }: { hurdles: readonly HurdleResult[]; currency: string }) {
  const { t } = useWords();
  const f = useFormat();
  if (hurdles.length === 0) return null;
  const figure = (h: HurdleResult, x: number | null): string => {
    const unit = unitOf(h.hurdle.figure);
    if (unit === 'money') return f.money(x, currency);
    return unit === 'share' ? f.percent(x) : f.number(x, 1);
  };
  return (
    <Typography sx={{ mt: 1.5 }} data-testid="hurdles-met">
      {t('launched.hurdles')}{' '}
      {hurdles.map((h) => (
        <Box
          component="span"
          key={`${h.hurdle.figure}/${h.hurdle.bound}`}
          sx={{ mr: 1.5, ...(h.verdict === 'fail' && { color: 'error.main', fontWeight: 600 }) }}>
          {t('launched.hurdle', {
            figure: t(`figure.${h.hurdle.figure}`),
            value: figure(h, h.value),
            level: figure(h, h.level),
            verdict: t(`launched.verdict.${h.verdict}`),
          })}
        </Box>
      ))}
    </Typography>
  );
}
