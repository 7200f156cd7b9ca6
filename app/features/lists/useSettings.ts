/** What is kept of a list as one works on it: cards and assumptions, and how it is looked at. */
import { useEffect, useRef, useState } from 'react';
import type { ListLook } from '../../../core/lists/query.ts';
import { useLatest } from '../../ui/useLatest.ts';
import type { ListData } from './listData.ts';
import type { useAct } from './useDecisions.ts';

type Act = ReturnType<typeof useAct>['act'];

/** Cards and assumptions of the list: they answer at once and are kept a moment later. */
export function useSettings(p: ListData, act: Act, onCards: () => void) {
  const [own, setOwn] = useState(p.own);
  const [base, setBase] = useState(p.own);
  const [saved, setSaved] = useState<'saved' | 'saving' | 'tried'>('saved');
  const [edition, setEdition] = useState(0);
  const saveNow = useLatest(async (): Promise<boolean> => {
    if (own === base) return true;
    setSaved('saving');
    const got = await act({ what: 'settings', settings: own });
    if (got === null) {
      setSaved('tried');
      return false;
    }
    setBase(own);
    setSaved('saved');
    setEdition((n) => n + 1);
    if (CARDS.some((c) => own[c] !== base[c])) onCards();
    return true;
  });
  useEffect(() => {
    if (own === base) return;
    setSaved('tried');
    if (!p.canEdit) return;
    const timer = setTimeout(() => void saveNow(), 700);
    return () => clearTimeout(timer);
  }, [own, base, saveNow, p.canEdit]);
  return { own, setOwn, tried: own === base ? null : own, saved, edition, saveNow };
}
const CARDS = ['marketplaceCardId', 'taxCardId', 'exchangeCardId'] as const;

/** Columns and query as they were left, kept a moment after the last change. */
export function useSavedLook(canEdit: boolean, { columns, query }: ListLook, act: Act): void {
  const first = useRef(true);
  useEffect(() => {
    if (first.current) {
      first.current = false;
      return;
    }
    if (!canEdit) return;
    const timer = setTimeout(() => void act({ what: 'look', look: { columns, query } }), 1500);
    return () => clearTimeout(timer);
  }, [columns, query, act, canEdit]);
}
