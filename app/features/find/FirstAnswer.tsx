/** The first answer to a new product: what a unit keeps, where it breaks even, what one may pay, by the defaults. */
import { Alert, Box, Typography } from '@mui/material';
import { useMemo } from 'react';
import { Trans } from 'react-i18next';
import type { MarketplaceCard } from '../../../core/cards/rates.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { highestPurchaseCost, priceFor } from '../../../core/lane/solve.ts';
import { minorDigits } from '../../../core/money/money.ts';
import type { ExchangeTable } from '../../../core/money/money.ts';
import { candidateOf, firstSource, isHeading } from '../../../core/workspace/newCandidate.ts';
import type { NewCandidate } from '../../../core/workspace/newCandidate.ts';
import { newLane } from '../../../core/workspace/newLane.ts';
import { composeLane } from '../../../core/workspace/compose.ts';
import { useBounds } from '../../ui/bounds.ts';
import { floorTo, useFormat } from '../../ui/locale.ts';
import { MarginBar } from '../../ui/MarginBar.tsx';
import type { Props } from './NewCandidate.tsx';
import { useWords } from '../../ui/useWords.ts';

/** The lane that what is typed would make, worked out as one types. */
function draftLane(p: Props, typed: NewCandidate, card: MarketplaceCard | null): LaneDocument {
  const n = {
    ...typed,
    name: typed.name.trim() || '–',
    hsCode: typed.hsCode !== null && isHeading(typed.hsCode) ? typed.hsCode : null,
  };
  const lane = newLane({
    way: n.way,
    settings: p.settings,
    country: p.country,
    currency: card?.currency ?? p.settings.homeCurrency,
    marketplace: card,
    exchange: (p.cards[p.laneCards.exchange ?? ''] as ExchangeTable | undefined) ?? null,
    cards: p.laneCards,
    origin: n.origin,
    price: n.price,
    quoteId: 'q',
    today: p.today,
  });
  return composeLane({
    candidate: candidateOf(n, card),
    lane,
    quotes: { q: firstSource(n, p.settings.defaults) },
    cards: p.cards,
    homeCurrency: p.settings.homeCurrency,
    standings: p.settings.standings,
    today: p.today,
  });
}

export function FirstAnswer({
  typed,
  card,
  currency,
  ...p
}: Props & { typed: NewCandidate; card: MarketplaceCard | null; currency: string }) {
  const { t } = useWords();
  const f = useFormat();
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the page was given changes as a whole
  const draft = useMemo(() => draftLane(p, typed, card), [typed, card, p.cards, p.laneCards, p.settings]);
  const result = evaluate(draft);
  const profit = result.figures.unitProfit;
  // What the workspace's defaults have filled in, in the words of the form.
  const taken = Object.keys(draft.provenance)
    .filter((k) => draft.provenance[k]?.source === 'default')
    .map((k) => t(`find.taken.${k}`));
  const breakEven = profit === null ? null : priceFor(draft);
  // A price alone answers what one may pay.
  const mostToPay = typed.price === null ? null : highestPurchaseCost(draft);
  const bounds = useBounds();
  return (
    <Box aria-live="polite" sx={{ borderTop: '1px solid', borderColor: 'hairline', pt: 1.5, minHeight: 150 }}>
      {typed.price === null ? (
        <Typography color="text.secondary">{t('find.waiting')}</Typography>
      ) : (
        <>
          <Typography variant="h4" component="p" sx={{ mb: 1 }} data-testid="first-answer">
            {profit === null ? (
              typed.cost === null && result.figures.proceeds !== null ? (
                t('find.afterFees', {
                  amount: bounds.of(f.money(result.figures.proceeds, currency), result.incomplete.proceeds),
                })
              ) : (
                t('find.cannot')
              )
            ) : (
              <Trans
                i18nKey={profit < 0 ? 'find.loses' : 'find.keeps'}
                values={{
                  amount: bounds.of(
                    f.money(Math.abs(profit), currency),
                    result.incomplete.unitProfit,
                    profit < 0 ? 'atLeast' : 'atMost',
                  ),
                }}
                components={{
                  k: <Box component="strong" sx={{ color: profit < 0 ? 'error.main' : 'primary.main' }} />,
                }}
              />
            )}{' '}
            {result.blanks.length > 0 && (
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {t('answer.incomplete', {
                  blanks: bounds.list(result.blanks.filter((b) => b !== 'goods' || typed.way !== 'feeCheck')),
                })}
              </Box>
            )}{' '}
            {breakEven?.price != null &&
              t(breakEven.bound === null ? 'find.breaksEven' : 'find.breaksEvenBound', {
                price: bounds.of(f.money(breakEven.price, currency), breakEven.incomplete, 'above'),
              })}{' '}
            {mostToPay?.unitPrice != null &&
              t(mostToPay.bound === null ? 'find.most' : 'find.mostBound', {
                cost: bounds.of(
                  f.money(floorTo(mostToPay.unitPrice, minorDigits(mostToPay.currency)), mostToPay.currency),
                  mostToPay.incomplete,
                  'lessThan',
                ),
              })}
          </Typography>
          {result.problems.map((x) => (
            <Alert key={x.code + x.path} severity="warning" variant="outlined" sx={{ mb: 1 }}>
              {t(`problem.${x.code}`, x.detail as Record<string, string>)}
            </Alert>
          ))}
          <MarginBar result={result} large height={48} breakEven={breakEven?.price ?? null} />
          {taken.length > 0 && (
            <Typography variant="body2" color="text.secondary">
              {t('find.defaults', { list: taken.join(', ') })}
            </Typography>
          )}
        </>
      )}
    </Box>
  );
}
