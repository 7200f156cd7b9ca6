/** What is followed in this market: the listing, its variation, the words by which rivals and terms are found. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import { Link, useParams } from 'react-router';
import { ChoiceLine, TextLine } from '../../ui/Field.tsx';
import { tell } from '../../ui/client.ts';
import { useNotDone } from '../../ui/useNotDone.ts';
import { toListing } from '../find/ways.ts';
import { Borrow } from './parts.tsx';
import type { PaneProps } from './parts.tsx';
import { useWords } from '../../ui/useWords.ts';

const EVERY_MS = 600;
type Asked = { over: boolean; seen: number; wrong: string[] };

export function Follow({
  market,
  watch,
  decide,
  canEdit,
  hasFeed,
  url,
  onChanged,
}: PaneProps & { hasFeed: boolean }) {
  const { t } = useWords();
  const { workspace } = useParams();
  const notDone = useNotDone();
  const [listing, setListing] = useState(watch.listing);
  const [search, setSearch] = useState(watch.search);
  const [state, setState] = useState<'idle' | 'asking' | Asked | string>('idle');
  const alive = useRef(true);
  useEffect(() => {
    alive.current = true;
    return () => {
      alive.current = false;
    };
  }, []);
  if (!canEdit) return null;
  const { variations } = market.composed.document;
  const keep = async (): Promise<boolean> => {
    const [code, words] = [listing.trim(), search.trim()];
    if (code === watch.listing && words === watch.search) return true;
    // Another listing has other variations.
    const fresh = code === watch.listing ? {} : { variation: '' };
    return decide({ listing: code, search: words, ...fresh });
  };
  const ask = async (): Promise<void> => {
    setState('asking');
    // What was typed has to be there before the feed is asked about it.
    if (!(await keep())) return setState('idle');
    const told = await tell<{ task: string }>(`${url}/ask`, { market: market.key });
    if (!told.ok) return setState(notDone(told));
    for (;;) {
      await new Promise((done) => setTimeout(done, EVERY_MS));
      if (!alive.current) return;
      const said = await tell<Asked>(`${url}/ask?task=${told.data.task}`);
      if (!said.ok) return setState(notDone(said));
      if (!said.data.over) continue;
      setState(said.data);
      return onChanged();
    }
  };
  const nothing = listing.trim() === '' && search.trim() === '';
  return (
    <Box sx={{ mb: 1.5 }}>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'end', flexWrap: 'wrap' }}>
        <TextLine label={t('market.follow.listing')} value={listing} onChange={setListing} width={130} />
        {variations.length > 0 && (
          <ChoiceLine
            label={t('market.follow.variation')}
            width={150}
            value={watch.variation}
            onChange={(variation) => decide({ variation })}
            options={[
              { value: '', label: t('market.follow.whole') },
              ...variations.map((v) => ({ value: v.code, label: v.name || v.code })),
            ]}
          />
        )}
        <TextLine label={t('market.follow.search')} value={search} onChange={setSearch} width={210} />
        {hasFeed ? (
          <Button
            size="small"
            variant="outlined"
            disabled={state === 'asking' || nothing}
            onClick={() => void ask()}>
            {t(state === 'asking' ? 'market.follow.asking' : 'market.follow.ask')}
          </Button>
        ) : (
          <Button
            size="small"
            disabled={listing.trim() === watch.listing && search.trim() === watch.search}
            onClick={() => void keep()}>
            {t('market.follow.keep')}
          </Button>
        )}
        {hasFeed && watch.listing !== '' && (
          <Link
            to={toListing({ root: `/w/${workspace}`, market: market.key }, watch.listing)}
            style={{ color: 'inherit' }}>
            {t('market.follow.look')}
          </Link>
        )}
        <Borrow market={market} />
        {typeof state === 'object' && (
          <Typography variant="body2" role="status" color="text.secondary">
            {t('market.follow.seen', { count: state.seen })}
          </Typography>
        )}
      </Box>
      {typeof state === 'string' && state !== 'idle' && state !== 'asking' && (
        <Alert severity="error">{state}</Alert>
      )}
      {typeof state === 'object' &&
        state.wrong.map((w) => (
          <Alert key={w} severity="warning" sx={{ mt: 0.5 }}>
            {w}
          </Alert>
        ))}
    </Box>
  );
}
