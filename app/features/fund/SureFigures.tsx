/** The figures of the draws: a unit and the launch side by side, and how often hurdles are reached. */
import { Box } from '@mui/material';
import type { RiskKnown } from '../../../core/risk/risk.ts';
import { FigureTable, HiddenHead } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { useWords } from '../../ui/useWords.ts';

const FIGURES = ['p5', 'p50', 'p95', 'mean'] as const;

export function SureFigures({ said, name }: { said: RiskKnown; name: string }) {
  const { t } = useWords();
  const f = useFormat();
  const outcomes = [said.unit, ...(said.launch === null ? [] : [said.launch])];
  const titles = [t('sure.unit'), ...(said.launch === null ? [] : [t('sure.launch')])];
  const level = (h: RiskKnown['hurdles'][number]['hurdle']): string =>
    `${t(`figure.${h.figure}`)} ${h.bound === 'atLeast' ? '≥' : '≤'} ${f.number(h.level, 2)}`;
  return (
    <Box sx={{ mb: 2 }}>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end' }}>
        <TableFile
          table={() => ({
            name: `${name} ${t('sure.title')}`,
            columns: ['', ...titles].map((title) => ({ title: title || t('sure.title') })),
            rows: [
              ...FIGURES.map((k) => [t(`sure.figure.${k}`), ...outcomes.map((o) => o.spread[k])]),
              [t('sure.figure.loss'), ...outcomes.map((o) => o.spread.loss.chance)],
              [t('sure.seed'), said.seed],
            ],
          })}
        />
      </Box>
      <FigureTable label={t('sure.title')}>
        <thead>
          <tr>
            <HiddenHead>{t('sure.title')}</HiddenHead>
            {titles.map((x) => (
              <th scope="col" key={x}>
                {x}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {FIGURES.map((k) => (
            <tr key={k}>
              <th scope="row">{t(`sure.figure.${k}`)}</th>
              {outcomes.map((o, i) => (
                <td key={titles[i]} className={o.spread[k] < 0 ? 'loss' : undefined}>
                  {f.money(o.spread[k], said.currency)}
                </td>
              ))}
            </tr>
          ))}
          <tr>
            <th scope="row">{t('sure.figure.loss')}</th>
            {outcomes.map((o, i) => (
              <td key={titles[i]}>
                {f.percent(o.spread.loss.chance, 1)}{' '}
                <span className="quiet">
                  {t('sure.error', { x: f.percent(o.spread.loss.standardError, 1) })}
                </span>
              </td>
            ))}
          </tr>
          {said.hurdles.map(({ hurdle, reached }) => (
            <tr key={`${hurdle.figure}${hurdle.bound}${hurdle.level}`}>
              <th scope="row">{level(hurdle)}</th>
              <td>{f.percent(reached.chance, 1)}</td>
              {outcomes.length > 1 && <td />}
            </tr>
          ))}
        </tbody>
      </FigureTable>
    </Box>
  );
}
