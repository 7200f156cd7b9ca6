/** A lane on sale in a row: how it stands, its plan over what came, what is to be decided. */
import { Box, Link as MuiLink, Typography } from '@mui/material';
import { Link } from 'react-router';
import type { LaneBook } from '../../../core/actuals/book.ts';
import type { Stands } from '../../../core/actuals/compare.ts';
import type { Gist } from '../../../core/actuals/gist.ts';
import type { Stopped } from '../../../core/actuals/letGo.ts';
import type { Stock } from '../../../core/actuals/stock.ts';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import { Decisions, StandsSaid, TwoBars } from './parts.tsx';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

export type LaunchedLine = Pick<LaneBook, 'until' | 'stands' | 'lately' | 'gist' | 'stock' | 'decisions'> & {
  readonly laneId: string;
  readonly name: string;
  readonly place: string;
  readonly codes: readonly string[];
  readonly since: string;
  readonly stopped: Stopped | null;
};

/** How a lane stands now: by its last two periods, where they were settled. */
export const nowOf = (l: LaunchedLine): { stands: Stands; gist: Gist | null } => l.lately ?? l;

export function LaunchedRow({ lane, base, home }: { lane: LaunchedLine; base: string; home: string }) {
  const { t } = useWords();
  const f = useFormat();
  const { stands, gist } = nowOf(lane);
  const changed = lane.lately !== null && lane.stands.standing !== stands.standing;
  return (
    <Box
      component="article"
      aria-label={lane.name}
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 0.8fr) minmax(0, 1fr) 215px' },
        gap: { xs: 1, md: 3 },
        alignItems: 'start',
        py: 1.5,
        borderTop: '1px solid',
        borderColor: 'hairline',
      }}>
      <Box sx={{ minWidth: 0 }}>
        <MuiLink
          component={Link}
          to={`${base}/selling/${lane.laneId}`}
          sx={{ color: 'text.primary', fontWeight: 650 }}>
          <bdi>{lane.name}</bdi>
        </MuiLink>
        <Typography variant="body2" color="text.secondary">
          {lane.place.replace('/', ' ')} · {t('selling.onSaleSince', { day: f.day(lane.since) })}
          {lane.until !== null && `, ${t('selling.until', { day: f.day(lane.until) })}`}
        </Typography>
        {lane.stopped === null ? (
          <StandsSaid
            stands={stands}
            currency={gist?.currency ?? null}
            advises={lane.decisions.length === 0}
            isPart={(gist?.actual.lacks.length ?? 0) > 0}
          />
        ) : (
          <Typography>
            {t('selling.stopped', {
              day: f.day(lane.stopped.day),
              reason: t(`selling.reason.${lane.stopped.reason}`),
            })}
          </Typography>
        )}
        {changed && lane.stopped === null && (
          <Typography variant="body2" color="text.secondary">
            {t(`selling.before.${lane.stands.standing}`)}
          </Typography>
        )}
      </Box>
      {gist !== null && (
        <Box>
          <TwoBars gist={gist} />
          {lane.lately !== null && (
            <Typography variant="body2" color="text.secondary" sx={{ fontSize: '0.78rem', pl: 9 }}>
              {t('selling.lately', { from: f.day(lane.lately.from), to: f.day(lane.lately.to) })}
            </Typography>
          )}
          <Decisions decisions={lane.decisions} currency={gist.currency} home={home} />
        </Box>
      )}
      {gist !== null && <Figures gist={gist} stock={lane.stock} />}
    </Box>
  );
}

/** Profit of a unit and units, planned and actual; what the difference comes to; what is on the shelf. */
function Figures({ gist: g, stock }: { gist: Gist; stock: Stock }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const rows = [
    [
      'unitProfit',
      g.planned.unitProfit === null
        ? '–'
        : bounds.of(f.money(g.planned.unitProfit, g.currency), g.planned.lacks as never),
      bounds.of(f.money(g.actual.unitProfit, g.currency), g.actual.lacks as never),
    ],
    ['units', f.number(g.planned.units, 0), f.number(g.actual.units, 0)],
  ] as const;
  return (
    <Box sx={{ fontSize: '0.88rem' }}>
      {rows.map(([key, planned, actual]) => (
        <Box key={key} sx={{ display: 'flex', justifyContent: 'space-between', gap: 1 }}>
          <Box sx={{ color: 'text.secondary' }}>{t(`selling.${key}`)}</Box>
          <Box>
            {planned} → <b>{actual}</b>
          </Box>
        </Box>
      ))}
      {g.difference !== null && (
        <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1 }}>
          <Box sx={{ color: 'text.secondary' }}>{t('selling.difference')}</Box>
          <Box component="b" sx={{ color: g.difference < 0 ? 'error.main' : 'text.primary' }}>
            {g.difference > 0 && '+'}
            {f.money(g.difference, g.currency)}
          </Box>
        </Box>
      )}
      {stock.units !== null && (
        <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1 }}>
          <Box sx={{ color: 'text.secondary' }}>{t('selling.onShelf')}</Box>
          <Box>
            {f.number(stock.units, 0)}
            {stock.value !== null && ` · ${f.money(stock.value, g.currency)}`}
          </Box>
        </Box>
      )}
    </Box>
  );
}
