import { Box, InputBase } from '@mui/material';
import type { CSSProperties, KeyboardEvent, ReactNode } from 'react';
import { useEffect, useId, useRef, useState } from 'react';
import { minorDigits } from '../../core/money/money.ts';
import { useFormat } from './locale.ts';
import { parseMeasure, parseNumber, parseSides } from './parseNumber.ts';
import { useWords } from './useWords.ts';

export type NumberKind = 'money' | 'percent' | 'number' | 'length' | 'weight';
type Shell = {
  label: string;
  tag?: string | undefined;
  error?: string | null;
  note?: string | null;
  width?: number | string;
  inTable?: boolean;
  children: (ids: { id: string; describedBy: string | undefined }) => ReactNode;
};

/** Label above, a line below, what is wrong or doubtful under it. */
export function FieldShell({ label, tag, error, note, width = 108, inTable = false, children }: Shell) {
  const id = useId();
  const says = error ?? note ?? null;
  return (
    <Box sx={{ width, maxWidth: '100%' }}>
      <Box
        component="label"
        htmlFor={id}
        className={inTable ? 'hidden-text' : undefined}
        sx={{
          display: 'flex',
          gap: 0.75,
          fontSize: '0.76rem',
          color: 'text.secondary',
          minHeight: 18,
          alignItems: 'baseline',
        }}>
        {label}
        {tag && (
          <Box component="span" sx={{ fontSize: '0.7rem', fontStyle: 'italic' }}>
            {tag}
          </Box>
        )}
      </Box>
      {children({ id, describedBy: says === null ? undefined : `${id}-says` })}
      {says !== null && (
        <Box
          id={`${id}-says`}
          role={error ? 'alert' : undefined}
          sx={{
            fontSize: '0.74rem',
            mt: 0.25,
            color: error ? 'error.main' : 'text.secondary',
            lineHeight: 1.3,
          }}>
          {says}
        </Box>
      )}
    </Box>
  );
}

export const fieldInput = (error: boolean) => ({
  width: '100%',
  bgcolor: 'background.paper',
  borderBottom: '1.5px solid',
  borderColor: error ? 'error.main' : 'fieldLine',
  px: 0.75,
  borderRadius: '4px 4px 0 0',
  '&.Mui-focused': { borderColor: 'primary.main', boxShadow: '0 1px 0 var(--mui-palette-primary-main)' },
  '& input, & textarea': { py: 0.5, fontSize: '0.92rem', fontWeight: 550 },
});

/** The same for a bare input. */
export const fieldLook: CSSProperties = {
  width: '100%',
  height: 31,
  boxSizing: 'border-box',
  font: 'inherit',
  fontWeight: 550,
  color: 'var(--mui-palette-text-primary)',
  background: 'var(--mui-palette-background-paper)',
  border: 0,
  borderBottom: '1.5px solid var(--mui-palette-fieldLine)',
  borderRadius: '4px 4px 0 0',
  padding: '0 6px',
  textOverflow: 'ellipsis',
};

export type NumFieldProps = {
  label: string;
  value: number | null;
  onChange: (value: number | null) => void;
  kind: NumberKind;
  currency?: string;
  tag?: string | undefined;
  min?: number;
  max?: number;
  /** What an arrow key adds; Shift makes it ten times as much. */
  step?: number;
  required?: boolean;
  whole?: boolean;
  width?: number | string;
  message?: string | null;
  /** Said below the field, and no fault. */
  hint?: string | null;
  autoFocus?: boolean;
  name?: string;
  /** In a cell whose column and row say what it is: its label is read out, not shown. */
  inTable?: boolean;
};

/**
 * A number where it stands: reads what people type or paste, says what it understood where that could be
 * doubted, steps by arrow keys, and keeps the text as typed while it has the focus.
 */
