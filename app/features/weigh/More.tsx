import { Box, Typography } from '@mui/material';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useFetcher } from 'react-router';
import { addWords } from '../../i18n.ts';
import { moreWords } from '../../locales/en.more.ts';
import { differences } from '../../../core/compare/differences.ts';
import { confidenceOf, OWN_SOURCES, ownInputs, staleInputs } from '../../../core/lane/confidence.ts';
import type { EarlierResult } from '../../../core/lane/result.ts';
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
import { useFormat } from '../../ui/locale.ts';
import { DraftGrid } from '../rates/DraftGrid.tsx';
import '../rates/words.ts';
import { useStore, useValue } from './store.ts';
import { table } from './moreParts.ts';
import type { Props } from './moreParts.ts';
import { Scenarios } from './Scenarios.tsx';
import { Ladder } from './Ladder.tsx';

addWords(moreWords);

export type MoreTab = 'scenarios' | 'ladder' | 'variations' | 'sure' | 'history';

/** The deeper parts of the sheet: scenarios, price ladder, variations, how sure the figures are, what changed. */
export default function More({ tab, ...props }: Props) {
  if (tab === 'scenarios') return <Scenarios {...props} />;
  if (tab === 'ladder') return <Ladder {...props} />;
  if (tab === 'variations') return <Variations {...props} />;
  return tab === 'sure' ? <Sure {...props} /> : <History {...props} />;
}
export type Part = Omit<Props, 'tab'>;

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
                ...VARIATION_COLUMNS.map((x) => ({
                  title: t(`variations.${x.key}`),
                  percent: x.kind === 'share',
                })),
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
                      sx={{
                        fontWeight: 650,
                        color: profit !== null && profit < 0 ? 'error.main' : 'primary.main',
                      }}>
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
    store.edit([
      { entity: 'lane', id: view.id, path: ['provenance', input], to: { source, date: doc.date, note } },
    ]);
  const foreign = [
    ...new Set([
      doc.homeCurrency,
      ...(Array.isArray(doc.goods) ? doc.goods.map((g) => g.source.currency) : []),
    ]),
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
            sx={{
              display: 'grid',
              gridTemplateColumns: '190px 1fr 90px',
              gap: 1.5,
              alignItems: 'end',
              py: 0.25,
            }}>
            <ChoiceLine
              label={t('sure.comes', { input: t(`sure.inputs.${x.input}`) })}
              value={x.source}
              width={190}
              options={[...new Set([...OWN_SOURCES, x.source])].map((v) => ({
                value: v,
                label: t(`source.${v}`),
              }))}
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
function NoteLine({
  label,
  value,
  onDone,
}: {
  label: string;
  value: string;
  onDone: (text: string) => void;
}) {
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
  useEffect(
    () => void load(`${base}/${candidateId}/history?lane=${view.id}`),
    [load, base, candidateId, view.id],
  );
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
                    .map((d) => {
                      const name = d.line === 'gross' ? t('figure.gross') : t(`lines.${d.line}`);
                      return `${name} ${d.effect > 0 ? '+' : ''}${f.plain(d.effect, c)}`;
                    })
                    .join(', ')}`}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}
