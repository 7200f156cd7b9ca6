/** How one stands for VAT: registered, not, by a flat rate, or through the marketplace. */
import { Box } from '@mui/material';
import { useState } from 'react';
import type { Standing } from '../../core/lane/schema.ts';
import { ChoiceLine, NumField } from './Field.tsx';
import { useWords } from './useWords.ts';

const KINDS = ['registered', 'notRegistered', 'flatRate', 'marketplaceRemits'] as const;

/** A flat rate is no standing until its rate is typed. */
export function StandingChoice({
  label,
  none,
  standing,
  onChange,
  width = 200,
}: {
  label: string;
  /** What stands for no choice. */
  none: string;
  standing: Standing | null;
  onChange: (standing: Standing | null) => void;
  width?: number;
}) {
  const { t } = useWords();
  const [wantsRate, setWantsRate] = useState(false);
  const kind = wantsRate ? 'flatRate' : (standing?.kind ?? '');
  const choose = (k: (typeof KINDS)[number] | ''): void => {
    setWantsRate(k === 'flatRate');
    onChange(
      k === '' || k === 'flatRate'
        ? null
        : k === 'marketplaceRemits'
          ? { kind: k, recoverable: false }
          : { kind: k },
    );
  };
  return (
    <Box sx={{ display: 'flex', gap: 1 }}>
      <ChoiceLine
        label={label}
        value={kind}
        width={width}
        options={[
          { value: '' as const, label: none },
          ...KINDS.map((k) => ({ value: k, label: t(`standing.${k}`) })),
        ]}
        onChange={choose}
      />
      {kind === 'flatRate' && (
        <NumField
          label={t('form.flatRate')}
          value={standing?.kind === 'flatRate' ? standing.rate : null}
          onChange={(rate) => {
            setWantsRate(rate === null);
            onChange(rate === null ? null : { kind: 'flatRate', rate });
          }}
          kind="percent"
          max={1}
          required
          width={90}
        />
      )}
      {standing?.kind === 'marketplaceRemits' && (
        <ChoiceLine
          label={t('form.recoverable')}
          value={standing.recoverable ? 'yes' : 'no'}
          options={[
            { value: 'no', label: t('no') },
            { value: 'yes', label: t('yes') },
          ]}
          onChange={(v) => onChange({ kind: 'marketplaceRemits', recoverable: v === 'yes' })}
          width={130}
        />
      )}
    </Box>
  );
}
