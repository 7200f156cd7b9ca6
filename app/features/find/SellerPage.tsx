/** Another seller's shop: what sells there, who else sells it, what changed, and which of it one can buy oneself. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Trans } from 'react-i18next';
import { Link, useFetcher } from 'react-router';
import type { SellerSaid, ShopPart } from '../../../core/evidence/seller.ts';
import type { FeedRow } from '../../../between/feed.ts';
import { addWords } from '../../i18n.ts';
import { findMarketWords } from '../../locales/en.findMarket.ts';
import { sellerWords } from '../../locales/en.sellers.ts';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import { FindTrail } from './FindTrail.tsx';
import { FoundList } from './FoundTable.tsx';
import { OurGoods } from './OurGoods.tsx';
import type { OursShown } from './OurGoods.tsx';
import { useFoundActs, useWeighed } from './useFound.ts';
import type { FoundFrame } from './useFound.ts';
import { toSearch, toSeller } from './ways.ts';
import { useWords } from '../../ui/useWords.ts';

addWords({ ...findMarketWords, ...sellerWords });

export type ShopShown = {
  seen: { asOf: string; currency: string; goods: readonly FeedRow[]; whole: boolean } | null;
  said: SellerSaid | null;
  others: { seller: string; shared: number }[];
  ours: readonly OursShown[];
  watch: {
    since: string;
    seenAsOf: string;
    changes: Record<'fresh' | 'gone' | 'cheaper' | 'dearer', readonly string[]>;
  } | null;
  fault: string | null;
};
export type SellerPageProps = FoundFrame & {
  seller: string;
  shop: ShopShown | null;
  watched: { market: string; seller: string; asOf: string; goods: number }[];
};

export function SellerPage(p: SellerPageProps) {
  const { t } = useWords();
  const { shop, seller } = p;
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <FindTrail
        root={p.root}
        over={[{ to: toSearch(p), name: t('findMarket.title') }]}
        here={seller || t('seller.title')}
      />
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap' }}>
        <Typography variant="h4" component="h1" dir="auto">
          {seller || t('seller.title')}
        </Typography>
        {shop !== null && p.market !== null && (
          <Typography color="text.secondary">{p.market.replace('/', ' ')}</Typography>
        )}
        {shop !== null && p.canEdit && <Follow p={p} shop={shop} />}
      </Box>
      {shop?.fault != null && <Alert severity="error">{shop.fault}</Alert>}
      {shop === null ? <Followed {...p} /> : <Shop p={p} shop={shop} />}
    </Box>
  );
}

/** The sellers that are followed. */
function Followed({ watched, root }: SellerPageProps) {
  const { t } = useWords();
  const f = useFormat();
  if (watched.length === 0) return <Typography sx={{ py: 2 }}>{t('seller.none')}</Typography>;
  return (
    <Box component="ul" sx={{ pl: 2.5 }}>
      {watched.map((w) => (
        <li key={`${w.market} ${w.seller}`}>
          <Link to={toSeller({ root, market: w.market }, w.seller)} style={{ color: 'inherit' }}>
            {w.seller}
          </Link>
          , {w.market.replace('/', ' ')}:{' '}
          {t('seller.follows', { goods: f.number(w.goods, 0), day: f.day(w.asOf) })}
        </li>
      ))}
    </Box>
  );
}

/** Follows the seller, or no longer does. */
function Follow({ p, shop }: { p: SellerPageProps; shop: ShopShown }) {
  const { t } = useWords();
  const { submit, state, data } = useFetcher<{ error?: string }>();
  const send = (what: 'watch' | 'unwatch'): void =>
    void submit(JSON.stringify({ what, market: p.market, seller: p.seller }), {
      method: 'post',
      encType: 'application/json',
    });
  const changed = Object.values(shop.watch?.changes ?? {}).some((x) => x.length > 0);
  return (
    <Box sx={{ ml: 'auto', display: 'flex', gap: 1 }}>
      {data?.error !== undefined && <Alert severity="error">{data.error}</Alert>}
      {shop.watch === null ? (
        <Button size="small" variant="contained" disabled={state !== 'idle'} onClick={() => send('watch')}>
          {t('seller.follow')}
        </Button>
      ) : (
        <>
          {changed && (
            <Button size="small" disabled={state !== 'idle'} onClick={() => send('watch')}>
              {t('seller.seenIt')}
            </Button>
          )}
          <Button size="small" disabled={state !== 'idle'} onClick={() => send('unwatch')}>
            {t('seller.unfollow')}
          </Button>
        </>
      )}
    </Box>
  );
}

