/** The market of a candidate: one sentence, then what can be opened, for one country or all of them. */
import { Box, Typography } from '@mui/material';
import { useEffect, useMemo, useRef } from 'react';
import { Link } from 'react-router';
import { addWords } from '../../i18n.ts';
import { marketWords } from '../../locales/en.market.ts';
import { useAddress } from '../../ui/useAddress.ts';
import { SheetContext, SheetStore, useSnapshot } from '../weigh/store.ts';
import type { SheetState } from '../weigh/store.ts';
import { useLaneViews } from '../weigh/useFigures.ts';
import type { Frame } from '../weigh/useFigures.ts';
import type { KeptMarket } from '../../../core/evidence/observed.ts';
import { AllMarkets } from './AllMarkets.tsx';
import { MarketHead } from './MarketHead.tsx';
import { OneMarket } from './OneMarket.tsx';
import { useWords } from '../../ui/useWords.ts';

addWords(marketWords);

export type MarketPageProps = {
  state: SheetState;
  settings: Frame['settings'];
  cards: Frame['cards'];
  today: string;
  markets: readonly KeptMarket[];
  hasFeed: boolean;
  canEdit: boolean;
  base: string;
};

export function MarketPage(p: MarketPageProps) {
  const { state, base, canEdit, today } = p;
  const store = useRef<SheetStore>(null);
  store.current ??= new SheetStore(state, `${base}/${state.candidate.id}/save`, canEdit, today);
  const current = store.current;
  useEffect(() => current.recover(), [current]);
  useEffect(() => current.refresh(state), [current, state]);
  return (
    <SheetContext value={current}>
      <Body {...p} />
    </SheetContext>
  );
}

function Body({ settings, cards, today, markets, hasFeed, base, canEdit }: MarketPageProps) {
  const { t } = useWords();
  const { state } = useSnapshot();
  const [search, setAddress] = useAddress();
  const frame = useMemo(() => ({ settings, cards, today }), [settings, cards, today]);
  const views = useLaneViews(state, frame).filter((v) => v.state.scenarioOf === null);
  const chosen = views.find((v) => v.id === search.get('lane')) ?? views[0];
  const all = search.get('all') !== null && views.length > 1;
  const { id, data } = state.candidate;
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <MarketHead
        name={data.name}
        sheet={`${base}/${id}`}
        base={base}
        views={views}
        chosen={chosen}
        all={all}
        onChoose={(lane) => setAddress({ lane, all: null })}
        onAll={() => setAddress({ all: '1' })}
      />
      {chosen === undefined ? (
        <Typography variant="h4" component="p" sx={{ mt: 3 }}>
          {t('market.noLane')} <Link to={`${base}/${id}`}>{t('market.toCosts')}</Link>
        </Typography>
      ) : all ? (
        <AllMarkets
          views={views}
          markets={markets}
          frame={frame}
          onChoose={(lane) => setAddress({ lane, all: null })}
        />
      ) : (
        <OneMarket
          key={chosen.id}
          view={chosen}
          markets={markets}
          frame={frame}
          url={`${base}/${id}/market`}
          canEdit={canEdit}
          hasFeed={hasFeed}
          candidateName={data.name}
        />
      )}
    </Box>
  );
}
