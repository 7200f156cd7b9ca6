/** The first rows of a file as they will be read. */
import { Box } from '@mui/material';
import { Fragment, useMemo } from 'react';
import { makeColumns } from '../../../core/columns/columns.ts';
import { ASIDE_COLUMNS, PREVIEW_ROLES, roleRule } from '../../../core/lists/roles.ts';
import type { ListMap } from '../../../core/lists/map.ts';
import type { Role } from '../../../core/lists/roles.ts';
import { inWords } from '../../../words/index.ts';
import { RowReader, faultOfRow } from '../../../core/lists/rows.ts';
import { useFormat } from '../../ui/locale.ts';
import { useWords } from '../../ui/useWords.ts';

export const PREVIEW = 8;

/** The first rows as the reader understands them, by the very code that reads the whole file. */
export function Preview({
  rows,
  from,
  header,
  map,
  currency,
}: {
  rows: readonly (readonly string[])[];
  from: number;
  header: readonly string[];
  map: ListMap;
  currency: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const read = useMemo(() => {
    const reader = new RowReader(map, header);
    const columns = makeColumns(PREVIEW);
    const more = Object.fromEntries(ASIDE_COLUMNS.map((c) => [c, new Float64Array(PREVIEW)])) as never;
    return rows
      .map((cells, k) => ({ cells, line: from + k }))
      .filter((r) => r.cells.some((c) => c !== ''))
      .slice(0, PREVIEW)
      .map(({ cells, line }, i) => {
        const row = reader.read(cells, line, columns, i, () => -1, more);
        const num = (x: number | undefined): string =>
          x === undefined || Number.isNaN(x) || x < 0 ? '' : f.number(x, 4);
        const price = (x: number | undefined): string =>
          num(x) === '' ? '' : f.plain(x as number, currency);
        const broken = (from: number | undefined, cost: number | undefined): string =>
          num(cost) === '' ? '' : t('setup.priceFrom', { from: num(from), price: price(cost) });
        const sides = [columns.a[i], columns.b[i], columns.c[i]].map(num);
        const cellsOf: Partial<Record<Role, string>> = {
          identifier: row.code === '' ? reader.text(cells, 'identifier') : row.code,
          cost: row.troubles.some((x) => x.what === 'cost')
            ? reader.text(cells, 'cost')
            : price(columns.cost[i]),
          price: price(columns.price[i]),
          units: num(columns.units[i]),
          weight: num(columns.kg[i]) && `${num(columns.kg[i])} kg`,
          vatRate: Number.isNaN(columns.vatRate[i]) ? '' : f.percent(columns.vatRate[i] as number),
          minimumOrder: num(columns.minimumOrder[i]),
          carton: num(columns.carton[i]),
          breakCost: broken(columns.breakFrom[i], columns.breakCost[i]),
          breakCost2: broken(columns.breakFrom2[i], columns.breakCost2[i]),
          size: sides.every((s) => s !== '') ? `${sides.join(' × ')} cm` : '',
          packSize: row.pack > 0 ? f.number(row.pack) : '',
        };
        return { line, row, shown: (role: Role): string => cellsOf[role] ?? reader.text(cells, role) };
      });
  }, [rows, from, header, map, currency, f, t]);
  const roles: Role[] = PREVIEW_ROLES.filter(
    (r) =>
      map.columns[r] !== undefined ||
      (r === 'size' && map.columns.length !== undefined) ||
      (r === 'packSize' && read.some((x) => x.row.pack > 0)),
  );
  return (
    <Box sx={{ overflowX: 'auto' }} tabIndex={0} role="region" aria-label={t('setup.preview')}>
      <Box
        component="table"
        sx={{
          borderCollapse: 'collapse',
          fontSize: '0.82rem',
          width: '100%',
          '& th': {
            fontWeight: 500,
            color: 'text.secondary',
            fontSize: '0.76rem',
            textAlign: 'left',
            borderBottom: '1px solid',
            borderColor: 'text.primary',
          },
          '& td, & th': {
            px: 0.75,
            py: 0.5,
            whiteSpace: 'nowrap',
            maxWidth: 240,
            overflow: 'hidden',
            textOverflow: 'ellipsis',
          },
          '& td': { borderBottom: '1px solid', borderColor: 'hairline' },
        }}>
        <thead>
          <tr>
            <th>{t('listText.line')}</th>
            {roles.map((r) => (
              <th key={r} style={isRight(r) ? { textAlign: 'right' } : {}}>
                {t(`role.${r}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {read.map((r) => (
            <Fragment key={r.line}>
              <tr>
                <td>{r.line}</td>
                {roles.map((role) => (
                  <td key={role} style={isRight(role) ? { textAlign: 'right' } : {}}>
                    {r.shown(role) || '–'}
                  </td>
                ))}
              </tr>
              {(r.row.troubles.length > 0 || r.row.repaired) && (
                <tr>
                  <td />
                  <Box
                    component="td"
                    colSpan={roles.length}
                    sx={{
                      color: r.row.troubles.length > 0 ? 'error.main' : 'text.secondary',
                      fontSize: '0.78rem',
                    }}>
                    {r.row.troubles.length > 0
                      ? r.row.troubles.map((x) => inWords(faultOfRow(x))).join(' ')
                      : t('setup.repairedTo')}
                  </Box>
                </tr>
              )}
            </Fragment>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

/** Amounts stand at the right, so that their digits stand under each other. */
const isRight = (role: Role): boolean => roleRule(role).digits === true || role === 'packSize';
