/** Chooses what of a shop's catalogue is read, and on what terms its goods are weighed. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { Link, useNavigation, useSubmit } from 'react-router';
import type { Standing } from '../../../core/lane/schema.ts';
import { shopVatBack } from '../../../core/shops/catalogue.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { BuyingTerms, CostTerms } from './assumed.tsx';
import { ShopCategories } from './ShopCategories.tsx';
import { ShopLimits } from './ShopLimits.tsx';
import { useShop } from './useShop.ts';
import type { MarketChoice } from '../../../core/lists/setup.ts';
import type { ShopShown } from './useShop.ts';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

export type ShopData = {
  shops: ShopShown[];
  markets: MarketChoice[];
  /** Markets that the feed knows. */
  known: readonly string[];
  home: string;
  standings: Readonly<Partial<Record<string, Standing>>>;
  hasFeed: boolean;
  /** Why the feed does not name its shops. */
  wrong: string | null;
  chosen: string | null;
  root: string;
  canEdit: boolean;
  error: string | null;
};

export function ShopPage(p: ShopData) {
  const { t } = useWords();
  const state = useShop(p.shops, p.markets, p.known, p.chosen);
  const { shop, chosen, change } = state;
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2 }}>
        <Typography variant="h1">{t('shops.title')}</Typography>
        <Button component={Link} to={`${p.root}/lists`} size="small" sx={{ ml: 'auto' }}>
          {t('shops.back')}
        </Button>
      </Box>
      <Typography color="text.secondary" sx={{ mb: 1.5, maxWidth: 720 }}>
        {t('shops.lead')}
      </Typography>
      {(p.error ?? p.wrong) !== null && (
        <Alert severity="error" sx={{ mb: 1.5 }}>
          {p.error ?? p.wrong}
        </Alert>
      )}
      {!p.hasFeed && (
        <Alert severity="info" variant="outlined">
          {t('shops.noFeed')} <Link to={`${p.root}/settings#feed`}>{t('shops.setFeed')}</Link>
        </Alert>
      )}
      {shop === null || chosen === null ? (
        p.wrong === null && p.hasFeed && <Typography color="text.secondary">{t('shops.none')}</Typography>
      ) : (
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: { xs: '1fr', md: '220px minmax(0, 1fr) 330px' },
            gap: 3.5,
            alignItems: 'start',
          }}>
          <ShopChoice shops={p.shops} chosen={shop.key} onChoose={state.setShop} />
          <ShopCategories
            key={shop.key}
            categories={shop.categories}
            ticked={chosen.ticked}
            onTick={(ticked) => change({ ticked })}
          />
          <Box>
            <ShopLimits
              filters={chosen.filters}
              currency={shop.currency}
              onChange={(filters) => change({ filters })}
            />
            <Terms p={p} state={state} />
          </Box>
          {p.canEdit && <Foot state={state} />}
        </Box>
      )}
    </Box>
  );
}

type State = ReturnType<typeof useShop>;

