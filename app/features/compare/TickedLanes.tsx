/** Several lanes of a comparison at once: looked at alone, or dropped. */
import { Box, Button } from '@mui/material';
import { useCallback, useState } from 'react';
import { useWords } from '../../ui/useWords.ts';

/** Which lanes are ticked, and which alone are shown (null: all). */
export function useTicked() {
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [only, setOnly] = useState<ReadonlySet<string> | null>(null);
  const onTick = useCallback((ids: readonly string[], to: boolean): void => {
    setTicked((now) => {
      const next = new Set(now);
      for (const id of ids) {
        if (to) next.add(id);
        else next.delete(id);
      }
      return next;
    });
  }, []);
  const untick = useCallback(() => setTicked(new Set()), []);
  return { ticked, onTick, untick, only, setOnly };
}

export function TickedLanes({
  count,
  all,
  shown,
  onOnly,
  onAll,
  onDrop,
  onUntick,
}: {
  count: number;
  all: number;
  /** How many are shown alone; null: all are. */
  shown: number | null;
  onOnly: () => void;
  onAll: () => void;
  onDrop: (() => void) | null;
  onUntick: () => void;
}) {
  const { t } = useWords();
  if (count === 0 && shown === null) return null;
  const name = t('compare.ticked', { count });
  return (
    <Box
      role="toolbar"
      aria-label={name}
      sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', fontSize: '0.86rem' }}>
      {count > 0 && (
        <>
          <b>{name}</b>
          <Button size="small" variant="outlined" onClick={onOnly}>
            {t('compare.onlyThese')}
          </Button>
          {onDrop !== null && (
            <Button size="small" onClick={onDrop}>
              {t('compare.dropThese')}
            </Button>
          )}
          <Button size="small" onClick={onUntick}>
            {t('weigh.untick')}
          </Button>
        </>
      )}
      {shown !== null && (
        <>
          <span>{t('compare.someShown', { shown, all })}</span>
          <Button size="small" onClick={onAll}>
            {t('compare.showAll')}
          </Button>
        </>
      )}
    </Box>
  );
}
