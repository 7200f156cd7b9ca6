/** The workspace's months: revenue apart from profit, what marketplaces settled and paid out, what is on the shelf. */
import { Box, Typography } from '@mui/material';
import type { WorkspaceMonth } from '../../../core/actuals/allMonths.ts';
import type { Span } from '../../../core/actuals/gaps.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { useWords } from '../../ui/useWords.ts';

export type PlaceSaid = {
  readonly place: string;
  readonly until: string | null;
  readonly gaps: readonly Span[];
  readonly holds: number | null;
  readonly currency: string;
};
type Props = {
  readonly months: readonly WorkspaceMonth[];
  readonly home: string;
  readonly stock: { readonly value: number; readonly lacks: number };
  readonly places: readonly PlaceSaid[];
};
const HEADS = ['units', 'revenue', 'profit', 'settled', 'paidOut'] as const;
const SHOWN = 12;

export function WholeMonths({ months, home, stock, places }: Props) {
  const { t } = useWords();
  const f = useFormat();
  if (months.length === 0) return null;
  const money = (x: number): string => f.money(x, home);
  return (
    <Box sx={{ mt: 3 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
          {t('selling.months.title')}
        </Typography>
        <TableFile
          table={() => ({
            name: t('selling.months.title'),
            columns: [t('launched.month'), ...HEADS.map((h) => t(`selling.months.${h}`))].map((title) => ({
              title,
            })),
            rows: months.map((m) => [m.month, ...HEADS.map((h) => m[h])]),
          })}
        />
      </Box>
      <FigureTable label={t('selling.months.title')}>
        <thead>
          <tr>
            <th scope="col">{t('launched.month')}</th>
            {HEADS.map((h) => (
              <th scope="col" key={h}>
                {t(`selling.months.${h}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {months.slice(0, SHOWN).map((m) => (
            <tr key={m.month}>
              <th scope="row">
                {f.monthName(Number(m.month.slice(5)))} {m.month.slice(0, 4)}
              </th>
              <td>{f.number(m.units, 0)}</td>
              <td>{money(m.revenue)}</td>
              <td className={m.profit < 0 ? 'loss' : undefined}>
                {m.lacks > 0 ? t('selling.months.atMost', { amount: money(m.profit) }) : money(m.profit)}
              </td>
              <td>{money(m.settled)}</td>
              <td>{money(m.paidOut)}</td>
            </tr>
          ))}
        </tbody>
      </FigureTable>
      {months.some((m) => m.lacks > 0) && (
        <Typography variant="body2">{t('selling.months.lacks')}</Typography>
      )}
      <Typography sx={{ mt: 1 }}>
        {t('selling.months.stock', { value: money(stock.value) })}{' '}
        {stock.lacks > 0 && t('selling.months.stockLacks', { count: stock.lacks })}
      </Typography>
      <Places places={places} />
    </Box>
  );
}

/** Up to when each place is settled, which days no report speaks of, what the marketplace still holds. */
function Places({ places }: Pick<Props, 'places'>) {
  const { t } = useWords();
  const f = useFormat();
  return (
    <Box component="ul" sx={{ m: 0, mt: 0.5, pl: 2.25, fontSize: '0.9rem' }}>
      {places.map((p) => (
        <li key={p.place}>
          {t('selling.places.until', {
            place: p.place.replace('/', ' '),
            day: p.until === null ? '–' : f.day(p.until),
          })}
          {p.holds !== null && ` ${t('selling.places.holds', { amount: f.money(p.holds, p.currency) })}`}
          {p.gaps.map((g) => (
            <Box component="span" key={g.from} sx={{ color: 'warning.main', fontWeight: 600 }}>
              {' '}
              {t('selling.places.gap', { from: f.day(g.from), to: f.day(g.to) })}
            </Box>
          ))}
        </li>
      ))}
    </Box>
  );
}
