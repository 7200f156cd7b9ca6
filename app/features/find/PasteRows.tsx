/** Candidates from rows of a spreadsheet, or from a lane document. */
import { Box, Button, InputBase, Typography } from '@mui/material';
import type { TFunction } from 'i18next';
import Papa from 'papaparse';
import { useRef, useState } from 'react';
import { FileField } from '../../ui/FileField.tsx';
import { useSubmit } from 'react-router';
import { readGtin } from '../../../core/goods/gtin.ts';
import type { Way } from '../../../core/lane/choices.ts';
import { useFormat } from '../../ui/locale.ts';
import type { Format } from '../../ui/locale.ts';
import { parseMeasure, parseNumber, parseSides } from '../../ui/parseNumber.ts';
import type { Props } from './NewCandidate.tsx';
import { useWords } from '../../ui/useWords.ts';

type PastedRow = {
  line: number;
  name: string;
  price: number | null;
  cost: number | null;
  sides: [number, number, number] | null;
  kg: number | null;
  /** A cell that is a barcode, wherever it stands. */
  gtin: string | null;
  problem: string | null;
};

/** Rows pasted from a spreadsheet: name, price, cost, size, weight; tabs, semicolons or commas between. */
export function readRows(
  text: string,
  f: Pick<Format, 'locale'>,
  t: TFunction,
  currencies: { price: string; cost: string },
): PastedRow[] {
  const delimiter = text.includes('\t') ? '\t' : text.includes(';') ? ';' : ',';
  const parsed = Papa.parse<string[]>(text, { delimiter, skipEmptyLines: 'greedy' });
  const rows = parsed.data.map((cells, i) => ({ cells: cells.map((c) => c.trim()), line: i + 1 }));
  // A first row without any number is a heading.
  const body =
    rows.length > 1 && rows[0]?.cells.slice(1).every((c) => parseNumber(c, f.locale).kind !== 'number')
      ? rows.slice(1)
      : rows;
  return body.map(({ cells: all, line }) => {
    const at = all.findIndex((c) => readGtin(c).ok);
    const cells = all.filter((_, i) => i !== at);
    const barcode = readGtin(all[at] ?? '');
    const row: PastedRow = {
      line,
      name: (cells[0] ?? '').slice(0, 200),
      price: null,
      cost: null,
      sides: null,
      kg: null,
      gtin: barcode.ok ? barcode.code : null,
      problem: null,
    };
    if (row.name === '') row.problem = t('find.rowNoName');
    for (const [i, key] of [
      [1, 'price'],
      [2, 'cost'],
    ] as const) {
      const n = parseNumber(cells[i] ?? '', f.locale, currencies[key]);
      if (n.kind === 'wrongCurrency')
        row.problem ??= t('find.rowCurrency', {
          field: t(`find.${key}`).toLowerCase(),
          found: n.found,
          currency: currencies[key],
        });
      else if (n.kind === 'number' && n.value >= 0) row[key] = n.value;
      else if (n.kind === 'number')
        row.problem ??= t('find.rowNegative', { field: t(`find.${key}`).toLowerCase() });
      else if (n.kind !== 'blank')
        row.problem ??= t('find.rowNotNumber', {
          field: t(`find.${key}`).toLowerCase(),
          text: cells[i] ?? '',
        });
    }
    const s = parseSides(cells[3] ?? '', f.locale);
    if (s === null) row.problem ??= t('find.rowSides', { text: cells[3] ?? '' });
    else if (s !== 'blank') row.sides = s;
    const w = parseMeasure(cells[4] ?? '', 'weight', f.locale);
    if (w === null) row.problem ??= t('find.rowWeight', { text: cells[4] ?? '' });
    else if (w !== 'blank' && w.value > 0) row.kg = w.value;
    return row;
  });
}

