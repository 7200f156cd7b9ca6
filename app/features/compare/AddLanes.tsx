import { Alert, Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Link, useFetcher, useSearchParams } from 'react-router';
import { HABITS } from '../../../core/compare/prices.ts';
import type { Habit } from '../../../core/compare/prices.ts';
import type { Proposal } from '../../../core/workspace/proposals.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { countryName } from '../../ui/names.ts';
import './words.ts';
import { keyOf, Markets, ProposalList, Ways } from './proposalParts.tsx';
import type { Ticks } from './proposalParts.tsx';
import { useWords } from '../../ui/useWords.ts';

export type Props = {
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
  const { t, i18n } = useWords();
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
