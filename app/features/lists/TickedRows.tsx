/** What is done with rows that are ticked, of a list as of a search. */
import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { useFormat } from '../../ui/locale.ts';
import { DropReason } from './RowDecisions.tsx';
import { useWords } from '../../ui/useWords.ts';

export type Decided = { state: 'shortlisted' | 'dropped'; reason: string };

/** What can be done with the rows that are ticked: shortlisted, kept, dropped with one reason for all. */
export function TickedRows({
  count,
  canEdit,
  onMark,
  onKeep,
  onPacks = null,
  onCloser = null,
  onUntick,
}: {
  count: number;
  canEdit: boolean;
  onMark: (change: Decided) => void;
  /** Null: not all at once. */
  onKeep: (() => void) | null;
  /** Null: none of them names a pack. */
  onPacks?: (() => void) | null;
  /** Null: there is no second look here. */
  onCloser?: (() => void) | null;
  onUntick: () => void;
}) {
  const { t } = useWords();
  const [dropping, setDropping] = useState(false);
  const f = useFormat();
  const name = t('list.chosen', { n: f.number(count, 0) });
  return (
    <>
      <Box role="toolbar" aria-label={name} sx={{ display: 'flex', gap: 0.5, alignItems: 'center' }}>
        <b>{name}</b>
        {canEdit && (
          <>
            <Button
              size="small"
              variant="contained"
              color="primary"
              onClick={() => onMark({ state: 'shortlisted', reason: '' })}>
              {t('list.shortlist')}
            </Button>
            {onKeep !== null && (
              <Button size="small" onClick={onKeep}>
                {t('list.keepMany')}
              </Button>
            )}
            {onCloser !== null && (
              <Button size="small" onClick={onCloser}>
                {t('list.closer')}
              </Button>
            )}
            <Button size="small" aria-expanded={dropping} onClick={() => setDropping(!dropping)}>
              {t('list.drop')}
            </Button>
            {onPacks !== null && (
              <Button size="small" onClick={onPacks}>
                {t('list.packBulk')}
              </Button>
            )}
          </>
        )}
        <Button size="small" onClick={onUntick}>
          {t('list.untick')}
        </Button>
      </Box>
      {dropping && (
        <Box sx={{ flexBasis: '100%', maxWidth: 640 }}>
          <DropReason
            onDrop={(reason) => {
              onMark({ state: 'dropped', reason });
              setDropping(false);
            }}
          />
        </Box>
      )}
    </>
  );
}
