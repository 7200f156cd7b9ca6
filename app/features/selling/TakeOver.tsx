/** What really came, offered as inputs of the lane for its next plan. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import type { Offer, TakenOver } from '../../../core/actuals/takeOver.ts';
import { useFormat } from '../../ui/locale.ts';
import { useLaneAct } from './LaneActs.ts';
import { useWords } from '../../ui/useWords.ts';

export function TakeOver({ offers, currency }: { offers: readonly Offer[]; currency: string }) {
  const { t } = useWords();
  const f = useFormat();
  const { act, error, isBusy } = useLaneAct();
  const [left, setLeft] = useState<readonly TakenOver[]>([]);
  if (offers.length === 0) return null;
  const figure = (o: Offer, x: number | null): string => {
    if (o.what !== 'returnRate' && o.what !== 'units') return f.money(x, currency);
    return o.what === 'returnRate' ? f.percent(x) : f.number(x, 0);
  };
  const whats = offers.map((o) => o.what).filter((w) => !left.includes(w));
  return (
    <Box component="section" aria-label={t('launched.take.title')} sx={{ mt: 3 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
        {t('launched.take.title')}
      </Typography>
      <Typography variant="body2" color="text.secondary">
        {t('launched.take.lead')}
      </Typography>
      {offers.map((o) => (
        <Box
          component="label"
          key={o.what}
          sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: '0.92rem', py: 0.25 }}>
          <input
            type="checkbox"
            checked={!left.includes(o.what)}
            onChange={(e) => setLeft(e.target.checked ? left.filter((w) => w !== o.what) : [...left, o.what])}
          />
          {o.figure === null
            ? t(`launched.take.${o.what}`, { units: f.number(o.units, 0) })
            : t(`launched.take.${o.what === 'adverts' && o.buy == null ? 'advertsCost' : o.what}`, {
                now: figure(o, o.figure),
                was: o.was === null ? t('launched.take.nothing') : figure(o, o.was),
                units: f.number(o.units, 0),
                buy: f.percent(o.buy ?? null),
                ofSales: f.percent(o.ofSales ?? null, 0),
              })}
        </Box>
      ))}
      {error !== undefined && <Alert severity="error">{error}</Alert>}
      <Button
        variant="outlined"
        sx={{ mt: 0.5 }}
        disabled={whats.length === 0 || isBusy}
        onClick={() => act({ intent: 'takeOver', whats })}>
        {t('launched.take.do')}
      </Button>
    </Box>
  );
}
