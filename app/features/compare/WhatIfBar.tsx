/** What if: another order quantity, dearer freight, another price, for all lanes at once; nothing is saved. */
import { Box, Button, Slider, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { AS_IS } from '../../../core/compare/whatIf.ts';
import type { WhatIf } from '../../../core/compare/whatIf.ts';
import { NumField } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { numberIn } from './Controls.tsx';
import { useWords } from '../../ui/useWords.ts';

/** The question, as the address has it. */
export function useQuestion(
  search: URLSearchParams,
  setAddress: (change: Record<string, string | null>) => void,
): [WhatIf, (q: WhatIf) => void] {
  const [question, setQuestion] = useState<WhatIf>(() => ({
    orderQuantity: numberIn(search.get('quantity')),
    mainFreight: numberIn(search.get('freight')) ?? 1,
    price: numberIn(search.get('price')) ?? 1,
  }));

  // The question goes into the address a moment after it was asked, so that a drag of the slider stays quick.
  useEffect(() => {
    const timer = setTimeout(() => {
      const want = {
        quantity: question.orderQuantity === null ? null : String(question.orderQuantity),
        freight: question.mainFreight === 1 ? null : String(question.mainFreight),
        price: question.price === 1 ? null : String(question.price),
      };
      if (Object.entries(want).some(([k, x]) => new URLSearchParams(window.location.search).get(k) !== x))
        setAddress(want);
    }, 400);
    return () => clearTimeout(timer);
  }, [question, setAddress]);
  return [question, setQuestion];
}

type Props = {
  question: WhatIf;
  setQuestion: (q: WhatIf) => void;
  busy: boolean;
  /** Saves the order quantity on all lanes; null: one may only ask. */
  onSaveQuantity: ((quantity: number) => void) | null;
};
export function WhatIfBar({ question, setQuestion, busy, onSaveQuantity }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const isAsked = question.orderQuantity !== null || question.mainFreight !== 1 || question.price !== 1;
  return (
    <Box
      component="section"
      aria-label={t('compare.whatIf')}
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        gap: 2.5,
        rowGap: 1,
        alignItems: 'flex-end',
        mb: 1,
        px: 1.5,
        py: 0.75,
        bgcolor: 'paperTint',
        borderRadius: 1,
      }}>
      <Typography component="h2" sx={{ fontSize: '0.84rem', fontWeight: 650, pb: 0.5 }}>
        {t('compare.whatIf')}
      </Typography>
      <NumField
        label={t('compare.quantity')}
        value={question.orderQuantity}
        onChange={(x) => setQuestion({ ...question, orderQuantity: x })}
        kind="number"
        min={1}
        width={110}
        step={50}
      />
      <Box sx={{ width: 190 }}>
        <Box id="freight-factor" sx={{ fontSize: '0.76rem', color: 'text.secondary' }}>
          {t('compare.freight')} <b>{t('compare.times', { factor: f.number(question.mainFreight) })}</b>
        </Box>
        <Slider
          size="small"
          value={question.mainFreight}
          min={0.25}
          max={4}
          step={0.25}
          marks={[{ value: 1 }, { value: 2 }, { value: 3 }]}
          aria-labelledby="freight-factor"
          onChange={(_, x) => setQuestion({ ...question, mainFreight: x as number })}
          sx={{ py: 1, display: 'block' }}
        />
      </Box>
      <NumField
        label={t('compare.price')}
        value={question.price - 1}
        onChange={(x) => setQuestion({ ...question, price: 1 + (x ?? 0) })}
        kind="percent"
        min={-0.9}
        max={9}
        width={90}
      />
      {isAsked && (
        <Button size="small" onClick={() => setQuestion(AS_IS)}>
          {t('compare.asIs')}
        </Button>
      )}
      {isAsked && (
        <Typography variant="body2" color="text.secondary" sx={{ pb: 0.75 }}>
          {t('compare.notSaved')}
        </Typography>
      )}
      {onSaveQuantity !== null && question.orderQuantity !== null && (
        <Button size="small" disabled={busy} onClick={() => onSaveQuantity(question.orderQuantity as number)}>
          {t('compare.saveQuantity', { quantity: f.number(question.orderQuantity) })}
        </Button>
      )}
    </Box>
  );
}
