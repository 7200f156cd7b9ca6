/** Season of the ticked terms (or of the listing's own units): the index by month, peaks bold, direction, warning. */
import { Box, Typography } from '@mui/material';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import { TableFile } from '../../ui/TableFile.tsx';
import type { TableToSave } from '../../ui/TableFile.tsx';
import { From, IntoLane, NotKnown } from './parts.tsx';
import type { PaneProps } from './parts.tsx';
import { useIntoLane } from './useMarket.ts';
import type { Market } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

const HEIGHT = 72;

export function SeasonPane(p: PaneProps) {
  const { t } = useWords();
  const f = useFormat();
  const into = useIntoLane(p.market);
  const { together, listing, now, peak } = p.market.said.season;
  const ofTerms = together.season.known;
  const own = ofTerms ? together : listing;
  const { season, direction } = own;
  const kind = ofTerms ? 'terms' : 'units';
  if (!season.known)
    return (
      <Pane title={t('market.season.title')}>
        <NotKnown>{t(`market.season.why.${season.why}`, { months: season.months })}</NotKnown>
      </Pane>
    );
  const month = Number(now.slice(5, 7));
  const most = Math.max(...season.index);
  const mean = HEIGHT / most;
  return (
    <Pane
      title={t('market.season.title')}
      aside={
        <>
          {t(`market.season.of.${kind}`)} · {t('market.season.years', { count: season.years })}
          {direction.known
            ? ` · ${t(`market.season.${direction.direction}`, { change: f.percent(Math.abs(direction.change), 0) })}`
            : ''}{' '}
          · <From kind={kind} {...p} />
        </>
      }>
      <Box
        role="img"
        aria-label={season.index.map((x, i) => `${f.monthName(i + 1)} ${f.percent(x, 0)}`).join(', ')}
        sx={{
          position: 'relative',
          display: 'grid',
          gridTemplateColumns: 'repeat(12, 1fr)',
          gap: 0.75,
          height: HEIGHT + 20,
          alignItems: 'end',
        }}>
        <Box
          sx={{
            position: 'absolute',
            left: 0,
            right: 0,
            bottom: mean + 18,
            borderTop: '1px dashed',
            borderColor: 'text.secondary',
          }}
        />
        {season.index.map((x, i) => (
          <Box
            key={f.monthName(i + 1)}
            sx={{ textAlign: 'center', fontSize: 11, fontWeight: i + 1 === month ? 800 : 400 }}>
            <Box
              sx={{
                height: (x / most) * HEIGHT,
                bgcolor: season.peaks.includes(i + 1) ? 'text.primary' : 'family.tax',
              }}
            />
            {f.monthName(i + 1).slice(0, 1)}
          </Box>
        ))}
      </Box>
      <Typography variant="body2" sx={{ mt: 0.5 }}>
        {season.oneYear && `${t('market.season.oneYear')} `}
        {!season.seasonal && `${t('market.season.flat')} `}
        {direction.known &&
          t('market.season.agreeing', {
            share: f.percent(direction.agreeing, 0),
            pairs: direction.pairs,
          })}{' '}
        {(season.index[month - 1] as number) >= 1.2 && <b>{t('market.season.nowPeak')} </b>}
        {peak?.warning != null && <b>{t('market.season.peakUnits')} </b>}
        <IntoLane act={into('season', kind)} label={t('market.useSeason')} />
      </Typography>
      <TableFile table={() => monthsTable(p.market, t('market.season.title'))} />
    </Pane>
  );
}

/** Every month that is known: the index of its season, the units of the listing, the volume of each ticked term. */
function monthsTable({ composed, said, view }: Market, title: string): TableToSave {
  const { terms, unitsByMonth } = composed.document;
  const { together, listing } = said.season;
  const season = together.season.known ? together.season : listing.season;
  const ticked = terms.filter((t) => t.ticked);
  const series = [unitsByMonth, ...ticked.map((t) => t.volumes)].map(
    (s) => new Map(s.map((v) => [v.month, v.value])),
  );
  const months = [...new Set(series.flatMap((s) => [...s.keys()]))].sort();
  return {
    name: `${view.doc.country} ${title}`,
    columns: ['month', 'index', 'units', ...ticked.map((t) => t.term)].map((name) => ({ title: name })),
    rows: months.map((month) => [
      month,
      season.known ? (season.index[Number(month.slice(5)) - 1] ?? null) : null,
      ...series.map((s) => s.get(month) ?? null),
    ]),
  };
}
