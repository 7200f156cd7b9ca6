/**
 * How sure a lane's figures are: where its amounts come from, what is out of date, and what one says of one's
 * own.
 */
import { Box, Typography } from '@mui/material';
import { useState } from 'react';
import { confidenceOf, OWN_SOURCES, ownInputs, staleInputs } from '../../../core/lane/confidence.ts';
import { provenFees } from '../../../core/proofs/check.ts';
import { exchangeFactor } from '../../../core/money/money.ts';
import { ChoiceLine, TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import type { Part } from './More.tsx';
import { table } from './moreParts.ts';
import { useStore } from './store.ts';
import { useProven } from './useProven.ts';
import { useWords } from '../../ui/useWords.ts';

export function Sure({ view }: Part) {
  const { t } = useWords();
  const f = useFormat();
  const { doc, result } = view;
  const { held } = useProven(doc);
  const sure = confidenceOf(doc, result, held === null ? {} : provenFees(held));
  const stale = staleInputs(doc);
  const store = useStore();
  const table_ = doc.rates.exchange;
  const own = ownInputs(doc);
  const say = (input: string, source: string, note: string): void =>
    store.edit([
      { entity: 'lane', id: view.id, path: ['provenance', input], to: { source, date: doc.date, note } },
    ]);
  const foreign = [
    ...new Set([
      doc.homeCurrency,
      ...(Array.isArray(doc.goods) ? doc.goods.map((g) => g.source.currency) : []),
    ]),
  ].filter((x) => x !== doc.currency);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1fr 1.2fr' }, gap: 4 }}>
      <Box>
        <Typography sx={{ mb: 1, fontWeight: 650 }} data-testid="sure-answer">
          {sure.unsure > 0.0005 ? t('sure.answer', { share: f.percent(sure.unsure, 0) }) : t('sure.all')}
        </Typography>
        {stale.map((s) => (
          <Typography key={s.what + s.date} color="error" variant="body2">
            {t(`sure.stale.${s.what}`, {
              name: s.name || t('suppliers.supplier', { defaultValue: '–' }),
              days: s.days,
              date: f.day(s.date),
            })}
          </Typography>
        ))}
        <Box component="table" sx={{ ...table, my: 1 }}>
          <thead>
            <tr>
              <th scope="col">{t('sure.source')}</th>
              <th scope="col">
                {t('form.amount')}, {doc.currency}
              </th>
              <th scope="col">{t('sure.part')}</th>
            </tr>
          </thead>
          <tbody>
            {sure.shares.map((s) => (
              <tr key={s.source}>
                <th scope="row" style={{ fontWeight: 400 }}>
                  {t(`source.${s.source}`)}
                </th>
                <td>{f.plain(sure.bySource[s.source] ?? null, doc.currency)}</td>
                <td>
                  {f.percent(s.share, 0)}
                  <Box
                    aria-hidden
                    sx={{ height: 4, bgcolor: 'text.primary', ml: 'auto' }}
                    style={{ width: `${100 * s.share}%` }}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </Box>
        {table_ !== null &&
          foreign.map((from) => (
            <Typography key={from} variant="body2" color="text.secondary">
              {t('sure.rate', {
                rate: f.number(exchangeFactor(table_, doc.currency, from), 4),
                from,
                to: doc.currency,
                date: f.day(table_.date),
              })}
            </Typography>
          ))}
      </Box>
      <Box component="section" aria-label={t('sure.own')}>
        <Typography variant="h3" component="h3" sx={{ mb: 0.5 }}>
          {t('sure.own')}
        </Typography>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
          {t('sure.ownText')}
        </Typography>
        {own.map((x) => (
          <Box
            key={x.input}
            sx={{
              display: 'grid',
              gridTemplateColumns: '190px 1fr 90px',
              gap: 1.5,
              alignItems: 'end',
              py: 0.25,
            }}>
            <ChoiceLine
              label={t('sure.comes', { input: t(`sure.inputs.${x.input}`) })}
              value={x.source}
              width={190}
              options={[...new Set([...OWN_SOURCES, x.source])].map((v) => ({
                value: v,
                label: t(`source.${v}`),
              }))}
              onChange={(source) => say(x.input, source, x.note)}
            />
            <NoteLine
              label={t('sure.note', { input: t(`sure.inputs.${x.input}`) })}
              value={x.note}
              onDone={(note) => say(x.input, x.source, note)}
            />
            <Box sx={{ fontSize: '0.78rem', color: 'text.secondary', pb: 0.75 }}>
              {x.date === null ? '' : f.day(x.date)}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** A short text that is taken when one leaves it. */
function NoteLine({
  label,
  value,
  onDone,
}: {
  label: string;
  value: string;
  onDone: (text: string) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  return (
    <Box
      onBlur={() => {
        if (text !== null && text.trim() !== value) onDone(text.trim().slice(0, 200));
        setText(null);
      }}>
      <TextLine label={label} value={text ?? value} onChange={setText} width="100%" />
    </Box>
  );
}
