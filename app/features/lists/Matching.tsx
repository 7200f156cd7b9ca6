/** Goods without a proven barcode beside the listings they could be: looked at one by one, decided by keyboard. */
import { Alert, Box, Button, LinearProgress, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { Trans } from 'react-i18next';
import { Link, useFetcher, useRevalidator } from 'react-router';
import type { MatchDecision, MatchedRow, PicturesFrom } from '../../../between/matching.ts';
import { addWords } from '../../i18n.ts';
import { matchingWords } from '../../locales/en.matching.ts';
import { TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useInOrder } from '../../ui/useInOrder.ts';
import { MatchDesk } from './MatchDesk.tsx';
import { useWords } from '../../ui/useWords.ts';

addWords(matchingWords);
const SHOWN = ['open', 'certain', 'likely', 'byEye', 'none', 'decided'] as const;
type Shown = (typeof SHOWN)[number];
type Props = {
  list: { id: string; name: string; hasReference: boolean; from: PicturesFrom | null };
  work: { state: string; done: number; total: number; error: string | null } | null;
  counts: Readonly<Record<'certain' | 'likely' | 'byEye' | 'none' | 'decided', number>>;
  rows: readonly MatchedRow[];
  decisions: readonly MatchDecision[];
  noise: readonly string[];
  shown: Shown;
  root: string;
  canEdit: boolean;
};
const EVERY_MS = 1000;

export function Matching(props: Props) {
  const { list, work, counts, rows, decisions, noise, shown, root, canEdit } = props;
  const { t } = useWords();
  const f = useFormat();
  const { submit, data: told } = useFetcher<{ error?: string }>();
  const { revalidate } = useRevalidator();
  const url = `${root}/lists/${list.id}`;
  // Keys may be fast, and a second submission would cut off the first.
  const inOrder = useInOrder();
  const act = (what: object): void =>
    void inOrder(() => submit(what as never, { method: 'post', encType: 'application/json' }));
  const isWorking = work?.state === 'waiting' || work?.state === 'running';
  useEffect(() => {
    if (!isWorking) return;
    const timer = setInterval(() => void revalidate(), EVERY_MS);
    return () => clearInterval(timer);
  }, [isWorking, revalidate]);
  const open = counts.likely + counts.byEye + counts.certain;
  const isEmpty = open + counts.none + counts.decided === 0;
  return (
    <Box sx={{ maxWidth: 1180 }}>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline', flexWrap: 'wrap', mb: 0.5 }}>
        <Typography variant="h1">{t('matching.title')}</Typography>
        <Typography color="text.secondary" sx={{ flex: 1 }}>
          <bdi>{t('matching.of', { list: list.name })}</bdi>
        </Typography>
        <Button component={Link} to={url} size="small">
          {t('matching.back')}
        </Button>
        {canEdit && list.hasReference && (
          <Button
            variant={isEmpty ? 'contained' : 'outlined'}
            disabled={isWorking}
            onClick={(e) => {
              // The next Enter is for the goods below, not for matching once more.
              e.currentTarget.blur();
              act({ intent: 'match' });
            }}>
            {t(isEmpty ? 'matching.match' : 'matching.again')}
          </Button>
        )}
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
        {t('matching.lead')}
      </Typography>
      {told?.error !== undefined && <Alert severity="error">{told.error}</Alert>}
      {!list.hasReference && <Alert severity="info">{t('matching.noReference')}</Alert>}
      {work !== null && (
        <Box role="status" sx={{ my: 1 }}>
          {isWorking ? (
            <>
              {t('matching.working', { done: f.number(work.done, 0), total: f.number(work.total, 0) })}
              <LinearProgress
                aria-label={t('matching.match')}
                variant={work.total > 0 ? 'determinate' : 'indeterminate'}
                value={work.total > 0 ? (100 * work.done) / work.total : 0}
              />
            </>
          ) : (
            <Alert severity="error">{t('matching.failed', { error: work.error ?? '' })}</Alert>
          )}
        </Box>
      )}
      {isEmpty ? (
        !isWorking && <Typography>{t('matching.none')}</Typography>
      ) : (
        <>
          <Typography variant="h4" component="p" data-testid="matching-answer" sx={{ mb: 1 }}>
            {counts.likely + counts.byEye === 0 ? (
              t('matching.saidNone')
            ) : (
              <Trans
                i18nKey="matching.said"
                count={counts.likely + counts.byEye}
                values={{ count: counts.likely + counts.byEye }}
                components={{ b: <strong /> }}
              />
            )}{' '}
            {counts.certain > 0 && t('matching.certainToo', { count: counts.certain })}
          </Typography>
          <Bar {...{ counts, shown, act, canEdit, url }} />
          <MatchDesk
            key={shown}
            {...{ rows, decisions, act, canEdit, told }}
            pictures={{ root, from: list.from }}
          />
        </>
      )}
      {canEdit && <Noise key={noise.join(' ')} noise={noise} act={act} />}
    </Box>
  );
}

/** What is shown, and what is done with all of it. */
function Bar({
  counts,
  shown,
  act,
  canEdit,
  url,
}: Pick<Props, 'counts' | 'shown' | 'canEdit'> & { act: (what: object) => void; url: string }) {
  const { t } = useWords();
  const f = useFormat();
  const of = (s: Shown): number => (s === 'open' ? counts.certain + counts.likely + counts.byEye : counts[s]);
  return (
    <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mb: 1.5 }}>
      <Box
        component="nav"
        aria-label={t('matching.title')}
        sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap' }}>
        {SHOWN.map((s) => (
          <Button
            key={s}
            component={Link}
            to={`?show=${s}`}
            size="small"
            aria-current={s === shown ? 'page' : undefined}
            sx={{ fontWeight: s === shown ? 700 : 400, bgcolor: s === shown ? 'paperTint' : 'transparent' }}>
            {t(`matching.show.${s}`)} {f.number(of(s), 0)}
          </Button>
        ))}
      </Box>
      {canEdit && counts.certain > 0 && (
        <Button variant="outlined" size="small" onClick={() => act({ intent: 'takeCertain' })}>
          {t('matching.takeCertain', { count: counts.certain })}
        </Button>
      )}
      {canEdit && counts.decided > 0 && (
        <Button component={Link} to={`${url}/setup`} size="small">
          {t('matching.readAgain')}
        </Button>
      )}
      <Typography variant="body2" color="text.secondary">
        {counts.decided > 0 && t('matching.decidedHint')}
      </Typography>
    </Box>
  );
}

function Noise({ noise, act }: { noise: readonly string[]; act: (what: object) => void }) {
  const { t } = useWords();
  const [text, setText] = useState(noise.join(' '));
  return (
    <Box component="details" sx={{ mt: 3 }}>
      <Box component="summary" sx={{ cursor: 'pointer', fontWeight: 600 }}>
        {t('matching.noise')}
      </Box>
      <Typography variant="body2" color="text.secondary">
        {t('matching.noiseText')}
      </Typography>
      <TextLine
        label={t('matching.noise')}
        value={text}
        onChange={setText}
        multiline
        maxRows={8}
        maxLength={20_000}
        width="100%"
      />
      <Button
        size="small"
        onClick={() => act({ intent: 'noise', words: text.split(/\s+/).filter((w) => w !== '') })}>
        {t('matching.saveNoise')}
      </Button>
    </Box>
  );
}
