import { Box, Button, Typography } from '@mui/material';
import { useTheme } from '@mui/material/styles';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useFetcher } from 'react-router';
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { addWords } from '../../i18n.ts';
import { moreWords } from '../../locales/en.more.ts';
import { differences } from '../../../core/compare/differences.ts';
import { confidenceOf, OWN_SOURCES, ownInputs, staleInputs } from '../../../core/lane/confidence.ts';
import { evaluate } from '../../../core/lane/result.ts';
import type { EarlierResult } from '../../../core/lane/result.ts';
import { priceFor } from '../../../core/lane/solve.ts';
import { exchangeFactor } from '../../../core/money/money.ts';
import type { Cell } from '../../../core/cards/cells.ts';
import {
  readVariations,
  VARIATION_COLUMNS,
  variationCells,
  weighVariations,
} from '../../../core/workspace/variations.ts';
import type { Variation } from '../../../core/workspace/variations.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { ChoiceLine, TextLine } from '../../ui/Field.tsx';
import { parseNumber } from '../../ui/parseNumber.ts';
import { useFormat } from '../../ui/locale.ts';
import { DraftGrid } from '../rates/DraftGrid.tsx';
import '../rates/words.ts';
import { useStore, useValue } from './store.ts';
import type { LaneView } from './useFigures.ts';

addWords(moreWords);

export type MoreTab = 'scenarios' | 'ladder' | 'variations' | 'sure' | 'history';
type Props = {
  tab: MoreTab;
  view: LaneView;
  views: readonly LaneView[];
  onChoose: (id: string) => void;
  base: string;
  candidateId: string;
};
const table = {
  borderCollapse: 'collapse',
  width: '100%',
  fontSize: '0.86rem',
  '& th, & td': {
    py: 0.4,
    px: 0.75,
    textAlign: 'right',
    borderBottom: '1px solid',
    borderColor: 'hairline',
    verticalAlign: 'top',
  },
  '& thead th': { fontWeight: 400, color: 'text.secondary', fontSize: '0.76rem' },
  '& th:first-of-type': { textAlign: 'left' },
} as const;

/** The deeper parts of the sheet: scenarios, price ladder, variations, how sure the figures are, what changed. */
export default function More({ tab, ...props }: Props) {
  if (tab === 'scenarios') return <Scenarios {...props} />;
  if (tab === 'ladder') return <Ladder {...props} />;
  if (tab === 'variations') return <Variations {...props} />;
  return tab === 'sure' ? <Sure {...props} /> : <History {...props} />;
}
type Part = Omit<Props, 'tab'>;

