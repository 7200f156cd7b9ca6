/** Under the price, on the same axis: rank upside down, how many offer, when the own shop does, promotions. */
import { Box } from '@mui/material';
import { memo } from 'react';
import type { ReactNode } from 'react';
import { useFormat } from '../../ui/locale.ts';
import { outlineOf, stretchesOf } from './dayShapes.ts';
import type { ShownDay } from './daysShown.ts';
import { useWords } from '../../ui/useWords.ts';

type Sides = { readonly left: number; readonly right: number };

export const UnderTime = memo(function UnderTime({ days, ...sides }: Sides & { days: readonly ShownDay[] }) {
  const { t } = useWords();
  const f = useFormat();
  const ranked = days.filter((d) => d.rank !== null);
  const offered = days.filter((d) => d.offers !== null);
  const shop = days.filter((d) => d.ownShop !== null);
  const there = shop.filter((d) => d.ownShop === true).length;
  const promoted = days.filter((d) => d.promotion).length;
  const at = (i: number): number => (1000 * i) / days.length;
  const [best, worst] = [
    Math.min(...ranked.map((d) => d.rank ?? 0)),
    Math.max(...ranked.map((d) => d.rank ?? 0)),
  ];
  const most = Math.max(1, ...offered.map((d) => d.offers ?? 0));
  const rank = f.number(ranked.at(-1)?.rank ?? null, 0);
  return (
    <>
      {ranked.length > 0 && (
        <Under
          {...sides}
          name={t('market.under.rank')}
          said={t('market.under.rankChart', { now: rank })}
          note={t('market.under.rankNote', { now: rank })}
          height={44}>
          <Shape height={44}>
            <path
              d={outlineOf(
                days,
                (d) => d.rank,
                null,
                at,
                (rank) => 4 + (38 * (rank - best)) / (worst - best || 1),
              )}
              fill="none"
              stroke="var(--mui-palette-text-primary)"
              strokeWidth={1.5}
              vectorEffect="non-scaling-stroke"
            />
          </Shape>
        </Under>
      )}
      {offered.length > 0 && (
        <Under
          {...sides}
          name={t('market.under.offers')}
          said={t('market.under.offersChart', { now: f.number(offered.at(-1)?.offers ?? null, 0) })}
          height={28}>
          <Shape height={28}>
            <path
              d={outlineOf(
                days,
                (d) => d.offers,
                0,
                at,
                (offers) => 28 - (26 * offers) / most,
              )}
              fill="var(--mui-palette-family-tax)"
            />
          </Shape>
        </Under>
      )}
      {shop.length > 0 && (
        <Under
          {...sides}
          name={t('market.under.ownShop')}
          said={t('market.under.ownShopSaid', { days: there, of: shop.length })}
          note={t('market.under.ownShopShare', {
            share: f.percent(there / shop.length, 0),
            days: shop.length,
          })}
          height={12}>
          <Stripe on={days.map((d) => d.ownShop === true)} />
        </Under>
      )}
      {promoted > 0 && (
        <Under
          {...sides}
          name={t('market.under.promotion')}
          said={t('market.under.promotionSaid', { count: promoted })}
          height={12}>
          <Stripe on={days.map((d) => d.promotion)} />
        </Under>
      )}
    </>
  );
});

/** One row on the axis: its name at the left, what it says to who cannot see it, a note under it. */
function Under({
  name,
  said,
  note,
  height,
  left,
  right,
  children,
}: Sides & { name: string; said: string; note?: string; height: number; children: ReactNode }) {
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center', mt: 0.5 }}>
        <Box
          sx={{
            width: left,
            color: 'text.secondary',
            fontSize: 12,
            textAlign: 'right',
            pr: 1,
            flex: 'none',
          }}>
          {name}
        </Box>
        <Box
          role="group"
          aria-label={said}
          sx={{
            flex: 1,
            mr: `${right}px`,
            height,
            position: 'relative',
            borderBottom: '1px solid',
            borderColor: 'hairline',
          }}>
          {children}
        </Box>
      </Box>
      {note !== undefined && (
        <Box sx={{ textAlign: 'right', mr: `${right}px`, fontSize: 11, color: 'text.secondary' }}>{note}</Box>
      )}
    </>
  );
}

/** A drawing as wide as its row, in a thousandth of its width. */
const Shape = ({ height, children }: { height: number; children: ReactNode }) => (
  <svg
    width="100%"
    height={height}
    viewBox={`0 0 1000 ${height}`}
    preserveAspectRatio="none"
    style={{ display: 'block' }}
    aria-hidden="true">
    {children}
  </svg>
);

/** Days on which something was so, as a stripe. */
const Stripe = ({ on }: { on: readonly boolean[] }) =>
  stretchesOf(on).map(([from, to]) => (
    <Box
      key={from}
      sx={{
        position: 'absolute',
        top: 1,
        bottom: 1,
        bgcolor: 'text.primary',
        left: `${(100 * from) / on.length}%`,
        width: `${(100 * (to - from + 1)) / on.length}%`,
      }}
    />
  ));
