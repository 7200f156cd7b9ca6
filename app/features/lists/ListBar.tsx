/** The line above the rows: verdicts, search, what is ticked, and what can be opened. */
import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import type { ListQuery } from '../../../core/lists/query.ts';
import type { Answer } from '../../../between/ask.ts';
import { fieldInput } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useWords } from '../../ui/useWords.ts';

const VERDICTS = ['pass', 'near', 'fail', 'unknown'] as const;
export type VerdictName = (typeof VERDICTS)[number];

export function ListBar({
  query,
  removed,
  answer,
  onVerdict,
  onText,
  middle,
  children,
}: {
  query: ListQuery;
  removed: boolean;
  answer: Answer | null;
  onVerdict: (v: VerdictName | null) => void;
  onText: (text: string) => void;
  /** What is ticked, or what was said last. */
  middle: ReactNode;
  /** The buttons at the end. */
  children: ReactNode;
}) {
  const { t } = useWords();
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', my: 0.75 }}>
      <VerdictTabs query={query} removed={removed} answer={answer} onVerdict={onVerdict} />
      <Box
        component="input"
        type="search"
        value={query.text}
        aria-label={t('list.search')}
        placeholder={t('list.search')}
        onChange={(e: { target: { value: string } }) => onText(e.target.value.slice(0, 200))}
        sx={{
          ...fieldInput(false),
          width: 230,
          height: 30,
          border: 0,
          borderBottom: '1.5px solid',
          borderColor: 'fieldLine',
          font: 'inherit',
          fontSize: '0.86rem',
          color: 'text.primary',
        }}
      />
      {middle}
      <Box sx={{ ml: 'auto', display: 'flex', gap: 0.5 }}>{children}</Box>
    </Box>
  );
}

/** All rows, or those of one verdict, with how many there are. */
function VerdictTabs({
  query,
  removed,
  answer,
  onVerdict,
}: {
  query: ListQuery;
  removed: boolean;
  answer: Answer | null;
  onVerdict: (v: VerdictName | null) => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const only = query.filters.find((x) => x.kind === 'verdict');
  const isOn = (v: VerdictName | null): boolean =>
    !removed && (v === null ? only === undefined : only?.only.length === 1 && only.only[0] === v);
  return (
    <Box
      role="group"
      aria-label={t('list.hurdles')}
      sx={{
        display: 'flex',
        border: '1px solid',
        borderColor: 'fieldLine',
        borderRadius: 1,
        overflow: 'hidden',
      }}>
      {([null, ...VERDICTS] as const).map((v) => (
        <Box
          key={v ?? 'all'}
          component="button"
          type="button"
          aria-pressed={isOn(v)}
          onClick={() => onVerdict(v)}
          sx={{
            font: 'inherit',
            fontSize: '0.82rem',
            border: 0,
            px: 1.25,
            height: 30,
            cursor: 'pointer',
            bgcolor: isOn(v) ? 'text.primary' : 'transparent',
            color: isOn(v) ? 'background.default' : 'text.primary',
            fontWeight: isOn(v) ? 640 : 450,
          }}>
          {t(v === null ? 'list.all' : `list.${v}`)}{' '}
          <Box component="span" sx={{ opacity: 0.75 }}>
            {answer === null ? '' : f.number(v === null ? answer.rows : answer.verdicts[v], 0)}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
