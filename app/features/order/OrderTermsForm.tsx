/** From whom, on which terms: the form beside the lines. */
import { Box, Button } from '@mui/material';
import type { OrderTerms } from '../../../core/orders/schema.ts';
import { ChoiceLine, NumField, TextLine } from '../../ui/Field.tsx';
import { useCurrencies } from '../../ui/names.ts';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import { Pane } from '../weigh/Pane.tsx';
import type { OrderEdit } from './useOrder.ts';
import { useWords } from '../../ui/useWords.ts';

type Names = readonly { readonly name: string; readonly mail: string; readonly id: string }[];

export function OrderTermsForm({
  terms,
  edit,
  suppliers,
}: {
  terms: OrderTerms;
  edit: OrderEdit;
  suppliers: Names;
}) {
  const { t } = useWords();
  const currencies = useCurrencies();
  const { setTerms } = edit;
  const named = (supplier: string): void => {
    const its = suppliers.find((s) => s.name.toLowerCase() === supplier.trim().toLowerCase());
    setTerms({
      supplier,
      supplierId: its?.id ?? null,
      ...(its !== undefined && terms.mail === '' ? { mail: its.mail } : {}),
    });
  };
  const day = (key: 'placedOn' | 'wantedBy' | 'depositDay' | 'balanceDay') => (
    <TextLine
      label={t(`order.${key}`)}
      value={terms[key] ?? ''}
      onChange={(v) => setTerms({ [key]: v === '' ? null : v })}
      type="date"
      width={140}
    />
  );
  const row = { display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 1 } as const;
  return (
    <Pane title={t('order.terms')}>
      <Box sx={row}>
        <SupplierName value={terms.supplier} names={suppliers} onChange={named} />
        <TextLine
          label={t('order.mail')}
          value={terms.mail}
          onChange={(mail) => setTerms({ mail: mail.trim() })}
          width={220}
        />
        <SearchChoice
          label={t('order.currency')}
          value={terms.currency}
          options={currencies}
          onChange={(currency) => setTerms({ currency })}
          width={160}
        />
      </Box>
      <Box sx={row}>
        {day('placedOn')}
        {day('wantedBy')}
        <NumField
          label={t('order.leadDays')}
          value={terms.leadDays}
          onChange={(leadDays) => setTerms({ leadDays })}
          kind="number"
          max={3650}
          width={110}
        />
        <NumField
          label={t('order.creditDays')}
          value={terms.creditDays}
          onChange={(v) => setTerms({ creditDays: v ?? 0 })}
          kind="number"
          max={3650}
          width={90}
        />
        <TextLine
          label={t('order.incoterm')}
          value={terms.incoterm}
          onChange={(incoterm) => setTerms({ incoterm })}
          maxLength={20}
          width={100}
        />
      </Box>
      <Box sx={row}>
        <NumField
          label={t('order.delivery')}
          value={terms.delivery}
          onChange={(delivery) => setTerms({ delivery })}
          kind="money"
          currency={terms.currency}
          width={110}
        />
        <ChoiceLine
          label={t('order.deliveryVat')}
          value={terms.deliveryVat.vat}
          options={(['none', 'included', 'added'] as const).map((v) => ({
            value: v,
            label: t(`order.vatKinds.${v}`),
          }))}
          onChange={(vat) => setTerms({ deliveryVat: { ...terms.deliveryVat, vat } })}
          width={130}
        />
        {terms.deliveryVat.vat !== 'none' && (
          <NumField
            label={t('order.vatRate')}
            value={terms.deliveryVat.vatRate}
            onChange={(v) => setTerms({ deliveryVat: { ...terms.deliveryVat, vatRate: v ?? 0 } })}
            kind="percent"
            max={1}
            width={80}
          />
        )}
        <NumField
          label={t('order.minimumValue')}
          value={terms.minimumValue === 0 ? null : terms.minimumValue}
          onChange={(v) => setTerms({ minimumValue: v ?? 0 })}
          kind="money"
          currency={terms.currency}
          width={120}
        />
      </Box>
      <Box sx={row}>
        <NumField
          label={t('order.deposit')}
          value={terms.depositShare}
          onChange={(depositShare) => setTerms({ depositShare })}
          kind="percent"
          max={1}
          hint={terms.depositShare === null ? t('order.blankAll') : null}
          width={110}
        />
        {day('depositDay')}
        {terms.depositShare !== null && terms.depositShare < 1 && day('balanceDay')}
      </Box>
      <Charges terms={terms} edit={edit} />
      <TextLine
        label={t('order.note')}
        value={terms.note}
        onChange={(note) => setTerms({ note })}
        maxLength={5000}
        multiline
        maxRows={6}
        width="100%"
      />
    </Pane>
  );
}

function SupplierName({
  value,
  names,
  onChange,
}: {
  value: string;
  names: Names;
  onChange: (name: string) => void;
}) {
  const { t } = useWords();
  return (
    <Box>
      <TextLine label={t('order.supplier')} value={value} onChange={onChange} width={220} />
      <Box sx={{ fontSize: '0.76rem', maxWidth: 220 }}>
        {value === '' &&
          names.slice(0, 6).map((s) => (
            <Button
              key={s.id}
              size="small"
              sx={{ minWidth: 0, py: 0, px: 0.5, fontWeight: 400 }}
              onClick={() => onChange(s.name)}>
              <bdi>{s.name}</bdi>
            </Button>
          ))}
      </Box>
    </Box>
  );
}

function Charges({ terms, edit }: { terms: OrderTerms; edit: OrderEdit }) {
  const { t } = useWords();
  const { charges } = terms;
  const set = (next: OrderTerms['charges']): void => edit.setTerms({ charges: next });
  return (
    <Box sx={{ mb: 1 }}>
      {charges.map((c, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: charges are told apart by their place alone
        <Box key={i} sx={{ display: 'flex', gap: 1.5, alignItems: 'flex-end', mb: 0.5 }}>
          <TextLine
            label={t('order.charge')}
            value={c.name}
            onChange={(name) => set(charges.map((x, j) => (j === i ? { ...x, name } : x)))}
            width={180}
          />
          <NumField
            label={t('form.amount')}
            value={c.amount}
            onChange={(amount) => set(charges.map((x, j) => (j === i ? { ...x, amount } : x)))}
            kind="money"
            currency={terms.currency}
            width={110}
          />
          <Button
            size="small"
            aria-label={t('order.remove', { name: c.name })}
            onClick={() => set(charges.filter((_, j) => j !== i))}
            sx={{ minWidth: 0, color: 'text.secondary' }}>
            {t('order.removeShort')}
          </Button>
        </Box>
      ))}
      <Button size="small" onClick={() => set([...charges, { name: '', amount: null }])}>
        {t('order.addCharge')}
      </Button>
    </Box>
  );
}
