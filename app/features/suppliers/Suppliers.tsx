import { Alert, Box, Button, InputBase, Typography } from '@mui/material';
import { useState } from 'react';
import { Form, Link, useActionData, useNavigation } from 'react-router';
import type { QuoteSource } from '../../../core/workspace/records.ts';
import { addWords } from '../../i18n.ts';
import { supplierWords } from '../../locales/en.suppliers.ts';
import { LANGUAGES, supplierRecord } from '../../../core/workspace/supplier.ts';
import { useRecordForm } from '../../ui/forms.ts';
import type { Language, SupplierRecord } from '../../../core/workspace/supplier.ts';
import type { FormAnswer } from '../../ui/forms.ts';
import { ChoiceLine, fieldInput } from '../../ui/Field.tsx';
import { FigureTable } from '../../ui/FigureTable.tsx';
import { useFormat } from '../../ui/locale.ts';
import { countryName, languageName } from '../../ui/names.ts';
import { useAddress } from '../../ui/useAddress.ts';
import { useWords } from '../../ui/useWords.ts';

addWords(supplierWords);

type Supplier = {
  id: string | null;
  name: string;
  country: string | null;
  currency: string | null;
  contact: string;
  mail: string;
  language: Language;
  notes: string;
  quotes: {
    id: string;
    candidateId: string;
    candidate: string;
    data: QuoteSource;
    lanes: number;
    bestProfit: number | null;
  }[];
};

/** Suppliers and one supplier's sheet with everything bought there. */
export function SuppliersPage({
  suppliers,
  homeCurrency,
  today,
  root,
  canEdit,
}: {
  suppliers: Supplier[];
  homeCurrency: string;
  today: string;
  root: string;
  canEdit: boolean;
}) {
  const { t, i18n } = useWords();
  const f = useFormat();
  const [search] = useAddress();
  const isNew = search.get('new') === '1';
  const chosen = isNew
    ? null
    : (suppliers.find((s) => s.name === search.get('name')) ?? suppliers[0] ?? null);
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap', mb: 1.5 }}>
        <Typography variant="h1">{t('supplierList.title')}</Typography>
        <Typography color="text.secondary" sx={{ flex: 1 }}>
          {t('supplierList.lead')}
        </Typography>
        <Button component="a" href={`${root}/suppliers/file?as=csv`} size="small">
          {t('supplierList.csv')}
        </Button>
        <Button component="a" href={`${root}/suppliers/file?as=xlsx`} size="small">
          {t('supplierList.xlsx')}
        </Button>
        {canEdit && (
          <Button component={Link} to="?new=1">
            {t('supplierList.new')}
          </Button>
        )}
      </Box>
      {suppliers.length === 0 && !isNew ? (
        <Typography>{t('supplierList.none')}</Typography>
      ) : (
        <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '220px 1fr' }, gap: 3 }}>
          <Box component="nav" aria-label={t('supplierList.title')}>
            {suppliers.map((s) => (
              <Box
                key={s.name}
                component={Link}
                to={`?name=${encodeURIComponent(s.name)}`}
                aria-current={s === chosen ? 'page' : undefined}
                dir="auto"
                sx={{
                  display: 'flex',
                  justifyContent: 'space-between',
                  gap: 1,
                  fontSize: '0.88rem',
                  py: 0.4,
                  px: 1,
                  ml: -1,
                  borderRadius: 1,
                  color: 'text.primary',
                  textDecoration: 'none',
                  bgcolor: s === chosen ? 'paperTint' : 'transparent',
                  fontWeight: s === chosen ? 650 : 400,
                }}>
                <span>{s.name}</span>
                <Box component="span" sx={{ color: 'text.secondary' }}>
                  {s.quotes.length}
                </Box>
              </Box>
            ))}
          </Box>
          <Box sx={{ minWidth: 0 }}>
            <Record key={chosen?.name ?? 'new'} supplier={chosen} canEdit={canEdit} />
            {chosen !== null &&
              (chosen.quotes.length === 0 ? (
                <Typography>{t('supplierList.nothing')}</Typography>
              ) : (
                <FigureTable label={chosen.name}>
                  <thead>
                    <tr>
                      <th scope="col">{t('supplierList.candidate')}</th>
                      <th scope="col">{t('supplierList.price')}</th>
                      <th scope="col">{t('supplierList.rule')}</th>
                      <th scope="col">{t('supplierList.minimum')}</th>
                      <th scope="col">{t('supplierList.date')}</th>
                      <th scope="col">{t('supplierList.valid')}</th>
                      <th scope="col">{t('supplierList.lanes')}</th>
                      <th scope="col">{t('supplierList.best', { currency: homeCurrency })}</th>
                    </tr>
                  </thead>
                  <tbody>
                    {chosen.quotes.map((q) => {
                      const d = q.data;
                      const expired = d.validUntil !== null && today > d.validUntil;
                      return (
                        <tr key={q.id}>
                          <th scope="row" style={{ fontWeight: 400 }}>
                            <Box
                              component={Link}
                              to={`${root}/weigh/${q.candidateId}`}
                              dir="auto"
                              sx={{ color: 'text.primary', fontWeight: 600 }}>
                              {q.candidate}
                            </Box>
                          </th>
                          <td>
                            {d.kind === 'quote'
                              ? d.priceBreaks.map((b) => (
                                  <div key={b.minQty}>
                                    {d.priceBreaks.length > 1 || b.minQty > 0
                                      ? t('supplierList.breaks', {
                                          quantity: f.number(b.minQty),
                                          price: f.money(b.unitPrice, d.currency),
                                        })
                                      : f.money(b.unitPrice, d.currency)}
                                  </div>
                                ))
                              : f.money(d.shelfPrice, d.currency)}
                            {d.kind === 'quote' && d.firstPrice != null && (
                              <Box sx={{ fontSize: '0.76rem', color: 'text.secondary' }}>
                                {t('supplierList.first', { price: f.money(d.firstPrice, d.currency) })}
                              </Box>
                            )}
                          </td>
                          <td>{d.kind === 'quote' ? d.incoterm : 'EXW'}</td>
                          <td>{d.kind === 'quote' ? f.number(d.minimumOrder) : ''}</td>
                          <td>{d.date === null ? '–' : f.day(d.date)}</td>
                          <Box component="td" sx={{ color: expired ? 'error.main' : 'inherit' }}>
                            {d.validUntil === null ? '–' : f.day(d.validUntil)}
                            {expired && <Box sx={{ fontSize: '0.76rem' }}>{t('supplierList.expired')}</Box>}
                          </Box>
                          <td>{q.lanes}</td>
                          <Box
                            component="td"
                            sx={{
                              fontWeight: 650,
                              color:
                                q.bestProfit !== null && q.bestProfit < 0 ? 'error.main' : 'primary.main',
                            }}>
                            {f.money(q.bestProfit, homeCurrency)}
                            {q.bestProfit !== null && q.bestProfit < 0 && ` ${t('lanes.losesWord')}`}
                          </Box>
                        </tr>
                      );
                    })}
                  </tbody>
                </FigureTable>
              ))}
            {chosen !== null && chosen.country !== null && (
              <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
                {countryName(chosen.country, i18n.language)}
              </Typography>
            )}
          </Box>
        </Box>
      )}
    </Box>
  );
}

