/** Whether it is worth it, in parts with their reasons; a veto stands in the place of the whole. */
import { Box, Typography } from '@mui/material';
import { EVIDENCE_GATES } from '../../../core/evidence/gates.ts';
import type { Part } from '../../../core/evidence/settings.ts';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import { useSelected } from '../weigh/store.ts';
import type { PaneProps } from './parts.tsx';
import { useWords } from '../../ui/useWords.ts';

const COUNTS: ReadonlySet<Part> = new Set(['demand', 'myUnits', 'offers']);

const PARTS_LOOK = {
  '& .part': {
    display: 'grid',
    gridTemplateColumns: '110px 90px 1fr',
    gap: 1,
    alignItems: 'center',
    py: 0.25,
    fontSize: '0.85rem',
  },
  '& .bar': { height: 7, bgcolor: 'divider' },
  '& .bar.open': { bgcolor: 'transparent', border: '1px dashed', borderColor: 'fieldLine' },
  '& .bar > div': { height: '100%', bgcolor: 'text.primary' },
  '& .reason': { color: 'text.secondary' },
} as const;

export function WorthPane({ market }: PaneProps) {
  const { t } = useWords();
  const f = useFormat();
  const { opportunity: o, gates } = market.said;
  // A state that somebody set stands over what is computed, and says so.
  const byHand = useSelected((x) => x.state.candidate.data.gates);
  const state = market.composed.document.permission?.state ?? 'unknown';
  const valueSaid = (part: Part, value: number): string =>
    part === 'permission'
      ? t(`market.care.states.${state}`)
      : COUNTS.has(part)
        ? f.number(value, 0)
        : f.percent(value, 0);
  return (
    <Pane title={t('market.worth.title')} aside={t(`market.worth.kind.${o.kind}`)}>
      {o.vetoes.map((v) => (
        <Typography key={v} variant="body2" sx={{ color: 'error.main', fontWeight: 700 }}>
          {t(`market.worth.veto.${v}`)}
        </Typography>
      ))}
      <Box sx={PARTS_LOOK}>
        {o.parts.map((p) => (
          <div key={p.part} className="part">
            <span>{t(`market.worth.part.${p.part}`)}</span>
            <div
              role="img"
              aria-label={p.worth === null ? t('market.worth.notKnown') : f.percent(p.worth, 0)}
              className={p.worth === null ? 'bar open' : 'bar'}>
              <div style={{ width: `${100 * (p.worth ?? 0)}%` }} />
            </div>
            <span className="reason">
              {p.value === null
                ? t('market.worth.notKnown')
                : t(`market.worth.reason.${p.part}`, { value: valueSaid(p.part, p.value) })}
            </span>
          </div>
        ))}
      </Box>
      <Typography variant="body2" sx={{ mt: 0.5 }}>
        {o.vetoes.length > 0
          ? t('market.worth.noMean')
          : o.mean === null
            ? t('market.worth.tooLittle')
            : t('market.worth.mean', {
                share: f.percent(o.mean, 0),
                known: o.parts.length - o.unknown.length,
                all: o.parts.length,
              })}
      </Typography>
      <Typography variant="body2" color="text.secondary">
        {EVIDENCE_GATES.map((g) => {
          const hand = byHand[g];
          return hand === null
            ? `${t(`gates.${g}`)}: ${t(`market.gate.${gates[g].verdict}`)}`
            : t('market.gateByHand', {
                gate: t(`gates.${g}`),
                state: t(`gates.${hand.passed ? 'passed' : 'failed'}`),
              });
        }).join(' · ')}
      </Typography>
    </Pane>
  );
}
