/** What comes of a check, one answer first: buy or leave, what each keeps, the most to pay, which hurdle decides. */
import { Box, Typography } from '@mui/material';
import { Trans } from 'react-i18next';
import type { CheckSaid } from '../../../core/check/check.ts';
import type { HurdleResult } from '../../../core/lane/hurdles.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { priceFor } from '../../../core/lane/solve.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { useBounds } from '../../ui/bounds.ts';
import { hurdleAmount } from '../../ui/figures.ts';
import { floorTo, useFormat } from '../../ui/locale.ts';
import { MarginBar } from '../../ui/MarginBar.tsx';
import { useWords } from '../../ui/useWords.ts';

type Props = { said: CheckSaid; doc: LaneDocument; shopCurrency: string };

const COLOUR = {
  barred: 'error.main',
  buy: 'primary.main',
  near: 'text.primary',
  leave: 'text.primary',
  loses: 'error.main',
  open: 'text.secondary',
} as const;

export function Verdict({ said, doc, shopCurrency }: Props) {
  const { t } = useWords();
  const bounds = useBounds();
  const { result, verdict } = said;
  const loses = (result.figures.unitProfit ?? 0) < 0;
  const breakEven = result.figures.unitProfit === null ? null : priceFor(doc).price;
  return (
    <Box aria-live="polite" data-testid="verdict">
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
        <Typography
          component="p"
          sx={{
            fontFamily: 'Bricolage Grotesque Variable',
            fontSize: '2.5rem',
            fontWeight: 780,
            lineHeight: 1.15,
            color: COLOUR[verdict],
          }}>
          {t(`check.verdict.${verdict}`)}
        </Typography>
        {verdict === 'loses' && (
          <Box aria-hidden className="bar-lost" sx={{ flex: 1, height: 22, position: 'static !important' }} />
        )}
      </Box>
      <Typography variant="h4" component="p" sx={{ lineHeight: 1.35 }}>
        <Keeps said={said} currency={doc.currency} price={doc.price} />{' '}
        <Most said={said} currency={shopCurrency} />
      </Typography>
      {result.blanks.length > 0 && (
        <Typography variant="body2" color="text.secondary">
          {t('check.lacks', { blanks: bounds.list(result.blanks) })}
        </Typography>
      )}
      {result.problems.map((x) => (
        <Typography key={x.code + x.path} variant="body2" color={loses ? 'error' : 'text.secondary'}>
          {t(`problem.${x.code}`, x.detail as Record<string, string>)}
        </Typography>
      ))}
      <Hurdles hurdles={said.hurdles} currency={doc.currency} />
      {/* Without a price there is no ruler to draw on. */}
      {result.figures.gross !== null && <MarginBar result={result} large height={42} breakEven={breakEven} />}
    </Box>
  );
}

function Keeps({ said, currency, price }: { said: CheckSaid; currency: string; price: number | null }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const profit = said.result.figures.unitProfit;
  if (profit === null) return <>{t('check.noProfit')}</>;
  const loses = profit < 0;
  const amount = bounds.of(
    f.money(Math.abs(profit), currency),
    said.result.incomplete.unitProfit,
    loses ? 'atLeast' : 'atMost',
  );
  return (
    <Trans
      i18nKey={loses ? 'check.loses' : 'check.keeps'}
      values={{ amount, price: f.money(price, currency) }}
      components={{
        k: <Box component="strong" sx={{ color: loses ? 'error.main' : 'primary.main' }} />,
        b: <strong />,
      }}
    />
  );
}

/** The most to pay, rounded down to what can be paid. */
function Most({ said, currency }: { said: CheckSaid; currency: string }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const { most, pays } = said;
  const payable = (x: number): string => f.money(floorTo(x, minorDigits(currency)), currency);
  if (most.till === null) return <>{most.evenTill === null ? '' : t('check.free')}</>;
  const isBound = bounds.lacks(most.lacks);
  const amount = isBound ? bounds.of(payable(most.till), most.lacks, 'lessThan') : payable(most.till);
  // What the till takes off is not in the price on the shelf.
  const costs = most.shelf === most.till ? 'most' : 'mostAfter';
  const key = isBound ? 'mostBound' : pays === null ? 'mostOnly' : costs;
  return (
    <>
      <Trans
        i18nKey={`check.${key}`}
        values={{ most: amount, pays: f.money(pays, currency) }}
        components={{ b: <strong /> }}
      />{' '}
      {most.evenTill !== null && most.evenTill > most.till + 0.005 && (
        <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.85em' }}>
          {t('check.even', { even: payable(most.evenTill) })}
        </Box>
      )}
    </>
  );
}

/** Each hurdle with the figure that meets or misses it. */
function Hurdles({ hurdles, currency }: { hurdles: readonly HurdleResult[]; currency: string }) {
  const { t } = useWords();
  const f = useFormat();
  const saidOf = ({ hurdle, value, level, verdict, short }: HurdleResult): string => {
    const { figure, bound } = hurdle;
    const name = t(`figure.${figure}`);
    if (value === null || level === null || verdict === 'unknown')
      return t('check.hurdleOpen', { figure: name });
    const amount = (x: number): string => hurdleAmount(x, figure, currency, f);
    const misses = verdict === 'fail' || verdict === 'near';
    const key = misses
      ? bound === 'atLeast'
        ? 'hurdleMissed'
        : 'hurdleOver'
      : bound === 'atLeast'
        ? 'hurdle'
        : 'hurdleMost';
    return t(`check.${key}`, {
      figure: name,
      value: amount(value),
      level: amount(level),
      short: amount(short ?? 0),
    });
  };
  if (hurdles.length === 0)
    return (
      <Typography variant="body2" color="text.secondary">
        {t('check.noHurdles')}
      </Typography>
    );
  return (
    <Box component="ul" sx={{ listStyle: 'none', p: 0, my: 0.75, fontSize: '0.88rem' }}>
      {hurdles.map((h) => (
        <Box
          component="li"
          key={h.hurdle.figure + h.hurdle.bound}
          sx={{
            fontWeight: h.verdict === 'fail' || h.verdict === 'near' ? 680 : 400,
            color: h.verdict === 'unknown' ? 'text.secondary' : 'text.primary',
          }}>
          {saidOf(h)}
        </Box>
      ))}
    </Box>
  );
}
