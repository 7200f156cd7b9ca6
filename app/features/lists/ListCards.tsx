/** Which card versions a list is weighed with, and what newer ones would change of it. */
import { Alert, Box, Button } from '@mui/material';
import { useState } from 'react';
import type { Answer } from '../../../between/ask.ts';
import { useFormat } from '../../ui/locale.ts';
import type { ListCard } from './listData.ts';
import { useWords } from '../../ui/useWords.ts';

const VERDICTS = ['pass', 'near', 'fail', 'unknown'] as const;
type Verdicts = Answer['verdicts'];

/** "Weighed with …", each card with the day of its version. */
export function WeighedWith({ cards }: { cards: readonly ListCard[] }) {
  const { t } = useWords();
  const f = useFormat();
  if (cards.length === 0) return null;
  return (
    <Box sx={{ mt: 1.5, fontSize: '0.8rem', color: 'text.secondary' }}>
      {t('list.weighedWith')}
      <Box component="ul" sx={{ m: 0, pl: 2 }}>
        {cards.map((c) => (
          <li key={c.id}>{t('list.version', { name: c.name, date: f.day(c.day) })}</li>
        ))}
      </Box>
    </Box>
  );
}

/**
 * Says that newer versions are in force; shows how many rows would pay, come near, fail under them, and takes
 * them when that was seen. `ask`: the verdicts with these card versions instead.
 */
export function NewerCards({
  cards,
  before,
  ask,
  onTake,
}: {
  cards: readonly ListCard[];
  before: Verdicts;
  ask: (ids: Partial<Record<ListCard['field'], string>>) => Promise<Verdicts | null>;
  /** Null: one may only look. */
  onTake: ((ids: Partial<Record<ListCard['field'], string>>) => void) | null;
}) {
  const { t } = useWords();
  const f = useFormat();
  const [after, setAfter] = useState<Verdicts | 'asking' | 'failed' | null>(null);
  const newer = cards.flatMap((c) => (c.now === null ? [] : [{ ...c, now: c.now }]));
  if (newer.length === 0) return null;
  const ids = Object.fromEntries(newer.map((c) => [c.field, c.now.id]));
  const known = typeof after === 'object' ? after : null;
  const look = (): void => {
    setAfter('asking');
    void ask(ids).then((got) => setAfter(got ?? 'failed'));
  };
  return (
    <Alert
      severity="info"
      variant="outlined"
      sx={{ my: 0.5, py: 0 }}
      action={
        known !== null && onTake !== null ? (
          <Button
            size="small"
            onClick={() => {
              setAfter(null);
              onTake(ids);
            }}>
            {t('list.newer.take')}
          </Button>
        ) : (
          <Button size="small" disabled={after === 'asking'} onClick={look}>
            {t('list.newer.look')}
          </Button>
        )
      }>
      {newer.map((c) => (
        <div key={c.id}>
          {t('list.newer.is', { name: c.name, date: f.day(c.day), newer: f.day(c.now.day) })}
        </div>
      ))}
      <div role="status">
        {after === 'failed' && t('list.newer.failed')}
        {known !== null &&
          (VERDICTS.every((v) => known[v] === before[v])
            ? t('list.newer.same')
            : t('list.newer.counts', {
                counts: VERDICTS.filter((v) => known[v] !== before[v])
                  .map((v) =>
                    t('list.newer.count', {
                      what: t(`list.${v}`),
                      before: f.number(before[v], 0),
                      after: f.number(known[v], 0),
                    }),
                  )
                  .join(' · '),
              }))}
      </div>
    </Alert>
  );
}
