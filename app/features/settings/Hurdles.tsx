/** What a candidate has to reach, by its way of selling. */
import { Box, Button } from '@mui/material';
import { HURDLE_FIGURES } from '../../../core/lane/hurdles.ts';
import type { Path } from '../../../core/workspace/patch.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import { ChoiceLine, NumField } from '../../ui/Field.tsx';
import { hurdleKind } from '../../ui/figures.ts';
import { NewHurdle } from '../../ui/NewHurdle.tsx';
import { Section } from './Section.tsx';
import { useWords } from '../../ui/useWords.ts';

export function Hurdles({
  settings,
  home,
  set,
}: {
  settings: Settings;
  home: string;
  set: (path: Path, to: unknown) => void;
}) {
  const { t } = useWords();
  return (
    <Section title={t('settings.hurdles')} text={t('settings.hurdlesText')}>
      <Box sx={{ display: 'grid', gap: 1.5, width: '100%' }}>
        {settings.ways.map((w) => (
          <Box key={w}>
            <Box sx={{ fontWeight: 650, fontSize: '0.9rem' }}>{t(`way.${w}`)}</Box>
            {(settings.hurdles[w] ?? []).map((h, i) => (
              <Box
                // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by their place alone
                key={i}
                sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-end', mb: 0.5 }}>
                <ChoiceLine
                  label={t('settings.figure')}
                  value={h.figure}
                  options={HURDLE_FIGURES.map((x) => ({ value: x, label: t(`figure.${x}`) }))}
                  onChange={(v) => set(['hurdles', w, i, 'figure'], v)}
                  width={190}
                />
                <ChoiceLine
                  label={t('settings.bound')}
                  value={h.bound}
                  options={[
                    { value: 'atLeast', label: t('settings.atLeast') },
                    { value: 'atMost', label: t('settings.atMost') },
                  ]}
                  onChange={(v) => set(['hurdles', w, i, 'bound'], v)}
                  width={100}
                />
                <NumField
                  label={t('settings.level')}
                  value={h.level}
                  onChange={(v) => v !== null && set(['hurdles', w, i, 'level'], v)}
                  required
                  kind={hurdleKind(h.figure)}
                  currency={home}
                  min={-1e12}
                  width={110}
                />
                <NumField
                  label={t('settings.near')}
                  value={h.near}
                  onChange={(v) => set(['hurdles', w, i, 'near'], v ?? 0)}
                  kind="percent"
                  max={1}
                  width={110}
                />
                <Button
                  size="small"
                  sx={{ color: 'text.secondary', minWidth: 0 }}
                  aria-label={t('line.removeNumber', { n: i + 1 })}
                  onClick={() =>
                    set(
                      ['hurdles', w],
                      (settings.hurdles[w] ?? []).filter((_, j) => j !== i),
                    )
                  }>
                  {t('line.remove')}
                </Button>
              </Box>
            ))}
            <NewHurdle
              add={t('settings.addHurdle')}
              figures={HURDLE_FIGURES}
              home={home}
              onAdd={(h) => set(['hurdles', w], [...(settings.hurdles[w] ?? []), h])}
            />
          </Box>
        ))}
      </Box>
    </Section>
  );
}
