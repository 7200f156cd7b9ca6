/** Break-evens, targets and trials of a lane. */
import { Box, ToggleButton, ToggleButtonGroup } from '@mui/material';
import { memo, useState } from 'react';
import type { ReactNode } from 'react';
import { HiddenHead } from '../../ui/FigureTable.tsx';
import { evaluate } from '../../../core/lane/evaluate.ts';
import { highestPurchaseCost, priceFor, priceHeadroom } from '../../../core/lane/solve.ts';
import type { Target } from '../../../core/lane/solve.ts';
import { trial } from '../../../core/lane/trial.ts';
import { proofSteps } from '../../../core/lane/workings.ts';
import { costProof, headroomProof, priceProof } from '../../../core/lane/figureWorkings.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { NumField } from '../../ui/Field.tsx';
import { useBounds } from '../../ui/bounds.ts';
import { floorTo, useFormat } from '../../ui/locale.ts';
import { Explain, Figure } from './Workings.tsx';
import type { Answers, LaneView } from './useFigures.ts';
import { Pane } from './Pane.tsx';
import { useRivals } from './useRivals.ts';
import { useWords } from '../../ui/useWords.ts';

/** Break-evens, and what a target would take. */
export const TargetsPane = memo(function TargetsPane({
  view,
  answers,
}: {
  view: LaneView;
  answers: Answers;
}) {
  const { t } = useWords();
  const f = useFormat();
  const { doc, result } = view;
  const bounds = useBounds();
  const above = useRivals(view.id, doc);
  const headroom = priceHeadroom(doc.price, answers.breakEven.price);
  const line = (label: string, text: ReactNode, note?: string | null) => (
    <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2, fontSize: '0.88rem', py: 0.2 }}>
      <Box>
        {label}
        {note && (
          <Box component="span" sx={{ color: 'text.secondary' }}>
            {' '}
            {note}
          </Box>
        )}
      </Box>
      <Box sx={{ fontWeight: 600, whiteSpace: 'nowrap' }}>{text}</Box>
    </Box>
  );
  const dips = answers.breakEven.dips
    .map((d) =>
      t(d.to === null ? 'targets.dipOpen' : 'targets.dip', {
        from: f.plain(d.from, doc.currency),
        to: f.plain(d.to, doc.currency),
      }),
    )
    .join(' ');
  const most = answers.mostToPay;
  return (
    <Pane title={t('targets.title')}>
      {line(
        t('targets.breakEvenPrice'),
        <Explain
          label={t('targets.breakEvenPrice')}
          currency={doc.currency}
          steps={() => proofSteps(doc, priceProof(doc, answers.breakEven))}>
          {answers.breakEven.price === null
            ? '–'
            : bounds.of(
                f.money(answers.breakEven.price, doc.currency),
                answers.breakEven.incomplete,
                'above',
              )}
        </Explain>,
        answers.breakEven.price === null
          ? t(`unsolved.${answers.breakEven.reason}`)
          : [above(answers.breakEven.price), dips].filter(Boolean).join(' ') || null,
      )}
      {line(
        t('targets.headroom'),
        <Explain
          label={t('targets.headroom')}
          currency={doc.currency}
          steps={() => proofSteps(doc, headroomProof(doc, answers.breakEven.price))}>
          {headroom === null ? '–' : bounds.of(f.percent(headroom), answers.breakEven.incomplete)}
        </Explain>,
      )}
      {line(
        t('targets.mostToPay'),
        most.unitPrice === null ? (
          '–'
        ) : (
          <Explain
            label={t('targets.mostToPay')}
            currency={doc.currency}
            amountCurrency={most.currency}
            steps={() => proofSteps(doc, costProof(doc, most))}>
            {bounds.of(
              f.money(floorTo(most.unitPrice, minorDigits(most.currency)), most.currency),
              most.incomplete,
              'lessThan',
            )}
          </Explain>
        ),
        most.reason === null ? null : t(`unsolved.${most.reason}`),
      )}
      {line(
        t('targets.highestCpc'),
        <Figure doc={doc} of="highestCpc" label={t('targets.highestCpc')}>
          {result.figures.highestCpc === null
            ? '–'
            : bounds.of(
                f.money(floorTo(result.figures.highestCpc, 2), doc.currency),
                result.incomplete.highestCpc,
              )}
        </Figure>,
        t('targets.perAdSale'),
      )}
      {line(
        t('targets.lowestConversion'),
        <Figure doc={doc} of="lowestConversion" label={t('targets.lowestConversion')}>
          {result.figures.lowestConversion === null
            ? '–'
            : bounds.of(
                f.percent(result.figures.lowestConversion),
                result.incomplete.lowestConversion,
                'atLeast',
              )}
        </Figure>,
        t('targets.perAdSale'),
      )}
      <Wanted view={view} above={above} />
    </Pane>
  );
});

const TRIALS = [
  ['worst', -0.1, 0.1],
  ['expected', 0, 0],
  ['best', 0.1, -0.1],
] as const;

