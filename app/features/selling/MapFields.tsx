/** Which column of a report says what, how it writes figures, and its first rows. */
import { Box, Button } from '@mui/material';
import { SETTLED_COLUMNS, SETTLED_KINDS } from '../../../core/actuals/schema.ts';
import type { SettledColumn, SettledKind, SettlementMap } from '../../../core/actuals/schema.ts';
import { ChoiceLine, TextLine } from '../../ui/Field.tsx';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { keyed } from '../../ui/keyed.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  header: readonly string[];
  rows: readonly (readonly string[])[];
  map: SettlementMap;
  onChange: (map: SettlementMap) => void;
};

export function MapFields({ header, rows, map, onChange }: Props) {
  const { t } = useWords();
  const headings = header.filter((h) => h !== '').map((h) => ({ value: h, label: h }));
  const choose = (key: SettledColumn, heading: string): void => {
    const { [key]: _, ...others } = map.columns;
    onChange({ ...map, columns: heading === '' ? others : { ...others, [key]: heading } });
  };
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 1.5 }}>
        {SETTLED_COLUMNS.map((key) => (
          <ChoiceLine
            key={key}
            label={t(`report.column.${key}`)}
            width={150}
            value={map.columns[key] ?? ''}
            onChange={(h) => choose(key, h)}
            options={[{ value: '', label: t('report.noColumn') }, ...headings]}
          />
        ))}
        {map.columns.day === undefined && (
          <TextLine
            label={t('report.onDay')}
            type="date"
            width={170}
            value={map.onDay ?? ''}
            onChange={(day) => onChange({ ...map, onDay: day === '' ? null : day })}
          />
        )}
      </Box>
      <Amounts header={header} map={map} onChange={onChange} />
      <Writing map={map} onChange={onChange} />
      <FigureTable label={t('report.preview')}>
        <thead>
          <tr>
            {keyed(header, (h) => h).map(({ key, item: h }) => (
              <th scope="col" key={key} className="text">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {keyed(rows.slice(0, 5), (r) => r.join('|')).map(({ key, item: r }) => (
            <tr key={key}>
              {keyed(header, (h) => h).map(({ key: column, place }) => (
                <td key={column} className="text" dir="auto">
                  {r[place] ?? ''}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </FigureTable>
    </>
  );
}

/** Columns that hold amounts, each of one kind or of the kind that its row says. */
function Amounts({ header, map, onChange }: Pick<Props, 'header' | 'map' | 'onChange'>) {
  const { t } = useWords();
  const set = (amounts: SettlementMap['amounts']): void => onChange({ ...map, amounts });
  const headings = header.filter((h) => h !== '').map((h) => ({ value: h, label: h }));
  const free = headings.find((h) => !map.amounts.some((a) => a.column === h.value));
  return (
    <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 1.5, alignItems: 'end' }}>
      {keyed(map.amounts, (a) => a.column).map(({ key, item: a, place }) => (
        <Box key={key} sx={{ display: 'flex', gap: 0.5, alignItems: 'end' }}>
          <ChoiceLine
            label={t('report.amountColumn')}
            width={140}
            value={a.column}
            onChange={(column) => set(map.amounts.map((x, i) => (i === place ? { ...x, column } : x)))}
            options={headings}
          />
          <ChoiceLine
            label={t('report.amountOf')}
            width={160}
            value={a.kind ?? ''}
            onChange={(kind: SettledKind | '') =>
              set(map.amounts.map((x, i) => (i === place ? { ...x, kind: kind === '' ? null : kind } : x)))
            }
            options={[
              { value: '' as const, label: t('report.byRow') },
              ...SETTLED_KINDS.map((k) => ({ value: k, label: t(`report.kind.${k}`) })),
            ]}
          />
          {map.amounts.length > 1 && (
            <Button
              size="small"
              aria-label={`${t('report.dropAmount')}: ${a.column}`}
              onClick={() => set(map.amounts.filter((_, i) => i !== place))}>
              ×
            </Button>
          )}
        </Box>
      ))}
      {free !== undefined && map.amounts.length < 40 && (
        <Button size="small" onClick={() => set([...map.amounts, { column: free.value, kind: null }])}>
          {t('report.addAmount')}
        </Button>
      )}
    </Box>
  );
}

function Writing({ map, onChange }: Pick<Props, 'map' | 'onChange'>) {
  const { t } = useWords();
  return (
    <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 1.5 }}>
      <ChoiceLine
        label={t('report.decimal')}
        value={map.decimal}
        onChange={(decimal) => onChange({ ...map, decimal })}
        options={(['point', 'comma'] as const).map((x) => ({ value: x, label: t(`report.decimals.${x}`) }))}
      />
      <ChoiceLine
        label={t('report.days')}
        value={map.days}
        onChange={(days) => onChange({ ...map, days })}
        options={(['dayFirst', 'monthFirst'] as const).map((x) => ({
          value: x,
          label: t(`report.dayOrder.${x}`),
        }))}
      />
      <ChoiceLine
        label={t('report.signs')}
        width={190}
        value={map.signs}
        onChange={(signs) => onChange({ ...map, signs })}
        options={(['account', 'bare'] as const).map((x) => ({ value: x, label: t(`report.sign.${x}`) }))}
      />
      {map.columns.tax !== undefined && (
        <ChoiceLine
          label={t('report.taxIs')}
          width={150}
          value={map.tax}
          onChange={(tax) => onChange({ ...map, tax })}
          options={(['included', 'beside'] as const).map((x) => ({
            value: x,
            label: t(`report.taxIn.${x}`),
          }))}
        />
      )}
    </Box>
  );
}
