/** Levels by which evidence is read, and what must be true of a market before one enters it. */
import { Box, Button } from '@mui/material';
import { EVIDENCE_FIGURES } from '../../../core/evidence/hurdles.ts';
import type { EvidenceFigure } from '../../../core/evidence/hurdles.ts';
import { OWN_BRAND_PARTS, RESALE_PARTS } from '../../../core/evidence/settings.ts';
import type { Path } from '../../../core/workspace/patch.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import { ChoiceLine, NumField } from '../../ui/Field.tsx';
import type { NumberKind } from '../../ui/Field.tsx';
import { keyed } from '../../ui/keyed.ts';
import { Section } from './Section.tsx';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  settings: Settings;
  set: (path: Path, to: unknown) => void;
  num: (path: Path, label: string, kind: NumberKind, nullable?: boolean, width?: number) => React.ReactNode;
};
const SHARES: ReadonlySet<EvidenceFigure> = new Set(['direction', 'ownShopShare', 'brandShare']);
const kindOf = (f: EvidenceFigure): NumberKind => (SHARES.has(f) ? 'percent' : 'number');

export function EvidenceLevels({ settings, set, num }: Props) {
  const { t } = useWords();
  const hurdles = settings.evidenceHurdles;
  const parts = [...new Set([...OWN_BRAND_PARTS, ...RESALE_PARTS])];
  return (
    <>
      <Section title={t('evidenceSettings.hurdles')} text={t('evidenceSettings.hurdlesText')}>
        <Box sx={{ display: 'grid', gap: 1, width: '100%' }}>
          {keyed(hurdles, (h) => h.figure).map(({ key, item: h, place: i }) => (
            <Box key={key} sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-end' }}>
              <ChoiceLine
                label={t('settings.figure')}
                width={190}
                value={h.figure}
                onChange={(v) => set(['evidenceHurdles', i, 'figure'], v)}
                options={EVIDENCE_FIGURES.map((x) => ({
                  value: x,
                  label: t(`evidenceSettings.figure.${x}`),
                }))}
              />
              <ChoiceLine
                label={t('settings.bound')}
                width={100}
                value={h.bound}
                onChange={(v) => set(['evidenceHurdles', i, 'bound'], v)}
                options={(['atLeast', 'atMost'] as const).map((x) => ({
                  value: x,
                  label: t(`settings.${x}`),
                }))}
              />
              <NumField
                label={t('settings.level')}
                value={h.level}
                required
                kind={kindOf(h.figure)}
                min={-1e12}
                width={110}
                onChange={(v) => v !== null && set(['evidenceHurdles', i, 'level'], v)}
              />
              <NumField
                label={t('settings.near')}
                value={h.near}
                kind="percent"
                max={1}
                width={110}
                onChange={(v) => set(['evidenceHurdles', i, 'near'], v ?? 0)}
              />
              <Button
                size="small"
                aria-label={t('line.removeNumber', { n: i + 1 })}
                onClick={() =>
                  set(
                    ['evidenceHurdles'],
                    hurdles.filter((_, j) => j !== i),
                  )
                }>
                {t('line.remove')}
              </Button>
            </Box>
          ))}
          <Box>
            <Button
              size="small"
              onClick={() =>
                set(
                  ['evidenceHurdles'],
                  [...hurdles, { figure: 'searches', bound: 'atLeast', level: 1000, near: 0.1 }],
                )
              }>
              {t('settings.addHurdle')}
            </Button>
          </Box>
        </Box>
      </Section>
      <Section title={t('evidenceSettings.levels')} text={t('evidenceSettings.levelsText')}>
        {num(['evidence', 'fewReviews', 'cap'], t('evidenceSettings.fewCap'), 'number', false)}
        {num(['evidence', 'fewReviews', 'revenueFrom'], t('evidenceSettings.revenueFrom'), 'money', false)}
        {num(['evidence', 'fewReviews', 'revenueTo'], t('evidenceSettings.revenueTo'), 'money')}
        {num(['evidence', 'brandListings'], t('evidenceSettings.brandListings'), 'number', false)}
        {num(['evidence', 'brandRevenue'], t('evidenceSettings.brandRevenue'), 'percent', false)}
        {num(['evidence', 'newcomerDays'], t('evidenceSettings.newcomerDays'), 'number', false)}
        {num(['evidence', 'sellsUnits'], t('evidenceSettings.sellsUnits'), 'number', false)}
        {num(['evidence', 'ceiling'], t('evidenceSettings.ceiling'), 'percent', false)}
        {num(['evidence', 'weakVolume'], t('evidenceSettings.weakVolume'), 'number', false)}
        {num(['evidence', 'clickShare'], t('evidenceSettings.clickShare'), 'percent')}
        {num(['evidence', 'estimateUnder'], t('evidenceSettings.estimateUnder'), 'percent', false)}
        {num(['evidence', 'estimateOver'], t('evidenceSettings.estimateOver'), 'percent', false)}
        {num(['evidence', 'undercutBy'], t('evidenceSettings.undercutBy'), 'percent', false)}
        {(['prices', 'offers', 'units', 'searches'] as const).map((k) =>
          num(['evidence', 'ages', k], t(`evidenceSettings.age.${k}`), 'number', false),
        )}
      </Section>
      <Section title={t('evidenceSettings.worth')} text={t('evidenceSettings.worthText')}>
        <Box sx={{ display: 'grid', gap: 0.5, width: '100%' }}>
          {parts.map((p) => (
            <Box
              key={p}
              role="group"
              aria-label={t(`evidenceSettings.parts.${p}`)}
              sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-end' }}>
              <Box sx={{ width: 220, pb: 1 }}>{t(`evidenceSettings.parts.${p}`)}</Box>
              {(['poor', 'good', 'weight'] as const).map((c) => (
                <NumField
                  key={c}
                  label={t(`evidenceSettings.${c}`)}
                  kind="number"
                  min={-1e12}
                  width={110}
                  value={settings.evidence.opportunity[p][c]}
                  onChange={(v) => v !== null && set(['evidence', 'opportunity', p, c], v)}
                />
              ))}
            </Box>
          ))}
        </Box>
      </Section>
    </>
  );
}