/** Worst, expected and best of price and cost, side by side. */
export const TrialsPane = memo(function TrialsPane({ view }: { view: LaneView }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const [spread, setSpread] = useState<number | null>(0.1);
  const { doc } = view;
  const s = (spread ?? 0) / 0.1;
  return (
    <Pane title={t('trials.title')}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end' }}>
        <NumField
          label={t('trials.spread')}
          value={spread}
          onChange={setSpread}
          kind="percent"
          max={0.9}
          width={120}
        />
        <Box
          component="table"
          sx={{
            flex: 1,
            borderCollapse: 'collapse',
            fontSize: '0.86rem',
            '& th, & td': { textAlign: 'right', py: 0.3, fontWeight: 500 },
            '& th:first-of-type': { textAlign: 'left' },
          }}>
          <thead>
            <tr>
              <HiddenHead>{t('trials.case')}</HiddenHead>
              <th scope="col">{t('form.price')}</th>
              <th scope="col">{t('trials.cost')}</th>
              <th scope="col">{t('figure.unitProfit')}</th>
              <th scope="col">{t('figure.margin')}</th>
            </tr>
          </thead>
          <tbody>
            {TRIALS.map(([name, price, cost]) => {
              const at = trial(doc, view.result.figures.expectedMonthlyUnits, 1 + price * s, 1 + cost * s);
              const r = evaluate(at);
              const profit = r.figures.unitProfit;
              return (
                <tr key={name}>
                  <th scope="row">{t(`trials.${name}`)}</th>
                  <td>{f.plain(at.price, doc.currency)}</td>
                  <td>
                    {cost * s > 0 ? '+' : ''}
                    {f.percent(cost * s, 0)}
                  </td>
                  <Box
                    component="td"
                    sx={{
                      color: profit !== null && profit < 0 ? 'error.main' : 'primary.main',
                      fontWeight: '680 !important',
                    }}>
                    {profit === null
                      ? '–'
                      : bounds.of(f.plain(profit, doc.currency), r.incomplete.unitProfit)}
                  </Box>
                  <td>
                    {r.figures.margin === null
                      ? '–'
                      : bounds.of(f.percent(r.figures.margin), r.incomplete.margin)}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Box>
      </Box>
    </Pane>
  );
});

/** What it takes to keep as much as one wants: a price, or a purchase price. */
function Wanted({ view, above }: { view: LaneView; above: ReturnType<typeof useRivals> }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const { doc } = view;
  const [figure, setFigure] = useState<'margin' | 'roi' | 'unitProfit'>('margin');
  const [value, setValue] = useState<number | null>(0.3);
  const target: Target | null = value === null ? null : { figure, value };
  const price = target === null ? null : priceFor(doc, target);
  const cost = target === null ? null : highestPurchaseCost(doc, target);
  const dearTarget = above(price?.price ?? null);
  return (
    <Box sx={{ display: 'flex', alignItems: 'flex-end', gap: 1.5, mt: 1, flexWrap: 'wrap' }}>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={figure}
        onChange={(_, v: typeof figure | null) => {
          if (v === null) return;
          setFigure(v);
          setValue(v === 'unitProfit' ? 5 : v === 'roi' ? 0.6 : 0.3);
        }}
        aria-label={t('targets.which')}
        sx={{
          '& .MuiToggleButton-root': {
            py: 0.4,
            px: 1,
            textTransform: 'none',
            color: 'text.primary',
            fontWeight: 400,
          },
          '& .Mui-selected': { fontWeight: '700 !important' },
        }}>
        {(['margin', 'roi', 'unitProfit'] as const).map((x) => (
          <ToggleButton key={x} value={x}>
            {t(`figure.${x}`)}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <NumField
        label={t('targets.want')}
        value={value}
        onChange={setValue}
        kind={figure === 'unitProfit' ? 'money' : 'percent'}
        currency={doc.currency}
        min={figure === 'unitProfit' ? -1e12 : -1}
        max={figure === 'unitProfit' ? 1e12 : 100}
        width={110}
      />
      <Box sx={{ fontSize: '0.88rem', flex: 1, minWidth: 180 }} data-testid="target-answer">
        {price === null || cost === null
          ? ''
          : [
              price.price === null
                ? t(`targets.unsolved.price.${price.reason}`)
                : t('targets.takesPrice', {
                    price: bounds.of(f.money(price.price, doc.currency), price.incomplete, 'above'),
                  }),
              dearTarget === null ? '' : `(${dearTarget})`,
              cost.unitPrice === null
                ? t(`targets.unsolved.cost.${cost.reason}`)
                : t('targets.takesCost', {
                    cost: bounds.of(
                      f.money(floorTo(cost.unitPrice, minorDigits(cost.currency)), cost.currency),
                      cost.incomplete,
                      'lessThan',
                    ),
                  }),
            ]
              .filter(Boolean)
              .join(' ')}
      </Box>
    </Box>
  );
}
