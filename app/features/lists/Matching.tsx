/** Goods without a proven barcode beside the listings they could be: looked at one by one, decided by keyboard. */
import { Alert, Box, Button, LinearProgress, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Trans, useTranslation } from 'react-i18next';
import { Link, useActionData, useRevalidator, useSubmit } from 'react-router';
import type { ListingSeen, MatchDecision, MatchedRow } from '../../../between/matching.ts';
import { codeOfKey } from '../../../core/match/remembered.ts';
import { addWords } from '../../i18n.ts';
import { matchingWords } from '../../locales/en.matching.ts';
import { NumField, TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';

addWords(matchingWords);
const SHOWN = ['open', 'certain', 'likely', 'byEye', 'none', 'decided'] as const;
type Shown = (typeof SHOWN)[number];
type Packs = { readonly sold: number; readonly bought: number };
type Props = {
  list: { id: string; name: string; hasReference: boolean };
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
  const { t } = useTranslation();
  const f = useFormat();
  const told = useActionData<{ error?: string }>();
  const submit = useSubmit();
  const { revalidate } = useRevalidator();
  const url = `${root}/lists/${list.id}`;
  const act = (what: object): void =>
    void submit(what as never, { method: 'post', encType: 'application/json' });
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
            onClick={() => act({ intent: 'match' })}>
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
          <Desk key={shown} {...{ rows, decisions, act, canEdit }} />
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
  const { t } = useTranslation();
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

/** The rows at the left, the one at hand at the right. */
function Desk({
  rows,
  decisions,
  act,
  canEdit,
}: Pick<Props, 'rows' | 'decisions' | 'canEdit'> & { act: (what: object) => void }) {
  const { t } = useTranslation();
  const [at, setAt] = useState(0);
  const [last, setLast] = useState<MatchedRow | null>(null);
  const row = rows[Math.min(at, rows.length - 1)] ?? null;
  const [packs, setPacks] = useState<Packs | null>(null);
  const move = (to: number): void => {
    setPacks(null);
    setAt(Math.max(0, Math.min(rows.length - 1, to)));
  };
  const decide = (key: string | null): void => {
    if (row === null || !canEdit) return;
    act({ intent: 'decide', said: row.said, key, packs: key === null ? null : packs });
    setPacks(null);
    setLast(row);
  };
  const undo = (): void => {
    if (last === null) return;
    act({ intent: 'undecide', said: last.said });
    setLast(null);
  };
  const keys = { preventDefault: true };
  useHotkeys('down', () => move(at + 1), keys, [at, rows]);
  useHotkeys('up', () => move(at - 1), keys, [at, rows]);
  useHotkeys('enter', () => row?.listing != null && decide(row.listing.key), {}, [row, packs]);
  useHotkeys('n', () => decide(null), keys, [row]);
  useHotkeys('u', undo, keys, [last]);
  useHotkeys(
    '1,2,3,4,5',
    (_, { keys: pressed }) => {
      const other = row?.others[Number(pressed?.[0]) - 1];
      if (other !== undefined) decide(other.key);
    },
    keys,
    [row, packs],
  );
  if (row === null)
    return last === null ? null : <Button onClick={undo}>{t('matching.undo', { title: last.title })}</Button>;
  const decision = decisions.find((d) => d.said === row.said) ?? null;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '300px 1fr' }, gap: 3 }}>
      <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0, maxHeight: 460, overflowY: 'auto' }}>
        {rows.map((r, i) => (
          <li key={r.said}>
            <Button
              fullWidth
              size="small"
              aria-current={r === row ? 'true' : undefined}
              onClick={() => move(i)}
              sx={{
                justifyContent: 'flex-start',
                textAlign: 'start',
                fontWeight: r === row ? 650 : 400,
                bgcolor: r === row ? 'paperTint' : 'transparent',
              }}>
              <bdi>{r.title}</bdi>
            </Button>
          </li>
        ))}
      </Box>
      <Box aria-live="polite">
        <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 2 }}>
          <Goods row={row} />
          {row.listing !== null && <Listing listing={row.listing} row={row} />}
        </Box>
        <Typography sx={{ my: 1 }} data-testid="match-reason">
          <b>{t(`matching.confidence.${row.confidence}`)}</b>: {t(`matching.reason.${row.reason}`)}
        </Typography>
        {decision !== null ? (
          <Typography>
            {decision.key === null
              ? t('matching.decidedNone')
              : t('matching.decidedAs', { code: codeOfKey(decision.key) })}{' '}
            {canEdit && (
              <Button size="small" onClick={() => act({ intent: 'undecide', said: row.said })}>
                {t('matching.takeBack')}
              </Button>
            )}
          </Typography>
        ) : (
          canEdit && (
            <>
              <PackOf packs={packs ?? row.packs} set={setPacks} />
              <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', my: 1 }}>
                {row.listing !== null && (
                  <Button variant="contained" onClick={() => decide(row.listing?.key ?? null)}>
                    {t('matching.confirm')}
                  </Button>
                )}
                <Button variant="outlined" onClick={() => decide(null)}>
                  {t('matching.refuse')}
                </Button>
                <Button onClick={() => move(at + 1)}>{t('matching.skip')}</Button>
                {last !== null && (
                  <Button color="inherit" onClick={undo}>
                    {t('matching.undo', { title: last.title.slice(0, 40) })}
                  </Button>
                )}
              </Box>
              <Others others={row.others} choose={decide} />
              <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
                {t('matching.keys')}
              </Typography>
            </>
          )
        )}
      </Box>
    </Box>
  );
}

