import { Box, Button, Typography } from '@mui/material';
import { useEffect, useMemo } from 'react';
import { Trans } from 'react-i18next';
import { useFetcher, useRevalidator } from 'react-router';
import { differences } from '../../../core/compare/differences.ts';
import type { CardData, CardKind } from '../../../core/cards/schema.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import { CARD_FIELDS, composeLane } from '../../../core/workspace/compose.ts';
import { useFormat } from '../../ui/locale.ts';
import { useSnapshot, useStore } from './store.ts';
import type { Frame, LaneView } from './useFigures.ts';
import { useWords } from '../../ui/useWords.ts';

/** `ids`: the newer versions, kind/id with commas between. */
type Props = { view: LaneView; ids: string; frame: Frame; root: string };

/**
 * What newer versions of its cards would change on one lane, line by line, and the button that brings it up
 * to date.
 */
export default function UpToDate({ view, ids, frame, root }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const store = useStore();
  const { state } = useSnapshot();
  const { load, data } = useFetcher<{ cards: Record<string, CardData> }>();
  const { revalidate } = useRevalidator();
  const newer = useMemo(
    () =>
      ids
        .split(',')
        .map((x) => x.split('/') as [CardKind, string])
        .map(([kind, id]) => ({ field: CARD_FIELDS[kind], id })),
    [ids],
  );
  useEffect(
    () => void load(`${root}/rates/data?ids=${newer.map((x) => x.id).join(',')}`),
    [load, root, newer],
  );
  const after = useMemo(() => {
    if (data === undefined) return null;
    const { settings, cards, today } = frame;
    const lane = { ...view.state.data, ...Object.fromEntries(newer.map((x) => [x.field, x.id])) };
    return evaluate(
      composeLane({
        candidate: state.candidate.data,
        lane,
        quotes: Object.fromEntries(state.quotes.map((q) => [q.id, q.data])),
        cards: { ...cards, ...data.cards },
        homeCurrency: settings.homeCurrency,
        standings: settings.standings,
        today,
      }),
    );
  }, [data, view, newer, frame, state]);
  if (after === null) return <Typography variant="body2">{t('sheet.upToDate.loading')}</Typography>;
  const c = view.doc.currency;
  const diff = after.currency === c ? differences(view.result, after) : null;
  const [was, now] = [view.result.figures.unitProfit, after.figures.unitProfit];
  const lines = diff?.lines ?? [];
  const sign = (x: number): string => `${x > 0 ? '+' : ''}${f.plain(x, c)}`;
  const said = lines
    .slice(0, 6)
    .map((d) => `${d.line === 'gross' ? t('figure.gross') : t(`lines.${d.line}`)} ${sign(d.effect)}`)
    .join(', ');
  return (
    <Box sx={{ pt: 0.5, pb: 1 }} data-testid="up-to-date">
      <Typography variant="body2" sx={{ fontWeight: 650 }}>
        {was === null || now === null ? (
          `${t('sheet.upToDate.unknown')} ${said}`
        ) : Math.abs(now - was) < 5e-7 ? (
          t('sheet.upToDate.same', { amount: f.money(was, c) })
        ) : (
          <Trans
            i18nKey="sheet.upToDate.answer"
            values={{ after: f.money(now, c), before: f.money(was, c), by: said }}
            components={{
              k: <Box component="strong" sx={{ color: now < 0 ? 'error.main' : 'primary.main' }} />,
            }}
          />
        )}
      </Typography>
      {store.canEdit && (
        <Button
          size="small"
          variant="contained"
          sx={{ mt: 0.5 }}
          onClick={() => {
            store.edit(
              newer.map((x) => ({ entity: 'lane' as const, id: view.id, path: [x.field], to: x.id })),
            );
            // The cards' own figures come from the server.
            void store.flush().then(() => revalidate());
          }}>
          {t('sheet.upToDate.take')}
        </Button>
      )}
    </Box>
  );
}
