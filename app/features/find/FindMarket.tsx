/** Searches a market: every limit that is not set is no limit; what is found is weighed by the workspace's defaults. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Form, Link, useFetcher, useNavigation } from 'react-router';
import { PICKS, RANGE_FIGURES, SORTS } from '../../../between/feed.ts';
import type { MarketplaceCard } from '../../../core/cards/rates.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import { addWords } from '../../i18n.ts';
import { findMarketWords } from '../../locales/en.findMarket.ts';
import { ChoiceLine, fieldInput, TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useAddress } from '../../ui/useAddress.ts';
import { FindTrail } from './FindTrail.tsx';
import { FoundTable } from './FoundTable.tsx';
import type { FoundFrame, FoundRows } from './useFound.ts';
import { useWords } from '../../ui/useWords.ts';

addWords(findMarketWords);

export type FindMarketProps = FoundFrame & {
  hasFeed: boolean;
  markets: { key: string; name: string }[];
  found: FoundRows | null;
  wrong: string | null;
};

export function FindMarketPage(p: FindMarketProps) {
  const { t } = useWords();
  const [search] = useAddress();
  const busy = useNavigation().state !== 'idle';
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <FindTrail root={p.root} here={t('findMarket.title')} />
      <Typography variant="h4" component="h1" sx={{ mb: 1 }}>
        {t('findMarket.lead')}
      </Typography>
      {!p.hasFeed && (
        <Alert severity="info" variant="outlined" sx={{ mb: 1 }}>
          {t('findMarket.noFeed')} <Link to={`${p.root}/settings#feed`}>{t('findMarket.setFeed')}</Link>
        </Alert>
      )}
      {p.hasFeed && <SearchForm key={search.toString()} {...p} />}
      {p.wrong !== null && <Alert severity="error">{p.wrong}</Alert>}
      {busy && (
        <Typography variant="body2" role="status">
          {t('nav.loading')}
        </Typography>
      )}
      {p.found !== null && <FoundTable {...p} found={p.found} />}
    </Box>
  );
}

/** The limits, as a form whose state is the address: it can be kept, sent on, and gone back to. */
function SearchForm({ markets, market, cards, laneCards, marks, settings, root, canEdit }: FindMarketProps) {
  const { t } = useWords();
  const f = useFormat();
  const countOf = (state: string): number => marks.filter((m) => m.state === state).length;
  const decided = (['shortlisted', 'dropped'] as const).filter((d) => countOf(d) > 0);
  const [search, setAddress] = useAddress();
  const [more, setMore] = useState(RANGE_FIGURES.some((f) => search.has(`${f}From`) || search.has(`${f}To`)));
  const card = cards[laneCards.marketplace ?? ''] as MarketplaceCard | undefined;
  const at = (name: string): string => search.get(name) ?? '';
  return (
    <Box component={Form} method="get" sx={{ mb: 1.5 }}>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'end' }}>
        <ChoiceLine
          name="market"
          label={t('findMarket.market')}
          width={200}
          value={market ?? ''}
          options={markets.map((m) => ({ value: m.key, label: m.name }))}
        />
        <Named name="words" label={t('findMarket.words')} value={at('words')} width={230} />
        <ChoiceLine
          name="category"
          label={t('findMarket.category')}
          width={140}
          value={at('category')}
          options={[
            { value: '', label: t('findMarket.any') },
            ...(card?.categories ?? []).map((c) => ({ value: c.key, label: c.name })),
          ]}
        />
        <ChoiceLine
          name="sort"
          label={t('findMarket.sort')}
          width={190}
          value={at('sort') || 'relevance'}
          options={SORTS.map((s) => ({ value: s, label: t(`findMarket.sorts.${s}`) }))}
        />
        <Button type="submit" variant="contained" size="small">
          {t('findMarket.search')}
        </Button>
        <Button size="small" aria-expanded={more} onClick={() => setMore(!more)}>
          {t('findMarket.limits')}
        </Button>
        <Button size="small" component={Link} to={`${root}/find/market`}>
          {t('findMarket.clear')}
        </Button>
      </Box>
      <Box sx={{ display: more ? 'flex' : 'none', gap: 1.5, flexWrap: 'wrap', mt: 1 }}>
        {RANGE_FIGURES.map((f) => (
          <Box key={f} sx={{ display: 'flex', gap: 0.5, alignItems: 'end' }}>
            <Named name={`${f}From`} label={t(`findMarket.range.${f}`)} value={at(`${f}From`)} width={72} />
            <span>–</span>
            <Named name={`${f}To`} label={t('findMarket.to')} value={at(`${f}To`)} width={72} />
          </Box>
        ))}
        <Named name="brand" label={t('findMarket.brand')} value={at('brand')} width={120} />
        <Named name="seller" label={t('findMarket.seller')} value={at('seller')} width={140} />
      </Box>
      <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', mt: 0.5, alignItems: 'end' }}>
        {[...PICKS, ...decided].map((x) => (
          <Button
            key={x}
            size="small"
            aria-pressed={at('list') === x}
            onClick={() => setAddress({ list: x, words: null, cursor: null })}>
            {t(`findMarket.lists.${x}`, { count: f.number(countOf(x), 0) as never })}
          </Button>
        ))}
        <Button size="small" component={Link} to={`${root}/find/seller`}>
          {t('findMarket.followed')}
        </Button>
        <Saved searches={settings.savedSearches} root={root} canEdit={canEdit} />
      </Box>
    </Box>
  );
}