function Goods({ row }: { row: MatchedRow }) {
  const { t } = useTranslation();
  return (
    <Pane title={t('matching.goods', { line: row.line })}>
      <Typography sx={{ fontWeight: 650 }}>
        <bdi>{row.title}</bdi>
      </Typography>
      <Typography variant="body2" color="text.secondary">
        {[
          row.brand,
          row.cost === '' ? '' : t('matching.cost', { cost: row.cost }),
          row.barcode === '' ? t('matching.noBarcode') : t('matching.stood', { text: row.barcode }),
        ]
          .filter((x) => x !== '')
          .join(' · ')}
      </Typography>
    </Pane>
  );
}

function Listing({ listing, row }: { listing: ListingSeen; row: MatchedRow }) {
  const { t } = useTranslation();
  const words = new Set(row.title.toLowerCase().split(/\s+/));
  return (
    <Pane title={t('matching.listing')}>
      <Typography sx={{ fontWeight: 500 }}>
        {/* What both titles say stands out. */}
        <bdi>
          {listing.title.split(/(\s+)/).map((w, i) =>
            // biome-ignore lint/suspicious/noArrayIndexKey: words are told apart by their place alone
            words.has(w.toLowerCase()) ? <b key={i}>{w}</b> : w,
          )}
        </bdi>
      </Typography>
      <About listing={listing} />
    </Pane>
  );
}

function About({ listing }: { listing: ListingSeen }) {
  const { t } = useTranslation();
  const f = useFormat();
  return (
    <Typography variant="body2" color="text.secondary" component="span">
      {[
        listing.brand,
        listing.price === null ? '' : t('matching.price', { price: f.number(listing.price) }),
        listing.units === null ? '' : t('matching.units', { units: f.number(listing.units, 0) }),
        t('matching.barcode', { code: codeOfKey(listing.key) }),
      ]
        .filter((x) => x !== '')
        .join(' · ')}
    </Typography>
  );
}

/** Pieces in the packs of both sides: what is typed here goes with the barcode. */
function PackOf({ packs, set }: { packs: Packs; set: (packs: Packs) => void }) {
  const { t } = useTranslation();
  const field = (which: 'sold' | 'bought') => (
    <NumField
      label={t(`matching.${which}`)}
      value={packs[which]}
      onChange={(v) => v !== null && v >= 1 && set({ ...packs, [which]: v })}
      kind="number"
      whole
      min={1}
      max={10_000}
      width={80}
    />
  );
  return (
    <Box
      role="group"
      aria-label={t('matching.packs')}
      sx={{ display: 'flex', gap: 1, alignItems: 'flex-end' }}>
      <Typography variant="body2" sx={{ pb: 0.75 }}>
        {t('matching.packs')}
      </Typography>
      {field('sold')}
      {field('bought')}
    </Box>
  );
}

function Others({ others, choose }: { others: readonly ListingSeen[]; choose: (key: string) => void }) {
  const { t } = useTranslation();
  if (others.length === 0) return null;
  return (
    <Box component="section" aria-label={t('matching.others')}>
      <Typography variant="body2">{t('matching.others')}</Typography>
      <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
        {others.slice(0, 5).map((o) => (
          <li key={`${o.key}${o.title}`}>
            <bdi>{o.title}</bdi> <About listing={o} />{' '}
            <Button
              size="small"
              sx={{ minWidth: 0, py: 0 }}
              aria-label={`${t('matching.choose')}: ${o.title}`}
              onClick={() => choose(o.key)}>
              {t('matching.choose')}
            </Button>
          </li>
        ))}
      </Box>
    </Box>
  );
}

function Noise({ noise, act }: { noise: readonly string[]; act: (what: object) => void }) {
  const { t } = useTranslation();
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
