/** Parts of the places of what sells: two bars on one ruler, what a product's standing is in a sentence. */
import { Box, Typography } from '@mui/material';
import { Trans, useTranslation } from 'react-i18next';
import type { ActualLine } from '../../../core/actuals/actual.ts';
import type { Compared, Stands } from '../../../core/actuals/compare.ts';
import { FAMILIES, FAMILY_LINES } from '../../../core/lane/costLines.ts';
import type { Family } from '../../../core/lane/costLines.ts';
import { barExtent, MarginBar } from '../../ui/MarginBar.tsx';
import type { BarResult } from '../../ui/MarginBar.tsx';
import { useFormat } from '../../ui/locale.ts';
import './words.ts';

/** A unit as a bar draws it, planned or actual; what was paid for losses lowers other costs. */
export function barOf(c: Compared, which: 'planned' | 'actual'): BarResult {
  const by = new Map(c.lines.map((l) => [l.line, l[which]]));
  const families = Object.fromEntries(
    FAMILIES.map((family) => {
      const lines: ActualLine[] = [
        ...FAMILY_LINES[family],
        ...(family === 'other' ? (['reimbursement'] as const) : []),
      ];
      const known = lines.flatMap((l) => by.get(l) ?? []);
      return [family, known.length === 0 ? null : known.reduce((s, x) => s + x, 0)];
    }),
  ) as Record<Family, number | null>;
  const { planned, actual } = c;
  const isPlan = which === 'planned';
  const gross = isPlan ? planned.gross : actual.shipped === 0 ? null : actual.gross / actual.shipped;
  const lacks: readonly string[] = isPlan ? planned.lacks : actual.lacks;
  return {
    currency: c.currency,
    families,
    figures: { gross, unitProfit: isPlan ? planned.unitProfit : c.unitProfit },
    incomplete: { unitProfit: lacks.length === 0 ? undefined : lacks },
  };
}

/** A unit as planned over a unit as it was, on one ruler. */
export function TwoBars({ compared }: { compared: Compared }) {
  const { t } = useTranslation();
  const bars = (['planned', 'actual'] as const).map((which) => ({ which, result: barOf(compared, which) }));
  const scale = Math.max(...bars.map((b) => barExtent(b.result)));
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '64px 1fr', columnGap: 1, rowGap: 0.25 }}>
      {bars.map(({ which, result }) => (
        <Box key={which} sx={{ display: 'contents' }}>
          <Typography variant="body2" color="text.secondary" sx={{ fontSize: '0.78rem' }}>
            {t(`selling.${which}`)}
          </Typography>
          {result.figures.gross === null ? (
            <span>–</span>
          ) : (
            <MarginBar result={result} scale={scale} height={11} />
          )}
        </Box>
      ))}
    </Box>
  );
}

/** A line's name; what made good a loss is none of a plan's. */
export function useLineName(): (line: ActualLine | 'price') => string {
  const { t } = useTranslation();
  return (line) =>
    line === 'price'
      ? t('selling.byPrice')
      : line === 'reimbursement'
        ? t('launched.reimbursement')
        : t(`lines.${line}`);
}

/** What to do about the line that did most; null: nothing is said of it. */
const ADVICE = [
  'price',
  'adverts',
  'returns',
  'referral',
  'fulfilment',
  'storage',
  'breakage',
  'goods',
] as const;

/** How a product stands, in a sentence, and what one may do. */
export function StandsSaid({ stands, compared }: { stands: Stands; compared: Compared | null }) {
  const { t } = useTranslation();
  const f = useFormat();
  const nameOf = useLineName();
  if (compared === null) return <Typography color="text.secondary">{t('selling.stands.nothing')}</Typography>;
  const because =
    stands.because === null
      ? ''
      : t('selling.because', {
          line: nameOf(stands.because),
          amount: `${(stands.amount ?? 0) > 0 ? '+' : ''}${f.money(stands.amount, compared.currency)}`,
        });
  const advice =
    stands.standing === 'paysLess' || stands.standing === 'loses' ? adviceFor(stands, compared) : null;
  return (
    <Typography>
      <Trans
        i18nKey={`selling.stands.${stands.standing}`}
        values={{ because }}
        components={{
          b: (
            <Box component="strong" sx={{ color: stands.standing === 'loses' ? 'error.main' : undefined }} />
          ),
        }}
      />{' '}
      {advice !== null && t(`selling.advice.${advice}`)}
    </Typography>
  );
}

/** Where one line alone explains a loss its remedy; where not even that would bring a unit back, letting go. */
function adviceFor(stands: Stands, c: Compared): (typeof ADVICE)[number] | 'letGo' | null {
  const { because, amount } = stands;
  const found = ADVICE.find((a) => a === because) ?? null;
  if (stands.standing !== 'loses' || c.actual.profit === null || amount === null) return found;
  return c.actual.profit - amount < 0 ? 'letGo' : found;
}