/** A field of the form under a name. */
function Named({ name, label, value, width }: { name: string; label: string; value: string; width: number }) {
  return (
    <Box component="label" sx={{ display: 'block', fontSize: '0.78rem', color: 'text.secondary', width }}>
      {label}
      <Box
        component="input"
        name={name}
        defaultValue={value}
        autoComplete="off"
        sx={{
          ...fieldInput(false),
          width: '100%',
          height: 31,
          px: 0.75,
          font: 'inherit',
          fontSize: '0.9rem',
          color: 'text.primary',
          border: 0,
          borderBottom: '1.5px solid',
          borderColor: 'fieldLine',
          bgcolor: 'background.paper',
        }}
      />
    </Box>
  );
}

/** Searches that were kept under a name, for everybody in the workspace. */
function Saved({
  searches,
  root,
  canEdit,
}: {
  searches: Settings['savedSearches'];
  root: string;
  canEdit: boolean;
}) {
  const { t } = useWords();
  const [search] = useAddress();
  const [name, setName] = useState('');
  const { submit } = useFetcher();
  const put = (to: Settings['savedSearches']): void =>
    void submit({ path: ['savedSearches'], to } as never, {
      method: 'post',
      encType: 'application/json',
      action: `${root}/settings`,
    });
  const here = search.toString().slice(0, 1000);
  return (
    <>
      {searches.map((s) => (
        <Box key={s.name} component="span" sx={{ display: 'inline-flex', alignItems: 'baseline' }}>
          <Button size="small" component={Link} to={`${root}/find/market?${s.query}`}>
            {s.name}
          </Button>
          {canEdit && (
            <Button
              size="small"
              sx={{ minWidth: 0, px: 0.5, minHeight: 25 }}
              aria-label={t('findMarket.forget', { name: s.name })}
              onClick={() => put(searches.filter((x) => x.name !== s.name))}>
              ×
            </Button>
          )}
        </Box>
      ))}
      {canEdit && here !== '' && (
        <Box sx={{ display: 'inline-flex', gap: 0.5, alignItems: 'end' }}>
          <TextLine label={t('findMarket.saveAs')} value={name} onChange={setName} width={130} />
          <Button
            size="small"
            disabled={name.trim() === ''}
            onClick={() => {
              put(
                [...searches.filter((x) => x.name !== name.trim()), { name: name.trim(), query: here }].slice(
                  -50,
                ),
              );
              setName('');
            }}>
            {t('findMarket.save')}
          </Button>
        </Box>
      )}
    </>
  );
}
