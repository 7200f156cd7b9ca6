/** The rules of the purse: how many, how careful, what must be and what never together. */
import { Box, Button } from '@mui/material';
import { dayText } from '../../../core/cash/calendar.ts';
import { NumField } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import type { PurseRules } from './usePurseRules.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = { rules: PurseRules; nameOf: (key: string) => string; today: string };

export function PurseRuleFields({ rules, nameOf, today }: Props) {
  const { t } = useWords();
  const { kept, change } = rules;
  const count = (key: 'most' | 'perWeek') => (
    <NumField
      label={t(`purse.rule.${key}`)}
      value={kept[key]}
      onChange={(x) => change({ [key]: x })}
      kind="number"
      whole
      max={1000}
      width={130}
    />
  );
  return (
    <Pane title={t('purse.rules')}>
      <Chosen rules={rules} nameOf={nameOf} today={today} />
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5 }}>
        {count('most')}
        {count('perWeek')}
        <NumField
          label={t('purse.rule.lanesPerCandidate')}
          value={kept.lanesPerCandidate}
          onChange={(x) => change({ lanesPerCandidate: x ?? 1 })}
          kind="number"
          whole
          min={1}
          max={100}
          width={170}
        />
        <NumField
          label={t('purse.rule.caution')}
          value={kept.caution}
          onChange={(x) => change({ caution: x ?? 0 })}
          kind="percent"
          max={1}
          width={90}
        />
        <NumField
          label={t('purse.rule.salvage')}
          value={kept.salvage}
          onChange={(x) => change({ salvage: x ?? 0 })}
          kind="percent"
          max={1}
          width={140}
        />
        <NumField
          label={t('purse.rule.lastStart')}
          value={kept.lastStart}
          onChange={(x) => change({ lastStart: x ?? 0 })}
          kind="number"
          whole
          max={260}
          width={130}
        />
        <NumField
          label={t('purse.rule.weeks')}
          value={kept.weeks}
          onChange={(x) => change({ weeks: x ?? 52 })}
          kind="number"
          whole
          min={1}
          max={260}
          width={130}
        />
        <NumField
          label={t('purse.rule.seconds')}
          value={kept.seconds}
          onChange={(x) => change({ seconds: x ?? 5 })}
          kind="number"
          min={0.1}
          max={600}
          width={120}
        />
      </Box>
    </Pane>
  );
}

/** What must be launched and what never together, each taken back by a press. */
function Chosen({ rules: { kept, change }, nameOf, today }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const must = Object.entries(kept.must).filter(([, m]) => m !== false);
  const chip = (key: string, text: string, onTake: () => void) => (
    <Button
      key={key}
      size="small"
      variant="outlined"
      aria-label={t('purse.take', { rule: text })}
      onClick={onTake}
      sx={{ borderRadius: 4, color: 'text.primary', borderColor: 'divider' }}>
      {text} ×
    </Button>
  );
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mb: 1 }}>
      {must.map(([key, m]) =>
        chip(
          key,
          typeof m === 'object'
            ? t('purse.rule.pinned', {
                name: nameOf(key),
                n: f.number(m.quantity, 0),
                day: f.dayShort(dayText(today, 7 * m.week)),
              })
            : t('purse.rule.must', { name: nameOf(key) }),
          () => change({ must: Object.fromEntries(Object.entries(kept.must).filter(([k]) => k !== key)) }),
        ),
      )}
      {kept.neverTogether.map((set, i) =>
        chip(set.join(), t('purse.rule.never', { names: set.map(nameOf).join('; ') }), () =>
          change({ neverTogether: kept.neverTogether.filter((_, j) => j !== i) }),
        ),
      )}
    </Box>
  );
}
