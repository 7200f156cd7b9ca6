/** Kinds of lines that nobody has said, and those that somebody has: each text of the report, and what it is. */
import { Box, Typography } from '@mui/material';
import { SETTLED_KINDS, STEPS } from '../../../core/actuals/schema.ts';
import type { SettledKind, SettlementMap } from '../../../core/actuals/schema.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import type { ReportSaid } from './ReportPage.tsx';
import { useWords } from '../../ui/useWords.ts';

export function KindsSaid({
  said,
  map,
  currency,
  canEdit,
  onChange,
}: {
  said: ReportSaid;
  map: SettlementMap;
  currency: string;
  canEdit: boolean;
  onChange: (map: SettlementMap) => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const waiting = new Map(said.waiting.map((w) => [w.kind, w]));
  const known = Object.keys(map.kinds).filter((k) => !waiting.has(k));
  const say = (kind: string, is: SettledKind | ''): void => {
    const { [kind]: _, ...others } = map.kinds;
    onChange({ ...map, kinds: is === '' ? others : { ...others, [kind]: is } });
  };
  const labelOf = (kind: string): string => {
    const { lines = 0, amount = 0 } = waiting.get(kind) ?? {};
    const text = kind || t('report.blankKind');
    return `${text} · ${f.number(lines, 0)} × · ${f.money(amount / STEPS, currency)}`;
  };
  const choice = (kind: string) => (
    <ChoiceLine
      key={kind}
      label={waiting.has(kind) ? labelOf(kind) : kind}
      width={waiting.has(kind) ? 300 : 180}
      value={map.kinds[kind] ?? ''}
      {...(canEdit && { onChange: (is: SettledKind | '') => say(kind, is) })}
      options={[
        { value: '' as const, label: t('report.notYet') },
        ...SETTLED_KINDS.map((k) => ({ value: k, label: t(`report.kind.${k}`) })),
      ]}
    />
  );
  return (
    <>
      {waiting.size > 0 && (
        <Box
          component="section"
          aria-label={t('report.waits')}
          sx={{ bgcolor: 'paperTint', p: 2, borderRadius: 1, mb: 2 }}>
          <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
            {t('report.waits')}
          </Typography>
          <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
            {t('report.waitsLead')}
          </Typography>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5 }}>{[...waiting.keys()].map(choice)}</Box>
        </Box>
      )}
      {known.length > 0 && (
        <Box component="section" aria-label={t('report.kinds')} sx={{ mb: 2 }}>
          <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
            {t('report.kinds')}
          </Typography>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5 }}>{known.map(choice)}</Box>
        </Box>
      )}
    </>
  );
}
