import { Alert, Box, IconButton, Typography } from '@mui/material';
import CloseIcon from '@mui/icons-material/Close';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { Hurdle } from '../../../core/lane/hurdleSchema.ts';
import { useBounds } from '../../ui/bounds.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';
import type { ListRow } from '../../../between/ask.ts';
import { MarginBar } from '../../ui/MarginBar.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Decide, Packs } from './RowDecisions.tsx';
import type { Change } from './RowDecisions.tsx';
import { Quantities, Listings, CopyCode } from './RowParts.tsx';
import { BuildUp, MoreOfRow, RowFigures, RowHurdles } from './RowFigures.tsx';
import { useOpened, useWorked } from './useOpened.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  url: string;
  line: number;
  edition: number;
  /** Assumptions that are tried and not saved. */
  tried: ListSettings | null;
  hurdles: readonly Hurdle[];
  root: string;
  canEdit: boolean;
  onClose: () => void;
  onMark: (row: ListRow, change: Change) => void;
  /** `quantity`: to be ordered, where not the list's. */
  onKeep: (row: ListRow, quantity: number | null) => void;
};

/**
 * A row opened: the full lane with its workings, what would clear the hurdles, and what is decided about the
 * goods.
 */
export function RowPane({
  url,
  line,
  edition,
  tried,
  hurdles,
  root,
  canEdit,
  onClose,
  onMark,
  onKeep,
}: Props) {
  const { t } = useWords();
  const bounds = useBounds();
  const f = useFormat();
  const { opened, notRead } = useOpened(url, line, edition, tried);
  const [quantity, setQuantity] = useState<{ line: number; of: number } | null>(null);
  const listed = opened?.row.line === line ? opened.doc : null;
  const order = quantity?.line === line ? quantity.of : null;
  const doc = useMemo(
    () => (listed === null || order === null ? listed : { ...listed, orderQuantity: order }),
    [listed, order],
  );
  const worked = useWorked(doc, hurdles);
  if (doc === null || opened === null || worked === null)
    return (
      <Typography variant="body2" color="text.secondary" role="status">
        {notRead === null ? t('list.loadingRow') : t(`notDone.${notRead}`)}
      </Typography>
    );
  const { row, mark, more } = opened;
  const { result } = worked;
  const profit = result.figures.unitProfit;
  const say = (x: number | null): string => f.money(x, doc.currency);
  const blanks = result.incomplete.unitProfit ?? [];
  const [problem] = result.problems;
  const pack = Math.max(1, row.figures.pack ?? 0);
  const listing = Math.max(1, row.listingPack);
  const link = more.link !== undefined && /^https?:\/\//i.test(more.link) ? more.link : null;
  return (
    <Box component="section" aria-label={row.title || row.code} sx={{ fontSize: '0.86rem' }}>
      <Box sx={{ display: 'flex', alignItems: 'flex-start', gap: 1 }}>
        <Typography variant="h2" dir="auto" sx={{ fontSize: '1.1rem', overflowWrap: 'anywhere' }}>
          {row.title || row.code}
        </Typography>
        <IconButton size="small" aria-label={t('list.close')} onClick={onClose} sx={{ ml: 'auto' }}>
          <CloseIcon fontSize="small" />
        </IconButton>
      </Box>
      <Box sx={{ color: 'text.secondary', fontSize: '0.8rem', mb: 1 }}>
        <CopyCode code={row.code} /> {row.brand !== '' && `· ${row.brand} `}
        {row.category !== '' && `· ${row.category} `}· {t('list.inFile', { row: row.line })}
        {link !== null && (
          <>
            {' '}
            ·{' '}
            <a href={link} target="_blank" rel="noreferrer noopener">
              {t('list.openLink')}
            </a>
          </>
        )}
      </Box>
      <Typography
        sx={{
          fontFamily: '"Bricolage Grotesque Variable", sans-serif',
          fontSize: '1.02rem',
          lineHeight: 1.35,
          mb: 1,
        }}>
        {profit === null
          ? problem === undefined
            ? t('answer.incomplete', { blanks: bounds.list(result.blanks) })
            : t(`problem.${problem.code}`, { ...problem })
          : t(profit < 0 ? 'bar.loses' : 'bar.keeps', {
              amount: bounds.of(say(Math.abs(profit)), blanks, profit < 0 ? 'atLeast' : 'atMost'),
              price: say(result.figures.gross),
            })}
        {profit !== null && blanks.length > 0 && (
          <>. {t('answer.incomplete', { blanks: bounds.list(blanks) })}</>
        )}
      </Typography>
      {result.figures.gross !== null && profit !== null && (
        <MarginBar result={result} height={18} breakEven={worked.even} />
      )}
      <RowFigures doc={doc} worked={worked} />
      <BuildUp doc={doc} result={result} />
      <RowHurdles doc={doc} worked={worked} row={row} />
      {listed !== null && (
        <Quantities doc={listed} now={doc.orderQuantity} onChoose={(of) => setQuantity({ line, of })} />
      )}
      {(pack > 1 || listing > 1 || mark?.soldPack != null) && (
        <Packs row={row} mark={mark} pack={pack} canEdit={canEdit} onMark={(change) => onMark(row, change)} />
      )}
      {opened.listings.length > 1 ? (
        <Listings
          listings={opened.listings}
          byHand={opened.listingByHand}
          currency={doc.currency}
          canEdit={canEdit}
          onChoose={(listing) => onMark(row, { listing })}
        />
      ) : (
        row.listings > 0 && (
          <Box sx={{ mt: 1, color: 'text.secondary' }}>{t('list.listings', { count: row.listings })}</Box>
        )
      )}
      <MoreOfRow more={more} />
      {mark?.state != null && (
        <Alert severity="info" icon={false} sx={{ mt: 1, py: 0 }}>
          {t(`listFlag.${mark.state}`)}
          {mark.reason !== '' && `: ${mark.reason}`}{' '}
          {mark.candidateId !== null && (
            <Link to={`${root}/weigh/${mark.candidateId}`}>{t('list.openCandidate')}</Link>
          )}
        </Alert>
      )}
      {canEdit && (
        <Decide
          key={row.key}
          row={row}
          mark={mark}
          onMark={(change) => onMark(row, change)}
          onKeep={() => onKeep(row, order)}
        />
      )}
    </Box>
  );
}
