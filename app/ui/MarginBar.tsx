import { Box } from '@mui/material';
import { useTheme } from '@mui/material/styles';
import { memo } from 'react';
import { useTranslation } from 'react-i18next';
import { FAMILIES } from '../../core/lane/lines.ts';
import type { Family } from '../../core/lane/lines.ts';
import { useFormat } from './locale.ts';

/** The part of a result that a bar draws. */
export type BarResult = {
  readonly currency: string;
  readonly families: Readonly<Record<Family, number | null>>;
  readonly figures: { readonly gross: number | null; readonly unitProfit: number | null };
  readonly incomplete: { readonly unitProfit?: readonly string[] | undefined };
};

export type BarProps = {
  result: BarResult;
  /** What the full width stands for, in the result's currency; the gross unless given. */
  scale?: number;
  height?: number;
  breakEven?: number | null;
  /** Draws the ruler under the bar and names on the slices. */
  large?: boolean;
  onChoose?: (family: Family) => void;
  chosen?: Family | null;
};

/** Widest point of a bar: the price, or where the costs end when they run past it. */
export function barExtent(result: BarResult): number {
  const gross = result.figures.gross ?? 0;
  const costs = FAMILIES.reduce((s, f) => s + Math.max(0, result.families[f] ?? 0), 0);
  return Math.max(gross, costs);
}

/**
 * The price is the ruler: a bar as long as the gross, filled by costs in one order of families; what is left is the margin,
 * taller than the rest. Costs past the price are hatched. An incomplete margin is pale and dashed.
 */
