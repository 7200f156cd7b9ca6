/** What the counted rivals come to: who earns with few reviews, the middle, brands, newcomers, bands of price. */
import { Box, Typography } from '@mui/material';
import { useState } from 'react';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import type { Market } from './useMarket.ts';
import { useWords } from '../../ui/useWords.ts';

export function RivalsSum({ market }: { market: Market }) {
  const { t } = useWords();
  const f = useFormat();
  const [open, setOpen] = useState(false);
  const s = market.said.rivals;
  if (s === null) return null;
  const c = s.currency;
  const { cap } = market.composed.document.settings.fewReviews;
  const [top] = s.brands;
  const facts = [
    t('market.sum.few', { count: s.fewReviews.length, cap }),
    ...(s.columns.price.median === null
      ? []
      : [
          t('market.sum.middle', {
            median: f.money(s.columns.price.median, c),
            low: f.plain(s.columns.price.quarter, c),
            high: f.plain(s.columns.price.threeQuarters, c),
          }),
        ]),
    s.owner === null
      ? top === undefined
        ? t('market.sum.noBrands')
        : t('market.sum.noOwner', { listings: top.listings, all: s.rows })
      : t('market.sum.owner', {
          brand: s.owner.brand,
          listings: s.owner.listings,
          share: f.percent(s.owner.revenueShare, 0),
        }),
    ...(s.newcomers.share === null
      ? []
      : [
          t('market.sum.newcomers', {
            count: s.newcomers.rows,
            share: f.percent(s.newcomers.share, 0),
            revenue: f.money(s.newcomers.medianRevenue, c),
          }),
        ]),
    ...(s.selling === null ? [] : [t('market.sum.selling', { share: f.percent(s.selling, 0) })]),
    ...(s.place?.overCeiling === true
      ? [t('market.sum.overCeiling', { ceiling: f.money(s.place.ceiling, c) })]
      : []),
  ];
  return (
    <Box sx={{ my: 1 }}>
      <Typography variant="body2" sx={{ '& b': { fontWeight: 700 } }}>
        {facts.join(' · ')}
      </Typography>
      <details onToggle={(e) => setOpen(e.currentTarget.open)}>
        <Box component="summary" sx={{ cursor: 'pointer', fontSize: '0.85rem', mt: 0.5 }}>
          {t('market.sum.bands')}
        </Box>
        {open && <Bands said={s} />}
      </details>
    </Box>
  );
}

/** Bands of price and the brands, once they are asked for. */
function Bands({ said: s }: { said: NonNullable<Market['said']['rivals']> }) {
  const { t } = useWords();
  const f = useFormat();
  const c = s.currency;
  return (
    <>
      <FigureTable label={t('market.sum.bands')}>
        <thead>
          <tr>
            <th scope="col">{t('market.sum.band')}</th>
            <th scope="col">{t('market.sum.rows')}</th>
            <th scope="col">{t('market.rivals.revenue')}</th>
            <th scope="col">{t('market.sum.reviews')}</th>
          </tr>
        </thead>
        <tbody>
          {s.bands.map((b) => (
            <tr key={`${b.from}`}>
              <th scope="row" style={{ fontWeight: b.mine ? 700 : 400 }}>
                {b.from === null
                  ? t('market.sum.under', { to: f.plain(b.to, c) })
                  : b.to === null
                    ? t('market.sum.over', { from: f.plain(b.from, c) })
                    : t('market.sum.between', { from: f.plain(b.from, c), to: f.plain(b.to, c) })}
                {b.mine ? ` (${t('market.sum.mine')})` : ''}
              </th>
              <td>{b.rows}</td>
              <td>{f.number(b.revenue, 0)}</td>
              <td>{f.number(b.medianReviews, 0)}</td>
            </tr>
          ))}
        </tbody>
      </FigureTable>
      {s.brands.length > 0 && (
        <Typography variant="body2" sx={{ mt: 0.5 }}>
          {t('market.sum.brands')}:{' '}
          {s.brands
            .slice(0, 6)
            .map((b) =>
              t('market.sum.brand', {
                brand: b.brand,
                listings: b.listings,
                share: f.percent(b.revenueShare, 0),
              }),
            )
            .join(', ')}
        </Typography>
      )}
    </>
  );
}
