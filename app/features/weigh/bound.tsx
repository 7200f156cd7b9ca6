import { Box, Button, ToggleButton, ToggleButtonGroup } from '@mui/material';
import { memo } from 'react';
import type { ReactNode } from 'react';
import type { Patch, Path } from '../../../core/workspace/patch.ts';
import type { Provenance } from '../../../core/lane/schema.ts';
import { ChoiceLine, NumField, SidesField, TextLine } from '../../ui/Field.tsx';
import type { NumFieldProps } from '../../ui/Field.tsx';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import { useSelected, useStore, useValue } from './store.ts';
import { useWords } from '../../ui/useWords.ts';

export type At = { entity: Patch['entity']; id: string; path: Path };

/** Groups that say once, beside their state, that they are a default; their fields do not say it again. */
const GROUPS = new Set(['route', 'prep', 'returns', 'adverts', 'dispatch', 'supplierDelivery', 'storage']);

/**
 * "default" or "guess" where the lane says that this value, or the little group it belongs to, was not typed
 * by anybody.
 */
function useTag(at: At): string | undefined {
  const { t } = useWords();
  const provenance = useValue('lane', at.entity === 'lane' ? at.id : '', ['provenance']) as
    | Provenance
    | undefined;
  if (at.entity !== 'lane' || provenance === undefined) return undefined;
  const said =
    provenance[at.path.join('.')] ??
    (GROUPS.has(String(at.path[0])) ? undefined : provenance[String(at.path[0])]);
  return said?.source === 'default' || said?.source === 'guess' ? t(`source.${said.source}`) : undefined;
}

function useMessage(at: At): string | null {
  return useSelected(({ invalid }) =>
    invalid.length === 0
      ? null
      : (invalid.find(
          (i) =>
            i.patch.entity === at.entity &&
            i.patch.id === at.id &&
            i.patch.path.join('.') === at.path.join('.'),
        )?.message ?? null),
  );
}

type Bound = At &
  Omit<NumFieldProps, 'value' | 'onChange' | 'tag' | 'message'> & {
    also?: (value: number | null) => { entity: Patch['entity']; id: string; path: Path; to: unknown }[];
    zero?: boolean;
  };

/** A number bound to its place in the sheet. `zero`: an empty field means 0, not blank. */
export const Num = memo(function Num({ entity, id, path, also, zero = false, ...field }: Bound) {
  const store = useStore();
  const at = { entity, id, path };
  const value = useValue(entity, id, path) as number | null | undefined;
  const tag = useTag(at);
  const message = useMessage(at);
  return (
    <NumField
      {...field}
      tag={tag}
      message={message}
      value={value ?? null}
      onChange={(v) => store.edit([{ ...at, to: v ?? (zero ? 0 : null) }, ...(also?.(v) ?? [])])}
    />
  );
}, sameProps);

/**
 * Paths are written inline; compare them by content so that a keystroke elsewhere does not render every field
 * again.
 */
function sameProps(a: object, b: object): boolean {
  const keys = Object.keys(a);
  if (keys.length !== Object.keys(b).length) return false;
  return keys.every((k) => {
    const x = (a as Record<string, unknown>)[k];
    const y = (b as Record<string, unknown>)[k];
    return (
      x === y ||
      (k === 'path' && (x as Path).join('.') === (y as Path).join('.')) ||
      (k === 'options' && JSON.stringify(x) === JSON.stringify(y))
    );
  });
}

export const Text = memo(function Text({
  entity,
  id,
  path,
  ...field
}: At & {
  label: string;
  width?: number | string;
  multiline?: boolean;
  maxLength?: number;
  required?: boolean;
  blank?: boolean;
}) {
  const { t } = useWords();
  const store = useStore();
  const value = useValue(entity, id, path) as string | null | undefined;
  const message = useMessage({ entity, id, path });
  return (
    <TextLine
      {...field}
      value={value ?? ''}
      error={message ?? (field.required && !value?.trim() ? t('field.required') : null)}
      onChange={(v) => store.edit([{ entity, id, path, to: field.blank && v.trim() === '' ? null : v }])}
    />
  );
}, sameProps);