function Record({ supplier, canEdit }: { supplier: Supplier | null; canEdit: boolean }) {
  const { t, i18n } = useWords();
  const [language, setLanguage] = useState(supplier?.language ?? 'en');
  const answer = useActionData<FormAnswer & { error?: string }>();
  const busy = useNavigation().state === 'submitting';
  const form = useRecordForm(supplierRecord, answer, {
    name: supplier?.name ?? '',
    country: supplier?.country ?? '',
    currency: supplier?.currency ?? '',
    mail: supplier?.mail ?? '',
    contact: supplier?.contact ?? '',
    notes: supplier?.notes ?? '',
  });
  const field = (which: keyof SupplierRecord, width: number, max: number) => {
    const { id, name, begins, wrong, wrongId } = form.field(which);
    return (
      <Box sx={{ width }}>
        <Box component="label" htmlFor={id} sx={{ fontSize: '0.76rem', color: 'text.secondary' }}>
          {t(`supplierList.${which}`)}
        </Box>
        <InputBase
          id={id}
          name={name}
          defaultValue={begins}
          readOnly={!canEdit}
          inputProps={{
            maxLength: max,
            'aria-invalid': wrong !== undefined,
            'aria-describedby': wrong === undefined ? undefined : wrongId,
          }}
          sx={fieldInput(wrong !== undefined)}
        />
        {wrong !== undefined && (
          <Box id={wrongId} sx={{ fontSize: '0.76rem', color: 'error.main' }}>
            {wrong}
          </Box>
        )}
      </Box>
    );
  };
  return (
    <Form method="post" {...form.props}>
      <input type="hidden" name="id" value={supplier?.id ?? ''} />
      {answer?.error && (
        <Alert severity="error" sx={{ mb: 1 }}>
          {answer.error}
        </Alert>
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, alignItems: 'flex-start', mb: 2 }}>
        {field('name', 240, 200)}
        {field('country', 80, 2)}
        {field('currency', 80, 3)}
        {field('mail', 220, 200)}
        <ChoiceLine
          label={t('supplierList.language')}
          name="language"
          value={language}
          options={LANGUAGES.map((l) => ({ value: l, label: languageName(l, i18n.language) }))}
          onChange={setLanguage}
          width={120}
        />
        {field('contact', 200, 500)}
        {field('notes', 300, 5000)}
        {canEdit && (
          <Button type="submit" disabled={busy} sx={{ mt: 2.25 }}>
            {t(supplier !== null && supplier.id === null ? 'supplierList.record' : 'supplierList.save')}
          </Button>
        )}
      </Box>
    </Form>
  );
}
