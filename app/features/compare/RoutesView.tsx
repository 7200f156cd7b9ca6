import { Box, Button, Typography } from '@mui/material';
import { Link } from 'react-router';
import { Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { FreightCard } from '../../../core/cards/schema.ts';
import { alongRoute } from '../../../core/compare/quotes.ts';
import { asked } from '../../../core/compare/whatIf.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import { routeFits } from '../../../core/workspace/proposals.ts';
import type { LaneResult } from '../../../core/lane/result.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { useBounds } from '../../ui/bounds.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { FigureTable, HiddenHead } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useChartLook } from '../../ui/useChartLook.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { countryName } from '../../ui/names.ts';
import type { Compared } from './useCompared.ts';
import { ProfitCell } from '../../ui/ProfitCell.tsx';
import { useBoundColumn, useResultFigures } from '../../ui/resultFigures.ts';
import { dashesOf, Stroke } from '../../ui/Stroke.tsx';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  lanes: readonly Compared[];
  chosen: Compared;
  freight: readonly { id: string; card: FreightCard }[];
  place: (c: Compared) => string;
  onChoose: (id: string) => void;
  canEdit: boolean;
  use: (cardId: string) => void;
  root: string;
};
type Row = {
  readonly id: string;
  readonly name: string;
  readonly now: boolean;
  readonly doc: LaneDocument;
  readonly result: LaneResult;
};
/** What a shock does to the main leg of freight. */
const FACTORS = [0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4];

/** Days from the supplier's door to the warehouse's shelf; null without a route. */
const daysOf = (d: LaneDocument): number | null =>
  d.route === null || d.route === 'none' ? null : (d.route.transitDays ?? 0) + d.route.inboundDays;

/**
 * One lane by every route that runs to its country: landed cost, days, cash tied, and what a shock to freight
 * does.
 */
export function RoutesView({ lanes, chosen, freight, place, onChoose, canEdit, use, root }: Props) {
  const { t, i18n } = useWords();
  const f = useFormat();
  const { doc } = chosen;
  const c = doc.currency;
  const cards = freight.filter((x) => routeFits(x.card, doc.product.origin, doc.country));
  const rows: Row[] = [
    {
      id: 'now',
      name:
        doc.route === null || doc.route === 'none'
          ? t('line.none')
          : doc.route.name || t('proposals.defaultRoute'),
      now: true,
      doc,
    },
    ...cards
      .filter((x) => x.id !== chosen.data.freightCardId)
      .map((x) => ({ id: x.id, name: x.card.name, now: false, doc: alongRoute(doc, x.card) })),
  ].map((row) => ({ ...row, result: evaluate(row.doc) }));
  return (
    <Box>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap', mb: 1 }}>
        <ChoiceLine
          label={t('routes.lane')}
          value={chosen.id}
          width={330}
          options={lanes
            .slice(0, 300)
            .map((l) => ({ value: l.id, label: `${place(l)}, ${t(`method.${l.doc.method}`)}` }))}
          onChange={onChoose}
        />
        <Typography variant="body2" color="text.secondary" sx={{ pb: 0.75 }}>
          {t('routes.lead', { quantity: f.number(doc.orderQuantity) })}
        </Typography>
        <Box sx={{ ml: 'auto' }}>
          <RouteFile rows={rows} currency={c} />
        </Box>
      </Box>
      {cards.length === 0 && (
        <Typography sx={{ mb: 1 }}>
          {t('routes.none', { country: countryName(doc.country, i18n.language) })}{' '}
          <Link to={`${root}/rates`}>{t('nav.rates')}</Link>
        </Typography>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1.4fr 1fr' }, gap: 4 }}>
        <RouteTable rows={rows} currency={c} use={canEdit ? use : null} />
        <FreightShock rows={rows} currency={c} />
      </Box>
    </Box>
  );
}

/** The routes, to take along. */
function RouteFile({ rows, currency: c }: { rows: readonly Row[]; currency: string }) {
  const { t } = useWords();
  const bound = useBoundColumn();
  return (
    <TableFile
      table={() => ({
        name: t('routes.title'),
        columns: [
          t('routes.route'),
          `${t('routes.freight')} ${c}`,
          `${t('routes.landed')} ${c}`,
          t('routes.days'),
          t('routes.cycle'),
          `${t('routes.tied')} ${c}`,
          `${t('routes.keeps')} ${c}`,
          bound.title,
        ].map((title) => ({ title })),
        rows: rows.map((row) => [
          row.name,
          row.result.lines.freight,
          row.result.figures.landedCost,
          daysOf(row.doc),
          row.result.figures.cashCycleDays,
          row.result.figures.landedCash,
          row.result.figures.unitProfit,
          bound.of(row.result),
        ]),
      })}
    />
  );
}

/** `use`: puts the lane on a route; null where one may not. */
function RouteTable({
  rows,
  currency: c,
  use,
}: {
  rows: readonly Row[];
  currency: string;
  use: ((cardId: string) => void) | null;
}) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const said = useResultFigures();
  const freightOf = ({ lines, blanks }: LaneResult): string =>
    lines.freight === null
      ? '–'
      : bounds.of(f.plain(lines.freight, c), blanks.includes('freight') ? ['freight'] : [], 'atLeast');
  const cheapest = [...rows]
    .filter((x) => x.result.figures.landedCost !== null)
    .sort((a, b) => (a.result.figures.landedCost as number) - (b.result.figures.landedCost as number))[0];
  return (
    <FigureTable label={t('routes.title')}>
      <thead>
        <tr>
          <th scope="col">{t('routes.route')}</th>
          <th scope="col">{t('routes.freight')}</th>
          <th scope="col">{t('routes.landed')}</th>
          <th scope="col">{t('routes.days')}</th>
          <th scope="col">{t('routes.cycle')}</th>
          <th scope="col">{t('routes.tied')}</th>
          <th scope="col">{t('routes.keeps')}</th>
          {use !== null && <HiddenHead>{t('routes.use')}</HiddenHead>}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => {
          return (
            <tr key={row.id}>
              <th scope="row" style={{ fontWeight: row === cheapest ? 700 : 400 }}>
                <Stroke index={i} />
                {row.name}
                {row.now && (
                  <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.78rem' }}>
                    {' '}
                    {t('routes.now')}
                  </Box>
                )}
              </th>
              <td>{freightOf(row.result)}</td>
              <Box component="td" sx={{ fontWeight: row === cheapest ? 700 : 400 }}>
                {said(row.result, 'landedCost')}
              </Box>
              <td>{f.number(daysOf(row.doc), 0)}</td>
              <td>{f.number(row.result.figures.cashCycleDays, 0)}</td>
              <td>{said(row.result, 'landedCash', 'plain')}</td>
              <ProfitCell result={row.result} />
              {use !== null && (
                <td>
                  {!row.now && (
                    <Button size="small" onClick={() => use(row.id)}>
                      {t('routes.use')}
                    </Button>
                  )}
                </td>
              )}
            </tr>
          );
        })}
      </tbody>
    </FigureTable>
  );
}

