import { Box, Button, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { useFetcher, useParams } from 'react-router';
import type { StoredLane } from '../../../core/workspace/records.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { useStore, useValue } from './store.ts';
import { useWords } from '../../ui/useWords.ts';

/** Puts another candidate's goods into the pack: the lane is then a bundle, costed as the sum of its components. */
export default function ComponentOf({ laneId, candidateId }: { laneId: string; candidateId: string }) {
  const { t } = useWords();
  const { workspace } = useParams();
  const store = useStore();
  const [open, setOpen] = useState(false);
  const names = useFetcher<{ names: { id: string; name: string }[] }>();
  const adding = useFetcher<{ components?: StoredLane['components']; error?: string }>();
  const [taken, setTaken] = useState<unknown>(null);
  const components = (useValue('lane', laneId, ['components']) as StoredLane['components'] | undefined) ?? [];
  const answer = adding.data;
  // The quotes have come with the page's own data by the time the answer stands here.
  useEffect(() => {
    if (answer?.components === undefined || answer === taken || adding.state !== 'idle') return;
    setTaken(answer);
    setOpen(false);
    store.edit([
      { entity: 'lane', id: laneId, path: ['components'], to: [...components, ...answer.components] },
    ]);
  }, [answer, taken, adding.state, store, laneId, components]);
  if (!open)
    return (
      <Button
        size="small"
        onClick={() => {
          setOpen(true);
          void names.load(`/w/${workspace}/names`);
        }}>
        {t('form.addProduct')}
      </Button>
    );
  const others = (names.data?.names ?? []).filter((n) => n.id !== candidateId);
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-end' }}>
      <ChoiceLine
        label={t('form.chooseProduct')}
        value=""
        width={240}
        options={[
          { value: '', label: names.data === undefined ? t('nav.loading') : '–' },
          ...others.map((n) => ({ value: n.id, label: n.name })),
        ]}
        onChange={(product) => {
          if (product !== '')
            void store
              .flush()
              .then(() =>
                adding.submit(
                  { intent: 'addComponentOf', product },
                  { method: 'post', action: `/w/${workspace}/weigh/${candidateId}` },
                ),
              );
        }}
      />
      <Button size="small" onClick={() => setOpen(false)}>
        {t('cancel')}
      </Button>
      {answer?.error !== undefined && (
        <Typography role="alert" color="error" variant="body2">
          {answer.error}
        </Typography>
      )}
    </Box>
  );
}
