/** What a comparison is asked: best by, order, groups, what if. */
import { Box, Button, Tab, Tabs } from '@mui/material';
import { memo } from 'react';
import { MEASURES } from '../../../core/compare/measures.ts';
import type { Measure } from '../../../core/compare/measures.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { GROUPS, SORTS } from './useCompared.ts';
import type { Group, Sort } from './useCompared.ts';
import { useWords } from '../../ui/useWords.ts';

export const VIEWS = ['lanes', 'markets', 'grid', 'prices', 'routes', 'suppliers'] as const;

type ControlsProps = {
  view: string;
  measure: Measure;
  sort: Sort;
  group: Group;
  per: 'money' | 'hundred';
  local: boolean;
  turned: boolean;
  change: (parts: Record<string, string | null>) => void;
  choose: (measure: Measure) => void;
};

/** How the lanes are shown; drawn apart from them, so that a question asked of all does not draw it again. */
export const Controls = memo(function Controls({
  view,
  measure,
  sort,
  group,
  per,
  local,
  turned,
  change,
  choose,
}: ControlsProps) {
  const { t } = useWords();
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.25, rowGap: 1, alignItems: 'flex-end', mb: 1 }}>
      <Tabs
        value={view}
        onChange={(_, x: string) => change({ view: x === 'lanes' ? null : x })}
        aria-label={t('compare.view')}
        sx={{
          minHeight: 34,
          '& .MuiTab-root': {
            minHeight: 34,
            py: 0,
            px: 1,
            textTransform: 'none',
            minWidth: 0,
            fontSize: '0.86rem',
          },
        }}>
        {VIEWS.map((x) => (
          <Tab key={x} value={x} label={t(`compare.views.${x}`)} />
        ))}
      </Tabs>
      <ChoiceLine
        label={t('compare.measure')}
        value={measure}
        width={128}
        options={MEASURES.map((m) => ({ value: m, label: t(`compare.figure.${m}`) }))}
        onChange={(x) => choose(x)}
      />
      {view === 'lanes' && (
        <ChoiceLine
          label={t('compare.sort')}
          value={sort}
          width={128}
          options={SORTS.map((x) => ({ value: x, label: t(`compare.figure.${x}`) }))}
          onChange={(x) => change({ sort: x === measure ? null : x })}
        />
      )}
      {view === 'lanes' && (
        <Button
          size="small"
          onClick={() => change({ turned: turned ? null : '1' })}
          aria-pressed={turned}
          aria-label={t('compare.direction')}
          sx={{ minWidth: 0, px: 1 }}>
          {turned ? '↑' : '↓'}
        </Button>
      )}
      {view === 'lanes' && (
        <ChoiceLine
          label={t('compare.group')}
          value={group}
          width={104}
          options={GROUPS.map((x) => ({ value: x, label: t(`compare.groups.${x}`) }))}
          onChange={(x) => change({ group: x === 'none' ? null : x })}
        />
      )}
      {view === 'lanes' && (
        <ChoiceLine
          label={t('compare.amounts')}
          value={per}
          width={116}
          options={(['money', 'hundred'] as const).map((x) => ({ value: x, label: t(`compare.per.${x}`) }))}
          onChange={(x) => change({ per: x === 'money' ? null : x })}
        />
      )}
      {view === 'lanes' && (
        <ChoiceLine
          label={t('compare.currency')}
          value={local ? 'local' : 'home'}
          width={112}
          options={(['home', 'local'] as const).map((x) => ({ value: x, label: t(`compare.${x}`) }))}
          onChange={(x) => change({ currency: x === 'home' ? null : x })}
        />
      )}
    </Box>
  );
});

export function numberIn(text: string | null): number | null {
  const x = text === null || text === '' ? Number.NaN : Number(text);
  return Number.isFinite(x) && x > 0 && x <= 1e9 ? x : null;
}
