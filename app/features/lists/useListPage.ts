/** What the page of a screened list works on: its question, the answer, settings, columns, and what is decided. */
import { useMemo } from 'react';
import { useRevalidator } from 'react-router';
import { extraOf } from '../../../core/lists/query.ts';
import type { ListData } from './listData.ts';
import { useColumns } from './useColumns.ts';
import { useAct, useDecisions } from './useDecisions.ts';
import { useRevalidatedWhenRead } from './useFoot.tsx';
import { useListQuery } from './useListQuery.ts';
import { useScreen } from './useScreen.ts';
import { useSavedLook, useSettings } from './useSettings.ts';

export type ListPageState = ReturnType<typeof useListPage>;
export function useListPage(p: ListData) {
  const { revalidate } = useRevalidator();
  const url = `${p.root}/lists/${p.list.id}`;
  const { query, removed, setQuery } = useListQuery(p.query, p.look.query);
  const columns = useColumns(p, query, setQuery);
  const { act, tally, said, setSaid } = useAct(url, p.tally);
  const settings = useSettings(p, act, () => void revalidate());
  const { tried } = settings;
  const ask = useMemo(
    () => ({
      query,
      show: removed ? ('removed' as const) : ('kept' as const),
      settings: tried,
      more: columns.shown.some((c) => extraOf(c.id) !== null),
    }),
    [query, removed, tried, columns.shown],
  );
  const screen = useScreen(`${url}/ask`, ask, p.answer, columns.figures, p.work);
  const { answer } = screen;
  const count = answer === null ? 0 : removed ? answer.rows - answer.kept : answer.kept;
  const decisions = useDecisions({ screen, count, act, setSaid, saveSettings: settings.saveNow });
  useSavedLook(p.canEdit, { columns: columns.shown, query }, act);
  useRevalidatedWhenRead(screen, () => void revalidate());
  return { url, query, removed, setQuery, columns, act, tally, said, settings, screen, count, decisions };
}