/** The shops there are, with their country, money and size. */
function ShopChoice({
  shops,
  chosen,
  onChoose,
}: {
  shops: readonly ShopShown[];
  chosen: string;
  onChoose: (key: string) => void;
}) {
  const { t, i18n } = useWords();
  const f = useFormat();
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, minWidth: 0 }}>
      <Box component="legend" sx={{ p: 0, mb: 1, fontWeight: 680 }}>
        {t('shops.shop')}
      </Box>
      {shops.map((s) => {
        const goods = s.categories.reduce((n, c) => n + c.goods, 0);
        return (
          <Box
            key={s.key}
            component="label"
            sx={{
              display: 'grid',
              gridTemplateColumns: '18px 1fr',
              gap: 1,
              py: 1,
              borderTop: '1px solid',
              borderColor: 'divider',
              cursor: 'pointer',
            }}>
            <input
              type="radio"
              name="shop"
              checked={s.key === chosen}
              onChange={() => onChoose(s.key)}
              style={{ marginTop: 4 }}
            />
            <Box sx={{ minWidth: 0 }}>
              <Box sx={{ fontWeight: s.key === chosen ? 680 : 500 }} dir="auto">
                {s.name}
              </Box>
              <Box sx={{ fontSize: '0.78rem', color: 'text.secondary' }}>
                {t('shops.in', {
                  country: countryName(s.country, i18n.language),
                  currency: s.currency,
                  tax: t(`shops.tax.${s.tax}`),
                })}
                <br />
                {t('shops.goods', { count: goods, n: f.number(goods, 0) })}
                {s.last !== null && ` · ${t('shops.readBefore')}`}
              </Box>
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}

/** Where the goods are sold, and what comes on top of the shop's prices or off them. */
function Terms({
  p,
  state: { shop, chosen, change, market, isKnown, sellOn },
}: {
  p: ShopData;
  state: State;
}) {
  const { t, i18n } = useWords();
  if (shop === null || chosen === null) return null;
  const isLost =
    chosen.own.assumptions.purchase.vat !== 'asTyped' &&
    shopVatBack(shop.country, chosen.own.country, p.standings) === false;
  const terms = {
    own: chosen.own,
    onChange: (own: typeof chosen.own) => change({ own }),
    home: p.home,
    sales: market?.currency ?? p.home,
    categories: [],
    hasBasis: [],
    strange: [],
  };
  return (
    <>
      <Typography variant="h2" sx={{ mt: 3, mb: 1 }}>
        {t('shops.sold')}
      </Typography>
      <ChoiceLine
        label={t('shops.market')}
        value={chosen.own.marketplaceCardId ?? ''}
        options={p.markets.map((m) => ({ value: m.id, label: m.name }))}
        onChange={sellOn}
        width="100%"
      />
      {!isKnown && (
        <Typography variant="body2" sx={{ mt: 0.5 }}>
          {t('shops.noMarket')}
        </Typography>
      )}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: '1fr 1fr',
          gap: '6px 14px',
          alignItems: 'start',
          fontSize: '0.86rem',
        }}>
        {isLost && (
          <Box sx={{ gridColumn: '1 / -1', mt: 1 }}>
            {t('shops.vatLost', { country: countryName(shop.country, i18n.language) })}
          </Box>
        )}
        <BuyingTerms {...terms} />
        <CostTerms {...terms} />
      </Box>
    </>
  );
}

/** What will be read, and the button that begins it. */
function Foot({ state: { shop, setup } }: { state: State }) {
  const { t } = useWords();
  const f = useFormat();
  const submit = useSubmit();
  const busy = useNavigation().state !== 'idle';
  const count = setup?.choice.categories.length ?? 0;
  const goods = setup?.choice.categories.reduce((n, c) => n + c.goods, 0) ?? 0;
  const send = (): void => {
    if (setup === null) return;
    const { isEdition: _, ...sent } = setup;
    void submit(JSON.stringify(sent), { method: 'post', encType: 'application/json' });
  };
  return (
    <Box
      sx={{
        gridColumn: '1 / -1',
        position: 'sticky',
        bottom: 0,
        py: 1.5,
        display: 'flex',
        gap: 2,
        alignItems: 'center',
        flexWrap: 'wrap',
        bgcolor: 'background.default',
        borderTop: '1px solid',
        borderColor: 'divider',
        zIndex: 1,
      }}>
      <Button variant="contained" color="primary" disabled={setup === null || busy} onClick={send}>
        {t('shops.read')}
      </Button>
      <Box role="status">
        {setup === null
          ? t('shops.saidNothing')
          : t('shops.said', {
              n: f.number(goods, 0),
              categories: t('shops.saidCategories', { count }),
              shop: shop?.name,
            })}
        {setup?.isEdition === true && `; ${t('shops.edition')}`}.
      </Box>
    </Box>
  );
}
