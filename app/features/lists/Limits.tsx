import { Box, Button } from '@mui/material';
import { memo, useState } from 'react';
import { LIST_FLAGS } from '../../../core/lists/query.ts';
import { isListFigure } from '../../../core/lists/figures.ts';
import type { ListFilter, ListFlag, ListQuery } from '../../../core/lists/query.ts';
import type { ListFigure } from '../../../core/lists/figures.ts';
import type { Answer } from '../../../between/ask.ts';
import { ChoiceLine, fieldInput } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { figureKind, RangeLimit } from './RangeLimit.tsx';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  query: ListQuery;
  onQuery: (q: ListQuery) => void;
  answer: Answer | null;
  sums: Pick<Answer, 'stats' | 'facets' | 'funnel'> | null;
  listCurrency: string;
  salesCurrency: string;
  figures: readonly ListFigure[];
};

/** A limit that takes nothing yet, by its name in the list of what can be limited; null: there is none. */
function newLimit(what: string): ListFilter | null {
  if (isListFigure(what)) return { kind: 'range', figure: what, min: null, max: null, keepUnknown: false };
  if (what === 'wordsIn' || what === 'wordsOut')
    return { kind: 'words', mode: what === 'wordsIn' ? 'in' : 'out', words: [] };
  if (what === 'brand' || what === 'category') return { kind: 'oneOf', of: what, values: [], not: false };
  if (what === 'verdict') return { kind: 'verdict', only: ['pass', 'near'] };
  return (LIST_FLAGS as readonly string[]).includes(what)
    ? { kind: 'flag', flag: what as ListFlag, is: true }
    : null;
}

