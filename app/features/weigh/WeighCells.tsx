/** The cells of a candidate in Weigh: its lane's figures, its gates. */
import type { EvidenceGate } from '../../../core/evidence/gates.ts';
import { Box, TableCell, Tooltip } from '@mui/material';
import type { GateState } from '../../../core/workspace/summary.ts';
import { GATES } from '../../../core/workspace/records.ts';
import type { Gate } from '../../../core/workspace/records.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { FAMILIES } from '../../../core/lane/costLines.ts';
import { useBounds } from '../../ui/bounds.ts';
import { MarginBar } from '../../ui/MarginBar.tsx';
import type { BarResult } from '../../ui/MarginBar.tsx';
import { inSentence } from '../../ui/inSentence.ts';
import { floorTo, useFormat } from '../../ui/locale.ts';
import type { CandidateLine, LaneLine } from './weighed.ts';
import { useWords } from '../../ui/useWords.ts';

/** The same bar per 100 of price. */
export function perHundred(bar: BarResult): BarResult {
  const gross = bar.figures.gross ?? 0;
  const f = gross > 0 ? 100 / gross : 0;
  return {
    ...bar,
    families: Object.fromEntries(
      FAMILIES.map((x) => [x, bar.families[x] === null ? null : (bar.families[x] as number) * f]),
    ) as BarResult['families'],
    figures: {
      gross: gross * f,
      unitProfit: bar.figures.unitProfit === null ? null : bar.figures.unitProfit * f,
    },
  };
}

export function LaneCells({
  lane,
  bar,
  scale,
  homeCurrency,
  bold = false,
}: {
  lane: LaneLine | null;
  bar: BarResult | null;
  scale: number;
  homeCurrency: string;
  bold?: boolean;
}) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  if (lane === null || bar === null)
    return (
      <>
        <TableCell sx={{ display: { xs: 'none', sm: 'table-cell' } }} />
        <TableCell />
        <TableCell />
        <TableCell sx={{ display: { xs: 'none', md: 'table-cell' } }} />
        <TableCell sx={{ display: { xs: 'none', md: 'table-cell' } }} />
        <TableCell sx={{ display: { xs: 'none', md: 'table-cell' } }} />
        <TableCell sx={{ display: { xs: 'none', md: 'table-cell' } }} />
      </>
    );
  const profit = lane.bar.figures.unitProfit;
  const lacking = lane.bar.incomplete.unitProfit;
  const incomplete = bounds.lacks(lacking);
  const wide = { display: { xs: 'none', md: 'table-cell' } };
  return (
    <>
      <TableCell sx={{ display: { xs: 'none', sm: 'table-cell' }, minWidth: 160 }}>
        <MarginBar result={bar} scale={scale} height={bold ? 12 : 9} />
      </TableCell>
      <TableCell
        align="right"
        sx={{
          fontWeight: 680,
          whiteSpace: 'nowrap',
          color:
            profit === null
              ? 'text.secondary'
              : incomplete
                ? 'text.primary'
                : profit < 0
                  ? 'error.main'
                  : 'primary.main',
          fontSize: '0.92rem',
        }}>
        {profit === null ? '–' : bounds.of(f.plain(profit, lane.bar.currency || homeCurrency), lacking)}
        {profit !== null && profit < 0 && (
          <Box sx={{ fontSize: '0.74rem', lineHeight: 1 }}>{t('lanes.losesWord')}</Box>
        )}
      </TableCell>
      {incomplete || profit === null ? (
        <TableCell
          align="right"
          sx={{
            fontSize: '0.78rem',
            color: 'text.secondary',
            lineHeight: 1.25,
            minWidth: 90,
            display: { xs: 'table-cell', md: 'none' },
          }}
        />
      ) : null}
      {incomplete || profit === null ? (
        <TableCell
          colSpan={2}
          align="right"
          sx={{ ...wide, fontSize: '0.78rem', color: 'text.secondary', lineHeight: 1.25, minWidth: 90 }}>
          {profit === null && lane.problems[0] !== undefined
            ? t(`problemShort.${lane.problems[0]}`)
            : t('weigh.incomplete', { blanks: bounds.list(lane.blanks.filter((b) => b !== 'demand')) })}
          {lane.complete < 1 && (
            <Box component="span" sx={{ display: 'block' }}>
              {t('weigh.known', { share: f.percent(lane.complete, 0) })}
            </Box>
          )}
        </TableCell>
      ) : (
        <TableCell align="right">{f.percent(lane.margin)}</TableCell>
      )}
      {!incomplete && profit !== null && (
        <TableCell align="right" sx={wide}>
          {f.percent(lane.roi, 0)}
        </TableCell>
      )}
      <TableCell align="right" sx={wide}>
        {lane.breakEven === null ? '–' : bounds.of(f.money(lane.breakEven, lane.currency), lacking, 'above')}
      </TableCell>
      <TableCell align="right" sx={wide}>
        {lane.mostToPay === null
          ? '–'
          : bounds.of(
              f.money(floorTo(lane.mostToPay, minorDigits(lane.mostToPayCurrency)), lane.mostToPayCurrency),
              lacking,
              'lessThan',
            )}
        {bold && (lane.stale || lane.quoteDate !== null) && (
          <Box
            sx={{
              fontSize: '0.72rem',
              lineHeight: 1.2,
              whiteSpace: 'nowrap',
              color: lane.stale ? 'error.main' : 'text.secondary',
              fontWeight: lane.stale ? 650 : 400,
            }}>
            {lane.stale
              ? t('weigh.quoteExpired')
              : t('weigh.quoteOf', { date: f.dayShort(lane.quoteDate as string) })}
          </Box>
        )}
      </TableCell>
      <TableCell align="right" sx={wide}>
        {lane.launchCash === null
          ? '–'
          : bounds.of(f.number(Math.round(lane.launchCash), 0), lane.launchLacks, 'atLeast')}
      </TableCell>
    </>
  );
}

