/** What a supplier answered, as it came, and beside it the quote it becomes. */
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import type { EnquiryState } from '../../../core/enquiries/schema.ts';
import { INCOTERMS } from '../../../core/lane/choices.ts';
import type { Quote } from '../../../core/lane/schema.ts';
import type { QuoteSource } from '../../../core/workspace/records.ts';
import { ChoiceLine, NumField, SidesField, TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useCurrencies } from '../../ui/names.ts';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import { Pane } from '../weigh/Pane.tsx';
import type { Fields } from './EnquiryPage.tsx';
import { useWords } from '../../ui/useWords.ts';

type Props = Fields & {
  state: EnquiryState;
  before: QuoteSource | null;
  today: string;
  candidateId: string;
  act: (what: object) => void;
  base: string;
  isSaved: boolean;
};

export function EnquiryAnswer({
  fields,
  set,
  canEdit,
  state,
  before,
  today,
  candidateId,
  act,
  base,
  isSaved,
}: Props) {
  const { t } = useWords();
  return (
    <Pane title={t('enquiry.answer')}>
      <Box sx={{ display: 'flex', gap: 1.5, mb: 1 }}>
        {canEdit && state === 'sent' && (
          <TextLine
            label={t('enquiry.remindOn')}
            value={fields.remindOn ?? ''}
            onChange={(v) => set({ remindOn: v === '' ? null : v })}
            type="date"
            width={150}
          />
        )}
        {canEdit && (
          <TextLine
            label={t('enquiry.answeredOn')}
            value={fields.answeredOn ?? ''}
            onChange={(v) => set({ answeredOn: v === '' ? null : v })}
            type="date"
            width={150}
          />
        )}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1fr 1fr' }, gap: 3 }}>
        {canEdit ? (
          <TextLine
            label={t('enquiry.answerText')}
            value={fields.answer}
            onChange={(answer) => set({ answer })}
            multiline
            maxRows={20}
            maxLength={100_000}
            width="100%"
          />
        ) : (
          <Box sx={{ whiteSpace: 'pre-wrap' }}>{fields.answer}</Box>
        )}
        {fields.quoteId !== null ? (
          <Typography>
            {t('enquiry.recorded')}{' '}
            <Box component={Link} to={`${base}/weigh/${candidateId}`}>
              {t('enquiry.toSheet')}
            </Box>
          </Typography>
        ) : (
          canEdit && <AsQuote {...{ fields, before, today, act, isSaved }} />
        )}
      </Box>
    </Pane>
  );
}

type Break = { minQty: number | null; unitPrice: number | null };

