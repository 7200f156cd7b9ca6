import { Box } from '@mui/material';
import type { SeasonAndDirection } from '../../../core/evidence/market.ts';
import { useFormat } from '../../ui/locale.ts';
import { useWords } from '../../ui/useWords.ts';

/** The season of a term, drawn small, and its direction in a word. */
export function TermSeason({ season }: { season: SeasonAndDirection | undefined }) {
  const { t } = useWords();
  const f = useFormat();
  if (season?.season.known !== true) return <>–</>;
  const { index, peaks } = season.season;
  const most = Math.max(...index);
  const direction = season.direction.known
    ? t(`market.terms.${season.direction.direction}`, {
        change: f.percent(Math.abs(season.direction.change), 0),
      })
    : '';
  return (
    <Box component="span" sx={{ display: 'inline-flex', gap: 0.75, alignItems: 'end', whiteSpace: 'nowrap' }}>
      <Box
        component="svg"
        viewBox="0 0 48 14"
        role="img"
        aria-label={peaks.map((m) => f.monthName(m)).join(', ') || t('market.season.flat')}
        sx={{ width: 48, height: 14 }}>
        {index.map((x, m) => (
          <Box
            component="rect"
            key={f.monthName(m + 1)}
            x={m * 4}
            y={14 - (14 * x) / most}
            width={3}
            height={(14 * x) / most}
            sx={{
              fill: (theme) =>
                peaks.includes(m + 1) ? theme.vars?.palette.text.primary : theme.vars?.palette.family.tax,
            }}
          />
        ))}
      </Box>
      <span>{direction}</span>
    </Box>
  );
}
