import { Box, Typography } from '@mui/material';
import { HiddenHead } from '../../ui/FigureTable.tsx';
import { byMeasure, isShare } from '../../../core/compare/measures.ts';
import type { Measure } from '../../../core/compare/measures.ts';
import type { LaunchPlan } from '../../../core/launch/schema.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import type { TableToSave } from '../../ui/TableFile.tsx';
import { countryName } from '../../ui/names.ts';
import { measureOf } from './useCompared.ts';
import type { Compared } from './useCompared.ts';
import { useFigureWords } from './useFigureWords.ts';
import { useWords } from '../../ui/useWords.ts';

/** Countries down, marketplaces across: the chosen figure of the best lane of each pair. */
export function GridView({
  lanes,
  measure,
  plan,
  home,
  onChoose,
}: {
  lanes: readonly Compared[];
  measure: Measure;
  plan: LaunchPlan;
  home: string;
  onChoose: (id: string) => void;
}) {
  const { t, i18n } = useWords();
  const said = useFigureWords(plan, home);
  const value = (c: Compared): number | null => measureOf(c, measure, plan);
  const countries = [...new Set(lanes.map((c) => c.doc.country))].sort((a, b) =>
    countryName(a, i18n.language).localeCompare(countryName(b, i18n.language)),
  );
  const markets = [...new Set(lanes.map((c) => c.doc.marketplace))].sort();
  const best = byMeasure<Compared>(measure, value, (c) => c.light.whole);
  const largest = Math.max(1e-9, ...lanes.map((c) => Math.abs(value(c) ?? 0)));
  const bestIn = (country: string, m: string): Compared | undefined =>
    lanes.filter((c) => c.doc.country === country && c.doc.marketplace === m).sort(best)[0];
  const table = (): TableToSave => ({
    name: t('compare.gridOf', {
      figure: t(`compare.figure.${measure}`),
      interpolation: { escapeValue: false },
    }),
    columns: [t('form.country'), ...markets.map((m) => m || t('sheet.noMarketplace'))].map((title, i) => ({
      title,
      percent: i > 0 && isShare(measure),
    })),
    rows: countries.map((country) => [
      country,
      ...markets.map((m) => {
        const c = bestIn(country, m);
        return c === undefined ? null : value(c);
      }),
    ]),
  });
  return (
    <>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end' }}>
        <TableFile table={table} />
      </Box>
      <Box
        role="region"
        tabIndex={0}
        aria-label={t('compare.gridOf', {
          figure: t(`compare.figure.${measure}`),
          interpolation: { escapeValue: false },
        })}
        sx={{ overflowX: 'auto' }}>
        <Box
          component="table"
          sx={{
            borderCollapse: 'collapse',
            fontSize: '0.9rem',
            '& th, & td': {
              p: 1,
              borderBottom: '1px solid',
              borderColor: 'hairline',
              textAlign: 'right',
              width: 180,
              minWidth: 180,
            },
            '& thead th': { fontWeight: 650, borderColor: 'text.primary' },
            '& tbody th': { textAlign: 'left', fontWeight: 600 },
          }}>
          <Box component="caption" sx={{ textAlign: 'left', pb: 1 }}>
            <Typography
              variant="h3"
              component="h2"
              sx={{ '&::first-letter': { textTransform: 'uppercase' } }}>
              {t('compare.gridOf', { figure: t(`compare.figure.${measure}`) })}
            </Typography>
          </Box>
          <thead>
            <tr>
              <HiddenHead>{t('form.country')}</HiddenHead>
              {markets.map((m) => (
                <th key={m} scope="col">
                  {m || t('sheet.noMarketplace')}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {countries.map((country) => (
              <tr key={country}>
                <th scope="row">{countryName(country, i18n.language)}</th>
                {markets.map((m) => {
                  const own = lanes
                    .filter((c) => c.doc.country === country && c.doc.marketplace === m)
                    .sort(best);
                  const [c] = own;
                  if (c === undefined)
                    return (
                      <Box component="td" key={m} sx={{ color: 'text.secondary', fontSize: '0.78rem' }}>
                        {t('compare.noLane')}
                      </Box>
                    );
                  return (
                    <GridCell
                      key={m}
                      c={c}
                      x={value(c)}
                      text={said(c, measure)}
                      ways={own.length}
                      largest={largest}
                      onChoose={onChoose}
                    />
                  );
                })}
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
    </>
  );
}

/** The best lane of a pair: its figure, how many more there are, a bar against the largest. */
function GridCell({
  c,
  x,
  text,
  ways,
  largest,
  onChoose,
}: {
  c: Compared;
  x: number | null;
  text: string;
  ways: number;
  largest: number;
  onChoose: (id: string) => void;
}) {
  const { t } = useWords();
  return (
    <td>
      <Box
        component="button"
        type="button"
        onClick={() => onChoose(c.id)}
        sx={{
          font: 'inherit',
          color: 'inherit',
          border: 0,
          bgcolor: 'transparent',
          p: 0,
          cursor: 'pointer',
          display: 'block',
          width: '100%',
          textAlign: 'right',
        }}>
        <Box
          component="b"
          sx={{ fontWeight: 700, color: x !== null && x < 0 ? 'error.main' : 'text.primary' }}>
          {text}
          {x !== null && x < 0 && (
            <Box component="span" sx={{ fontSize: '0.74rem', fontWeight: 400 }}>
              {' '}
              {t('lanes.losesWord')}
            </Box>
          )}
        </Box>
        <Box sx={{ fontSize: '0.74rem', color: 'text.secondary' }}>
          {t(`method.${c.doc.method}`)}
          {ways > 1 && ` · ${t('compare.ways', { count: ways })}`}
          {!c.light.whole && ` · ${t('compare.incomplete')}`}
        </Box>
        <Box
          aria-hidden
          sx={{
            height: 4,
            mt: 0.5,
            ml: 'auto',
            ...(x !== null && x < 0
              ? {
                  border: '1px solid',
                  borderColor: 'error.main',
                  backgroundImage:
                    'repeating-linear-gradient(135deg, ' +
                    'var(--mui-palette-error-main) 0 2px, transparent 2px 5px)',
                }
              : { bgcolor: 'primary.main' }),
          }}
          style={{ width: `${(100 * Math.abs(x ?? 0)) / largest}%` }}
        />
      </Box>
    </td>
  );
}
