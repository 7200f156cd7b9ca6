import { Box, Typography } from '@mui/material';
import { memo } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { launchWorkings } from '../../../core/launch/workings.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { restsOnDefault } from '../../../core/lane/hurdles.ts';
import { useBounds } from '../../ui/bounds.ts';
import { hurdleAmount } from '../../ui/figures.ts';
import { inSentence } from '../../ui/inSentence.ts';
import { floorTo, roundToTotal, useFormat } from '../../ui/locale.ts';
import { Explain } from './Workings.tsx';
import type { Answers, LaneView } from './useFigures.ts';
import { Pane } from './Pane.tsx';
import { lacksOfLine } from '../../../core/launch/bounds.ts';

/** The lanes stacked on one scale in the home currency; choose, add, remove, open a lane document. */
export const MOST_SHOWN = 12;

export const HurdlesPane = memo(function HurdlesPane({
  view,
  answers,
}: {
  view: LaneView;
  answers: Answers;
}) {
  const { t } = useTranslation();
  const f = useFormat();
  const { doc } = view;
  const bounds = useBounds();
  // While costs are missing, what would clear a hurdle is a bound too.
  const lacks = view.result.incomplete.unitProfit;
  return (
    <Pane title={t('hurdles.title')} aside={t('hurdles.aside', { way: inSentence(t(`way.${doc.way}`)) })}>
      {answers.hurdles.map(({ result: h, remedy }) => {
        const weight = h.verdict === 'pass' || h.verdict === 'unknown' ? 400 : 680;
        const ways =
          remedy === null
            ? []
            : [
                remedy.price !== null
                  ? t('hurdles.atPrice', {
                      price: bounds.of(f.money(remedy.price, doc.currency), lacks, 'atLeast'),
                    })
                  : null,
                remedy.unitPrice !== null
                  ? t('hurdles.atQuote', {
                      price: bounds.of(
                        f.money(
                          floorTo(remedy.unitPrice, minorDigits(remedy.unitPriceCurrency)),
                          remedy.unitPriceCurrency,
                        ),
                        lacks,
                        'lessThan',
                      ),
                    })
                  : null,
                remedy.costPerClick !== null
                  ? t('hurdles.atClick', {
                      price: bounds.of(
                        f.money(floorTo(remedy.costPerClick, 2), doc.currency),
                        lacks,
                        'lessThan',
                      ),
                    })
                  : null,
              ].filter((x) => x !== null);
        return (
          <Box
            key={`${h.hurdle.figure}${h.hurdle.bound}`}
            sx={{
              display: 'grid',
              gridTemplateColumns: '64px 1fr',
              columnGap: 1,
              py: 0.4,
              fontSize: '0.88rem',
            }}>
            <Box
              sx={{
                fontWeight: weight,
                color:
                  h.verdict === 'fail'
                    ? 'error.main'
                    : h.verdict === 'pass'
                      ? 'text.secondary'
                      : 'text.primary',
                fontSize: '0.82rem',
              }}>
              {t(`verdict.${h.verdict}`)}
            </Box>
            <Box>
              {t(`figure.${h.hurdle.figure}`)}{' '}
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {t(`hurdles.${h.hurdle.bound}`, {
                  level: hurdleAmount(h.level, h.hurdle.figure, doc.currency, f),
                })}{' '}
                ·{' '}
                {t(
                  h.verdict === 'unknown' && restsOnDefault(doc, h.hurdle.figure)
                    ? 'hurdles.isDefault'
                    : 'hurdles.is',
                  {
                    value:
                      h.value === null
                        ? t('lanes.unknown')
                        : bounds.of(
                            hurdleAmount(h.value, h.hurdle.figure, doc.currency, f),
                            view.result.incomplete[h.hurdle.figure],
                          ),
                  },
                )}
              </Box>
              {ways.length > 0 && (
                <Box sx={{ fontSize: '0.82rem' }}>
                  {t('hurdles.clears')} {ways.join(t('hurdles.or'))}
                </Box>
              )}
            </Box>
          </Box>
        );
      })}
    </Pane>
  );
});

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
  const { t } = useTranslation();
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
