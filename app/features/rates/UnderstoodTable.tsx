/** A fee table as it was understood: each cell as given, what it is in our units, and what it could be besides. */
import { Box, Button, Typography } from '@mui/material';
import type { Said } from '../../../core/schedules/forms.ts';
import type { CellRead, TableRead } from '../../../core/schedules/understood.ts';
import { inWords } from '../../../words/index.ts';
import { useFormat } from '../../ui/locale.ts';
import './scheduleWords.ts';
import { useWords } from '../../ui/useWords.ts';

/** Rows that are drawn; a schedule that is longer says how many more there are. */
const SHOWN = 300;

/** What was read, in words: weights in kg, sides in cm. */
export function useSaid(currency: string): (said: Said) => string {
  const { t } = useWords();
  const f = useFormat();
  const kg = (x: number | null): string => `${f.number(x, 3)} kg`;
  const money = (x: number): string => f.plain(x, currency);
  const pct = (x: number): string => f.percent(x, Math.abs(100 * x - Math.round(100 * x)) < 1e-9 ? 0 : 2);
  const monthsSaid = (months: readonly number[]): string => {
    const [first = 1, last = first] = [months[0], months[months.length - 1]];
    return months.length < 3
      ? months.map((m) => f.monthName(m)).join(', ')
      : t('read.said.range', { a: f.monthName(first), b: f.monthName(last) });
  };
  return (said) => {
    switch (said.is) {
      case 'weight':
        if (said.each !== null) return t('read.said.each', { x: kg(said.each) });
        if (said.upTo === null) return t('read.said.over', { x: kg(said.from) });
        return said.from === null || said.from === 0
          ? t('read.said.upTo', { x: kg(said.upTo) })
          : t('read.said.range', { a: kg(said.from), b: kg(said.upTo) });
      case 'limits':
        return [
          said.sides === null ? '' : `${said.sides.map((x) => f.number(x, 1)).join(' × ')} cm`,
          said.girth === null ? '' : t('read.said.girth', { x: f.number(said.girth, 1) }),
          said.maxKg === null ? '' : kg(said.maxKg),
        ]
          .filter(Boolean)
          .join(', ');
      case 'sides':
        return `${said.cm.map((x) => f.number(x, 1)).join(' × ')} cm`;
      case 'money':
        return said.each === null
          ? money(said.amount)
          : t('read.said.fee', { fee: money(said.amount), more: money(said.each.fee), x: kg(said.each.kg) });
      case 'percent': {
        const tiers = said.tiers.map((x) =>
          x.upTo === null
            ? said.tiers.length === 1
              ? pct(x.pct)
              : t('read.said.rest', { pct: pct(x.pct) })
            : t('read.said.tier', { pct: pct(x.pct), limit: money(x.upTo) }),
        );
        const shares =
          said.tiers.length === 1 ? tiers.join('') : t(`read.said.${said.mode}`, { tiers: tiers.join(', ') });
        return [
          shares,
          said.plus === null ? '' : t('read.said.plus', { x: money(said.plus) }),
          said.min === null ? '' : t('read.said.least', { x: money(said.min) }),
          said.max === null ? '' : t('read.said.most', { x: money(said.max) }),
        ]
          .filter(Boolean)
          .join(', ');
      }
      case 'range':
        if (said.upTo === null) return t('read.said.over', { x: f.number(said.from) });
        return said.from === null
          ? t('read.said.upTo', { x: f.number(said.upTo) })
          : t('read.said.range', { a: f.number(said.from), b: f.number(said.upTo) });
      case 'rate':
        return t(`read.said.basis.${said.basis}`, { x: money(said.amount) });
      case 'stage':
        return t(`read.said.stage.${said.stage}`);
      case 'months':
        return monthsSaid(said.months);
      case 'none':
        return t('read.said.none');
    }
  };
}

const LOOK = {
  sure: {},
  heading: { color: 'text.secondary', fontSize: '0.78rem', fontWeight: 600 },
  blank: {},
  doubtful: { bgcolor: 'doubt' },
  notUnderstood: { borderLeft: '3px solid', borderLeftColor: 'error.main' },
  leftOut: { color: 'text.secondary', fontStyle: 'italic' },
} as const;
/** Roles whose reading adds to what stands there: a unit turned into ours, a fee with its further step. */
const TURNED: ReadonlySet<string> = new Set([
  'weight',
  'sides',
  'limits',
  'rate',
  'stage',
  'percent',
  'months',
]);