function Shop({ p, shop }: { p: SellerPageProps; shop: ShopShown }) {
  const { t } = useWords();
  const { seen, said, others } = shop;
  if (seen === null || said === null || said.listings === 0)
    return shop.fault === null ? <Typography>{t('seller.unknown')}</Typography> : null;
  return (
    <>
      <Sentence seen={seen} said={said} />
      {shop.watch !== null && <Changes watch={shop.watch} />}
      <Box sx={{ display: 'grid', columnGap: 4, gridTemplateColumns: { xs: '1fr', md: 'repeat(3, 1fr)' } }}>
        <Parts title={t('seller.categories')} parts={said.categories} none="" />
        <Parts title={t('seller.brands')} parts={said.brands} none={t('seller.noBrand')} />
        <Pane title={t('seller.others')}>
          {others.length === 0 ? (
            <Typography variant="body2">{t('seller.noOthers')}</Typography>
          ) : (
            <Box component="ul" sx={{ m: 0, p: 0, listStyle: 'none', fontSize: '0.88rem' }}>
              {others.map((o) => (
                <li key={o.seller}>
                  <Link to={toSeller(p, o.seller)} style={{ color: 'inherit' }}>
                    {o.seller}
                  </Link>{' '}
                  {t('seller.shared', { count: o.shared })}
                </li>
              ))}
            </Box>
          )}
        </Pane>
      </Box>
      <OurGoods p={p} ours={shop.ours} sales={seen.currency} />
      <AllGoods p={p} seen={seen} />
    </>
  );
}

/** How much it sells, and at which prices. */
function Sentence({ seen, said }: { seen: NonNullable<ShopShown['seen']>; said: SellerSaid }) {
  const { t } = useWords();
  const f = useFormat();
  const listings = f.number(said.listings, 0);
  const { prices } = said;
  return (
    <>
      <Typography sx={{ fontSize: '1.12rem', mt: 0.5 }}>
        {said.units === null || said.revenue === null || prices === null ? (
          <Trans i18nKey="seller.noUnits" values={{ listings }} components={{ b: <strong /> }} />
        ) : (
          <Trans
            i18nKey="seller.sentence"
            values={{
              listings,
              units: f.number(said.units, 0),
              revenue: f.money(said.revenue, seen.currency),
              low: f.money(prices.low, seen.currency),
              high: f.money(prices.high, seen.currency),
            }}
            components={{ b: <strong /> }}
          />
        )}
      </Typography>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
        {t('seller.asOf', { day: f.day(seen.asOf) })}{' '}
        {said.units !== null && said.unitsOf < said.listings && t('seller.partly', { count: said.unitsOf })}{' '}
        {!seen.whole && t('seller.notWhole', { count: said.listings })}{' '}
        {said.bestFifth !== null && `${t('seller.bestFifth', { share: f.percent(said.bestFifth, 0) })}. `}
        {said.fresh > 0 && `${t('seller.fresh', { count: said.fresh })}.`}
      </Typography>
    </>
  );
}

/** What changed since somebody looked last. */
function Changes({ watch }: { watch: NonNullable<ShopShown['watch']> }) {
  const { t } = useWords();
  const f = useFormat();
  const said = (['fresh', 'gone', 'cheaper', 'dearer'] as const).flatMap((k) =>
    watch.changes[k].length === 0 ? [] : [t(`seller.changes.${k}`, { count: watch.changes[k].length })],
  );
  return (
    <Typography role="status" sx={{ mb: 1 }}>
      {t('seller.since', { day: f.day(watch.since), seen: f.day(watch.seenAsOf) })}{' '}
      {said.length === 0 ? t('seller.same') : `${said.join(', ')}.`}
    </Typography>
  );
}

/** Parts of a shop that are shown. */
const SHOWN = 8;

function Parts({ title, parts, none }: { title: string; parts: readonly ShopPart[]; none: string }) {
  const { t } = useWords();
  const f = useFormat();
  return (
    <Pane title={title}>
      {parts.length === 0 && <Typography variant="body2">{none}</Typography>}
      <Box component="ul" sx={{ m: 0, p: 0, listStyle: 'none', fontSize: '0.88rem' }}>
        {parts.slice(0, SHOWN).map((x) => (
          <li key={x.name}>
            {x.name}: {f.number(x.listings, 0)}
            {x.share !== null && (
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {' '}
                · {t('seller.share', { share: f.percent(x.share, 0) })}
              </Box>
            )}
          </li>
        ))}
      </Box>
    </Pane>
  );
}

/** Goods that are weighed and shown at first, and with each press more. */
const AT_ONCE = 40;

function AllGoods({ p, seen }: { p: SellerPageProps; seen: NonNullable<ShopShown['seen']> }) {
  const { t } = useWords();
  const [most, setMost] = useState(AT_ONCE);
  const { rows, scale } = useWeighed(seen.goods.slice(0, most), seen.currency, p);
  const acts = useFoundActs(p, seen.asOf, seen.currency, '');
  const more = seen.goods.length - rows.length;
  return (
    <Pane title={t('seller.all')}>
      <FoundList rows={rows} scale={scale} acts={acts} currency={seen.currency} {...p} />
      {more > 0 && (
        <Button size="small" onClick={() => setMost(most + AT_ONCE)}>
          {t('seller.more', { count: Math.min(more, AT_ONCE) })}
        </Button>
      )}
    </Pane>
  );
}