function Scenarios({ view, views, onChoose, base, candidateId }: Part) {
  const { t } = useTranslation();
  const f = useFormat();
  const store = useStore();
  const fetcher = useFetcher();
  const [name, setName] = useState('');
  const laneId = view.state.scenarioOf ?? view.id;
  const own = views.find((v) => v.id === laneId) ?? view;
  const list = [own, ...views.filter((v) => v.state.scenarioOf === laneId)];
  const keep = async (): Promise<void> => {
    await store.flush();
    const row = {
      id: crypto.randomUUID(),
      position: view.state.position + list.length,
      data: { ...view.state.data, name: name.trim() },
      scenarioOf: laneId,
    };
    setName('');
    void fetcher.submit(
      { intent: 'putLane', row: JSON.stringify(row) },
      { method: 'post', action: `${base}/${candidateId}` },
    );
  };
  const c = own.doc.currency;
  return (
    <Box>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
        {t('scenarios.text')}
      </Typography>
      <Box component="table" sx={table}>
        <thead>
          <tr>
            <th scope="col">{t('scenarios.named')}</th>
            <th scope="col">{t('form.price')}</th>
            <th scope="col">{t('scenarios.quantity')}</th>
            <th scope="col">{t('lines.landedCost')}</th>
            <th scope="col">{t('figure.unitProfit')}</th>
            <th scope="col">{t('figure.margin')}</th>
            <th scope="col">{t('figure.roi')}</th>
            <th scope="col">{t('scenarios.against')}</th>
            <th>
              <span className="hidden-text">{t('scenarios.open')}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {list.map((v) => {
            const profit = v.result.figures.unitProfit;
            const diff =
              v === own || profit === null || own.result.figures.unitProfit === null
                ? null
                : profit - own.result.figures.unitProfit;
            return (
              <tr key={v.id}>
                <th scope="row" style={{ fontWeight: v.id === view.id ? 700 : 400 }}>
                  <bdi>{v === own ? t('scenarios.lane') : v.doc.name || t('scenarios.named')}</bdi>
                </th>
                <td>{f.money(v.doc.price, c)}</td>
                <td>{f.number(v.doc.orderQuantity)}</td>
                <td>{f.plain(v.result.figures.landedCost, c)}</td>
                <Box
                  component="td"
                  sx={{ fontWeight: 650, color: profit !== null && profit < 0 ? 'error.main' : 'primary.main' }}>
                  {f.money(profit, c)}
                  {profit !== null && profit < 0 && ` ${t('lanes.losesWord')}`}
                </Box>
                <td>{f.percent(v.result.figures.margin)}</td>
                <td>{f.percent(v.result.figures.roi, 0)}</td>
                <td>{diff === null ? '' : `${diff > 0 ? '+' : ''}${f.plain(diff, c)}`}</td>
                <td>
                  {v.id !== view.id && (
                    <Button size="small" onClick={() => onChoose(v.id)}>
                      {t('scenarios.open')}
                    </Button>
                  )}
                  {v !== own && store.canEdit && (
                    <Button
                      size="small"
                      aria-label={t('scenarios.remove', { name: v.doc.name })}
                      onClick={() => (
                        onChoose(laneId),
                        void fetcher.submit(
                          { intent: 'removeLane', id: v.id },
                          { method: 'post', action: `${base}/${candidateId}` },
                        )
                      )}>
                      ×
                    </Button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Box>
      <TableFile
        table={() => ({
          name: `${store.get().state.candidate.data.name} ${t('more.scenarios')}`,
          columns: [
            t('scenarios.named'),
            t('form.currency'),
            t('form.price'),
            t('scenarios.quantity'),
            t('lines.landedCost'),
            t('figure.unitProfit'),
            t('figure.margin'),
            t('figure.roi'),
          ].map((title, i) => ({ title, percent: i > 5 })),
          rows: list.map((v) => [
            v === own ? t('scenarios.lane') : v.doc.name,
            c,
            v.doc.price,
            v.doc.orderQuantity,
            v.result.figures.landedCost,
            v.result.figures.unitProfit,
            v.result.figures.margin,
            v.result.figures.roi,
          ]),
        })}
      />
      {store.canEdit && (
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'flex-end', mt: 1.5 }}>
          <TextLine label={t('scenarios.name')} value={name} onChange={setName} width={240} />
          <Button disabled={name.trim() === '' || fetcher.state !== 'idle'} onClick={() => void keep()}>
            {t('scenarios.keep')}
          </Button>
        </Box>
      )}
    </Box>
  );
}

function Ladder({ view }: Part) {
  const { t } = useTranslation();
  const f = useFormat();
  const store = useStore();
  const { palette } = useTheme();
  const { doc } = view;
  const c = doc.currency;
  const typed = (useValue('lane', view.id, ['rivalPrices']) as number[] | undefined) ?? [];
  const [text, setText] = useState<string | null>(null);
  const rivals = [
    ...new Set([...typed, ...(doc.demand?.kind === 'offerSplit' ? doc.demand.rivals.filter((x) => x !== null) : [])]),
  ];
  const even = priceFor(doc);
  const price = doc.price ?? even.price ?? 20;
  const priceOf = (gross: number): number => Math.max(0, (gross - doc.shippingCharged) / (1 - doc.averageDiscount));
  const at = (gross: number) => {
    const r = evaluate({ ...doc, price: priceOf(gross) });
    return {
      gross,
      profit: r.figures.unitProfit,
      margin: r.figures.margin,
      units: r.figures.expectedMonthlyUnits,
      month: r.figures.profitPerMonth,
    };
  };
  const grossNow = view.result.figures.gross ?? price;
  const grossEven = even.price === null ? null : even.price * (1 - doc.averageDiscount) + doc.shippingCharged;
  const marks = [
    ...rivals.map((x) => ({ x, kind: 'rival' as const })),
    { x: grossNow, kind: 'now' as const },
    ...(grossEven === null ? [] : [{ x: grossEven, kind: 'even' as const }]),
  ].sort((a, b) => a.x - b.x);
  const low = Math.min(grossNow * 0.6, ...marks.map((m) => m.x * 0.95));
  const high = Math.max(grossNow * 1.4, ...marks.map((m) => m.x * 1.05));
  // biome-ignore lint/correctness/useExhaustiveDependencies: a rung depends on the lane alone
  const curve = useMemo(
    () => Array.from({ length: 41 }, (_, i) => at(low + ((high - low) * i) / 40)),
    [doc, low, high],
  );
  const cushion = grossEven === null ? null : grossNow - grossEven;
  const take = (value: string): void => {
    setText(null);
    const list = value.split(/[\s;]+/).flatMap((x) => {
      const n = parseNumber(x, f.locale);
      return n.kind === 'number' && n.value > 0 ? [n.value] : [];
    });
    store.edit([{ entity: 'lane', id: view.id, path: ['rivalPrices'], to: [...new Set(list)].slice(0, 50) }]);
  };
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1fr 1fr' }, gap: 4 }}>
      <Box>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
          {t('ladder.text')}
        </Typography>
        <Typography sx={{ mb: 1 }}>
          {cushion === null || cushion <= 0
            ? t('ladder.noCushion')
            : t('ladder.cushion', { by: f.money(cushion, c), share: f.percent(cushion / grossNow) })}
        </Typography>
        <Box onBlur={() => text !== null && take(text)}>
          <TextLine
            label={t('ladder.rivals', { currency: c })}
            value={text ?? typed.map((x) => f.number(x)).join('; ')}
            onChange={setText}
            width="100%"
          />
        </Box>
        <TableFile
          table={() => ({
            name: `${store.get().state.candidate.data.name} ${t('more.ladder')}`,
            columns: [
              t('ladder.price'),
              t('form.currency'),
              t('ladder.what'),
              t('ladder.profit'),
              t('ladder.margin'),
              t('ladder.units'),
              t('ladder.month'),
            ].map((title, i) => ({ title, percent: i === 4 })),
            rows: marks.map((m) => {
              const r = at(m.x);
              return [m.x, c, t(`ladder.${m.kind}`), r.profit, r.margin, r.units, r.month];
            }),
          })}
        />
        <Box component="table" sx={{ ...table, mt: 1.5 }}>
          <thead>
            <tr>
              <th scope="col">{t('ladder.price')}</th>
              <th scope="col">{t('ladder.profit')}</th>
              <th scope="col">{t('ladder.margin')}</th>
              <th scope="col">{t('ladder.units')}</th>
              <th scope="col">{t('ladder.month')}</th>
            </tr>
          </thead>
          <tbody>
            {marks.map((m) => {
              const r = at(m.x);
              return (
                <tr key={`${m.kind}${m.x}`}>
                  <th scope="row" style={{ fontWeight: m.kind === 'now' ? 700 : 400 }}>
                    {f.money(m.x, c)}{' '}
                    <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
                      {t(`ladder.${m.kind}`)}
                    </Box>
                  </th>
                  <Box
                    component="td"
                    sx={{
                      fontWeight: 650,
                      color: r.profit !== null && r.profit < -0.004 ? 'error.main' : 'primary.main',
                    }}>
                    {f.plain(r.profit, c)}
                    {r.profit !== null && r.profit < -0.004 && ` ${t('lanes.losesWord')}`}
                  </Box>
                  <td>{f.percent(r.margin)}</td>
                  <td>{f.number(r.units, 0)}</td>
                  <td>{f.number(r.month, 0)}</td>
                </tr>
              );
            })}
          </tbody>
        </Box>
      </Box>
      <Box role="img" aria-label={t('ladder.chart')} sx={{ height: 300 }}>
        <ResponsiveContainer>
          <LineChart data={curve} margin={{ left: 0, right: 0, top: 16, bottom: 4 }}>
            <CartesianGrid stroke={palette.divider} vertical={false} />
            <XAxis
              dataKey="gross"
              type="number"
              domain={[low, high]}
              tickFormatter={(x: number) => f.mark(x, c)}
              stroke={palette.text.secondary}
              fontSize={12}
            />
            <YAxis
              yAxisId="profit"
              tickFormatter={(x: number) => f.mark(x, c)}
              stroke={palette.text.secondary}
              fontSize={12}
              width={60}
            />
            <YAxis
              yAxisId="units"
              orientation="right"
              tickFormatter={(x: number) => f.number(x, 0)}
              stroke={palette.text.secondary}
              fontSize={12}
              width={56}
              label={{
                value: t('form.unitsMonth'),
                angle: 90,
                position: 'insideRight',
                fontSize: 12,
                fill: palette.text.secondary,
                style: { textAnchor: 'middle' },
              }}
            />
            <Tooltip
              formatter={(x, id) => [
                id === 'units' ? f.number(Number(x), 0) : f.money(Number(x), c),
                t(id === 'units' ? 'ladder.units' : 'ladder.profit'),
              ]}
              labelFormatter={(x) => f.money(Number(x), c)}
              contentStyle={{ background: palette.background.paper, border: `1px solid ${palette.divider}` }}
            />
            <ReferenceLine yAxisId="profit" y={0} stroke={palette.text.primary} />
            {marks.map((m) => (
              <ReferenceLine
                key={`${m.kind}${m.x}`}
                yAxisId="profit"
                x={m.x}
                stroke={m.kind === 'now' ? palette.primary.main : palette.text.secondary}
                strokeDasharray={m.kind === 'rival' ? '2 4' : m.kind === 'even' ? '6 3' : ''}
                label={
                  m.kind === 'rival'
                    ? undefined
                    : { value: t(`ladder.${m.kind}`), position: 'top', fontSize: 11, fill: palette.text.primary }
                }
              />
            ))}
            <Line
              yAxisId="profit"
              dataKey="profit"
              dot={false}
              isAnimationActive={false}
              stroke={palette.primary.main}
              strokeWidth={2.5}
            />
            <Line
              yAxisId="units"
              dataKey="units"
              dot={false}
              isAnimationActive={false}
              stroke={palette.text.secondary}
              strokeWidth={1.5}
              strokeDasharray="4 3"
            />
          </LineChart>
        </ResponsiveContainer>
      </Box>
    </Box>
  );
}

function Variations({ view, candidateId }: Part) {
  const { t } = useTranslation();
  const f = useFormat();
  const store = useStore();
  const stored = (useValue('candidate', candidateId, ['variations']) as Variation[] | undefined) ?? [];
  const [rows, setRows] = useState<readonly (readonly Cell[])[]>(() => variationCells(stored));
  const read = useMemo(() => readVariations(rows), [rows]);
  const { doc } = view;
  const c = doc.currency;
  const weighed = useMemo(() => weighVariations(doc, read.list), [doc, read.list]);
  const take = (next: readonly (readonly Cell[])[]): void => {
    setRows(next);
    const now = readVariations(next);
    if (now.errors.length === 0 && store.canEdit)
      store.edit([{ entity: 'candidate', id: candidateId, path: ['variations'], to: now.list }]);
  };
  return (
    <Box>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
        {t('variations.text')}
      </Typography>
      <DraftGrid
        label={t('more.variations')}
        columns={VARIATION_COLUMNS}
        rows={rows}
        columnOf={(_, column) => VARIATION_COLUMNS[column] ?? null}
        title={(column) => t(`variations.${column.key}`)}
        readOnly={!store.canEdit}
        canAddRows
        focus={null}
        errors={read.errors.map((e) => ({ ...e, sheet: '' }))}
        onEdit={(edits) => {
          const next = rows.map((r) => [...r]);
          for (const e of edits) (next[e.row] as Cell[])[e.column] = e.text;
          take(next);
        }}
        onRows={take}
      />
      {weighed.rows.length > 0 && (
        <>
          <Typography sx={{ my: 1, fontWeight: 650 }} data-testid="variations-answer">
            {t('variations.answer', { paying: weighed.paying, all: weighed.rows.length })}{' '}
            {weighed.blended !== null && t('variations.blended', { amount: f.money(weighed.blended, c) })}
          </Typography>
          <TableFile
            table={() => ({
              name: `${store.get().state.candidate.data.name} ${t('more.variations')}`,
              columns: [
                ...VARIATION_COLUMNS.map((x) => ({ title: t(`variations.${x.key}`), percent: x.kind === 'share' })),
                { title: t('form.currency') },
                { title: t('variations.keeps') },
                { title: t('figure.margin'), percent: true },
                { title: t('variations.roi'), percent: true },
                { title: t('variations.units') },
              ],
              rows: weighed.rows.map(({ variation: v, result: r }) => [
                v.name,
                v.price,
                v.cost,
                v.delivery,
                v.kg,
                v.shareOfSales,
                v.stock,
                c,
                r.figures.unitProfit,
                r.figures.margin,
                r.figures.roi,
                r.figures.expectedMonthlyUnits,
              ]),
            })}
          />
          <Box component="table" sx={{ ...table, maxWidth: 620 }}>
            <thead>
              <tr>
                <th scope="col">{t('variations.name')}</th>
                <th scope="col">{t('variations.keeps')}</th>
                <th scope="col">{t('figure.margin')}</th>
                <th scope="col">{t('variations.roi')}</th>
                <th scope="col">{t('variations.units')}</th>
              </tr>
            </thead>
            <tbody>
              {weighed.rows.map(({ variation: v, result: r }) => {
                const profit = r.figures.unitProfit;
                const units = r.figures.expectedMonthlyUnits;
                const days = v.stock === null || !units ? null : (v.stock / units) * 30.4375;
                return (
                  <tr key={v.name}>
                    <th scope="row" style={{ fontWeight: 400 }}>
                      <bdi>{v.name}</bdi>
                      {days !== null && days < 60 && (
                        <Box sx={{ fontSize: '0.76rem', color: 'error.main' }}>
                          {t('variations.short', { days: f.number(days, 0) })}
                        </Box>
                      )}
                    </th>
                    <Box
                      component="td"
                      sx={{ fontWeight: 650, color: profit !== null && profit < 0 ? 'error.main' : 'primary.main' }}>
                      {f.money(profit, c)}
                      {profit !== null && profit < 0 && ` ${t('lanes.losesWord')}`}
                    </Box>
                    <td>{f.percent(r.figures.margin)}</td>
                    <td>{f.percent(r.figures.roi, 0)}</td>
                    <td>{f.number(units, 0)}</td>
                  </tr>
                );
              })}
            </tbody>
          </Box>
        </>
      )}
    </Box>
  );
}

function Sure({ view }: Part) {
  const { t } = useTranslation();
  const f = useFormat();
  const { doc, result } = view;
  const sure = confidenceOf(doc, result);
  const stale = staleInputs(doc);
  const store = useStore();
  const table_ = doc.rates.exchange;
  const own = ownInputs(doc);
  const say = (input: string, source: string, note: string): void =>
    store.edit([{ entity: 'lane', id: view.id, path: ['provenance', input], to: { source, date: doc.date, note } }]);
  const foreign = [
    ...new Set([doc.homeCurrency, ...(Array.isArray(doc.goods) ? doc.goods.map((g) => g.source.currency) : [])]),
  ].filter((x) => x !== doc.currency);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1fr 1.2fr' }, gap: 4 }}>
      <Box>
        <Typography sx={{ mb: 1, fontWeight: 650 }} data-testid="sure-answer">
          {sure.unsure > 0.0005 ? t('sure.answer', { share: f.percent(sure.unsure, 0) }) : t('sure.all')}
        </Typography>
        {stale.map((s) => (
          <Typography key={s.what + s.date} color="error" variant="body2">
            {t(`sure.stale.${s.what}`, {
              name: s.name || t('suppliers.supplier', { defaultValue: '–' }),
              days: s.days,
              date: f.day(s.date),
            })}
          </Typography>
        ))}
        <Box component="table" sx={{ ...table, my: 1 }}>
          <thead>
            <tr>
              <th scope="col">{t('sure.source')}</th>
              <th scope="col">
                {t('form.amount')}, {doc.currency}
              </th>
              <th scope="col">{t('sure.part')}</th>
            </tr>
          </thead>
          <tbody>
            {sure.shares.map((s) => (
              <tr key={s.source}>
                <th scope="row" style={{ fontWeight: 400 }}>
                  {t(`source.${s.source}`)}
                </th>
                <td>{f.plain(sure.bySource[s.source] ?? null, doc.currency)}</td>
                <td>
                  {f.percent(s.share, 0)}
                  <Box
                    aria-hidden
                    sx={{ height: 4, bgcolor: 'text.primary', ml: 'auto' }}
                    style={{ width: `${100 * s.share}%` }}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </Box>
        {table_ !== null &&
          foreign.map((from) => (
            <Typography key={from} variant="body2" color="text.secondary">
              {t('sure.rate', {
                rate: f.number(exchangeFactor(table_, doc.currency, from), 4),
                from,
                to: doc.currency,
                date: f.day(table_.date),
              })}
            </Typography>
          ))}
      </Box>
      <Box component="section" aria-label={t('sure.own')}>
        <Typography variant="h3" component="h3" sx={{ mb: 0.5 }}>
          {t('sure.own')}
        </Typography>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
          {t('sure.ownText')}
        </Typography>
        {own.map((x) => (
          <Box
            key={x.input}
            sx={{ display: 'grid', gridTemplateColumns: '190px 1fr 90px', gap: 1.5, alignItems: 'end', py: 0.25 }}>
            <ChoiceLine
              label={t('sure.comes', { input: t(`sure.inputs.${x.input}`) })}
              value={x.source}
              width={190}
              options={[...new Set([...OWN_SOURCES, x.source])].map((v) => ({ value: v, label: t(`source.${v}`) }))}
              onChange={(source) => say(x.input, source, x.note)}
            />
            <NoteLine
              label={t('sure.note', { input: t(`sure.inputs.${x.input}`) })}
              value={x.note}
              onDone={(note) => say(x.input, x.source, note)}
            />
            <Box sx={{ fontSize: '0.78rem', color: 'text.secondary', pb: 0.75 }}>
              {x.date === null ? '' : f.day(x.date)}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** A short text that is taken when one leaves it. */
function NoteLine({ label, value, onDone }: { label: string; value: string; onDone: (text: string) => void }) {
  const [text, setText] = useState<string | null>(null);
  return (
    <Box
      onBlur={() => {
        if (text !== null && text.trim() !== value) onDone(text.trim().slice(0, 200));
        setText(null);
      }}>
      <TextLine label={label} value={text ?? value} onChange={setText} width="100%" />
    </Box>
  );
}

function History({ view, base, candidateId }: Part) {
  const { t } = useTranslation();
  const f = useFormat();
  const { load, data } = useFetcher<{ earlier: { at: string; cause: string; result: EarlierResult }[] }>();
  useEffect(() => void load(`${base}/${candidateId}/history?lane=${view.id}`), [load, base, candidateId, view.id]);
  const c = view.doc.currency;
  if (data === undefined) return <Typography variant="body2">{t('more.loading')}</Typography>;
  if (data.earlier.length === 0) return <Typography>{t('history.none')}</Typography>;
  return (
    <Box sx={{ maxWidth: 760 }}>
      <Typography sx={{ mb: 1, fontWeight: 650 }}>
        {t('history.now', { amount: f.money(view.result.figures.unitProfit, c) })}
      </Typography>
      {data.earlier.map((e) => {
        const diff = e.result.currency === view.result.currency ? differences(e.result, view.result) : null;
        return (
          <Box
            key={e.at}
            sx={{
              display: 'grid',
              gridTemplateColumns: '150px 110px 1fr',
              gap: 1,
              py: 0.5,
              borderTop: '1px solid',
              borderColor: 'hairline',
              fontSize: '0.88rem',
            }}>
            <span>
              {f.day(e.at.slice(0, 10))}{' '}
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {t(`history.${e.cause}`)}
              </Box>
            </span>
            <span>
              {t('history.was')} <b>{f.money(e.result.figures.unitProfit, e.result.currency)}</b>
            </span>
            <Box component="span" sx={{ color: 'text.secondary' }}>
              {diff === null
                ? ''
                : `${t('history.why')}: ${diff.lines
                    .slice(0, 4)
                    .map(
                      (d) =>
                        `${d.line === 'gross' ? t('figure.gross') : t(`lines.${d.line}`)} ${d.effect > 0 ? '+' : ''}${f.plain(d.effect, c)}`,
                    )
                    .join(', ')}`}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}
