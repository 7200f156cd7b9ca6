/** The chosen launches in figures, to take along: as a file, as a printed page. */
import { Box, Button } from '@mui/material';
import { dayText } from '../../../core/cash/calendar.ts';
import type { Launch, Plan } from '../../../core/purse/purse.ts';
import type { PurseDocument } from '../../../core/purse/schema.ts';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { Pane } from '../weigh/Pane.tsx';
import { useWords } from '../../ui/useWords.ts';

type Props = { plan: Plan; document: PurseDocument; nameOf: (key: string) => string; currency: string };
const COLUMNS = ['units', 'order', 'onSale', 'moneyNeeded', 'back', 'brings', 'sold', 'left'] as const;
type Column = (typeof COLUMNS)[number];

export function PurseTable({ plan, document, nameOf, currency }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const day = (n: number): string => dayText(document.start, n);
  const valuesOf = (l: Launch): Record<Column, string | number | null> => ({
    units: l.quantity,
    order: day(7 * l.week),
    onSale: day(l.onSale),
    moneyNeeded: l.moneyNeeded,
    back: l.payback === null ? null : day(l.payback),
    brings: l.value,
    sold: l.unitsSold,
    left: l.left,
  });
  const shown = (column: Column, x: string | number | null): string => {
    if (x === null) return t('overTime.notBack');
    if (typeof x === 'string') return f.day(x);
    return column === 'moneyNeeded' || column === 'brings' ? f.plain(x, currency) : f.number(x, 0);
  };
  const titleOf = (c: Column): string => t(`purse.table.${c}`, { currency });
  if (plan.launches.length === 0) return null;
  return (
    <Pane
      title={t('purse.table.title')}
      aside={
        <Box className="no-print" sx={{ display: 'flex', justifyContent: 'flex-end' }}>
          <TableFile
            table={() => ({
              name: t('purse.table.title'),
              columns: [{ title: t('fund.lane') }, ...COLUMNS.map((c) => ({ title: titleOf(c) }))],
              rows: plan.launches.map((l) => [nameOf(l.key), ...Object.values(valuesOf(l))]),
            })}
          />
          <Button size="small" onClick={() => window.print()}>
            {t('overTime.print')}
          </Button>
        </Box>
      }>
      <FigureTable label={t('purse.table.title')}>
        <thead>
          <tr>
            <th scope="col">{t('fund.lane')}</th>
            {COLUMNS.map((c) => (
              <th scope="col" key={c}>
                {titleOf(c)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {plan.launches.map((l) => {
            const values = valuesOf(l);
            return (
              <tr key={l.key}>
                <th scope="row">{nameOf(l.key)}</th>
                {COLUMNS.map((c) => (
                  <td key={c} className={values[c] === null ? 'loss' : undefined}>
                    {shown(c, values[c])}
                  </td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </FigureTable>
    </Pane>
  );
}