export function UnderstoodTable({
  table,
  currency,
  onChoose,
}: {
  table: TableRead;
  currency: string;
  onChoose: (cell: string, reading: number) => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const doubtful = table.rows.flatMap((r) => r.cells.filter((c) => c.state === 'doubtful'));
  const wrong = whatIsWrong(table);
  return (
    <Box sx={{ mb: 2.5 }}>
      <Typography variant="h3" sx={{ mb: 0.5, fontSize: '0.95rem' }}>
        {t(`read.table.${table.kind}`)}{' '}
        <Typography component="span" variant="body2" color="text.secondary" dir="auto">
          {table.title}
        </Typography>
      </Typography>
      <Box sx={{ overflowX: 'auto' }} tabIndex={0} role="region" aria-label={t(`read.table.${table.kind}`)}>
        <Box
          component="table"
          sx={{
            borderCollapse: 'collapse',
            fontSize: '0.86rem',
            width: '100%',
            '& small': { whiteSpace: 'nowrap' },
            '& td, & th': {
              px: 1,
              py: 0.5,
              borderBottom: '1px solid',
              borderBottomColor: 'hairline',
              textAlign: 'left',
              verticalAlign: 'top',
            },
          }}>
          <tbody>
            {table.rows.slice(0, SHOWN).map((r) => (
              <tr key={r.line}>
                {r.cells.map((c, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: a cell is where it stands
                  <Cell key={i} cell={c} currency={currency} />
                ))}
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
      {table.rows.length > SHOWN && (
        <Typography variant="body2">
          {t('draft.more', { count: f.number(table.rows.length - SHOWN) })}
        </Typography>
      )}
      {doubtful.slice(0, 8).map((c) => (
        <Readings key={c.key} cell={c} currency={currency} onChoose={onChoose} />
      ))}
      {wrong.slice(0, 8).map(({ said, lines: [first = 0, ...more] }) => (
        <Typography key={said} variant="body2" sx={{ mt: 0.5 }}>
          <Box component="b" sx={{ color: 'error.main' }}>
            {more.length === 0
              ? t('read.line', { line: first })
              : t('read.lines', { first, last: more[more.length - 1] })}
          </Box>{' '}
          {said}
        </Typography>
      ))}
    </Box>
  );
}

/** What is wrong with the cells of a table, each once, with the lines it is in. */
function whatIsWrong(table: TableRead): { said: string; lines: number[] }[] {
  const by = new Map<string, Set<number>>();
  for (const { line, cells } of table.rows)
    for (const { why } of cells)
      if (why !== null) by.set(inWords(why), (by.get(inWords(why)) ?? new Set()).add(line));
  return [...by].map(([said, lines]) => ({ said, lines: [...lines] }));
}

function Cell({ cell, currency }: { cell: CellRead; currency: string }) {
  const { t } = useWords();
  const said = useSaid(currency);
  const Tag = cell.state === 'heading' ? 'th' : 'td';
  const turned =
    cell.said !== null &&
    cell.state !== 'leftOut' &&
    (TURNED.has(cell.said.is) || (cell.said.is === 'money' && cell.said.each !== null));
  const note =
    cell.state === 'doubtful' || cell.state === 'notUnderstood' || cell.state === 'leftOut'
      ? t(`read.state.${cell.state}`)
      : '';
  return (
    <Box component={Tag} {...(Tag === 'th' ? { scope: 'col' } : {})} sx={LOOK[cell.state]}>
      <span dir="auto">{cell.text}</span>
      {turned && cell.said !== null && said(cell.said) !== cell.text && (
        <Box component="small" sx={{ display: 'block', color: 'text.secondary' }}>
          {said(cell.said)}
        </Box>
      )}
      {note !== '' && (
        <Box
          component="small"
          sx={{ display: 'block', color: cell.state === 'notUnderstood' ? 'error.main' : 'text.secondary' }}>
          {note}
        </Box>
      )}
    </Box>
  );
}

/** The readings of a doubtful cell, to choose from. */
function Readings({
  cell,
  currency,
  onChoose,
}: {
  cell: CellRead;
  currency: string;
  onChoose: (cell: string, reading: number) => void;
}) {
  const { t } = useWords();
  const said = useSaid(currency);
  const readings = cell.said === null ? [] : [cell.said, ...cell.or];
  return (
    <Box
      role="group"
      aria-label={cell.text}
      sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mt: 1 }}>
      <b dir="auto">{cell.text}</b>
      {readings.map((r, i) => (
        <Button
          // biome-ignore lint/suspicious/noArrayIndexKey: readings stand in their order
          key={i}
          size="small"
          variant="outlined"
          onClick={() => onChoose(cell.key, i)}>
          {t('read.itIs', { said: said(r) })}
        </Button>
      ))}
      <Typography component="span" variant="body2" color="text.secondary">
        {t('read.remembered')}
      </Typography>
    </Box>
  );
}
