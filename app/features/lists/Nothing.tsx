/** What stands in place of rows: why there are none, and how far reading is. */
import { Box, Button, LinearProgress, Typography } from '@mui/material';
import type { TFunction } from 'i18next';
import { useState } from 'react';
import { Link } from 'react-router';
import type { CatalogueSaid } from '../../../core/shops/place.ts';
import type { Work } from './useScreen.ts';
import type { Answer } from '../../../between/ask.ts';
import { useFormat } from '../../ui/locale.ts';
import { useWords } from '../../ui/useWords.ts';

/** What rows lack, in words: a line that is blank, or what is wrong. */
export const lackingWord = (what: string, t: TFunction): string =>
  what === 'price'
    ? t('list.unknownPrice')
    : t(`listTrouble.${what}`, { defaultValue: '' }) || t('list.lacksLine', { line: t(`blank.${what}`) });

/** What an empty screen says: what most rows lack, or that the limits leave nothing. */
export function Nothing({
  answer,
  short,
  onUnknown,
  onNear,
  setup,
  refused,
  onAssume,
}: {
  answer: Answer;
  short: boolean;
  onUnknown: () => void;
  onNear: () => void;
  setup: string;
  refused: { count: number; url: string } | null;
  onAssume: () => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const { verdicts, lacking } = answer;
  const remedies = [
    ...new Set(
      lacking
        .slice(0, 3)
        .map(([what]) => t(`listRemedy.${what}`, { defaultValue: '' }))
        .filter(Boolean),
    ),
  ];
  if (answer.rows === 0)
    return (
      <Box sx={{ py: 5, px: 2, maxWidth: '62ch', mx: 'auto' }}>
        <Typography variant="h2" sx={{ fontSize: '1.15rem', mb: 1 }}>
          {t('list.noneGood')}
        </Typography>
        <Typography>{t(refused === null ? 'list.noneGoodEmpty' : 'list.noneGoodHelp')}</Typography>
        <Box sx={{ display: 'flex', gap: 1, mt: 2 }}>
          {refused !== null && (
            <Button component="a" href={refused.url} variant="contained" color="primary">
              {t('list.toMend', { count: refused.count })}
            </Button>
          )}
          <Button component={Link} to={setup}>
            {t('list.setup')}
          </Button>
        </Box>
      </Box>
    );
  if (!short)
    return (
      <Box sx={{ py: 6, textAlign: 'center' }}>
        <b>{t('list.nothing')}</b>
        <Typography color="text.secondary">{t('list.nothingHelp')}</Typography>
      </Box>
    );
  return (
    <Box sx={{ py: 5, px: 2, maxWidth: '62ch', mx: 'auto' }}>
      <Typography variant="h2" sx={{ fontSize: '1.15rem', mb: 1 }}>
        {verdicts.unknown > 0
          ? t('list.nothingKnown', { n: f.number(verdicts.unknown, 0) })
          : t('list.nothingPays')}
      </Typography>
      {verdicts.unknown > 0 && (
        <>
          <Box component="ul" sx={{ m: 0, pl: 2.5, '& li::first-letter': { textTransform: 'uppercase' } }}>
            {lacking.slice(0, 6).map(([what, n]) => (
              <li key={what}>
                {lackingWord(what, t)}: {t('list.rowsOf', { count: n, n: f.number(n, 0) })}
              </li>
            ))}
          </Box>
          {remedies.map((r) => (
            <Typography key={r} sx={{ mt: 1 }}>
              {r}
            </Typography>
          ))}
        </>
      )}
      <Box sx={{ display: 'flex', gap: 1, mt: 2 }}>
        {verdicts.unknown > 0 && (
          <Button variant="contained" color="primary" onClick={onUnknown}>
            {t('list.showUnknown')}
          </Button>
        )}
        {verdicts.near > 0 && (
          <Button variant={verdicts.unknown > 0 ? 'outlined' : 'contained'} onClick={onNear}>
            {t('list.showNear', { count: verdicts.near, n: f.number(verdicts.near, 0) })}
          </Button>
        )}
        {verdicts.unknown > 0 && <Button onClick={onAssume}>{t('list.assumptions')}</Button>}
        {verdicts.unknown > 0 && (
          <Button component={Link} to={setup}>
            {t('list.setup')}
          </Button>
        )}
      </Box>
    </Box>
  );
}

/** How far the reading of a shop is: its pages, then the search for listings of goods without a barcode. */
function catalogueNow(c: CatalogueSaid, t: TFunction, f: ReturnType<typeof useFormat>): string {
  if (c.toSearch !== null)
    return t('catalogue.searching', { done: f.number(c.searches, 0), total: f.number(c.toSearch, 0) });
  return t('catalogue.reading', {
    pages: f.number(c.pages, 0),
    goods: f.number(c.goods, 0),
    expected: f.number(c.expected, 0),
  });
}

/** How far the reading is: rows, rate, time left. */
export function Progress({
  work,
  startedAt,
  onStop,
}: {
  work: Pick<Work, 'done' | 'total' | 'catalogue'> | null;
  startedAt: string | null;
  onStop: (() => void) | null;
}) {
  const { t } = useWords();
  const f = useFormat();
  const [mounted] = useState(() => Date.now());
  if (work === null) return null;
  const since = Math.max(
    0.5,
    (Date.now() - (startedAt === null ? mounted : new Date(startedAt).getTime())) / 1000,
  );
  const rate = work.done / since;
  const left =
    rate > 0 && work.total > work.done ? Math.max(1, Math.round((work.total - work.done) / rate)) : 0;
  return (
    <Box role="status" sx={{ fontSize: '0.84rem', my: 0.5 }}>
      {work.done === 0
        ? t(work.catalogue == null ? 'list.waiting' : 'catalogue.begins')
        : work.done >= work.total
          ? t(work.catalogue?.toSearch == null ? 'list.indexing' : 'catalogue.allRead')
          : t('list.reading', {
              done: f.number(work.done, 0),
              total: f.number(work.total, 0),
              rate: f.number(rate, 0),
              left: t('list.secondsLeft', { count: left }),
            })}
      {work.catalogue != null && ` ${catalogueNow(work.catalogue, t, f)}`}
      {onStop !== null && (
        <Button size="small" onClick={onStop}>
          {t('list.stop')}
        </Button>
      )}
      <LinearProgress
        variant={work.total === 0 ? 'indeterminate' : 'determinate'}
        value={work.total === 0 ? 0 : Math.min(100, (100 * work.done) / work.total)}
        aria-label={t('list.soFar')}
      />
    </Box>
  );
}
