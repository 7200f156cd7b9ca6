/** Rivals on the ruler of prices: each a dot as large as what it sells, with one's own price in place. */
import { Box } from '@mui/material';
import type { RivalsSection } from '../../../core/evidence/market.ts';
import type { Rival } from '../../../core/evidence/schema.ts';
import { keyed } from '../../ui/keyed.ts';
import { useFormat } from '../../ui/locale.ts';
import { roundStep } from '../../ui/roundStep.ts';
import { useWords } from '../../ui/useWords.ts';

const WIDTH = 360;
const LINE = 58;

export function RivalsRuler({
  rows,
  said,
  mine,
  breakEven,
  even,
  currency,
}: {
  rows: readonly Rival[];
  said: RivalsSection;
  mine: number | null;
  breakEven: number | null;
  /** The break-even price in words, as the bound that it may be. */
  even: string;
  currency: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const { place } = said;
  const own = rows.flatMap((r, i) =>
    said.counted[i] === true && r.price !== null ? [{ ...r, price: r.price }] : [],
  );
  if (own.length === 0) return null;
  const dearest = Math.max(...own.map((r) => r.price), mine ?? 0, breakEven ?? 0, place?.ceiling ?? 0);
  const step = roundStep(dearest, 7);
  const top = Math.max(step, Math.ceil(dearest / step) * step);
  const x = (price: number): number => (price / top) * WIDTH;
  const most = Math.max(1, ...own.map((r) => r.units ?? 0));
  // Dots that would lie on each other are set one above the other.
  const taken: { x: number; y: number; r: number }[] = [];
  const dots = own.map((r) => {
    const radius = 2 + 5 * Math.sqrt((r.units ?? 0) / most);
    let y = LINE - radius - 3;
    while (y > 16 && taken.some((d) => Math.hypot(d.x - x(r.price), d.y - y) < d.r + radius)) y -= 5;
    taken.push({ x: x(r.price), y, r: radius });
    return { key: `${r.listing}${r.title}${r.price}`, x: x(r.price), y, radius, title: r.title };
  });
  const marks = Array.from({ length: Math.round(top / step) + 1 }, (_, i) => i * step);
  const label =
    place === null || mine === null
      ? t('market.ruler.rivals', { count: own.length })
      : t('market.ruler.mine', { price: f.money(mine, currency), place: place.place, of: place.of });
  return (
    <Box
      role="img"
      aria-label={label}
      sx={{ color: 'text.primary', mb: 0.5, '& text': { fontSize: 11, fill: 'currentColor' } }}>
      <svg viewBox={`-8 -10 ${WIDTH + 16} 118`} width="100%" aria-hidden="true">
        {keyed(dots, (d) => d.key).map(({ key, item: d }) => (
          <circle
            key={key}
            cx={d.x}
            cy={d.y}
            r={d.radius}
            fill="currentColor"
            fillOpacity={0.25}
            stroke="currentColor"
            strokeOpacity={0.6}
            strokeWidth={0.75}
          />
        ))}
        <line x1={0} x2={WIDTH} y1={LINE} y2={LINE} stroke="currentColor" />
        {marks.map((m) => (
          <text key={m} x={x(m)} y={LINE + 16} textAnchor="middle">
            {f.number(m, 2)}
          </text>
        ))}
        {breakEven !== null && breakEven <= top && (
          <>
            <line
              x1={x(breakEven)}
              x2={x(breakEven)}
              y1={LINE - 12}
              y2={LINE + 4}
              stroke="currentColor"
              strokeWidth={2}
            />
            <text x={x(breakEven)} y={LINE + 30} textAnchor="middle">
              {t('market.ruler.even', { price: even })}
            </text>
          </>
        )}
        {place !== null && (
          <>
            <line
              x1={x(place.ceiling)}
              x2={x(place.ceiling)}
              y1={LINE - 10}
              y2={LINE + 4}
              stroke="currentColor"
              strokeDasharray="2 2"
            />
            <text
              x={x(place.ceiling)}
              y={LINE + (breakEven === null || Math.abs(x(breakEven) - x(place.ceiling)) > 120 ? 30 : 43)}
              textAnchor="middle">
              {t('market.ruler.ceiling', { price: f.plain(place.ceiling, currency) })}
            </text>
          </>
        )}
        {mine !== null && mine <= top && (
          <Box component="g" sx={{ color: 'primary.main' }}>
            <line x1={x(mine)} x2={x(mine)} y1={8} y2={LINE + 4} stroke="currentColor" strokeWidth={3} />
            <text
              x={x(mine)}
              y={3}
              textAnchor={x(mine) > WIDTH * 0.75 ? 'end' : x(mine) < WIDTH * 0.25 ? 'start' : 'middle'}
              fontWeight={700}
              fill="currentColor">
              {place === null
                ? f.plain(mine, currency)
                : t('market.ruler.place', {
                    price: f.plain(mine, currency),
                    place: place.place,
                    of: place.of,
                  })}
            </text>
          </Box>
        )}
      </svg>
    </Box>
  );
}
