import { Alert, Box, Button, Checkbox, FormControlLabel, Typography } from '@mui/material';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useFetcher, useSearchParams } from 'react-router';
import { HABITS } from '../../../core/compare/prices.ts';
import type { Habit } from '../../../core/compare/prices.ts';
import { METHODS } from '../../../core/lane/schema.ts';
import type { Proposal } from '../../../core/workspace/proposals.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import './words.ts';

type Props = {
  name: string;
  way: string;
  candidateId: string;
  proposals: Proposal[];
  quotes: { id: string; supplier: string }[];
  lanes: { id: string; country: string; marketplace: string; method: string }[];
  markets: { id: string; key: string; marketplace: string; country: string }[];
  routes: { id: string; key: string; name: string }[];
  root: string;
  canEdit: boolean;
};

/** What is ticked, by the names it has in the address: m marketplaces, f methods, q quotes, r routes. */
type Ticks = {
  readonly of: (k: string) => readonly string[];
  readonly has: (k: string, v: string) => boolean;
  readonly set: (k: string, values: readonly string[]) => void;
  readonly toggle: (k: string, v: string) => void;
};
const keyOf = (p: Proposal): string => [p.marketplaceCardId, p.method, p.quoteId, p.freightCardId].join('|');

/**
 * Choose marketplaces, fulfilment, quotes and routes; every sensible combination is proposed and made in one
 * action.
 */
export function AddLanesPage({
  name,
  way,
  candidateId,
  proposals,
  quotes,
  lanes,
  markets,
  routes,
  root,
  canEdit,
}: Props) {
  const { t, i18n } = useTranslation();
  const [address, setAddress] = useSearchParams();
  // What is ticked shows at once; the address and the proposals follow.
  const [search, setTicked] = useState(address);
  const [without, setWithout] = useState<ReadonlySet<string>>(new Set());
  const [like, setLike] = useState(lanes[0]?.id ?? '');
  const [habit, setHabit] = useState<Habit>('99');
  const fetcher = useFetcher<{ error?: string; tooMany?: number }>();
  const has = (k: string, v: string): boolean => search.getAll(k).includes(v);
  const set = (k: string, values: readonly string[]): void => {
    const next = new URLSearchParams(search);
    next.delete(k);
    for (const v of values) next.append(k, v);
    // The one quote there is need not be chosen.
    if (quotes.length > 0 && next.getAll('q').length === 0) next.append('q', quotes[0]?.id ?? '');
    if (next.getAll('f').length === 0 && k === 'm')
      next.append('f', way === 'supplierShips' ? 'supplierShips' : 'warehouse');
    setTicked(next);
    setAddress(next, { replace: true, preventScrollReset: true });
  };
  const toggle = (k: string, v: string): void =>
    set(k, has(k, v) ? search.getAll(k).filter((x) => x !== v) : [...search.getAll(k), v]);
  const ticks: Ticks = { of: (k) => search.getAll(k), has, set, toggle };
  const makes = proposals.filter((p) => p.possible && !p.exists && !without.has(keyOf(p)));
  const make = (): void => {
    const left = proposals.flatMap((p, i) => (without.has(keyOf(p)) ? [i] : []));
    void fetcher.submit(
      { without: left.join(','), like, habit },
      { method: 'post', action: `?${search.toString()}` },
    );
  };
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Typography component="span" color="text.secondary">
        <Box
          component={Link}
          to={`${root}/weigh/${candidateId}/compare`}
          sx={{ color: 'inherit' }}
          dir="auto">
          {name}
        </Box>{' '}
        /
      </Typography>
      <Typography variant="h1" sx={{ fontSize: '1.5rem' }} dir="auto">
        {t('proposals.title', { name })}
      </Typography>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        {t('proposals.lead')}
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '480px 1fr' }, gap: 4 }}>
        <Box>
          <Markets markets={markets} ticks={ticks} />
          <Ways way={way} quotes={quotes} routes={routes} ticks={ticks} />
        </Box>
        <Box>
          <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap', mb: 1 }}>
            {lanes.length > 0 && (
              <ChoiceLine
                label={t('proposals.like')}
                value={like}
                width={330}
                options={[
                  ...lanes.map((l) => ({
                    value: l.id,
                    label: `${countryName(l.country, i18n.language)} · ${l.marketplace}, ${t(`method.${l.method}`)}`,
                  })),
                  { value: '', label: t('proposals.likeNone') },
                ]}
                onChange={setLike}
              />
            )}
            {like !== '' && (
              <ChoiceLine
                label={t('proposals.habit')}
                value={habit}
                width={100}
                options={HABITS.map((x) => ({ value: x, label: t(`prices.habits.${x}`) }))}
                onChange={setHabit}
              />
            )}
            {canEdit && (
              <Button
                variant="contained"
                disabled={makes.length === 0 || fetcher.state !== 'idle'}
                onClick={make}>
                {t('proposals.make', { count: makes.length })}
              </Button>
            )}
          </Box>
          {like !== '' && (
            <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
              {t('proposals.likeText')}
            </Typography>
          )}
          {fetcher.data?.tooMany !== undefined && (
            <Alert severity="error" sx={{ mb: 1 }}>
              {t('proposals.tooMany', { count: fetcher.data.tooMany })}
            </Alert>
          )}
          {fetcher.data?.error && (
            <Alert severity="error" sx={{ mb: 1 }}>
              {fetcher.data.error}
            </Alert>
          )}
          {proposals.length === 0 ? (
            <Typography>{t('proposals.nothing')}</Typography>
          ) : (
            <ProposalList
              proposals={proposals}
              quotes={quotes}
              routes={routes}
              without={without}
              onWithout={setWithout}
            />
          )}
        </Box>
      </Box>
    </Box>
  );
}

