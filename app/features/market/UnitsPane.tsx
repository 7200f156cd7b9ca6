/** Units a month: by which rung they are known, the share of the variation, and what of them could be one's own. */
import { Box, Typography } from '@mui/material';
import { NumField } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import { From, IntoLane, NotKnown } from './parts.tsx';
import type { PaneProps } from './parts.tsx';
import { useIntoLane } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

export function UnitsPane(p: PaneProps) {
  const { t } = useWords();
  const f = useFormat();
  const into = useIntoLane(p.market);
  const said = p.market.said.units;
  const { watch, decide, canEdit } = p;
  const whole = (x: number): string => f.number(Math.floor(x), 0);
  const range = (r: { low: number; high: number }): string =>
    Math.floor(r.low) === Math.floor(r.high)
      ? whole(r.low)
      : t('market.units.range', { low: whole(r.low), high: whole(r.high) });
  return (
    <Pane title={t('market.units.title')} aside={<From kind="units" {...p} />}>
      {said === null ? (
        <NotKnown>{t('market.units.none')}</NotKnown>
      ) : (
        <>
          <Typography variant="body2">
            {said.units.known ? (
              <>
                <b>{t('market.units.known', { units: whole(said.units.expected) })}</b>{' '}
                {t(`market.units.rung.${said.units.rung}`)}
                {said.units.estimated || said.units.low !== said.units.high ? `, ${range(said.units)}` : ''}
              </>
            ) : (
              t(`market.units.why.${said.units.why}`)
            )}
          </Typography>
          <Typography variant="body2">
            {said.share.known
              ? said.share.ratings === null
                ? ''
                : t('market.units.share', {
                    share: f.percent(said.share.expected, 0),
                    low: f.percent(said.share.low, 0),
                    high: f.percent(said.share.high, 0),
                    ratings: f.number(said.share.ratings, 0),
                  })
              : t(`market.units.shareWhy.${said.share.why}`)}
          </Typography>
          <Typography variant="body2" sx={{ mt: 0.5 }}>
            {said.mine.known
              ? t(said.mine.low === said.mine.high ? 'market.units.mineOne' : 'market.units.mine', {
                  units: range(said.mine),
                  expected: whole(said.mine.expected),
                  count: said.mine.rivals,
                })
              : t(`market.units.mineWhy.${said.mine.why}`)}{' '}
            <IntoLane act={into('units', 'units')} label={t('market.useUnits')} />{' '}
            <IntoLane act={into('offers', 'offers')} label={t('market.useSplit')} />
          </Typography>
        </>
      )}
      <PeakLine {...p} />
      {canEdit && (
        <Box sx={{ display: 'flex', gap: 1.5, mt: 0.5, flexWrap: 'wrap' }}>
          <NumField
            label={t('market.units.typed')}
            kind="number"
            value={watch.typedUnits}
            onChange={(typedUnits) => decide({ typedUnits })}
          />
          <NumField
            label={t('market.units.typedShare')}
            kind="percent"
            value={watch.typedShare}
            onChange={(typedShare) => decide({ typedShare })}
          />
          <NumField
            label={t('market.units.band')}
            kind="percent"
            value={watch.band}
            onChange={(band) => decide({ band: band ?? 0 })}
          />
        </Box>
      )}
    </Pane>
  );
}

/** Whether these are the units of a peak, and what a mean month would bring. */
function PeakLine({ market }: PaneProps) {
  const { t } = useWords();
  const f = useFormat();
  const peak = market.said.season.peak;
  if (peak === null || peak.warning === null) return null;
  return (
    <Typography variant="body2" sx={{ color: 'error.main' }}>
      {t(`market.units.peak.${peak.warning}`)}{' '}
      {peak.meanMonth !== null &&
        t('market.units.meanMonth', { units: f.number(Math.floor(peak.meanMonth), 0) })}{' '}
      {peak.usual !== null && t('market.units.usual', { units: f.number(Math.floor(peak.usual), 0) })}
    </Typography>
  );
}
