import { Box, Typography } from '@mui/material';
import { Trans } from 'react-i18next';
import { differences } from '../../../core/compare/differences.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { useFormat } from '../../ui/locale.ts';
import { roundToTotal } from '../../../core/money/money.ts';
import { TableFile } from '../../ui/TableFile.tsx';
import { homeOf } from './useCompared.ts';
import type { Compared } from './useCompared.ts';
import { useWords } from '../../ui/useWords.ts';

/**
 * Why one lane keeps more or less than the pinned one: the lines that differ, largest first, adding up to the
 * difference.
 */
export function DifferencePane({
  pinned,
  chosen,
  place,
}: {
  pinned: Compared;
  chosen: Compared | null;
  place: (c: Compared) => string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const currency = pinned.doc.homeCurrency;
  const [a, z] = [homeOf(pinned), chosen === null ? null : homeOf(chosen)];
  const diff = a === null || z === null ? null : differences(a, z);
  const b = <strong />;
  const shown =
    diff === null || diff.total === null
      ? []
      : roundToTotal(
          diff.lines.map((l) => l.effect),
          minorDigits(currency),
          diff.total,
        );
  const largest = Math.max(1e-9, ...(diff?.lines ?? []).map((l) => Math.abs(l.effect)));
  const sign = (x: number | null): string =>
    x === null ? '–' : `${x > 0 ? '+' : ''}${f.plain(x, currency)}`;
  return (
    <Box
      component="aside"
      aria-live="polite"
      data-testid="differences"
      sx={{ fontSize: '0.88rem', alignSelf: 'start' }}>
      {chosen === null ? (
        <Typography variant="body2" color="text.secondary">
          {t('compare.choose')}
        </Typography>
      ) : diff === null || diff.total === null ? (
        <Typography>{t('compare.unknown')}</Typography>
      ) : (
        <>
          <Typography
            variant="h3"
            component="h2"
            sx={{ mb: 1, fontWeight: 500, lineHeight: 1.3, '& strong': { fontWeight: 700 } }}>
            {Math.abs(diff.total) < 0.005 ? (
              <Trans
                i18nKey="compare.same"
                values={{ a: place(pinned), b: place(chosen) }}
                components={{ b }}
              />
            ) : (
              <Trans
                i18nKey="compare.difference"
                values={{
                  a: place(pinned),
                  b: place(chosen),
                  amount: f.money(Math.abs(diff.total), currency),
                  less: t(diff.total < 0 ? 'compare.less' : 'compare.more'),
                }}
                components={{
                  b,
                  k: (
                    <Box component="strong" sx={{ color: diff.total < 0 ? 'error.main' : 'primary.main' }} />
                  ),
                }}
              />
            )}
          </Typography>
          {diff.lines.map((l, i) => (
            <Box
              key={l.line}
              sx={{
                display: 'grid',
                gridTemplateColumns: '1fr 74px',
                columnGap: 1,
                py: 0.4,
                borderBottom: '1px solid',
                borderColor: 'hairline',
              }}>
              <Box>
                {l.line === 'gross' ? t('figure.gross') : t(`lines.${l.line}`)}
                <Box component="span" sx={{ display: 'block', fontSize: '0.76rem', color: 'text.secondary' }}>
                  {t('compare.of', {
                    a: l.a === null ? t('line.blank') : f.plain(l.a, currency),
                    b: l.b === null ? t('line.blank') : f.plain(l.b, currency),
                  })}
                </Box>
              </Box>
              <Box
                sx={{
                  textAlign: 'right',
                  fontWeight: 650,
                  color: l.effect < 0 ? 'error.main' : 'primary.main',
                }}>
                {sign(shown[i] ?? null)}
              </Box>
              <Box aria-hidden sx={{ gridColumn: '1 / -1', position: 'relative', height: 4, mt: 0.25 }}>
                <Box
                  sx={{
                    position: 'absolute',
                    height: 4,
                    bgcolor: l.effect < 0 ? 'error.main' : 'primary.main',
                  }}
                  style={
                    l.effect < 0
                      ? { right: '50%', width: `${(50 * -l.effect) / largest}%` }
                      : { left: '50%', width: `${(50 * l.effect) / largest}%` }
                  }
                />
                <Box
                  sx={{
                    position: 'absolute',
                    left: '50%',
                    top: -2,
                    width: '1px',
                    height: 8,
                    bgcolor: 'text.primary',
                  }}
                />
              </Box>
            </Box>
          ))}
          <Box sx={{ display: 'flex', justifyContent: 'space-between', fontWeight: 700, pt: 0.75 }}>
            <span>{t('compare.sum')}</span>
            <span data-testid="difference-total">
              {sign(Math.round(diff.total * 10 ** minorDigits(currency)) / 10 ** minorDigits(currency))}
            </span>
          </Box>
          <TableFile
            table={() => ({
              name: `${place(chosen)} ${t('compare.views.lanes')}`,
              columns: [
                t('compare.line'),
                `${place(pinned)} ${currency}`,
                `${place(chosen)} ${currency}`,
                `± ${currency}`,
              ].map((title) => ({ title })),
              rows: diff.lines.map((l) => [
                l.line === 'gross' ? t('figure.gross') : t(`lines.${l.line}`),
                l.a,
                l.b,
                l.effect,
              ]),
            })}
          />
        </>
      )}
    </Box>
  );
}
