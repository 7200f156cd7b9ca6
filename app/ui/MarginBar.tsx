import { memo } from 'react';
import { FAMILIES } from '../../core/lane/costLines.ts';
import type { Family } from '../../core/lane/costLines.ts';
import { useBounds } from './bounds.ts';
import { minorDigits } from '../../core/money/money.ts';
import { useFormat } from './locale.ts';
import { roundToTotal } from '../../core/money/money.ts';
import { useWords } from './useWords.ts';

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
 * The price is the ruler: a bar as long as the gross, filled by costs in one order of families; what is left
 * is the margin, taller than the rest. Costs past the price are hatched. An incomplete margin is pale and
 * dashed.
 */
export const MarginBar = memo(function MarginBar({
  result,
  scale,
  height = 12,
  breakEven = null,
  large = false,
  onChoose,
  chosen = null,
}: BarProps) {
  const { t } = useWords();
  const f = useFormat();
  const gross = result.figures.gross ?? 0;
  const profit = result.figures.unitProfit;
  // The large ruler reaches to the break-even price, so that a loss shows how far away it is.
  const full = Math.max(
    scale ?? 0,
    scale === undefined ? barExtent(result) : 0,
    large && breakEven !== null && breakEven < 3 * gross ? breakEven : 0,
    1e-9,
  );
  const pct = (x: number) => `${(100 * x) / full}%`;
  const tall = Math.round(height * 1.6);
  const bounds = useBounds();
  const missing = result.incomplete.unitProfit;
  const incomplete = bounds.lacks(missing);
  // Names on the large bar carry the very amounts of the lines below it, which add up to the cent.
  const rounded = large
    ? roundToTotal([...FAMILIES.map((x) => result.families[x]), profit], minorDigits(result.currency))
    : [];
  let costs = 0;
  const parts = FAMILIES.map((family, i) => {
    const value = Math.max(0, result.families[family] ?? 0);
    const part = { family, from: costs, value, shown: rounded[i] ?? value };
    costs += value;
    return part;
  }).filter((p) => p.value > 0);
  const label =
    profit === null
      ? t('bar.unknown')
      : t(profit < 0 ? 'bar.loses' : 'bar.keeps', {
          amount: bounds.of(
            f.money(Math.abs(profit), result.currency),
            missing,
            profit < 0 ? 'atLeast' : 'atMost',
          ),
          price: f.money(gross, result.currency),
        });

  return (
    <div className={large ? 'bar large' : 'bar'}>
      <div className="bar-track" role="img" aria-label={label} style={{ height: tall }}>
        {parts.map((p) => (
          <div
            key={p.family}
            className={chosen === p.family ? 'bar-slice chosen' : 'bar-slice'}
            style={{
              left: pct(p.from),
              width: pct(p.value),
              height,
              backgroundColor: `var(--mui-palette-family-${p.family})`,
              color: `var(--mui-palette-onFamily-${p.family})`,
            }}
            // A shortcut for the pointer: the same lines stand below as buttons, wide enough for every finger
            // and key.
            {...(onChoose
              ? {
                  onClick: () => onChoose(p.family),
                  title: `${t(`family.${p.family}`)} ${f.money(p.shown, result.currency)}`,
                }
              : {})}>
            {large && p.value / full > 0.055 && (
              <span className={p.value / full > 0.2 ? 'bar-name' : 'bar-name narrow'}>
                {t(`family.${p.family}`)}
                <b>{f.plain(p.shown, result.currency)}</b>
              </span>
            )}
          </div>
        ))}
        {profit !== null && profit > 0 && (
          <div
            className={incomplete ? 'bar-kept incomplete' : 'bar-kept'}
            style={{ left: pct(Math.max(0, gross - profit)), width: pct(profit), height: tall }}>
            {large && profit / full > 0.04 && (
              <div
                className={
                  profit / full > 0.12
                    ? 'bar-keeps'
                    : profit / full > 0.08
                      ? 'bar-keeps narrow'
                      : 'bar-keeps least'
                }>
                {t(`bar.${bounds.keeps(missing)}`)}
                <b>{f.money(rounded[FAMILIES.length] ?? profit, result.currency)}</b>
              </div>
            )}
          </div>
        )}
        {costs > gross + 1e-9 && (
          <div className="bar-lost" style={{ left: pct(gross), width: pct(costs - gross), height: tall }} />
        )}
        {breakEven !== null && breakEven <= full && (
          <div className="bar-even" style={{ left: pct(breakEven) }}>
            {large && (
              <div className="bar-even-says" style={breakEven / full > 0.5 ? { right: 8 } : { left: 8 }}>
                {t('bar.breaksEven', {
                  price: bounds.of(f.plain(breakEven, result.currency), missing, 'above'),
                })}
              </div>
            )}
          </div>
        )}
      </div>
      {large && <Ruler gross={gross} full={full} currency={result.currency} />}
    </div>
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
  return (
    <div aria-hidden className="bar-marks">
      {marks.map((x) => (
        // On a narrow bar the price's own label takes the place of marks just before it.
        <div
          key={x}
          className={x < gross && gross - x < full * 0.18 ? 'bar-mark near' : 'bar-mark'}
          style={{ left: `${(100 * x) / full}%` }}>
          {f.number(x, 2)}
        </div>
      ))}
      <div className="bar-price" style={{ right: `${100 - (100 * gross) / full}%` }}>
        {f.money(gross, currency)}
      </div>
    </div>
  );
}