export const MarginBar = memo(function MarginBar({ result, scale, height = 12, breakEven = null, large = false, onChoose, chosen = null }: BarProps) {
  const { vars } = useTheme();
  const { t } = useTranslation();
  const f = useFormat();
  const palette = (vars as unknown as { palette: { family: Record<Family, string>; onFamily: Record<Family, string>; keep: Record<'main' | 'on' | 'soft', string>; loss: Record<'main' | 'on', string>; hairline: string; ink: string; background: { default: string } } }).palette;
  const gross = result.figures.gross ?? 0;
  const profit = result.figures.unitProfit;
  // The large ruler reaches to the break-even price, so that a loss shows how far away it is.
  const full = Math.max(scale ?? 0, scale === undefined ? barExtent(result) : 0, large && breakEven !== null && breakEven < 3 * gross ? breakEven : 0, 1e-9);
  const pct = (x: number) => `${(100 * x) / full}%`;
  const tall = Math.round(height * 1.6);
  const incomplete = (result.incomplete.unitProfit?.length ?? 0) > 0;
  let at = 0;
  const parts = FAMILIES.map((family) => {
    const value = Math.max(0, result.families[family] ?? 0);
    const part = { family, from: at, value };
    at += value;
    return part;
  }).filter((p) => p.value > 0);
  const costs = at;
  const hatch = `repeating-linear-gradient(135deg, ${palette.loss.main} 0 2px, transparent 2px 6px)`;
  const label = profit === null ? t('bar.unknown') : t(profit < 0 ? 'bar.loses' : 'bar.keeps', { amount: f.money(Math.abs(profit), result.currency), price: f.money(gross, result.currency) });

  return (
    <Box sx={{ position: 'relative', pt: large ? 3 : 0 }}>
      <Box role="img" aria-label={label} sx={{ position: 'relative', height: tall, borderBottom: large ? `1px solid ${palette.ink}` : 'none' }}>
        {parts.map((p) => (
          <Box
            key={p.family}
            // A shortcut for the pointer: the same lines stand below as buttons, wide enough for every finger and key.
            {...(onChoose ? { onClick: () => onChoose(p.family), title: `${t(`family.${p.family}`)} ${f.money(p.value, result.currency)}` } : {})}
            style={{ left: pct(p.from), width: pct(p.value) }}
            sx={{
              position: 'absolute', bottom: 0, height, p: 0, border: 0, overflow: 'hidden', textAlign: 'left', font: 'inherit', whiteSpace: 'nowrap', cursor: onChoose ? 'pointer' : 'default',
              bgcolor: palette.family[p.family], color: palette.onFamily[p.family], boxShadow: large ? `inset -1px 0 0 ${palette.background.default}` : 'none',
              outline: chosen === p.family ? `2px solid ${palette.ink}` : 'none', outlineOffset: -2,
            }}
          >
            {large && p.value / full > 0.055 && (
              <Box sx={{ px: 1, pt: 0.9, lineHeight: 1.35, fontSize: '0.78rem', display: { xs: p.value / full > 0.2 ? 'block' : 'none', sm: 'block' } }}>
                {t(`family.${p.family}`)}
                <Box sx={{ fontWeight: 650, fontSize: '0.86rem' }}>{f.plain(p.value, result.currency)}</Box>
              </Box>
            )}
          </Box>
        ))}
        {profit !== null && profit > 0 && (
          <Box
            style={{ left: pct(Math.max(0, gross - profit)), width: pct(profit) }}
            sx={{ position: 'absolute', bottom: 0, height: tall, overflow: 'hidden', whiteSpace: 'nowrap', bgcolor: incomplete ? palette.keep.soft : palette.keep.main, border: incomplete ? `1px dashed ${palette.keep.main}` : 'none', color: incomplete ? palette.ink : palette.keep.on, pointerEvents: 'none' }}
          >
            {large && (
              <Box sx={{ px: { xs: 0.75, sm: 1.5 }, pt: 1 }}>
                <Box sx={{ fontSize: '0.82rem' }}>{incomplete ? t('bar.keepsSoFar') : t('bar.keepsWord')}</Box>
                <Box sx={{ fontFamily: 'h1.fontFamily', fontWeight: 750, fontSize: { xs: '1.05rem', sm: profit / full > 0.12 ? '1.7rem' : '1rem' }, lineHeight: 1.15 }}>{f.money(profit, result.currency)}</Box>
              </Box>
            )}
          </Box>
        )}
        {costs > gross + 1e-9 && (
          <Box style={{ left: pct(gross), width: pct(costs - gross) }} sx={{ position: 'absolute', bottom: 0, height: tall, border: `1px solid ${palette.loss.main}`, backgroundImage: hatch, pointerEvents: 'none' }} />
        )}
        {breakEven !== null && breakEven <= full && (
          <Box style={{ left: pct(breakEven) }} sx={{ position: 'absolute', bottom: large ? -6 : -2, top: large ? -20 : 0, width: '2px', bgcolor: palette.ink, pointerEvents: 'none' }}>
            {large && (
              <Box sx={{ position: 'absolute', top: -4, ...(breakEven / full > 0.5 ? { right: 8 } : { left: 8 }), whiteSpace: 'nowrap', fontSize: '0.78rem', fontWeight: 650, bgcolor: palette.background.default, px: 0.5 }}>{t('bar.breaksEven', { price: f.plain(breakEven, result.currency) })}</Box>
            )}
          </Box>
        )}
      </Box>
      {large && <Ruler gross={gross} full={full} currency={result.currency} />}
    </Box>
  );
});

/** Round steps that give four to eight marks. */
export function rulerStep(full: number): number {
  const rough = full / 6;
  const power = 10 ** Math.floor(Math.log10(Math.max(rough, 1e-9)));
  return [1, 2, 2.5, 5, 10].map((m) => m * power).find((s) => s >= rough) ?? power;
}

function Ruler({ gross, full, currency }: { gross: number; full: number; currency: string }) {
  const f = useFormat();
  const step = rulerStep(full);
  const marks: number[] = [];
  for (let x = 0; x <= full + 1e-9; x += step) if (Math.abs(x - gross) > full * 0.05) marks.push(x);
  const at = (x: number) => ({ left: `${(100 * x) / full}%` });
  return (
    <Box aria-hidden sx={{ position: 'relative', height: 24, fontSize: '0.76rem', color: 'text.secondary' }}>
      {marks.map((x) => (
        <Box key={x} style={at(x)} sx={{ position: 'absolute', top: 0, transform: x === 0 ? 'none' : 'translateX(-50%)', '&::before': { content: '""', display: 'block', width: '1px', height: 5, bgcolor: 'text.secondary', mx: x === 0 ? 0 : 'auto' } }}>
          {f.number(x, 2)}
        </Box>
      ))}
      <Box style={{ right: `${100 - (100 * gross) / full}%` }} sx={{ position: 'absolute', top: 5, fontWeight: 700, color: 'text.primary' }}>{f.money(gross, currency)}</Box>
    </Box>
  );
}
