import { Box, Typography } from '@mui/material';
import { memo } from 'react';
import { Link } from 'react-router';
import { launchWorkings } from '../../../core/launch/workings.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { restsOnDefault } from '../../../core/lane/hurdles.ts';
import { useBounds } from '../../ui/bounds.ts';
import { hurdleAmount } from '../../ui/figures.ts';
import { inSentence } from '../../ui/inSentence.ts';
import { floorTo, useFormat } from '../../ui/locale.ts';
import { roundToTotal } from '../../../core/money/money.ts';
import { Explain } from './Workings.tsx';
import type { Answers, LaneView } from './useFigures.ts';
import { Pane } from './Pane.tsx';
import { lacksOfLine } from '../../../core/launch/bounds.ts';
import { useWords } from '../../ui/useWords.ts';

/** The lanes stacked on one scale in the home currency; choose, add, remove, open a lane document. */
export const MOST_SHOWN = 12;

export const HurdlesPane = memo(function HurdlesPane({
  view,
  answers,
}: {
  view: LaneView;
  answers: Answers;
}) {
  const { t } = useWords();
  const f = useFormat();
  const { doc } = view;
  const bounds = useBounds();
  // While costs are missing, what would clear a hurdle is a bound too.
  const lacks = view.result.incomplete.unitProfit;
  const waysOver = (remedy: Answers['hurdles'][number]['remedy']): string[] => {
    if (remedy === null) return [];
    const { price, unitPrice, unitPriceCurrency, costPerClick } = remedy;
    const most = (amount: number, digits: number, currency: string): string =>
      bounds.of(f.money(floorTo(amount, digits), currency), lacks, 'lessThan');
    const ways: string[] = [];
    if (price !== null) {
      const least = bounds.of(f.money(price, doc.currency), lacks, 'atLeast');
      ways.push(t('hurdles.atPrice', { price: least }));
    }
    if (unitPrice !== null) {
      const quote = most(unitPrice, minorDigits(unitPriceCurrency), unitPriceCurrency);
      ways.push(t('hurdles.atQuote', { price: quote }));
    }
    if (costPerClick !== null)
      ways.push(t('hurdles.atClick', { price: most(costPerClick, 2, doc.currency) }));
    return ways;
  };
  return (
    <Pane title={t('hurdles.title')} aside={t('hurdles.aside', { way: inSentence(t(`way.${doc.way}`)) })}>
      {answers.hurdles.map((hurdle) => (
        <HurdleLine
          key={`${hurdle.result.hurdle.figure}${hurdle.result.hurdle.bound}`}
          hurdle={hurdle}
          view={view}
          ways={waysOver(hurdle.remedy)}
        />
      ))}
    </Pane>
  );
});

const VERDICT_LOOK = {
  fail: { color: 'error.main', fontWeight: 680 },
  near: { color: 'text.primary', fontWeight: 680 },
  pass: { color: 'text.secondary', fontWeight: 400 },
  unknown: { color: 'text.primary', fontWeight: 400 },
} as const;

/** A hurdle: how it stands, the figure beside its level, and what would clear it. */
function HurdleLine({
  hurdle: { result: h },
  view,
  ways,
}: {
  hurdle: Answers['hurdles'][number];
  view: LaneView;
  ways: readonly string[];
}) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const { doc, result } = view;
  const { figure } = h.hurdle;
  const amount = (value: number | null): string => hurdleAmount(value, figure, doc.currency, f);
  const value = h.value === null ? t('lanes.unknown') : bounds.of(amount(h.value), result.incomplete[figure]);
  const rests = h.verdict === 'unknown' && restsOnDefault(doc, figure);
  return (
    <Box
      sx={{ display: 'grid', gridTemplateColumns: '64px 1fr', columnGap: 1, py: 0.4, fontSize: '0.88rem' }}>
      <Box sx={{ ...VERDICT_LOOK[h.verdict], fontSize: '0.82rem' }}>{t(`verdict.${h.verdict}`)}</Box>
      <Box>
        {t(`figure.${figure}`)}{' '}
        <Box component="span" sx={{ color: 'text.secondary' }}>
          {t(`hurdles.${h.hurdle.bound}`, { level: amount(h.level) })} ·{' '}
          {t(rests ? 'hurdles.isDefault' : 'hurdles.is', { value })}
        </Box>
        {ways.length > 0 && (
          <Box sx={{ fontSize: '0.82rem' }}>
            {t('hurdles.clears')} {ways.join(t('hurdles.or'))}
          </Box>
        )}
      </Box>
    </Box>
  );
}

export const LaunchPane = memo(function LaunchPane({
  view,
  answers,
  base,
  candidateId,
}: {
  view: LaneView;
  answers: Answers;
  base: string;
  candidateId: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const l = answers.launch;
  const b = l.budget;
  const c = l.currency;
  const plan = answers.plan;
  const keys = ['goods', 'oneOffs', 'advertising', 'discounts', 'contingency'] as const;
  const shown =
    b === null
      ? []
      : roundToTotal(
          keys.map((k) => b.lines[k]),
          minorDigits(c),
        );
  return (
    <Pane
      title={t('launch.title')}
      aside={
        <Box
          component={Link}
          to={`${base.replace(/\/weigh$/, '/fund')}?candidate=${candidateId}&lane=${view.id}`}
          sx={{ color: 'inherit', display: 'inline-block', minHeight: 24, lineHeight: '24px' }}>
          {t('launch.more')}
        </Box>
      }>
      {b === null ? (
        <Typography variant="body2">{t('launch.noQuantity')}</Typography>
      ) : (
        <Box sx={{ fontSize: '0.88rem' }}>
          {keys.map((k, i) => (
            <Box key={k} sx={{ display: 'flex', justifyContent: 'space-between', py: 0.15 }}>
              <span>{t(`launch.${k}`, { quantity: f.number(b.quantity) })}</span>
              <span>
                {bounds.of(f.plain(shown[i] ?? null, c), lacksOfLine(k, view.result, l), 'atLeast')}
              </span>
            </Box>
          ))}
          <Box
            sx={{
              display: 'flex',
              justifyContent: 'space-between',
              fontWeight: 680,
              borderTop: '1px solid',
              borderColor: 'text.primary',
              mt: 0.5,
              pt: 0.25,
            }}
            data-testid="launch-total">
            <span>{t('launch.total')}</span>
            <Explain label={t('launch.total')} currency={c} steps={() => launchWorkings(l, plan).total ?? []}>
              {b.total === null ? '–' : bounds.of(f.money(b.total, c), l.incomplete, 'atLeast')}
            </Explain>
          </Box>
          {b.leftOfCash !== null && (
            <Box sx={{ color: b.leftOfCash < 0 ? 'error.main' : 'text.secondary' }}>
              {t(b.leftOfCash < 0 ? 'launch.short' : 'launch.left', {
                amount: bounds.of(
                  f.money(Math.abs(b.leftOfCash), c),
                  l.incomplete,
                  b.leftOfCash < 0 ? 'atLeast' : 'atMost',
                ),
              })}
            </Box>
          )}
          {l.incomplete.length > 0 && (
            <Box sx={{ color: 'text.secondary' }}>
              {t('launch.incomplete', { blanks: bounds.list(l.incomplete) })}
            </Box>
          )}
        </Box>
      )}
    </Pane>
  );
});
