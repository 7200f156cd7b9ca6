/** A hurdle that is being added: it counts once its level is typed. */
import { Box, Button } from '@mui/material';
import { useState } from 'react';
import type { Hurdle } from '../../core/lane/hurdleSchema.ts';
import { ChoiceLine, NumField } from './Field.tsx';
import { hurdleKind } from './figures.ts';
import { useWords } from './useWords.ts';

export function NewHurdle({
  add,
  figures,
  home,
  onAdd,
}: {
  /** What the button says. */
  add: string;
  figures: readonly Hurdle['figure'][];
  home: string;
  onAdd: (hurdle: Hurdle) => void;
}) {
  const { t } = useWords();
  const [figure, setFigure] = useState<Hurdle['figure'] | null>(null);
  const [level, setLevel] = useState<number | null>(null);
  if (figure === null)
    return (
      <Button size="small" onClick={() => setFigure('unitProfit')}>
        {add}
      </Button>
    );
  return (
    <Box
      component="form"
      onSubmit={(e: { preventDefault: () => void }) => {
        e.preventDefault();
        if (level === null) return;
        onAdd({ figure, bound: 'atLeast', level, near: 0 });
        setFigure(null);
        setLevel(null);
      }}
      sx={{ display: 'flex', gap: 1, alignItems: 'end', flexWrap: 'wrap' }}>
      <ChoiceLine
        label={t('settings.figure')}
        value={figure}
        options={figures.map((x) => ({ value: x, label: t(`figure.${x}`) }))}
        onChange={setFigure}
        width={150}
      />
      <NumField
        label={t('settings.level')}
        kind={hurdleKind(figure)}
        currency={home}
        min={-1e12}
        value={level}
        onChange={setLevel}
        autoFocus
        width={90}
      />
      <Button type="submit" size="small" disabled={level === null}>
        {add}
      </Button>
    </Box>
  );
}