export function PasteRows({
  settings,
  chosen,
  country,
  way,
  canEdit,
  currency,
  from,
}: Props & { way: Way; currency: string; from: string }) {
  const { t } = useWords();
  const f = useFormat();
  const submit = useSubmit();
  const [text, setText] = useState(from);
  const rows =
    text.trim() === '' ? [] : readRows(text, f, t, { price: currency, cost: settings.homeCurrency });
  const good = rows.filter((r) => r.problem === null);
  const send = () =>
    void submit(
      good.map((r) => ({
        name: r.name,
        way,
        price: r.price,
        cost: r.cost,
        costCurrency: settings.homeCurrency,
        sides: r.sides,
        kg: r.kg,
        gtin: r.gtin,
        marketplaceCardId: chosen,
        country,
      })) as never,
      { method: 'post', encType: 'application/json' },
    );
  return (
    <Box component="section" sx={{ mt: 5 }}>
      <Typography variant="h2">{t('find.pasteTitle')}</Typography>
      <Typography color="text.secondary" variant="body2" sx={{ mb: 1 }}>
        {t('find.pasteText', { currency: settings.homeCurrency })}
      </Typography>
      <InputBase
        multiline
        minRows={3}
        maxRows={10}
        fullWidth
        value={text}
        onChange={(e) => setText(e.target.value)}
        inputProps={{ 'aria-label': t('find.pasteTitle'), spellCheck: false }}
        placeholder={t('find.pasteExample')}
        sx={{
          border: '1px solid',
          borderColor: 'fieldLine',
          borderRadius: 1,
          bgcolor: 'background.paper',
          p: 1,
          fontSize: '0.86rem',
        }}
      />
      {rows.length > 0 && (
        <>
          <Box
            component="table"
            sx={{
              mt: 1.5,
              fontSize: '0.84rem',
              borderCollapse: 'collapse',
              '& td, & th': { pr: 2, py: 0.3, textAlign: 'left' },
            }}>
            <thead>
              <tr>
                <th>{t('find.row')}</th>
                <th>{t('find.name')}</th>
                <th>{t('find.price')}</th>
                <th>{t('find.costShort')}</th>
                <th>{t('form.sides')}</th>
                <th>{t('form.weight')}</th>
                <th>{t('find.check')}</th>
              </tr>
            </thead>
            <tbody>
              {rows.slice(0, 100).map((r) => (
                <tr key={r.line}>
                  <td>{r.line}</td>
                  <td dir="auto">
                    {r.name}
                    {r.gtin !== null && ` · ${r.gtin}`}
                  </td>
                  <td>{f.number(r.price)}</td>
                  <td>{f.number(r.cost)}</td>
                  <td>{r.sides?.map((x) => f.number(x)).join(' × ') ?? '–'}</td>
                  <td>{r.kg === null ? '–' : `${f.number(r.kg, 3)} kg`}</td>
                  <Box component="td" sx={{ color: r.problem === null ? 'text.secondary' : 'error.main' }}>
                    {r.problem ?? t(r.price === null ? 'find.okNoPrice' : 'find.ok')}
                  </Box>
                </tr>
              ))}
            </tbody>
          </Box>
          <Button variant="contained" sx={{ mt: 1 }} disabled={good.length === 0 || !canEdit} onClick={send}>
            {t('find.addRows', { good: good.length, all: rows.length })}
          </Button>
        </>
      )}
    </Box>
  );
}

/** A lane document from elsewhere becomes a candidate of its own, with its product, quote and rates. */
export function OpenDocument() {
  const { t } = useWords();
  const submit = useSubmit();
  const file = useRef<HTMLInputElement>(null);
  return (
    <Box component="section" sx={{ mt: 5 }}>
      <Typography variant="h2">{t('find.openTitle')}</Typography>
      <Typography color="text.secondary" variant="body2" sx={{ mb: 1 }}>
        {t('find.openText')}
      </Typography>
      <FileField
        ref={file}
        label={t('find.openTitle')}
        accept="application/json,.json"
        onFile={(chosen) =>
          void chosen
            .text()
            .then((text) => submit({ document: text }, { method: 'post', encType: 'application/json' }))
        }
      />
      <Button variant="outlined" onClick={() => file.current?.click()}>
        {t('find.openButton')}
      </Button>
    </Box>
  );
}
