/** Parts of the page that adds lanes: what can be ticked, and what would be made of it. */
import { Box, Button, Checkbox, FormControlLabel, Typography } from '@mui/material';
import { METHODS } from '../../../core/lane/schema.ts';
import type { Proposal } from '../../../core/workspace/proposals.ts';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import './words.ts';
import type { Props } from './AddLanes.tsx';
import { useWords } from '../../ui/useWords.ts';

/** What is ticked, by the names it has in the address: m marketplaces, f methods, q quotes, r routes. */
export type Ticks = {
  readonly of: (k: string) => readonly string[];
  readonly has: (k: string, v: string) => boolean;
  readonly set: (k: string, values: readonly string[]) => void;
  readonly toggle: (k: string, v: string) => void;
};
export const keyOf = (p: Proposal): string =>
  [p.marketplaceCardId, p.method, p.quoteId, p.freightCardId].join('|');

/** Marketplaces across, countries down: a tick for each pair there is, and for whole columns. */
export function Markets({ markets, ticks }: { markets: Props['markets']; ticks: Ticks }) {
  const { t, i18n } = useWords();
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
export function Ways({
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
  const { t } = useWords();
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
export function ProposalList({
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
  const { t, i18n } = useWords();
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