/** The form of the quote: blank where the answer has not been typed over yet, what is known already beside it. */
function AsQuote({
  fields,
  before,
  act,
  isSaved,
}: Pick<Props, 'fields' | 'before' | 'today' | 'act' | 'isSaved'>) {
  const { t } = useWords();
  const f = useFormat();
  const currencies = useCurrencies();
  const was = before?.kind === 'quote' ? before : null;
  const [currency, setCurrency] = useState(fields.currency);
  const [breaks, setBreaks] = useState<readonly Break[]>(
    (fields.quantities.length === 0 ? [0] : fields.quantities).map((minQty) => ({ minQty, unitPrice: null })),
  );
  const [own, setOwn] = useState<{
    minimumOrder: number | null;
    cartonUnits: number | null;
    cartonVolume: number | null;
    cartonKg: number | null;
    leadDays: number | null;
    deposit: number | null;
    incoterm: Quote['incoterm'] | '';
    validUntil: string;
    sides: [number, number, number] | null;
    kg: number | null;
  }>({
    minimumOrder: null,
    cartonUnits: null,
    cartonVolume: null,
    cartonKg: null,
    leadDays: null,
    deposit: null,
    incoterm: was?.incoterm ?? '',
    validUntil: '',
    sides: null,
    kg: null,
  });
  const put = (some: Partial<typeof own>): void => setOwn({ ...own, ...some });
  const priced = breaks
    .filter((b) => b.unitPrice !== null && b.minQty !== null)
    .sort((a, b) => (a.minQty ?? 0) - (b.minQty ?? 0));
  const record = (): void =>
    act({
      intent: 'answer',
      quote: {
        kind: 'quote',
        currency,
        incoterm: own.incoterm,
        // The smallest quantity a price was named for need not be the least one takes.
        priceBreaks: priced,
        minimumOrder: own.minimumOrder ?? 0,
        carton:
          own.cartonUnits === null
            ? null
            : { units: own.cartonUnits, volumeM3: own.cartonVolume, kg: own.cartonKg },
        leadDays: own.leadDays,
        depositShare: own.deposit,
        validUntil: own.validUntil === '' ? null : own.validUntil,
      },
      sides: own.sides,
      kg: own.kg,
    });
  const known = (text: string | null): string | null =>
    text === null ? null : `${t('enquiry.was')}: ${text}`;
  const number = (
    key: 'minimumOrder' | 'cartonUnits' | 'cartonVolume' | 'cartonKg' | 'leadDays',
    before: number | null | undefined,
    width = 110,
  ) => (
    <NumField
      label={t(`enquiry.${key}`)}
      value={own[key]}
      onChange={(v) => put({ [key]: v })}
      kind="number"
      whole={key === 'cartonUnits'}
      hint={before == null ? null : known(f.number(before))}
      width={width}
    />
  );
  const row = { display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 1 } as const;
  return (
    <Box component="section" aria-label={t('enquiry.asQuote')}>
      <Typography variant="h4" component="h3" sx={{ mb: 0.5 }}>
        {t('enquiry.asQuote')}
      </Typography>
      <Box sx={row}>
        <SearchChoice
          label={t('order.currency')}
          value={currency}
          options={currencies}
          onChange={setCurrency}
          width={150}
        />
        <ChoiceLine
          label={t('enquiry.incoterm')}
          value={own.incoterm}
          options={[
            { value: '' as const, label: '–' },
            ...INCOTERMS.map((v) => ({ value: v, label: v as string })),
          ]}
          onChange={(incoterm) => put({ incoterm: incoterm as Quote['incoterm'] | '' })}
          width={100}
        />
      </Box>
      {breaks.map((b, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: breaks are told apart by their place alone
        <Box key={i} sx={row}>
          <NumField
            label={t('enquiry.from')}
            value={b.minQty}
            onChange={(minQty) => setBreaks(breaks.map((x, j) => (j === i ? { ...x, minQty } : x)))}
            kind="number"
            width={100}
          />
          <NumField
            label={
              b.minQty === null || b.minQty === 0
                ? t('enquiry.unitPriceAny')
                : t('enquiry.unitPrice', { quantity: f.number(b.minQty) })
            }
            value={b.unitPrice}
            onChange={(unitPrice) => setBreaks(breaks.map((x, j) => (j === i ? { ...x, unitPrice } : x)))}
            kind="money"
            currency={currency}
            hint={known(beforeAt(was, b.minQty ?? 0, f))}
            width={160}
          />
        </Box>
      ))}
      <Button size="small" onClick={() => setBreaks([...breaks, { minQty: null, unitPrice: null }])}>
        {t('enquiry.addBreak')}
      </Button>
      <Box sx={row}>
        {number('minimumOrder', was?.minimumOrder)}
        {number('leadDays', was?.leadDays)}
        <NumField
          label={t('enquiry.deposit')}
          value={own.deposit}
          onChange={(deposit) => put({ deposit })}
          kind="percent"
          max={1}
          hint={was?.depositShare == null ? null : known(f.percent(was.depositShare, 0))}
          width={110}
        />
      </Box>
      <Box sx={row}>
        {number('cartonUnits', was?.carton?.units)}
        {own.cartonUnits !== null && number('cartonVolume', was?.carton?.volumeM3)}
        {own.cartonUnits !== null && number('cartonKg', was?.carton?.kg)}
      </Box>
      <Box sx={row}>
        <SidesField label={t('enquiry.sides')} value={own.sides} onChange={(sides) => put({ sides })} />
        <NumField
          label={t('enquiry.kg')}
          value={own.kg}
          onChange={(kg) => put({ kg })}
          kind="weight"
          width={130}
        />
        <TextLine
          label={t('enquiry.validUntil')}
          value={own.validUntil}
          onChange={(validUntil) => put({ validUntil })}
          type="date"
          width={150}
        />
      </Box>
      <Button
        variant="contained"
        disabled={priced.length === 0 || own.incoterm === '' || !isSaved}
        onClick={record}>
        {t('enquiry.record')}
      </Button>
    </Box>
  );
}

/** The price one knew of before, for a quantity. */
function beforeAt(was: Quote | null, quantity: number, f: ReturnType<typeof useFormat>): string | null {
  const price = was?.priceBreaks.findLast((b) => b.minQty <= quantity)?.unitPrice ?? null;
  return price === null || was === null ? null : f.money(price, was.currency);
}
