/** The workings of a figure, step by step: the formula with its numbers, and where each came from. */
import { Box, Typography } from '@mui/material';
import type { TFunction } from 'i18next';
import type { TermUnit } from '../../../core/lane/reckoning.ts';
import { withoutNothing } from '../../../core/lane/workings.ts';
import type { Working, WorkingTerm } from '../../../core/lane/workings.ts';
import { addWords } from '../../i18n.ts';
import { workingWords } from '../../locales/en.workings.ts';
import { useFormat } from '../../ui/locale.ts';
import type { Format } from '../../ui/locale.ts';
import { useWords } from '../../ui/useWords.ts';

addWords(workingWords);

export default function WorkingSteps({
  steps,
  currency,
  amountCurrency,
}: {
  steps: readonly Working[];
  currency: string;
  amountCurrency: string;
}) {
  return steps.map((w, i) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: steps have no other name and never move
    <Step key={i} step={w} currency={currency} amountCurrency={amountCurrency} />
  ));
}

/** A choice of the document in words; names of one's own as they are. */
function wordsOf(term: string, value: string, t: TFunction): string {
  const within = {
    standing: 'standing',
    basis: 'basis',
    treatment: 'treatment',
    regime: 'regime',
    imported: 'importedAs',
  }[term];
  return within === undefined ? value : t(`${within}.${value}`, { defaultValue: value });
}

function termText(term: WorkingTerm, currency: string, f: Format, t: TFunction): string {
  if (term.value === null) return '–';
  if (typeof term.value === 'string') return wordsOf(term.name, term.value, t);
  switch (term.unit) {
    case 'money':
      return `${f.number(term.value, 4)} ${currency}`;
    case 'share':
      return f.percent(term.value, 2);
    case 'kg':
      return `${f.number(term.value, 4)} kg`;
    case 'm3':
      return `${f.number(term.value, 6)} m³`;
    default:
      return f.number(term.value, 6);
  }
}

/** A working in its unit: money with its currency, shares as percentages, the rest as numbers. */
function amountText(value: number | null, unit: TermUnit, currency: string, f: Format): string {
  return value === null
    ? '–'
    : unit === 'share'
      ? f.percent(value, 2)
      : unit === 'money' || unit === 'number'
        ? `${f.number(value, 4)}${unit === 'money' ? ` ${currency}` : ''}`
        : f.number(value, 4);
}

function Step({
  step,
  currency,
  amountCurrency,
}: {
  step: Working;
  currency: string;
  amountCurrency: string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const { amount, formula, terms, unit } = withoutNothing(step);
  const name = (key: string) =>
    t(`term.${key}`, {
      defaultValue: t(`lines.${key}`, { defaultValue: t(`figure.${key}`, { defaultValue: key }) }),
    });
  const inWords = formula
    .replace(/[A-Za-z]\w*/g, (word) => name(word))
    .replaceAll(' * ', ' × ')
    .replaceAll(' / ', ' ÷ ')
    .replaceAll(' - ', ' − ');
  const foreign = amountCurrency !== currency;
  return (
    <Box sx={{ mb: 1.5 }}>
      {step.rates.map((r) => (
        <Typography key={r.from} variant="body2" color="text.secondary">
          {t('workings.rate', { from: r.from, to: r.to, rate: f.number(r.factor, 6), date: f.day(r.date) })}
        </Typography>
      ))}
      <Typography variant="body2" sx={{ mb: 1 }}>
        {inWords} ={' '}
        <b>
          {amountText(amount, unit, amountCurrency, f)}
          {foreign && amount !== null && unit !== 'money' ? ` ${amountCurrency}` : ''}
        </b>
      </Typography>
      <Box
        component="table"
        sx={{
          borderCollapse: 'collapse',
          fontSize: '0.82rem',
          '& td': { py: 0.25, pr: 1.5, verticalAlign: 'top' },
        }}>
        <tbody>
          {terms.map((term) => (
            <tr key={term.name}>
              <td>{name(term.name)}</td>
              <Box component="td" sx={{ textAlign: 'right', fontWeight: 600 }}>
                {termText(term, currency, f, t)}
              </Box>
              <Box component="td" sx={{ color: 'text.secondary' }}>
                {t(`source.${term.origin.source}`)}
                {term.origin.note ? ` · ${term.origin.note}` : ''}
                {term.origin.date ? ` · ${f.day(term.origin.date)}` : ''}
              </Box>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