/** The limits as a funnel: from all rows to the few, each with what it takes alone and what it leaves. */
export const Limits = memo(function Limits({
  query,
  onQuery,
  answer,
  sums,
  listCurrency,
  salesCurrency,
  figures,
}: Props) {
  const { t } = useWords();
  const f = useFormat();
  const set = (filters: ListFilter[]): void => onQuery({ ...query, filters });
  const replace = (i: number, next: ListFilter): void =>
    set(query.filters.map((x, k) => (k === i ? next : x)));
  const shift = query.text.trim() === '' ? 0 : 1;
  const used = new Set(query.filters.flatMap((x) => (x.kind === 'range' ? [x.figure] : [])));
  const add = (what: string): void => {
    const next = newLimit(what);
    if (next !== null) set([...query.filters, next]);
  };
  const nameOf = (x: ListFilter): string =>
    x.kind === 'range'
      ? t(`listFigure.${x.figure}`)
      : x.kind === 'words'
        ? t(x.mode === 'in' ? 'list.wordsIn' : 'list.wordsOut')
        : x.kind === 'oneOf'
          ? t(`listText.${x.of}`)
          : x.kind === 'verdict'
            ? t('list.hurdles')
            : t(`listFlag.${x.flag}`);
  const step = (k: number) => {
    const s = answer?.funnel[k];
    if (s === undefined) return null;
    return (
      <Box
        sx={{
          display: 'flex',
          justifyContent: 'space-between',
          fontSize: '0.76rem',
          color: 'text.secondary',
        }}>
        <span>{t('list.takes', { count: f.number(s.alone, 0) as never })}</span>
        <Box component="span" sx={{ color: 'text.primary', fontWeight: 620 }}>
          {t('list.leaves', { count: f.number(s.left, 0) as never })}
        </Box>
      </Box>
    );
  };
  return (
    <Box component="section" aria-label={t('list.limits')} sx={{ fontSize: '0.86rem' }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', mb: 0.5 }}>
        <Box
          component="h2"
          sx={{ m: 0, fontSize: '1rem', fontFamily: '"Bricolage Grotesque Variable", sans-serif' }}>
          {t('list.limits')}
        </Box>
        {(query.filters.length > 0 || query.text !== '') && (
          <Button
            size="small"
            sx={{ ml: 'auto', minWidth: 0 }}
            onClick={() => onQuery({ ...query, text: '', filters: [] })}>
            {t('list.clear')}
          </Button>
        )}
      </Box>
      <Box sx={{ fontSize: '0.8rem', pb: 0.75 }}>
        {t('list.start', { count: answer?.rows ?? 0, n: f.number(answer?.rows ?? 0, 0) })}
      </Box>
      {shift === 1 && (
        <Step
          title={`${t('list.textLimit')}: ${query.text}`}
          onRemove={() => onQuery({ ...query, text: '' })}
          label={t('list.textLimit')}>
          {step(0)}
        </Step>
      )}
      {query.filters.map((x, i) => (
        <Step
          // biome-ignore lint/suspicious/noArrayIndexKey: limits stand in their order, which is what they are
          key={`${x.kind}${i}`}
          title={nameOf(x)}
          onRemove={() => set(query.filters.filter((_, k) => k !== i))}
          label={nameOf(x)}>
          <LimitFields
            filter={x}
            name={nameOf(x)}
            sums={sums}
            onChange={(next) => replace(i, next)}
            listCurrency={listCurrency}
            salesCurrency={salesCurrency}
          />
          {step(i + shift)}
          {sums?.funnel[i + shift]?.warning != null && (
            <Box
              role="note"
              sx={{
                fontSize: '0.76rem',
                mt: 0.25,
                pl: 1,
                borderLeft: '3px solid',
                borderColor: 'text.primary',
              }}>
              {t(sums.funnel[i + shift]?.warning === 'cluster' ? 'list.cluster' : 'list.nearlyAll')}
            </Box>
          )}
        </Step>
      ))}
      <Box sx={{ mt: 1 }}>
        <ChoiceLine
          label={t('list.addLimit')}
          value=""
          onChange={add}
          width="100%"
          options={[
            { value: '', label: '…' },
            ...figures
              .filter((x) => !used.has(x))
              .map((x) => ({ value: x as string, label: t(`listFigure.${x}`) })),
            { value: 'wordsIn', label: `${t('list.addWords')}: ${t('list.wordsIn')}` },
            { value: 'wordsOut', label: `${t('list.addWords')}: ${t('list.wordsOut')}` },
            { value: 'brand', label: t('list.addBrand') },
            { value: 'category', label: t('list.addCategory') },
            { value: 'verdict', label: t('list.hurdles') },
            ...LIST_FLAGS.map((x) => ({ value: x as string, label: t(`listFlag.${x}`) })),
          ]}
        />
      </Box>
    </Box>
  );
});

function Step({
  title,
  label,
  onRemove,
  children,
}: {
  title: string;
  label: string;
  onRemove: () => void;
  children: React.ReactNode;
}) {
  const { t } = useWords();
  return (
    <Box sx={{ borderTop: '1px solid', borderColor: 'hairline', py: 0.75 }}>
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Box
          component="b"
          sx={{ fontWeight: 640, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
          {title}
        </Box>
        <Box
          component="button"
          type="button"
          aria-label={t('list.remove', { name: label })}
          onClick={onRemove}
          sx={{
            ml: 'auto',
            width: 24,
            height: 24,
            border: 0,
            bgcolor: 'transparent',
            color: 'text.secondary',
            font: 'inherit',
            cursor: 'pointer',
            borderRadius: 1,
            '&:hover': { bgcolor: 'paperTint' },
          }}>
          ×
        </Box>
      </Box>
      {children}
    </Box>
  );
}

function Words({
  words,
  onChange,
  label,
}: {
  words: readonly string[];
  onChange: (words: string[]) => void;
  label: string;
}) {
  const [text, setText] = useState(words.join(', '));
  return (
    <Box
      component="input"
      value={text}
      aria-label={label}
      placeholder={label}
      onChange={(e: { target: { value: string } }) => {
        setText(e.target.value);
        const next = e.target.value
          .split(',')
          .map((w) => w.trim())
          .filter(Boolean);
        onChange(next.slice(0, 30));
      }}
      sx={{
        ...fieldInput(false),
        border: 0,
        borderBottom: '1.5px solid',
        borderColor: 'fieldLine',
        font: 'inherit',
        color: 'text.primary',
        py: 0.5,
      }}
    />
  );
}

/** What can be set of a limit, by its kind. */
function LimitFields({
  filter,
  name,
  sums,
  onChange,
  listCurrency,
  salesCurrency,
}: {
  filter: ListFilter;
  name: string;
  sums: Props['sums'];
  onChange: (next: ListFilter) => void;
  listCurrency: string;
  salesCurrency: string;
}) {
  const { t } = useWords();
  const x = filter;
  return (
    <>
      {x.kind === 'range' && (
        <RangeLimit
          filter={x}
          stats={sums?.stats.find((s) => s.figure === x.figure)}
          onChange={onChange}
          {...figureKind(x.figure, listCurrency, salesCurrency)}
        />
      )}
      {x.kind === 'words' && (
        <Words words={x.words} onChange={(words) => onChange({ ...x, words })} label={t('list.wordsHelp')} />
      )}
      {x.kind === 'oneOf' && <OneOf filter={x} name={name} sums={sums} onChange={onChange} />}
      {x.kind === 'verdict' && (
        <Box role="group" aria-label={t('list.hurdles')}>
          {(['pass', 'near', 'fail', 'unknown'] as const).map((v) => (
            <Box
              key={v}
              component="label"
              sx={{ display: 'inline-flex', gap: 0.5, mr: 1.25, minHeight: 24, alignItems: 'center' }}>
              <input
                type="checkbox"
                checked={x.only.includes(v)}
                onChange={(e) => {
                  const only = e.target.checked ? [...x.only, v] : x.only.filter((y) => y !== v);
                  if (only.length > 0) onChange({ ...x, only });
                }}
              />
              {t(`listVerdict.${v}`)}
            </Box>
          ))}
        </Box>
      )}
      {x.kind === 'flag' && (
        <ChoiceLine
          label={name}
          value={x.is ? 'yes' : 'no'}
          options={[
            { value: 'yes', label: t('list.yes') },
            { value: 'no', label: t('list.no') },
          ]}
          onChange={(v) => onChange({ ...x, is: v === 'yes' })}
          width={110}
        />
      )}
    </>
  );
}

/** Brands or categories that are wanted, or are not, each with how many rows it has. */
function OneOf({
  filter,
  name,
  sums,
  onChange,
}: {
  filter: Extract<ListFilter, { kind: 'oneOf' }>;
  name: string;
  sums: Props['sums'];
  onChange: (next: ListFilter) => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const x = filter;
  return (
    <>
      <ChoiceLine
        label={name}
        value={x.not ? 'not' : 'is'}
        options={[
          { value: 'is', label: t('list.is') },
          { value: 'not', label: t('list.isNot') },
        ]}
        onChange={(v) => onChange({ ...x, not: v === 'not' })}
        width={90}
      />
      <Box sx={{ maxHeight: 132, overflow: 'auto', mt: 0.5 }} role="group" aria-label={name}>
        {[...new Set([...x.values, ...(sums?.facets?.[x.of] ?? []).map(([v]) => v)])]
          .slice(0, 60)
          .map((v) => (
            <Box
              key={v}
              component="label"
              sx={{ display: 'flex', gap: 0.5, minHeight: 24, alignItems: 'center' }}>
              <input
                type="checkbox"
                checked={x.values.includes(v)}
                onChange={(e) => {
                  const values = e.target.checked ? [...x.values, v] : x.values.filter((y) => y !== v);
                  onChange({ ...x, values });
                }}
              />
              <Box
                component="span"
                sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
                {v === '' ? '–' : v}
              </Box>
              <Box component="span" sx={{ ml: 'auto', color: 'text.secondary', fontSize: '0.76rem' }}>
                {f.number(sums?.facets?.[x.of].find(([w]) => w === v)?.[1] ?? 0, 0)}
              </Box>
            </Box>
          ))}
      </Box>
    </>
  );
}
