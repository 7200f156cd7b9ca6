/** All lanes of the workspace: which may be launched, which must be, and which never together. */
import { Box, Button, Checkbox } from '@mui/material';
import { useState } from 'react';
import { purseKey } from '../../../core/workspace/purse.ts';
import type { PurseSource } from '../../../core/workspace/purse.ts';
import { FigureTable, HiddenHead } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import { Pane } from '../weigh/Pane.tsx';
import type { PurseRules } from './usePurseRules.ts';
import { useWords } from '../../ui/useWords.ts';

export function PurseLanes({ source, rules }: { source: PurseSource; rules: PurseRules }) {
  const { t, i18n } = useWords();
  const f = useFormat();
  const { kept, change } = rules;
  const [ticked, setTicked] = useState<readonly string[]>([]);
  const tried = new Map(rules.document.lanes.map((l) => [l.key, l.quantities]));
  const lanes = source.candidates.flatMap((c) =>
    c.lanes.map((l) => ({
      key: purseKey(c.id, l.id),
      name: c.data.name,
      where: `${countryName(l.data.country, i18n.language)} · ${l.data.marketplace}`,
      quantities: tried.get(purseKey(c.id, l.id)) ?? [],
    })),
  );
  const out = new Set(kept.out);
  const isIn = (key: string): boolean => !out.has(key);
  const set = (key: string, on: boolean): void =>
    change({
      out: on ? kept.out.filter((k) => k !== key) : [...kept.out, key],
      ...(!on && { must: Object.fromEntries(Object.entries(kept.must).filter(([k]) => k !== key)) }),
    });
  const setMust = (key: string, on: boolean): void => {
    const { [key]: _, ...others } = kept.must;
    change({ must: on ? { ...others, [key]: true } : others, out: kept.out.filter((k) => k !== key) });
  };
  return (
    <Pane
      title={t('purse.lanes')}
      aside={t('purse.ticked', {
        n: f.number(lanes.filter((l) => isIn(l.key)).length),
        all: f.number(lanes.length),
      })}>
      <Button
        size="small"
        disabled={ticked.length < 2}
        onClick={() => {
          change({ neverTogether: [...kept.neverTogether, [...ticked]] });
          setTicked([]);
        }}>
        {t('purse.neverTogether')}
      </Button>
      <Box
        sx={{ maxHeight: 420, overflowY: 'auto', '@media print': { maxHeight: 'none', overflow: 'visible' } }}
        tabIndex={0}
        role="region"
        aria-label={t('purse.lanes')}>
        <FigureTable label={t('purse.lanes')}>
          <thead>
            <tr>
              <th scope="col">{t('weigh.candidate')}</th>
              <th scope="col" className="text">
                {t('fund.lane')}
              </th>
              <th scope="col">{t('purse.tried')}</th>
              <th scope="col">{t('purse.in')}</th>
              <th scope="col">{t('purse.mustHave')}</th>
              <HiddenHead>{t('purse.neverTogether')}</HiddenHead>
            </tr>
          </thead>
          <tbody>
            {lanes.map((l) => {
              const box = (label: string, checked: boolean, onChange: (on: boolean) => void) => (
                <Checkbox
                  size="small"
                  checked={checked}
                  onChange={(e) => onChange(e.target.checked)}
                  slotProps={{ input: { 'aria-label': `${label}: ${l.name} · ${l.where}` } }}
                  sx={{ p: 0.25 }}
                />
              );
              return (
                <tr key={l.key}>
                  <th scope="row">{l.name}</th>
                  <td className="text">{l.where}</td>
                  <td>{l.quantities.map((q) => f.number(q, 0)).join(' · ') || '–'}</td>
                  <td>{box(t('purse.in'), isIn(l.key), (on) => set(l.key, on))}</td>
                  <td>
                    {box(t('purse.mustHave'), (kept.must[l.key] ?? false) !== false, (on) =>
                      setMust(l.key, on),
                    )}
                  </td>
                  <td>
                    {box(t('purse.neverTogether'), ticked.includes(l.key), (on) =>
                      setTicked(on ? [...ticked, l.key] : ticked.filter((k) => k !== l.key)),
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </FigureTable>
      </Box>
    </Pane>
  );
}