export function NumField({
  label,
  value,
  onChange,
  kind,
  currency,
  tag,
  min = 0,
  max = 1e12,
  step,
  required = false,
  whole = false,
  width,
  message = null,
  hint = null,
  autoFocus,
  name,
  inTable = false,
}: NumFieldProps) {
  const { t } = useWords();
  const f = useFormat();
  const factor = kind === 'percent' ? 100 : 1;
  const show = (v: number | null): string => {
    if (v === null) return '';
    const x = v * factor;
    if (kind === 'money' && currency !== undefined) return f.inField(x, minorDigits(currency), 6);
    return f.inField(x, 0, kind === 'percent' ? 4 : 6);
  };
  const [text, setText] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [note, setNote] = useState<string | null>(null);
  const sent = useRef(value);
  useEffect(() => {
    // A value that came from elsewhere (undo, a conflict, a default) replaces the text.
    if (value !== sent.current) {
      sent.current = value;
      setText(null);
      setError(null);
      setNote(null);
    }
  }, [value]);

  const check = (x: number): string | null => {
    if (x < min * factor - 1e-12)
      return min === 0 ? t('field.negative') : t('field.tooSmall', { min: f.number(min * factor) });
    if (x > max * factor + 1e-9) return t('field.tooLarge', { max: f.number(max * factor) });
    if (whole && !Number.isInteger(x)) return t('field.whole');
    return null;
  };
  const take = (x: number | null): void => {
    sent.current = x === null ? null : x / factor;
    onChange(sent.current);
  };
  const read = (typed: string): void => {
    setText(typed);
    setNote(null);
    if (kind === 'length' || kind === 'weight') {
      const m = parseMeasure(typed, kind, f.locale);
      if (m === 'blank') {
        setError(required ? t('field.required') : null);
        take(null);
        return;
      }
      if (m === null) {
        setError(t(`field.${kind}`));
        return;
      }
      const wrong = check(m.value);
      setError(wrong);
      if (wrong === null) {
        if (m.unit !== 'cm' && m.unit !== 'kg')
          setNote(`= ${f.number(m.value, 4)} ${kind === 'length' ? 'cm' : 'kg'}`);
        take(m.value);
      }
      return;
    }
    const got = parseNumber(typed, f.locale, kind === 'money' ? currency : undefined);
    if (got.kind === 'blank') {
      setError(required ? t('field.required') : null);
      if (!required) take(null);
    } else if (got.kind === 'wrongCurrency')
      setError(t('field.wrongCurrency', { found: got.found, currency }));
    else if (got.kind === 'notANumber') setError(t('field.notANumber'));
    else {
      const wrong = check(got.value);
      setError(wrong);
      if (wrong !== null) return;
      if (got.doubtful)
        setNote(
          t('field.understood', {
            value: kind === 'money' && currency ? f.money(got.value, currency) : f.number(got.value, 6),
          }),
        );
      take(got.value);
    }
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return;
    e.preventDefault();
    const by =
      (step ?? (kind === 'percent' ? 1 : kind === 'money' ? 0.1 : 1)) *
      (e.shiftKey ? 10 : 1) *
      (e.key === 'ArrowUp' ? 1 : -1);
    const x = Number(((value ?? 0) * factor + by).toFixed(6));
    if (check(x) !== null) return;
    // The text first, while nothing else on the page has changed: set after that, a browser lays out the whole page for
    // it before the key is done.
    (e.target as HTMLInputElement).value = show(x / factor);
    setText(null);
    setError(null);
    setNote(null);
    take(x);
  };
  const suffix =
    kind === 'percent'
      ? '%'
      : kind === 'length'
        ? 'cm'
        : kind === 'weight'
          ? 'kg'
          : kind === 'money'
            ? currency
            : undefined;
  return (
    <FieldShell
      label={suffix === undefined ? label : `${label}, ${suffix}`}
      tag={tag}
      error={error ?? message}
      note={note ?? hint}
      inTable={inTable}
      {...(width === undefined ? {} : { width })}>
      {({ id, describedBy }) => (
        <InputBase
          id={id}
          {...(name === undefined ? {} : { name })}
          value={text ?? show(value)}
          autoFocus={autoFocus ?? false}
          onChange={(e) => read(e.target.value)}
          onBlur={() => {
            if (error === null) setText(null);
          }}
          onKeyDown={onKeyDown}
          error={error !== null || message !== null}
          inputProps={{
            inputMode: 'decimal',
            autoComplete: 'off',
            'aria-invalid': error !== null || message !== null,
            ...(describedBy === undefined ? {} : { 'aria-describedby': describedBy }),
            style: { textAlign: 'right' },
          }}
          sx={fieldInput(error !== null || message !== null)}
        />
      )}
    </FieldShell>
  );
}

