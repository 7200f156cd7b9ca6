/** A candidate in the list, and its other lanes where it is opened. */
import { MoreButton } from '../../ui/MoreButton.tsx';
import { Box, TableCell, TableRow } from '@mui/material';
import DownIcon from '@mui/icons-material/ExpandMore';
import { Link } from 'react-router';
import { MarginBar } from '../../ui/MarginBar.tsx';
import type { BarResult } from '../../ui/MarginBar.tsx';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { Gates, LaneCells } from './WeighCells.tsx';
import type { CandidateLine, LaneLine } from './weighed.ts';
import { useWords } from '../../ui/useWords.ts';

const missedOf = (b: LaneLine | null) =>
  (b?.hurdles ?? []).filter((h) => h.verdict === 'fail' || h.verdict === 'near');

export function CandidateRow({
  line: l,
  lanes,
  barOf,
  scale,
  base,
  homeCurrency,
  isOpen,
  ticked,
  onOpen,
  onTick,
  onMenu,
}: {
  line: CandidateLine;
  /** Its lanes, where it is opened. */
  lanes: readonly LaneLine[];
  barOf: (x: LaneLine) => BarResult;
  scale: number;
  base: string;
  homeCurrency: string;
  isOpen: boolean;
  ticked: boolean;
  onOpen: () => void;
  /** Null: one may only look. */
  onTick: (() => void) | null;
  onMenu: ((el: HTMLElement) => void) | null;
}) {
  const { t, i18n } = useWords();
  const b = l.best;
  return (
    <>
      <TableRow
        hover
        sx={{
          bgcolor: isOpen ? 'paperTint' : undefined,
          '& td, & th': { borderBottomColor: isOpen ? 'transparent' : undefined },
        }}>
        {onTick !== null && (
          <TableCell padding="none" sx={{ verticalAlign: 'top', pt: 0.75 }}>
            <input
              type="checkbox"
              checked={ticked}
              onChange={onTick}
              aria-label={t('weigh.tickOne', { name: l.name })}
            />
          </TableCell>
        )}
        <TableCell component="th" scope="row" sx={{ maxWidth: { xs: 190, md: 'none' } }}>
          <Box
            component={Link}
            to={`${base}/weigh/${l.id}${b === null ? '' : `?lane=${b.id}`}`}
            prefetch="intent"
            dir="auto"
            sx={{
              color: 'inherit',
              textDecoration: 'none',
              display: 'inline-block',
              minHeight: 24,
              lineHeight: '24px',
              fontWeight: 640,
              fontSize: '0.9rem',
              overflowWrap: 'anywhere',
              '&:hover': { textDecoration: 'underline' },
            }}>
            {l.name}
          </Box>
          <Box sx={{ fontSize: '0.78rem', color: 'text.secondary' }}>
            {b === null
              ? t('weigh.noLane')
              : `${countryName(b.country, i18n.language)} · ${b.marketplace || t('sheet.noMarketplace')}`}
            {l.laneCount > 1 && (
              <Box
                component="button"
                type="button"
                aria-expanded={isOpen}
                onClick={onOpen}
                sx={{
                  font: 'inherit',
                  color: 'inherit',
                  border: 0,
                  bgcolor: 'transparent',
                  cursor: 'pointer',
                  p: 0,
                  ml: 0.5,
                  minHeight: 24,
                  verticalAlign: 'middle',
                  whiteSpace: 'nowrap',
                }}>
                · {t('weigh.bestOf', { count: l.laneCount })}
                <DownIcon
                  sx={{
                    fontSize: 15,
                    verticalAlign: 'text-bottom',
                    transform: isOpen ? 'rotate(180deg)' : 'none',
                  }}
                />
              </Box>
            )}
          </Box>
          {b !== null && l.newer.length > 0 && (
            <NewerOf lane={b} newer={l.newer} to={`${base}/weigh/${l.id}/market?lane=${b.id}`} />
          )}
          {b !== null && (
            <Box sx={{ display: { sm: 'none' }, mt: 0.25 }}>
              <MarginBar result={barOf(b)} scale={scale} height={8} />
            </Box>
          )}
        </TableCell>
        <LaneCells
          lane={b}
          bar={b === null ? null : barOf(b)}
          scale={scale}
          homeCurrency={homeCurrency}
          bold
        />
        <TableCell sx={{ pl: 3, display: { xs: 'none', md: 'table-cell' } }}>
          <Gates market={l.market} gates={l.gates} dropped={l.dropped} missed={missedOf(b)} />
        </TableCell>
        <TableCell sx={{ p: 0 }}>
          {onMenu !== null && <MoreButton label={t('weigh.actions', { name: l.name })} onOpen={onMenu} />}
        </TableCell>
      </TableRow>
      {isOpen &&
        lanes.map(
          (x) =>
            x.id !== b?.id && (
              <TableRow
                key={x.id}
                sx={{ bgcolor: 'paperTint', '& td': { borderBottomColor: 'transparent', py: 0.4 } }}>
                {onTick !== null && <TableCell />}
                <TableCell sx={{ pl: 3, fontSize: '0.84rem' }}>
                  <Box component={Link} to={`${base}/weigh/${l.id}?lane=${x.id}`} sx={{ color: 'inherit' }}>
                    {countryName(x.country, i18n.language)} · {x.marketplace || t('sheet.noMarketplace')}
                  </Box>
                </TableCell>
                <LaneCells lane={x} bar={barOf(x)} scale={scale} homeCurrency={homeCurrency} />
                <TableCell sx={{ display: { xs: 'none', md: 'table-cell' } }} />
                <TableCell />
              </TableRow>
            ),
        )}
    </>
  );
}

/** Evidence that is newer than the lane holds: what a unit would keep by it; it leads to where it is taken over. */
function NewerOf({ lane, newer, to }: { lane: LaneLine; newer: CandidateLine['newer']; to: string }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const lacks = lane.bar.incomplete.unitProfit;
  const text =
    newer.length === 1 && newer[0]?.after != null
      ? t('weigh.newerKeeps', { amount: bounds.of(f.money(newer[0].after, lane.currency), lacks) })
      : t('weigh.newer', { count: newer.length });
  return (
    <Box
      component={Link}
      to={to}
      sx={{
        display: 'block',
        fontSize: '0.78rem',
        color: 'text.primary',
        minHeight: 24,
        lineHeight: '24px',
      }}>
      {text}
    </Box>
  );
}
