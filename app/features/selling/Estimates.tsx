/** How good one's estimates were, by input, over all launches. */
import { Typography } from '@mui/material';
import type { EstimateSaid } from '../../../core/actuals/estimates.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useWords } from '../../ui/useWords.ts';

export function Estimates({ estimates }: { estimates: readonly EstimateSaid[] }) {
  const { t } = useWords();
  const f = useFormat();
  if (estimates.length === 0) return null;
  const signed = (x: number): string => `${x > 0 ? '+' : ''}${f.percent(x, 0)}`;
  return (
    <>
      <Typography variant="h3" component="h2" sx={{ mt: 3, mb: 0.5 }}>
        {t('selling.estimates.title')}
      </Typography>
      <Typography variant="body2" color="text.secondary">
        {t('selling.estimates.lead')}
      </Typography>
      <FigureTable label={t('selling.estimates.title')}>
        <thead>
          <tr>
            {(['input', 'launches', 'middle', 'least', 'most', 'width'] as const).map((h) => (
              <th scope="col" key={h}>
                {t(`selling.estimates.${h}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {estimates.map((e) => (
            <tr key={e.input}>
              <th scope="row">{t(`selling.estimates.of.${e.input}`)}</th>
              <td>{f.number(e.launches, 0)}</td>
              <td>{signed(e.middle)}</td>
              <td>{signed(e.least)}</td>
              <td>{signed(e.most)}</td>
              <td>{e.width === null ? t('selling.estimates.tooFew') : f.percent(e.width, 0)}</td>
            </tr>
          ))}
        </tbody>
      </FigureTable>
    </>
  );
}