export function TextLine({
  label,
  value,
  onChange,
  width,
  maxLength = 200,
  tag,
  multiline = false,
  maxRows,
  error = null,
  required = false,
  placeholder,
  type = 'text',
  inTable = false,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  width?: number | string;
  maxLength?: number;
  tag?: string | undefined;
  multiline?: boolean;
  /** Rows of a field of several lines, which it scrolls beyond. */
  maxRows?: number;
  error?: string | null;
  required?: boolean;
  placeholder?: string;
  type?: 'text' | 'date';
  /** In a cell whose column says what it is: its label is read out, not shown. */
  inTable?: boolean;
}) {
  return (
    <FieldShell
      label={label}
      tag={tag}
      error={error}
      inTable={inTable}
      {...(width === undefined ? {} : { width })}>
      {({ id, describedBy }) => (
        <InputBase
          id={id}
          type={type}
          value={value}
          required={required}
          {...(placeholder === undefined ? {} : { placeholder })}
          multiline={multiline}
          {...(maxRows === undefined ? {} : { maxRows })}
          onChange={(e) => onChange(e.target.value)}
          inputProps={{
            maxLength,
            ...(describedBy === undefined ? {} : { 'aria-describedby': describedBy }),
          }}
          sx={fieldInput(error !== null)}
        />
      )}
    </FieldShell>
  );
}

export function ChoiceLine<T extends string>({
  label,
  value,
  options,
  onChange,
  width,
  tag,
  name,
  inTable = false,
}: {
  label: string;
  value: T;
  options: readonly { value: T; label: string }[];
  onChange?: (v: T) => void;
  width?: number | string;
  tag?: string | undefined;
  name?: string;
  /** Its label is said and not seen: the table's heading stands over it. */
  inTable?: boolean;
}) {
  return (
    <FieldShell label={label} tag={tag} inTable={inTable} {...(width === undefined ? {} : { width })}>
      {({ id }) => (
        <Box
          component="select"
          id={id}
          {...(name === undefined ? {} : { name })}
          {...(onChange === undefined
            ? { defaultValue: value }
            : { value, onChange: (e: { target: { value: string } }) => onChange(e.target.value as T) })}
          sx={{
            width: '100%',
            boxSizing: 'border-box',
            height: 31,
            font: 'inherit',
            fontWeight: 550,
            color: 'text.primary',
            bgcolor: 'background.paper',
            border: 0,
            borderBottom: '1.5px solid',
            borderColor: 'fieldLine',
            borderRadius: '4px 4px 0 0',
            px: 0.5,
          }}>
          {options.map((o) => (
            <option key={o.value} value={o.value}>
              {o.label}
            </option>
          ))}
        </Box>
      )}
    </FieldShell>
  );
}

/** Three sides in one field: 20 × 15 × 8 cm, or in inches. */
export function SidesField({
  label,
  value,
  onChange,
  tag,
  width = 170,
}: {
  label: string;
  value: readonly [number, number, number] | null;
  onChange: (v: [number, number, number] | null) => void;
  tag?: string | undefined;
  width?: number | string;
}) {
  const { t } = useWords();
  const f = useFormat();
  const [text, setText] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const shown = value === null ? '' : value.map((v) => f.number(v, 3)).join(' × ');
  return (
    <FieldShell label={`${label}, cm`} tag={tag} error={error} width={width}>
      {({ id, describedBy }) => (
        <InputBase
          id={id}
          value={text ?? shown}
          placeholder={t('field.sidesExample')}
          onChange={(e) => {
            setText(e.target.value);
            const s = parseSides(e.target.value, f.locale);
            setError(s === null ? t('field.sides') : null);
            if (s === 'blank') onChange(null);
            else if (s !== null) onChange(s);
          }}
          onBlur={() => {
            if (error === null) setText(null);
          }}
          inputProps={{
            autoComplete: 'off',
            'aria-invalid': error !== null,
            ...(describedBy === undefined ? {} : { 'aria-describedby': describedBy }),
          }}
          sx={fieldInput(error !== null)}
        />
      )}
    </FieldShell>
  );
}
