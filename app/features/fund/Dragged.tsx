/** A field and the slider that drags it. */
import { Box, Slider } from '@mui/material';
import type { ReactNode } from 'react';
import { useWords } from '../../ui/useWords.ts';

export function Dragged({
  children,
  label,
  value,
  min,
  max,
  step,
  onDrag,
}: {
  children: ReactNode;
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  onDrag: (x: number) => void;
}) {
  const { t } = useWords();
  return (
    <Box
      sx={{ width: '100%', display: 'grid', gridTemplateColumns: '124px 1fr', gap: 1.5, alignItems: 'end' }}>
      {children}
      <Slider
        size="small"
        aria-label={t('overTime.drag', { what: label })}
        value={Math.min(max, Math.max(min, value))}
        min={min}
        max={max}
        step={step}
        onChange={(_, x) => onDrag(x as number)}
        sx={{ mb: 0.75 }}
      />
    </Box>
  );
}
