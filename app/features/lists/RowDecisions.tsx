/** What one decides on a row: keep, shortlist, drop, confirm its pack. */
import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { packsAsNamed } from '../../../core/goods/packs.ts';
import type { ListRow } from '../../../between/ask.ts';
import { NumField, TextLine } from '../../ui/Field.tsx';
import { useWords } from '../../ui/useWords.ts';

export type RowMark = {
  state: string | null;
  reason: string;
  note: string;
  tags: string[];
  candidateId: string | null;
  soldPack: number | null;
  boughtPack: number | null;
};

export type Change = {
  state?: 'shortlisted' | 'dropped' | 'ordered' | 'kept' | null;
  reason?: string;
  note?: string;
  tags?: string[];
  pack?: { sold: number; bought: number } | null;
  listing?: number | null;
};

/** Why something is dropped: one of the usual reasons, or words of one's own. */
export function DropReason({ onDrop }: { onDrop: (reason: string) => void }) {
  const { t } = useWords();
  const [reason, setReason] = useState('');
  return (
    <Box
      component="form"
      onSubmit={(e: { preventDefault: () => void }) => {
        e.preventDefault();
        onDrop(reason.trim());
      }}
      sx={{ mt: 1 }}>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 0.5 }}>
        {(['price', 'brand', 'size', 'slow', 'risk'] as const).map((r) => (
          <Box
            key={r}
            component="button"
            type="button"
            onClick={() => setReason(t(`list.reasons.${r}`))}
            sx={{
              font: 'inherit',
              fontSize: '0.8rem',
              color: 'text.primary',
              bgcolor: 'transparent',
              border: '1px solid',
              borderColor: 'fieldLine',
              borderRadius: 1,
              px: 0.75,
              minHeight: 24,
              cursor: 'pointer',
            }}>
            {t(`list.reasons.${r}`)}
          </Box>
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'end' }}>
        <TextLine label={t('list.reason')} value={reason} onChange={setReason} width="100%" maxLength={500} />
        <Button type="submit" size="small" variant="outlined">
          {t('list.drop')}
        </Button>
      </Box>
    </Box>
  );
}

/** Keep, shortlist, drop with a reason; tags and a note. */
export function Decide({
  row,
  mark,
  onMark,
  onKeep,
}: {
  row: ListRow;
  mark: RowMark | null;
  onMark: (c: Change) => void;
  onKeep: () => void;
}) {
  const { t } = useWords();
  const [dropping, setDropping] = useState(false);
  const [note, setNote] = useState(mark?.note ?? '');
  const [tags, setTags] = useState(mark?.tags.join(', ') ?? '');
  const state = mark?.state ?? null;
  const tagList = tags
    .split(',')
    .map((x) => x.trim().slice(0, 40))
    .filter(Boolean)
    .slice(0, 20);
  return (
    <Box sx={{ mt: 1.5, borderTop: '1px solid', borderColor: 'text.primary', pt: 1 }}>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        {state !== 'kept' && (
          <Button size="small" variant="contained" color="primary" onClick={onKeep}>
            {t('list.keep')}
          </Button>
        )}
        {state !== 'shortlisted' && state !== 'kept' && (
          <Button
            size="small"
            variant="outlined"
            onClick={() => onMark({ state: 'shortlisted', reason: '' })}>
            {t('list.shortlist')}
          </Button>
        )}
        {state !== 'dropped' && (
          <Button size="small" onClick={() => setDropping(!dropping)} aria-expanded={dropping}>
            {t('list.drop')}
          </Button>
        )}
        {state === 'kept' && (
          <Button size="small" onClick={() => onMark({ state: 'ordered' })}>
            {t('list.ordered')}
          </Button>
        )}
        {state !== null && (
          <Button size="small" onClick={() => onMark({ state: null, reason: '' })}>
            {t('list.undecide')}
          </Button>
        )}
      </Box>
      {dropping && (
        <DropReason
          onDrop={(reason) => {
            onMark({ state: 'dropped', reason });
            setDropping(false);
          }}
        />
      )}
      <Box
        sx={{ display: 'grid', gap: 0.75, mt: 1 }}
        onBlur={() =>
          (note !== (mark?.note ?? '') || tagList.join() !== (mark?.tags ?? []).join()) &&
          onMark({ note: note.trim(), tags: tagList })
        }>
        <TextLine label={t('list.tags')} value={tags} onChange={setTags} width="100%" />
        <TextLine
          label={t('list.note')}
          value={note}
          onChange={setNote}
          width="100%"
          multiline
          maxLength={5000}
        />
      </Box>
      <span className="hidden-text">{row.code}</span>
    </Box>
  );
}

/** What the words say of packs, and what is confirmed. */
export function Packs({
  row,
  mark,
  pack,
  canEdit,
  onMark,
}: {
  row: ListRow;
  mark: RowMark | null;
  pack: number;
  canEdit: boolean;
  onMark: (c: Change) => void;
}) {
  const { t } = useWords();
  const named = packsAsNamed(row.figures.pack ?? 0, row.listingPack);
  const [sold, setSold] = useState<number | null>(mark?.soldPack ?? named.sold);
  const [bought, setBought] = useState<number | null>(mark?.boughtPack ?? named.bought);
  return (
    <Box sx={{ mt: 1, pl: 1, borderLeft: '3px solid', borderColor: 'fieldLine' }}>
      {t('list.packSays', { pack })}
      {row.listingPack > 0 && `, ${t('list.packListing', { pack: row.listingPack })}`}.
      {canEdit && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'end', flexWrap: 'wrap' }}>
          <NumField
            label={t('list.packRatio')}
            kind="number"
            whole
            min={1}
            max={10_000}
            value={sold}
            onChange={setSold}
            width={92}
          />
          <NumField
            label={t('list.packBought')}
            kind="number"
            whole
            min={1}
            max={10_000}
            value={bought}
            onChange={setBought}
            width={110}
          />
          <Button
            size="small"
            onClick={() => sold !== null && bought !== null && onMark({ pack: { sold, bought } })}>
            {t('list.packConfirm')}
          </Button>
          {mark?.soldPack != null && (
            <Button size="small" onClick={() => onMark({ pack: null })}>
              {t('list.packUndo')}
            </Button>
          )}
        </Box>
      )}
    </Box>
  );
}
