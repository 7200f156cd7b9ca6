/** One market of a candidate: its sentence, what is followed there, and the panes that can be opened. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { lazy, Suspense, useState } from 'react';
import type { KeptMarket } from '../../../core/evidence/observed.ts';
import { useFormat } from '../../ui/locale.ts';
import { saveJson } from '../../ui/saveText.ts';
import type { Frame, LaneView } from '../weigh/useFigures.ts';
import { CarePane } from './CarePane.tsx';
import { drawnFor } from './drawnFor.ts';
import { Follow } from './Follow.tsx';
import { MarketSentence } from './MarketSentence.tsx';
import { NewerEvidence } from './NewerEvidence.tsx';
import { OffersPane } from './OffersPane.tsx';
import { OverTime } from './OverTime.tsx';
import { RivalsPane } from './RivalsPane.tsx';
import { SeasonPane } from './SeasonPane.tsx';
import { TermsPane } from './TermsPane.tsx';
import { UnitsPane } from './UnitsPane.tsx';
import { useMarket } from './useMarket.ts';
import { VariationsPane } from './VariationsPane.tsx';
import { WorthPane } from './WorthPane.tsx';
import { useWords } from '../../ui/useWords.ts';

const BringIn = lazy(() => import('./BringIn.tsx'));

const HALVES = {
  display: 'grid',
  gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 0.9fr) minmax(0, 1fr)' },
  columnGap: 4,
} as const;

const SeasonDrawn = drawnFor(SeasonPane, (p) => [p.market.said.season]);
const UnitsDrawn = drawnFor(UnitsPane, (p) => [
  p.market.said.units,
  p.market.said.season,
  p.watch.typedUnits,
  p.watch.typedShare,
  p.watch.band,
]);
const TermsDrawn = drawnFor(TermsPane, (p) => [
  p.market.said.terms,
  p.market.said.season,
  p.market.composed.document.terms,
  p.watch.terms,
  p.watch.match,
]);
const OffersDrawn = drawnFor(OffersPane, (p) => [p.market.said.offers]);
const VariationsDrawn = drawnFor(VariationsPane, (p) => [p.market.said.variations, p.watch.variation]);
const CareDrawn = drawnFor(CarePane, (p) => [
  p.market.composed.document.permission,
  p.market.composed.document.complaints,
  p.watch.care,
  p.watch.improvements,
]);
const TimeDrawn = drawnFor(OverTime, (p) => [p.market.said.history]);
const FollowDrawn = drawnFor(Follow, (p) => [
  p.hasFeed,
  p.watch.listing,
  p.watch.search,
  p.watch.variation,
  p.market.composed.document.variations,
  p.market.composed.document.about,
]);
const SentenceDrawn = drawnFor(MarketSentence, (p) => [
  p.market.said.season,
  p.market.said.history,
  p.market.said.units,
  p.market.composed.document.permission,
]);
type OneProps = {
  view: LaneView;
  markets: readonly KeptMarket[];
  frame: Frame;
  url: string;
  canEdit: boolean;
  hasFeed: boolean;
  candidateName: string;
};

export function OneMarket({ view, markets, frame, url, canEdit, hasFeed, candidateName }: OneProps) {
  const { t } = useWords();
  const f = useFormat();
  const own = useMarket(view, markets, frame, url);
  const { market, decide, watch } = own;
  const [bringing, setBringing] = useState(false);
  const parts = { market, watch, decide, canEdit, url, onChanged: own.revalidate };
  const nothing = Object.keys(market.composed.origins).length === 0;
  const days = Object.values(market.composed.origins).map((o) => o.asOf);
  return (
    <>
      <SentenceDrawn {...parts} />
      <NewerEvidence market={market} />
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline', flexWrap: 'wrap', mb: 1.5 }}>
        {canEdit && (
          <Button
            size="small"
            variant={nothing ? 'contained' : 'outlined'}
            aria-expanded={bringing}
            onClick={() => setBringing(!bringing)}>
            {t('market.bringIn')}
          </Button>
        )}
        <Button
          size="small"
          onClick={() =>
            saveJson(`${candidateName} ${view.doc.country}.evidence.json`, market.composed.document)
          }>
          {t('market.download')}
        </Button>
        {days.length > 0 && (
          <Typography variant="body2" color="text.secondary">
            {t('market.newest', { day: f.day(days.reduce((a, b) => (a > b ? a : b))) })}
          </Typography>
        )}
      </Box>
      <FollowDrawn key={market.key} {...parts} hasFeed={hasFeed} />
      {own.failed !== null && (
        <Alert severity="error" sx={{ mb: 1 }}>
          {t('market.notKept', { why: own.failed })}
        </Alert>
      )}
      {market.composed.unread.map((kind) => (
        <Alert key={kind} severity="warning" sx={{ mb: 1 }}>
          {t('market.unread', { kind: t(`market.kind.${kind}`) })}
        </Alert>
      ))}
      {bringing && (
        <Suspense fallback={<Typography variant="body2">{t('nav.loading')}</Typography>}>
          <BringIn
            market={market}
            url={url}
            today={frame.today}
            onKept={own.revalidate}
            onClose={() => setBringing(false)}
          />
        </Suspense>
      )}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1.62fr) minmax(0, 1fr)' },
          columnGap: 4,
        }}>
        <Box sx={{ minWidth: 0 }}>
          <TimeDrawn {...parts} />
          <Box sx={HALVES}>
            <SeasonDrawn {...parts} />
            <UnitsDrawn {...parts} />
          </Box>
          <TermsDrawn {...parts} />
          <Box sx={HALVES}>
            <OffersDrawn {...parts} />
            <VariationsDrawn {...parts} />
          </Box>
        </Box>
        <Box sx={{ minWidth: 0 }}>
          <RivalsPane {...parts} />
          <WorthPane {...parts} />
          <CareDrawn {...parts} />
        </Box>
      </Box>
    </>
  );
}