/** Marketplaces across, countries down: a tick for each pair there is, and for whole columns. */
function Markets({ markets, ticks }: { markets: Props['markets']; ticks: Ticks }) {
  const { t, i18n } = useTranslation();
  const { has, set, toggle } = ticks;
  const markNames = [...new Set(markets.map((m) => m.marketplace))];
  const places = [...new Set(markets.map((m) => m.country))].sort((a, b) =>
    countryName(a, i18n.language).localeCompare(countryName(b, i18n.language)),
  );
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, mb: 2 }}>
      <Typography component="legend" variant="h3" sx={{ mb: 0.5 }}>
        {t('proposals.marketplaces')}
      </Typography>
      <Box sx={{ overflowX: 'auto' }}>
        <Box
          component="table"
          sx={{
            borderCollapse: 'collapse',
            fontSize: '0.86rem',
            '& th, & td': {
              px: 0.75,
              py: 0,
              textAlign: 'center',
              borderBottom: '1px solid',
              borderColor: 'hairline',
            },
            '& th': { fontWeight: 600 },
            '& tbody th': { textAlign: 'left', fontWeight: 400 },
          }}>
          <thead>
            <tr>
              <th>
                <Button
                  size="small"
                  onClick={() =>
                    set('m', ticks.of('m').length === markets.length ? [] : markets.map((m) => m.key))
                  }>
                  {ticks.of('m').length === markets.length ? t('proposals.none') : t('proposals.all')}
                </Button>
              </th>
              {markNames.map((m) => {
                const own = markets.filter((x) => x.marketplace === m).map((x) => x.key);
                const full = own.every((k) => has('m', k));
                return (
                  <th key={m} scope="col">
                    <Button
                      size="small"
                      sx={{ px: 0.5, minWidth: 0 }}
                      aria-pressed={full}
                      onClick={() =>
                        set(
                          'm',
                          full
                            ? ticks.of('m').filter((k) => !own.includes(k))
                            : [...new Set([...ticks.of('m'), ...own])],
                        )
                      }>
                      {m}
                    </Button>
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {places.map((country) => (
              <tr key={country}>
                <th scope="row">{countryName(country, i18n.language)}</th>
                {markNames.map((m) => {
                  const card = markets.find((x) => x.marketplace === m && x.country === country);
                  return (
                    <td key={m}>
                      {card !== undefined && (
                        <Checkbox
                          size="small"
                          sx={{ p: 0.3 }}
                          checked={has('m', card.key)}
                          onChange={() => toggle('m', card.key)}
                          slotProps={{
                            input: { 'aria-label': `${m} ${countryName(country, i18n.language)}` },
                          }}
                        />
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
    </Box>
  );
}

/** Ways to fulfil, quotes to buy on and routes to bring goods in by. */
function Ways({
  way,
  quotes,
  routes,
  ticks,
}: {
  way: Props['way'];
  quotes: Props['quotes'];
  routes: Props['routes'];
  ticks: Ticks;
}) {
  const { t } = useTranslation();
  const { set } = ticks;
  const methods =
    way === 'supplierShips' ? (['supplierShips'] as const) : METHODS.filter((m) => m !== 'supplierShips');
  const box = (k: string, v: string, label: string) => (
    <FormControlLabel
      key={v}
      sx={{ mr: 1.5, ml: 0, '& .MuiFormControlLabel-label': { fontSize: '0.88rem' } }}
      control={
        <Checkbox
          size="small"
          sx={{ p: 0.4 }}
          checked={ticks.has(k, v)}
          onChange={() => ticks.toggle(k, v)}
        />
      }
      label={label}
    />
  );
  return (
    <>
      <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, mb: 2 }}>
        <Typography component="legend" variant="h3" sx={{ mb: 0.5 }}>
          {t('proposals.methods')}
        </Typography>
        {methods.map((m) => box('f', m, t(`method.${m}`)))}
      </Box>
      {quotes.length > 1 && (
        <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, mb: 2 }}>
          <Typography component="legend" variant="h3" sx={{ mb: 0.5 }}>
            {t('proposals.quotes')}
          </Typography>
          {quotes.map((q, i) => box('q', q.id, q.supplier || `${t('suppliers.supplier')} ${i + 1}`))}
        </Box>
      )}
      {way !== 'supplierShips' && (
        <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, mb: 2 }}>
          <Typography component="legend" variant="h3" sx={{ mb: 0.5 }}>
            {t('proposals.routes')}{' '}
            <Button
              size="small"
              onClick={() =>
                set('r', ticks.of('r').length === routes.length ? [] : routes.map((r) => r.key))
              }>
              {ticks.of('r').length === routes.length ? t('proposals.none') : t('proposals.all')}
            </Button>
          </Typography>
          <Typography variant="body2" color="text.secondary">
            {ticks.of('r').length === 0 && t('proposals.routesNone')}
          </Typography>
          <Box
            tabIndex={0}
            role="group"
            aria-label={t('proposals.routes')}
            sx={{ maxHeight: 150, overflowY: 'auto' }}>
            {routes.map((r) => box('r', r.key, r.name))}
          </Box>
        </Box>
      )}
    </>
  );
}

/** What would be made: each lane with what it lacks, and a tick that leaves it out. */
function ProposalList({
  proposals,
  quotes,
  routes,
  without,
  onWithout,
}: {
  proposals: readonly Proposal[];
  quotes: Props['quotes'];
  routes: Props['routes'];
  without: ReadonlySet<string>;
  onWithout: (without: ReadonlySet<string>) => void;
}) {
  const { t, i18n } = useTranslation();
  const f = useFormat();
  const where = (p: Proposal): string =>
    `${countryName(p.country, i18n.language)} · ${p.marketplace} · ${t(`method.${p.method}`)}`;
  const routeName = (id: string | null): string =>
    id === null ? t('proposals.defaultRoute') : (routes.find((r) => r.id === id)?.name ?? '');
  return (
    <Box
      role="region"
      tabIndex={0}
      aria-label={t('proposals.list')}
      sx={{
        maxHeight: 'calc(100vh - 300px)',
        minHeight: 260,
        overflowY: 'auto',
        borderTop: '1px solid',
        borderColor: 'text.primary',
      }}>
      {proposals.slice(0, 600).map((p) => {
        const off = without.has(keyOf(p));
        const makesIt = p.possible && !p.exists;
        return (
          <Box
            key={keyOf(p)}
            sx={{
              display: 'grid',
              gridTemplateColumns: '30px 1fr 1fr',
              gap: 1,
              alignItems: 'center',
              fontSize: '0.86rem',
              py: 0.4,
              borderBottom: '1px solid',
              borderColor: 'hairline',
              color: makesIt && !off ? 'text.primary' : 'text.secondary',
            }}>
            <Checkbox
              size="small"
              sx={{ p: 0.3 }}
              disabled={!makesIt}
              checked={makesIt && !off}
              onChange={() =>
                onWithout(new Set(off ? [...without].filter((k) => k !== keyOf(p)) : [...without, keyOf(p)]))
              }
              slotProps={{ input: { 'aria-label': t('proposals.keep', { where: where(p) }) } }}
            />
            <Box>
              {where(p)}
              <Box component="span" sx={{ display: 'block', fontSize: '0.76rem', color: 'text.secondary' }}>
                {p.method === 'supplierShips' ? '' : routeName(p.freightCardId)}
                {quotes.length > 1 &&
                  ` · ${quotes.find((q) => q.id === p.quoteId)?.supplier || t('proposals.noQuote')}`}
              </Box>
            </Box>
            <Box sx={{ fontSize: '0.8rem', color: p.possible ? 'text.secondary' : 'error.main' }}>
              {p.exists
                ? t('proposals.exists')
                : p.missing.length === 0
                  ? t('proposals.complete')
                  : p.possible
                    ? t('proposals.lacks', {
                        list: p.missing.map((x) => t(`proposals.missing.${x}`)).join(', '),
                      })
                    : `${t('proposals.cannot')}: ${t(`proposals.missing.${p.missing[0]}`)}`}
            </Box>
          </Box>
        );
      })}
      {proposals.length > 600 && (
        <Typography variant="body2">
          {t('draft.more', { count: f.number(proposals.length - 600) })}
        </Typography>
      )}
    </Box>
  );
}
