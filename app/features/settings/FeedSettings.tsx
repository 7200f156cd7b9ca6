/** The market feed of the workspace: none, the stand-in, or an address of one's own with its secret. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { tell } from '../../ui/client.ts';
import { ChoiceLine, TextLine } from '../../ui/Field.tsx';
import { useNotDone } from '../../ui/useNotDone.ts';
import { Section } from './Section.tsx';
import { useWords } from '../../ui/useWords.ts';

export type FeedShown = { address: string; hasSecret: boolean } | null;

export function FeedSettings({ feed, slug, canEdit }: { feed: FeedShown; slug: string; canEdit: boolean }) {
  const { t } = useWords();
  const notDone = useNotDone();
  const [which, setWhich] = useState<'none' | 'standIn' | 'own'>(
    feed === null ? 'none' : feed.address === '' ? 'standIn' : 'own',
  );
  const [address, setAddress] = useState(feed?.address ?? '');
  const [secret, setSecret] = useState('');
  const [said, setSaid] = useState<{ ok: boolean; text: string } | null>(null);
  const keep = async (): Promise<void> => {
    const own = which === 'own';
    const given =
      which === 'none'
        ? null
        : { address: own ? address.trim() : '', secret: own && secret !== '' ? secret : null };
    const told = await tell<{ markets: number | null; wrong: string | null }>(`/w/${slug}/settings/feed`, {
      feed: given,
    });
    if (!told.ok) return setSaid({ ok: false, text: notDone(told) });
    setSecret('');
    const { markets, wrong } = told.data;
    setSaid(
      wrong !== null
        ? { ok: false, text: wrong }
        : { ok: true, text: markets === null ? t('feed.off') : t('feed.kept', { count: markets }) },
    );
  };
  return (
    <Section title={t('feed.title')} id="feed" text={t('feed.text')}>
      <ChoiceLine
        label={t('feed.which')}
        width={230}
        value={which}
        onChange={setWhich}
        options={(['none', 'standIn', 'own'] as const).map((x) => ({
          value: x,
          label: t(`feed.choice.${x}`),
        }))}
      />
      {which === 'own' && (
        <>
          <TextLine
            label={t('feed.address')}
            value={address}
            onChange={setAddress}
            width={300}
            placeholder="https://"
          />
          <TextLine
            label={feed?.hasSecret ? t('feed.secretKept') : t('feed.secret')}
            value={secret}
            onChange={setSecret}
            width={220}
          />
        </>
      )}
      {canEdit && (
        <Button size="small" variant="outlined" onClick={() => void keep()}>
          {t('feed.keep')}
        </Button>
      )}
      <Box sx={{ width: '100%' }}>
        {said !== null && (
          <Alert role="status" severity={said.ok ? 'success' : 'error'}>
            {said.text}
          </Alert>
        )}
        {which === 'own' && (
          <Typography variant="body2" color="text.secondary">
            {t('feed.contract')}
          </Typography>
        )}
      </Box>
    </Section>
  );
}
