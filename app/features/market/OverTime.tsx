/** The margin over the market's own history, with rank, offers and own shop under it on one time axis. */
import { Box, ToggleButton, ToggleButtonGroup } from '@mui/material';
import { useMemo, useState } from 'react';
import type { Window } from '../../../core/evidence/history.ts';
import { myPriceOf } from '../../../core/evidence/keeps.ts';
import { Pane } from '../weigh/Pane.tsx';
import { Bases } from './Bases.tsx';
import { DayTable } from './DayTable.tsx';
import { daysShown } from './daysShown.ts';
import { MarginChart } from './MarginChart.tsx';
import { From, NotKnown } from './parts.tsx';
import type { PaneProps } from './parts.tsx';
import { useKeeps } from './useKeeps.ts';
import { useWords } from '../../ui/useWords.ts';

const WINDOWS: readonly Window[] = ['30', '90', '180', 'all'];

export function OverTime(p: PaneProps) {
  const { t } = useWords();
  const keeps = useKeeps(p.market.view);
  const [window, setWindow] = useState<Window>('180');
  const [asTable, setAsTable] = useState(false);
  const { said, composed } = p.market;
  const prices = composed.document.prices?.days;
  const { history } = said;
  const days = useMemo(() => daysShown(prices ?? [], history, window), [prices, history, window]);
  if (said.history === null || days.length === 0)
    return (
      <Pane title={t('market.overTime.title')}>
        <NotKnown>{t('market.overTime.none')}</NotKnown>
      </Pane>
    );
  return (
    <Pane
      title={t('market.overTime.title')}
      aside={
        <>
          {t('market.overTime.aside', { currency: said.history.currency })} · <From kind="history" {...p} />
        </>
      }>
      <Box sx={{ display: 'flex', gap: 1, justifyContent: 'flex-end', alignItems: 'baseline' }}>
        <ToggleButtonGroup
          size="small"
          exclusive
          value={window}
          aria-label={t('market.overTime.window')}
          onChange={(_, w: Window | null) => w !== null && setWindow(w)}>
          {WINDOWS.map((w) => (
            <ToggleButton key={w} value={w} sx={{ py: 0, px: 1, color: 'text.primary' }}>
              {t(`market.overTime.windows.${w}`)}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <ToggleButton
          size="small"
          value="table"
          selected={asTable}
          onChange={() => setAsTable(!asTable)}
          sx={{ py: 0, px: 1, color: 'text.primary' }}>
          {t('market.asTable')}
        </ToggleButton>
      </Box>
      {asTable ? (
        <DayTable days={days} market={p.market} />
      ) : (
        <MarginChart
          days={days}
          history={said.history}
          keeps={keeps}
          mine={myPriceOf(composed.document, p.market.view.doc)}
        />
      )}
      <Bases {...p} window={window} />
    </Pane>
  );
}
