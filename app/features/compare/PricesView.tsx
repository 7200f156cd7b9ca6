import { Alert, Box, Button, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { useRevalidator } from 'react-router';
import { HABITS, offMedian, priceForMargin, sharedPrice, spreadOf } from '../../../core/compare/prices.ts';
import type { Habit, Spread } from '../../../core/compare/prices.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import type { LaneResult } from '../../../core/lane/result.ts';
import { ChoiceLine, NumField } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import type { Compared } from './useCompared.ts';
import { tell } from '../../ui/client.ts';
import { ProfitCell } from '../../ui/ProfitCell.tsx';
import { useBoundColumn, useResultFigures } from '../../ui/resultFigures.ts';
import { useWords } from '../../ui/useWords.ts';

/** Further from the middle than this, a price looks odd beside its neighbours. */
const ODD = 0.2;

/**
 * One shelf price carried to all lanes, or each lane's price for an equal margin; and how far prices lie apart
 * now.
 */
export function PricesView({
  lanes,
  place,
  home,
  canEdit,
  saveUrl,
  today,
}: {
  lanes: readonly Compared[];
  place: (c: Compared) => string;
  home: string;
  canEdit: boolean;
  saveUrl: string;
  today: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const { revalidate } = useRevalidator();
  const [how, setHow] = useState<'one' | 'margin'>('one');
  const [price, setPrice] = useState<number | null>(() => lanes[0]?.light.figures.itemPrice ?? 30);
  const [margin, setMargin] = useState<number | null>(0.25);
  const [habit, setHabit] = useState<Habit>('99');
  const [done, setDone] = useState<'applied' | 'failed' | null>(null);
  const spread = spreadOf(lanes.map((c) => c.light.figures.gross));
  const rows = useMemo(
    (): Row[] =>
      lanes.map((c) => {
        const then =
          how === 'one'
            ? price === null
              ? null
              : sharedPrice(c.doc, price, home, habit)
            : margin === null
              ? null
              : priceForMargin(c.doc, margin, habit);
        return { c, then, result: then === null ? null : evaluate({ ...c.doc, price: then }) };
      }),
    [lanes, how, price, margin, habit, home],
  );
  const changed = rows.filter((r) => r.then !== null && r.then !== r.c.doc.price);
  const apply = async (): Promise<void> => {
    const all = changed.flatMap((r) => [
      { entity: 'lane', id: r.c.id, path: ['price'], from: r.c.data.price, to: r.then },
      {
        entity: 'lane',
        id: r.c.id,
        path: ['provenance', 'price'],
        from: null,
        to: { source: 'estimate', date: today, note: t(how === 'one' ? 'prices.one' : 'prices.margin') },
      },
    ]);
    let ok = true;
    for (let i = 0; i < all.length && ok; i += 500)
      ok = (await tell(saveUrl, { patches: all.slice(i, i + 500) })).ok;
    setDone(ok ? 'applied' : 'failed');
    await revalidate();
  };
  return (
    <Box>
      {spread !== null && (
        <Typography sx={{ mb: 1.5 }} data-testid="spread">
          {t('prices.spread', {
            gap: f.percent(spread.gap, 0),
            low: f.money(spread.low, home),
            high: f.money(spread.high, home),
            median: f.money(spread.median, home),
            currency: home,
          })}
        </Typography>
      )}
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap', mb: 1.5 }}>
        <ChoiceLine
          label={t('prices.how')}
          value={how}
          width={150}
          options={(['one', 'margin'] as const).map((x) => ({ value: x, label: t(`prices.${x}`) }))}
          onChange={setHow}
        />
        {how === 'one' ? (
          <NumField
            label={t('prices.shelf')}
            value={price}
            onChange={setPrice}
            kind="money"
            currency={home}
            width={120}
          />
        ) : (
          <NumField
            label={t('prices.wanted')}
            value={margin}
            onChange={setMargin}
            kind="percent"
            min={-1}
            max={0.99}
            width={120}
          />
        )}
        <ChoiceLine
          label={t('prices.habit')}
          value={habit}
          width={110}
          options={HABITS.map((x) => ({ value: x, label: t(`prices.habits.${x}`) }))}
          onChange={setHabit}
        />
        <PriceFile rows={rows} home={home} />
        {canEdit && (
          <Button variant="contained" disabled={changed.length === 0} onClick={() => void apply()}>
            {t('prices.apply', { count: changed.length })}
          </Button>
        )}
      </Box>
      {done !== null && (
        <Alert
          severity={done === 'applied' ? 'info' : 'error'}
          variant="outlined"
          sx={{ mb: 1 }}
          onClose={() => setDone(null)}>
          {t(`prices.${done}`)}
        </Alert>
      )}
      <PriceTable rows={rows} home={home} spread={spread} place={place} />
    </Box>
  );
}

type Row = { readonly c: Compared; readonly then: number | null; readonly result: LaneResult | null };

/** The proposed prices, to take along. */
function PriceFile({ rows, home }: { rows: readonly Row[]; home: string }) {
  const { t } = useWords();
  const bound = useBoundColumn();
  return (
    <TableFile
      table={() => ({
        name: t('prices.title'),
        columns: [
          t('form.country'),
          t('family.marketplace'),
          t('family.fulfilment'),
          t('form.currency'),
          t('prices.now'),
          t('prices.inHome', { currency: home }),
          t('prices.next'),
          t('prices.keeps'),
          t('prices.marginThen'),
          bound.title,
        ].map((title, i) => ({ title, percent: i === 8 })),
        rows: rows.map(({ c, then, result }) => [
          c.doc.country,
          c.doc.marketplace,
          t(`method.${c.doc.method}`),
          c.doc.currency,
          c.doc.price,
          c.light.figures.gross,
          then,
          result?.figures.unitProfit ?? null,
          result?.figures.margin ?? null,
          bound.of(result),
        ]),
      })}
    />
  );
}

/** What each lane costs now and would cost, and what it would keep. `spread`: of what buyers pay, in `home`. */
function PriceTable({
  rows,
  home,
  spread,
  place,
}: {
  rows: readonly Row[];
  home: string;
  spread: Spread | null;
  place: (c: Compared) => string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const said = useResultFigures();
  return (
    <Box
      role="region"
      tabIndex={0}
      aria-label={t('prices.title')}
      sx={{ overflow: 'auto', maxHeight: 'calc(100vh - 320px)', minHeight: 300 }}>
      <Box
        component="table"
        sx={{
          borderCollapse: 'collapse',
          width: '100%',
          maxWidth: 1060,
          fontSize: '0.88rem',
          '& th, & td': {
            py: 0.5,
            px: 1,
            textAlign: 'right',
            borderBottom: '1px solid',
            borderColor: 'hairline',
          },
          '& thead th': {
            fontWeight: 400,
            color: 'text.secondary',
            fontSize: '0.78rem',
            position: 'sticky',
            top: 0,
            bgcolor: 'background.default',
          },
          '& th:first-of-type': { textAlign: 'left' },
        }}>
        <thead>
          <tr>
            <th scope="col">{t('compare.lane')}</th>
            <th scope="col">{t('prices.now')}</th>
            <th scope="col">{t('prices.inHome', { currency: home })}</th>
            <th scope="col">{t('prices.off')}</th>
            <th scope="col">{t('prices.next')}</th>
            <th scope="col">{t('prices.keeps')}</th>
            <th scope="col">{t('prices.marginThen')}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ c, then, result }) => {
            const gross = c.light.figures.gross;
            const off = offMedian(gross, spread);
            return (
              <tr key={c.id}>
                <th scope="row" style={{ fontWeight: 400 }}>
                  <b>{place(c)}</b>{' '}
                  <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.8rem' }}>
                    {t(`method.${c.doc.method}`)}
                  </Box>
                </th>
                <td>{f.money(c.doc.price, c.doc.currency)}</td>
                <td>{f.plain(gross, home)}</td>
                <Box component="td" sx={{ fontWeight: off !== null && Math.abs(off) > ODD ? 700 : 400 }}>
                  {off === null
                    ? '–'
                    : Math.abs(off) > ODD
                      ? t('prices.odd', { off: `${off > 0 ? '+' : ''}${f.percent(off, 0)}` })
                      : `${off > 0 ? '+' : ''}${f.percent(off, 0)}`}
                </Box>
                <Box component="td" sx={{ fontWeight: 650 }}>
                  {then === null ? t('prices.noPrice') : f.money(then, c.doc.currency)}
                </Box>
                <ProfitCell result={result} />
                <td>{said(result, 'margin')}</td>
              </tr>
            );
          })}
        </tbody>
      </Box>
    </Box>
  );
}