export const Choice = memo(function Choice({
  entity,
  id,
  path,
  options,
  label,
  width,
  map,
  search = false,
}: At & {
  label: string;
  options: readonly { value: string; label: string }[];
  width?: number | string;
  map?: 'boolean' | 'nullable' | 'month';
  /** Many options: found by typing. */
  search?: boolean;
}) {
  const store = useStore();
  const value = useValue(entity, id, path);
  const tag = useTag({ entity, id, path });
  const shown = map === 'boolean' ? (value ? 'yes' : 'no') : String(value ?? '');
  const Field = search ? SearchChoice : ChoiceLine;
  return (
    <Field
      label={label}
      tag={tag}
      options={options}
      value={shown}
      {...(width === undefined ? {} : { width })}
      onChange={(v: string) =>
        store.edit([
          {
            entity,
            id,
            path,
            to:
              map === 'boolean'
                ? v === 'yes'
                : map !== undefined && v === ''
                  ? null
                  : map === 'month'
                    ? Number(v)
                    : v,
          },
        ])
      }
    />
  );
}, sameProps);

export const Sides = memo(function Sides({ entity, id, path, label }: At & { label: string }) {
  const store = useStore();
  const value = useValue(entity, id, path) as [number, number, number] | null;
  return (
    <SidesField label={label} value={value} onChange={(v) => store.edit([{ entity, id, path, to: v }])} />
  );
}, sameProps);

/** What a cost line is: known, not known yet (blank), or none because it does not apply. */
export function LineState({
  id,
  path,
  known,
  label,
}: {
  id: string;
  path: Path;
  known: () => unknown;
  label: string;
}) {
  const { t } = useWords();
  const store = useStore();
  const value = useValue('lane', id, path);
  const state = value === null || value === undefined ? 'blank' : value === 'none' ? 'none' : 'known';
  const tag = useTag({ entity: 'lane', id, path });
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={state}
        aria-label={label}
        onChange={(_, to: string | null) => {
          if (to !== null && to !== state)
            store.edit(
              [{ entity: 'lane', id, path, to: to === 'blank' ? null : to === 'none' ? 'none' : known() }],
              'typed',
            );
        }}
        sx={{
          '& .MuiToggleButton-root': {
            py: 0.1,
            px: 1,
            textTransform: 'none',
            fontSize: '0.76rem',
            color: 'text.primary',
          },
          '& .Mui-selected': { color: 'text.primary !important', fontWeight: 650 },
        }}>
        <ToggleButton value="known">{t('line.known')}</ToggleButton>
        <ToggleButton value="blank">{t('line.blank')}</ToggleButton>
        <ToggleButton value="none">{t('line.none')}</ToggleButton>
      </ToggleButtonGroup>
      {tag && (
        <Box component="span" sx={{ fontSize: '0.76rem', fontStyle: 'italic', color: 'text.secondary' }}>
          {tag}
        </Box>
      )}
    </Box>
  );
}

/** Fields side by side, wrapping. */
export function Row({ children, title }: { children: ReactNode; title?: string }) {
  return (
    <Box sx={{ mb: 1.75 }}>
      {title && <Box sx={{ fontSize: '0.8rem', fontWeight: 650, mb: 0.5 }}>{title}</Box>}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, rowGap: 1.25, alignItems: 'flex-start' }}>
        {children}
      </Box>
    </Box>
  );
}

/** A list of like things, each a row of fields, with a way to add and to remove. */
export function List({
  entity,
  id,
  path,
  make,
  add,
  children,
  empty,
}: At & {
  make: () => unknown;
  add: string;
  children: (index: number, path: Path) => ReactNode;
  empty?: string;
}) {
  const { t } = useWords();
  const store = useStore();
  const items = (useValue(entity, id, path) as unknown[] | undefined) ?? [];
  return (
    <Box sx={{ mb: 1.5 }}>
      {items.length === 0 && empty && (
        <Box sx={{ fontSize: '0.82rem', color: 'text.secondary' }}>{empty}</Box>
      )}
      {items.map((_, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by their place alone
        <Box key={i} sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-end', mb: 1 }}>
          {children(i, [...path, i])}
          <Button
            size="small"
            onClick={() => store.edit([{ entity, id, path, to: items.filter((_x, j) => j !== i) }])}
            aria-label={t('line.removeNumber', { n: i + 1 })}
            sx={{ minWidth: 0, color: 'text.secondary' }}>
            {t('line.remove')}
          </Button>
        </Box>
      ))}
      <Button size="small" onClick={() => store.edit([{ entity, id, path, to: [...items, make()] }])}>
        {add}
      </Button>
    </Box>
  );
}
