/**
 * How a unit's profit is spread, on the price ruler: each draw stands at the price it would have had to be sold at to
 * keep the same at the costs of today, so that zero is the break-even price. Drawn as SVG of its own, as the ruler is.
 */
import { Box } from '@mui/material';
import { BREAK_EVEN, priceFor } from '../../../core/lane/solve.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import type { RiskKnown } from '../../../core/risk/risk.ts';
import { Hatch } from '../../ui/Hatch.tsx';
import { useFormat } from '../../ui/locale.ts';
import { roundStep } from '../../ui/roundStep.ts';
import { useWidth } from '../../ui/useWidth.ts';
import { Pane } from '../weigh/Pane.tsx';
import { useWords } from '../../ui/useWords.ts';

const HEIGHT = 150;
const BASE = 112;
const PAD = 10;
const v = (name: string): string => `var(--mui-palette-${name})`;

export function SpreadPicture({ said, doc }: { said: RiskKnown; doc: LaneDocument }) {
  const { t } = useWords();
  const f = useFormat();
  const [at, width] = useWidth<HTMLDivElement>(560);
  const { spread } = said.unit;
  const { lowest, highest, bars } = spread;
  const from = Math.min(lowest, 0);
  const to = Math.max(highest, 0);
  const span = to - from || 1;
  const x = (profit: number): number => PAD + ((profit - from) / span) * (width - 2 * PAD);
  const most = Math.max(...bars);
  const wide = (highest - lowest) / bars.length;
  const step = roundStep(span, 8);
  const ticks = Array.from(
    { length: Math.floor(span / step) + 1 },
    (_, i) => Math.ceil(from / step) * step + i * step,
  ).filter((p) => p <= to + 1e-9);
  const { price: even } = priceFor(doc, BREAK_EVEN);
  return (
    <Pane title={t('sure.spread')} aside={said.currency}>
      <Box ref={at}>
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          aria-label={t('sure.spread')}
          style={{ display: 'block', fontSize: 12 }}>
          <defs>
            <Hatch id="loses" />
          </defs>
          {bars.map((n, i) => {
            const a = lowest + i * wide;
            const left = x(a);
            const w = Math.max(1.5, x(a + (wide || span / 40)) - left - 1);
            const h = (n / most) * (BASE - 26);
            const isLoss = a + wide / 2 < 0;
            return (
              <rect
                // biome-ignore lint/suspicious/noArrayIndexKey: bars are told apart by their place alone
                key={i}
                x={left}
                y={BASE - h}
                width={w}
                height={h}
                fill={isLoss ? 'url(#loses)' : v('keep-main')}
                stroke={isLoss ? v('loss-main') : 'none'}
              />
            );
          })}
          <line x1={PAD} x2={width - PAD} y1={BASE} y2={BASE} stroke={v('ink')} />
          {ticks.map((p) => (
            <g key={p}>
              <line x1={x(p)} x2={x(p)} y1={BASE} y2={BASE + 5} stroke={v('text-secondary')} />
              <text x={x(p)} y={BASE + 18} textAnchor="middle" fill={v('text-secondary')}>
                {f.number(p, 2)}
              </text>
            </g>
          ))}
          <line x1={x(0)} x2={x(0)} y1={8} y2={BASE + 5} stroke={v('ink')} strokeWidth={2} />
          <text
            x={x(0) + (x(0) > width / 2 ? -5 : 5)}
            y={16}
            textAnchor={x(0) > width / 2 ? 'end' : 'start'}
            fill={v('ink')}
            fontWeight={650}>
            {even === null ? '0' : t('sure.breakEven', { price: f.money(even, doc.currency) })}
          </text>
          <line
            x1={x(spread.p50)}
            x2={x(spread.p50)}
            y1={24}
            y2={BASE}
            stroke={v('ink')}
            strokeDasharray="3 3"
          />
          <text
            x={x(spread.p50)}
            y={BASE + 34}
            textAnchor={x(spread.p50) > width * 0.8 ? 'end' : 'middle'}
            fill={v('text-primary')}>
            {t('sure.middle', { x: f.money(spread.p50, said.currency) })}
          </text>
        </svg>
      </Box>
    </Pane>
  );
}
