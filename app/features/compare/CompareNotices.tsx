/** What stands over the lanes: the answer in a sentence, newer rates, what was dropped, what went wrong. */
import { Alert, Box, Button } from '@mui/material';
import { Trans } from 'react-i18next';
import { Link } from 'react-router';
import type { Measure } from '../../../core/compare/measures.ts';
import { inSentence } from '../../ui/inSentence.ts';
import { figureOf } from './useCompared.ts';
import { useFigureWords } from './useFigureWords.ts';
import type { Around, Compared } from './useCompared.ts';
import { useWords } from '../../ui/useWords.ts';

type AnswerProps = {
  best: Compared | undefined;
  measure: Measure;
  plan: Around['plan'];
  home: string;
  /** The lanes that keep something, their bounds among them. */
  keeping: readonly Compared[];
  all: number;
  place: (c: Compared) => string;
};
/** Which lane is best by the measure, and how many keep anything. */
export function CompareAnswer({ best, measure, plan, home, keeping, all, place }: AnswerProps) {
  const { t } = useWords();
  const said = useFigureWords(plan, home);
  const value = best === undefined ? null : figureOf(best, measure, plan);
  if (best === undefined || value === null) return t('compare.answerUnknown');
  if (keeping.length === 0) return t('compare.answerNone', { all });
  return (
    <Trans
      i18nKey={keeping.every((c) => c.light.whole) ? 'compare.answer' : 'compare.answerOpen'}
      values={{
        where: `${place(best)}, ${inSentence(t(`method.${best.doc.method}`))}`,
        measure: t(`compare.figure.${measure}`),
        value: said(best, measure),
        count: keeping.length,
        all,
      }}
      components={{ b: <strong />, k: <Box component="strong" sx={{ color: 'primary.main' }} /> }}
    />
  );
}

/** Cards of which newer versions are in force, each with what it would touch. */
export function NewerRates({
  count,
  cards,
  newest,
  root,
}: {
  count: number;
  cards: readonly { id: string; name: string }[];
  newest: Readonly<Record<string, string>>;
  root: string;
}) {
  const { t } = useWords();
  return (
    <Alert severity="info" variant="outlined" sx={{ mb: 1, py: 0 }}>
      {t('compare.newer', { count })}:{' '}
      {cards
        .filter((h) => newest[h.id] !== undefined)
        .slice(0, 6)
        .map((h, i) => (
          <span key={h.id}>
            {i > 0 && ', '}
            <Box component={Link} to={`${root}/rates/touch?card=${newest[h.id]}`} sx={{ color: 'inherit' }}>
              {h.name}
            </Box>
          </span>
        ))}
    </Alert>
  );
}

/** What the last change came to. */
export function ChangeDone({
  done,
  onUndo,
}: {
  done: { dropped?: number; undo?: string; error?: string } | undefined;
  onUndo: (rows: string) => void;
}) {
  const { t } = useWords();
  return (
    <>
      {done?.dropped !== undefined && done.dropped > 0 && (
        <Alert
          severity="info"
          variant="outlined"
          sx={{ mb: 1, py: 0 }}
          action={
            <Button size="small" onClick={() => onUndo(done.undo ?? '[]')}>
              {t('undo')}
            </Button>
          }>
          {t('compare.dropped', { count: done.dropped })}
        </Alert>
      )}
      {done?.error && (
        <Alert severity="error" sx={{ mb: 1 }}>
          {done.error}
        </Alert>
      )}
    </>
  );
}