/** What the lane keeps when the main leg of freight costs more or less. */
function FreightShock({ rows, currency: c }: { rows: readonly Row[]; currency: string }) {
  const { t } = useWords();
  const f = useFormat();
  const { palette, axis, over } = useChartLook();
  const chart = FACTORS.map((factor) => ({
    factor,
    ...Object.fromEntries(
      rows.map((row) => [
        row.id,
        evaluate(asked(row.doc, { orderQuantity: null, mainFreight: factor, price: 1 })).figures.unitProfit,
      ]),
    ),
  }));
  return (
    <Box>
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
        {t('routes.chart')}
      </Typography>
      <Box role="img" aria-label={t('routes.chart')} sx={{ height: 260 }}>
        <ResponsiveContainer>
          <LineChart data={chart} margin={{ left: 0, right: 10, top: 6, bottom: 4 }}>
            <XAxis
              dataKey="factor"
              type="number"
              domain={[0.5, 4]}
              ticks={[1, 2, 3, 4]}
              tickFormatter={(x: number) => `× ${x}`}
              {...axis}
            />
            <YAxis {...axis} width={60} tickFormatter={(x: number) => f.mark(x, c)} />
            <Tooltip
              formatter={(x, id) => [f.money(Number(x), c), rows.find((row) => row.id === id)?.name ?? '']}
              labelFormatter={(x) => `× ${f.number(Number(x))}`}
              contentStyle={over}
            />
            <ReferenceLine y={0} stroke={palette.text.primary} />
            {rows.map((row, i) => (
              <Line
                key={row.id}
                dataKey={row.id}
                dot={false}
                isAnimationActive={false}
                stroke={palette.text.primary}
                strokeWidth={2}
                strokeDasharray={dashesOf(i)}
              />
            ))}
          </LineChart>
        </ResponsiveContainer>
      </Box>
    </Box>
  );
}
