/** How the price was talked about: asked, offered, agreed, step by step. */
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import type { Enquiry } from '../../../core/enquiries/schema.ts';
import { ChoiceLine, NumField } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import type { Fields } from './EnquiryPage.tsx';
import { useWords } from '../../ui/useWords.ts';

type Step = Enquiry['path'][number];

export function Negotiation({ fields, set, canEdit, today }: Fields & { today: string }) {
  const { t } = useWords();
  const f = useFormat();
  const [kind, setKind] = useState<Step['kind']>('asked');
  const [price, setPrice] = useState<number | null>(null);
  const [units, setUnits] = useState<number | null>(null);
  const add = (): void => {
    if (price === null) return;
    set({ path: [...fields.path, { day: today, kind, unitPrice: price, units, note: '' }] });
    setPrice(null);
  };
  return (
    <Pane title={t('enquiry.path')}>
      {fields.path.map((s, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: steps are told apart by their place alone
        <Box key={i} sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
          <Typography variant="body2">
            {t(s.units === null ? 'enquiry.pathLine' : 'enquiry.pathUnits', {
              day: f.day(s.day),
              kind: t(`enquiry.kinds.${s.kind}`),
              price: f.money(s.unitPrice, fields.currency),
              units: f.number(s.units),
            })}
          </Typography>
          {canEdit && (
            <Button
              size="small"
              sx={{ minWidth: 0, py: 0, color: 'text.secondary' }}
              onClick={() => set({ path: fields.path.filter((_, j) => j !== i) })}>
              {t('order.removeShort')}
            </Button>
          )}
        </Box>
      ))}
      {canEdit && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'flex-end' }}>
          <ChoiceLine<Step['kind']>
            label={t('enquiry.kind')}
            value={kind}
            options={(['asked', 'offered', 'agreed'] as const).map((k) => ({
              value: k,
              label: t(`enquiry.kinds.${k}`),
            }))}
            onChange={setKind}
            width={100}
          />
          <NumField
            label={t('enquiry.price')}
            value={price}
            onChange={setPrice}
            kind="money"
            currency={fields.currency}
            width={100}
          />
          <NumField label={t('enquiry.units')} value={units} onChange={setUnits} kind="number" width={80} />
          <Button size="small" disabled={price === null} onClick={add}>
            {t('enquiry.addStep')}
          </Button>
        </Box>
      )}
    </Pane>
  );
}
