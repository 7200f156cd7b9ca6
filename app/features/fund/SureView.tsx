/** How sure a launch is: ranges of what is not certain, how its profit is spread, what matters most. */
import { Box, Typography } from '@mui/material';
import { useMemo } from 'react';
import { Trans } from 'react-i18next';
import type { RiskKnown } from '../../../core/risk/risk.ts';
import type { SureTerms } from '../../../core/risk/schema.ts';
import { useFormat } from '../../ui/locale.ts';
import { AllLanes } from './AllLanes.tsx';
import { chanceInWords } from './chanceInWords.ts';
import type { AheadPart } from './fundParts.tsx';
import { Matters } from './Matters.tsx';
import { RangesForm } from './RangesForm.tsx';
import { RiskGrid } from './RiskGrid.tsx';
import { SpreadPicture } from './SpreadPicture.tsx';
import { SureFigures } from './SureFigures.tsx';
import { isRanged, rangesOf, sureOf } from './sureOf.ts';
import { useLacks } from './useLacks.ts';
import { useRisk } from './useRisk.ts';
import { useWords } from '../../ui/useWords.ts';

export default function SureView(part: AheadPart) {
  const { t } = useWords();
  const { view, views, whole, plan, settings, set, candidate } = part;
  const sure = sureOf(whole, view.id);
  const hurdles = settings.hurdles[candidate.way];
  const asked = useMemo(
    () =>
      Object.fromEntries(
        views.map((v) => {
          // All on the same luck: that of the lane that is looked at.
          const own = { ...sureOf(whole, v.id), seed: sure.seed, draws: sure.draws };
          return [v.id, { doc: v.doc, ranges: rangesOf(own, hurdles ?? [], plan) }];
        }),
      ),
    [views, sure, whole, hurdles, plan],
  );
  const { said, state } = useRisk(asked);
  const own = said[view.id] ?? null;
  const lacksInWords = useLacks();
  const hasRanges = isRanged(sure);
  const change = (more: Partial<SureTerms>): void =>
    set({ sure: { ...whole.sure, [view.id]: { ...sure, ...more } } });
  const ranges = asked[view.id]?.ranges;
  return (
    <>
      <Typography
        variant="h4"
        component="p"
        data-testid="sure-answer"
        aria-live="polite"
        sx={{ mb: 2, minHeight: '2.2em', '& strong': { fontWeight: 720 } }}>
        {own === null ? (
          t(state === 'failed' ? 'sure.failed' : 'sure.working')
        ) : !own.known ? (
          t('sure.lacks', {
            what: own.problems.includes('drawsUnknown')
              ? t('sure.noDraws')
              : lacksInWords(own.lacks, own.problems),
          })
        ) : hasRanges ? (
          <Sentence said={own} />
        ) : (
          t('sure.none')
        )}
      </Typography>
      <Box
        aria-busy={state === 'working'}
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) minmax(0, 1fr)' },
          columnGap: 4,
        }}>
        <Box>
          <RangesForm part={part} sure={sure} change={change} />
        </Box>
        <Box>
          {own?.known && hasRanges && (
            <>
              <SpreadPicture said={own} doc={view.doc} />
              <SureFigures said={own} name={candidate.name} />
              <Matters said={own} doc={view.doc} ranges={sure.ranges} />
            </>
          )}
        </Box>
      </Box>
      {own?.known && hasRanges && ranges !== undefined && (
        <RiskGrid doc={view.doc} asked={ranges} currency={own.currency} />
      )}
      {views.length > 1 && <AllLanes part={part} said={said} />}
    </>
  );
}

function Sentence({ said }: { said: RiskKnown }) {
  const { t } = useWords();
  const f = useFormat();
  const { unit, launch, currency } = said;
  const loses = unit.spread.loss.chance > 0 || (launch?.spread.loss.chance ?? 0) > 0;
  const components = {
    k: <Box component="strong" sx={{ color: loses ? 'error.main' : 'inherit' }} />,
    b: <strong />,
    l: <Box component="strong" sx={{ color: (launch?.spread.p5 ?? 0) < 0 ? 'error.main' : 'inherit' }} />,
  };
  return (
    <>
      <Trans
        i18nKey={launch === null ? 'sure.answerUnit' : 'sure.answer'}
        values={{
          unit: chanceInWords(unit.spread.loss.chance, t),
          launch: chanceInWords(launch?.spread.loss.chance ?? 0, t),
        }}
        components={components}
      />{' '}
      {launch !== null && (
        <Trans
          i18nKey="sure.half"
          values={{ p50: f.money(launch.spread.p50, currency), p5: f.money(launch.spread.p5, currency) }}
          components={components}
        />
      )}
    </>
  );
}