/**
 * Five gates in order: passed is a solid stroke, near half, failed an outlined box with a cross bar, open a
 * faint stroke.
 */
export function Gates({
  gates,
  market,
  dropped,
  missed,
}: {
  gates: Record<Gate, GateState>;
  market: CandidateLine['market'];
  dropped: string | null;
  missed: LaneLine['hurdles'];
}) {
  const { t } = useWords();
  /** The figure of the market that decided a gate. */
  const decided = (g: Gate): string => {
    const figure = market === null || !(g in market.gates) ? null : market.gates[g as EvidenceGate].figure;
    return figure === null ? '' : ` (${inSentence(t(`evidenceSettings.figure.${figure}`))})`;
  };
  const old = market === null || market.old.length === 0 ? '' : `; ${t('gates.old')}`;
  const words = `${GATES.map((g) => `${t(`gates.${g}`)}: ${t(`gates.${gates[g]}`)}${decided(g)}`).join('; ')}${old}`;
  const reached = GATES.findIndex((g) => gates[g] === 'failed');
  const next = GATES.findIndex((g) => gates[g] === 'open');
  const failed = missed.filter((m) => m.verdict === 'fail');
  const figures = (list: LaneLine['hurdles']) =>
    list.map((m) => inSentence(t(`figure.${m.figure}`))).join(', ');
  // What stops it by figures says more than the name of the gate.
  const missedText =
    reached >= 0 && GATES[reached] !== 'profitable'
      ? null
      : failed.length > 0
        ? t('weigh.misses', { figures: figures(failed) })
        : missed.length > 0
          ? t('weigh.near', { figures: figures(missed) })
          : null;
  return (
    <Tooltip title={words}>
      <Box
        tabIndex={0}
        role="img"
        aria-label={missedText === null ? words : `${words}; ${missedText}`}
        sx={{ width: 112 }}>
        <Box sx={{ display: 'flex', gap: 0.4 }}>
          {GATES.map((g) => (
            <Box
              key={g}
              sx={{
                width: 15,
                height: 7,
                boxSizing: 'border-box',
                ...(gates[g] === 'passed'
                  ? { bgcolor: 'text.primary' }
                  : gates[g] === 'near'
                    ? {
                        background:
                          'linear-gradient(90deg, var(--mui-palette-text-primary) 50%, transparent 50%)',
                        border: '1px solid',
                        borderColor: 'text.primary',
                      }
                    : gates[g] === 'failed'
                      ? {
                          border: '1.5px solid',
                          borderColor: 'error.main',
                          background:
                            'linear-gradient(to top right, transparent 44%, ' +
                            'var(--mui-palette-error-main) 44% 56%, transparent 56%)',
                        }
                      : { bgcolor: 'hairline' }),
              }}
            />
          ))}
        </Box>
        <Box sx={{ fontSize: '0.72rem', lineHeight: 1.25, mt: 0.4, color: 'text.secondary' }}>
          {dropped !== null
            ? dropped
            : missedText !== null
              ? missedText
              : reached >= 0
                ? t('gates.stopped', {
                    gate: `${inSentence(t(`gates.${GATES[reached]}`))}${decided(GATES[reached] as Gate)}`,
                  })
                : next >= 0
                  ? t('gates.next', { gate: inSentence(t(`gates.${GATES[next]}`)) })
                  : t('gates.all')}
        </Box>
      </Box>
    </Tooltip>
  );
}

/** Limits that a narrow screen leaves out while they are not set. */
export const roomy = (set: boolean) => ({ xs: set ? 'flex' : 'none', sm: 'flex' });
