import { Box, Link, Popover, Typography } from '@mui/material';
import { useState } from 'react';
import type { MouseEvent, ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { workings } from '../../../core/lane/workings.ts';
import type { WorkingTerm, Workings as All } from '../../../core/lane/workings.ts';
import { useFormat } from '../../ui/locale.ts';
import type { Format } from '../../ui/locale.ts';

/** A figure that opens its workings: the formula with the numbers in it, and where each came from. */
export function Figure({ doc, of, children, label }: { doc: LaneDocument; of: string; children: ReactNode; label: string }) {
  const { t } = useTranslation();
  const [open, setOpen] = useState<{ el: HTMLElement; all: All } | null>(null);
  return (
    <>
      <Link
        component="button" type="button" underline="none" color="inherit"
        aria-label={t('workings.open', { figure: label })} aria-haspopup="dialog"
        onClick={(e: MouseEvent<HTMLElement>) => {
          e.stopPropagation();
          setOpen({ el: e.currentTarget, all: workings(doc) });
        }}
        sx={{ font: 'inherit', fontWeight: 'inherit', textAlign: 'right', verticalAlign: 'baseline', borderBottom: '1px dotted', borderColor: 'fieldLine', '&:hover': { borderColor: 'primary.main', color: 'primary.main' } }}
      >
        {children}
      </Link>
      {open !== null && (
        <Popover open anchorEl={open.el} onClose={() => setOpen(null)} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }} slotProps={{ paper: { role: 'dialog', 'aria-label': t('workings.of', { figure: label }), sx: { p: 2, maxWidth: 520 } } }}>
          <Typography variant="h3" gutterBottom>{label}</Typography>
          {(open.all[of] ?? []).length === 0 && <Typography variant="body2">{t('workings.none')}</Typography>}
          {(open.all[of] ?? []).map((w, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: steps have no other name and never move
            <Step key={i} amount={w.amount} formula={w.formula} terms={w.terms} currency={doc.currency} />
          ))}
        </Popover>
      )}
    </>
  );
}

function termText(term: WorkingTerm, currency: string, f: Format): string {
  if (term.value === null) return '–';
  if (typeof term.value === 'string') return term.value;
  switch (term.unit) {
    case 'money': return `${f.number(term.value, 6)} ${currency}`;
    case 'share': return f.percent(term.value, 2);
    case 'kg': return `${f.number(term.value, 4)} kg`;
    case 'm3': return `${f.number(term.value, 6)} m³`;
    default: return f.number(term.value, 6);
  }
}

function Step({ amount, formula, terms, currency }: { amount: number | null; formula: string; terms: readonly WorkingTerm[]; currency: string }) {
  const { t } = useTranslation();
  const f = useFormat();
  const name = (key: string) => t(`term.${key}`, { defaultValue: t(`lines.${key}`, { defaultValue: key }) });
  const inWords = formula.replace(/[A-Za-z]\w*/g, (word) => (/^(round|max|min|clamp|sum)$/.test(word) ? word : name(word))).replaceAll(' * ', ' × ').replaceAll(' / ', ' ÷ ').replaceAll(' - ', ' − ');
  return (
    <Box sx={{ mb: 1.5 }}>
      <Typography variant="body2" sx={{ mb: 1 }}>{inWords} = <b>{f.number(amount, 6)} {currency}</b></Typography>
      <Box component="table" sx={{ borderCollapse: 'collapse', fontSize: '0.82rem', '& td': { py: 0.25, pr: 1.5, verticalAlign: 'top' } }}>
        <tbody>
          {terms.map((term) => (
            <tr key={term.name}>
              <td>{name(term.name)}</td>
              <Box component="td" sx={{ textAlign: 'right', fontWeight: 600 }}>{termText(term, currency, f)}</Box>
              <Box component="td" sx={{ color: 'text.secondary' }}>{t(`source.${term.origin.source}`)}{term.origin.note ? ` · ${term.origin.note}` : ''}{term.origin.date ? ` · ${f.day(term.origin.date)}` : ''}</Box>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
