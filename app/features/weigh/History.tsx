/** What a lane's figures were before, and which lines changed them. */
import { Box, Typography } from '@mui/material';
import { useEffect } from 'react';
import { useFetcher } from 'react-router';
import { differences } from '../../../core/compare/differences.ts';
import type { EarlierResult } from '../../../core/lane/result.ts';
import { useFormat } from '../../ui/locale.ts';
import { useResultFigures } from '../../ui/resultFigures.ts';
import type { Part } from './More.tsx';
import { useWords } from '../../ui/useWords.ts';

export function History({ view, base, candidateId }: Part) {
  const { t } = useWords();
  const f = useFormat();
  const said = useResultFigures();
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
        {t('history.now', { amount: said(view.result, 'unitProfit') })}
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
