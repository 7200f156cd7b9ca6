import { useCallback, useEffect, useRef, useState } from 'react';
import { z } from 'zod';
import type { Tables } from '../../../core/cards/reader.ts';
import { tell } from '../../ui/client.ts';
import { keepInTab, keptInTab } from '../../ui/saving.ts';
import type { SaveAnswer } from '../../ui/saving.ts';

export type DraftSaving = SaveAnswer | 'saving' | 'unsaved';

const keptTables = z.object({
  edition: z.number(),
  cells: z.custom<Tables>(
    (v) =>
      typeof v === 'object' &&
      v !== null &&
      Object.values(v).every((rows) => Array.isArray(rows) && rows.every(Array.isArray)),
  ),
});

/** The cells of a draft while they are edited: undo, redo, and saving in the background. */
export function useDraft(initial: Tables, edition: number, saveUrl: string, canEdit: boolean) {
  const { cells, saving, take, flush, latest } = useSavedCells(initial, edition, saveUrl, canEdit);
  const past = useRef<Tables[]>([]);
  const future = useRef<Tables[]>([]);
  const change = useCallback(
    (next: Tables): void => {
      past.current.push(latest.current.cells);
      if (past.current.length > 200) past.current.shift();
      future.current = [];
      take(next);
    },
    [take, latest],
  );
  const step = useCallback(
    (from: Tables[], to: Tables[]): void => {
      const next = from.pop();
      if (next === undefined) return;
      to.push(latest.current.cells);
      take(next);
    },
    [take, latest],
  );
  const undo = useCallback(() => step(past.current, future.current), [step]);
  const redo = useCallback(() => step(future.current, past.current), [step]);

  return { cells, saving, change, undo, redo, flush };
}

/** Cells that are saved half a second after they were changed, and stand in the tab until they are. */
function useSavedCells(initial: Tables, edition: number, saveUrl: string, canEdit: boolean) {
  const [cells, setCells] = useState(initial);
  const [saving, setSaving] = useState<DraftSaving>('saved');
  const now = useRef({
    cells: initial,
    edition,
    saved: initial,
    busy: false,
    timer: null as ReturnType<typeof setTimeout> | null,
  });

  const tab = `bm-unsaved-draft-${saveUrl}`;
  const flush = useCallback(async (): Promise<boolean> => {
    const s = now.current;
    if (s.timer !== null) clearTimeout(s.timer);
    s.timer = null;
    while (s.busy) await new Promise((done) => setTimeout(done, 40));
    if (s.cells === s.saved) return true;
    s.busy = true;
    setSaving('saving');
    const sent = s.cells;
    const told = await tell<{ edition: number }>(saveUrl, { edition: s.edition, cells: sent });
    s.busy = false;
    if (!told.ok) {
      setSaving(told.why);
      if (told.why === 'offline') s.timer = setTimeout(() => void flush(), 3000);
      return false;
    }
    s.edition = told.data.edition;
    s.saved = sent;
    const whole = s.cells === sent;
    if (whole) keepInTab(tab, null);
    else s.timer = setTimeout(() => void flush(), 300);
    setSaving(whole ? 'saved' : 'unsaved');
    return whole;
  }, [saveUrl, tab]);

  const take = useCallback(
    (next: Tables): void => {
      const s = now.current;
      s.cells = next;
      setCells(next);
      if (!canEdit) return;
      keepInTab(tab, { edition: s.edition, cells: next });
      setSaving('unsaved');
      if (s.timer !== null) clearTimeout(s.timer);
      s.timer = setTimeout(() => void flush(), 500);
    },
    [canEdit, flush, tab],
  );

  // What an earlier page of this tab could not save comes back, as long as nobody has changed the draft
  // since.
  useEffect(() => {
    const kept = keptTables.safeParse(keptInTab(tab));
    if (
      canEdit &&
      kept.success &&
      kept.data.edition === now.current.edition &&
      kept.data.cells !== now.current.cells
    )
      take(kept.data.cells);
  }, [canEdit, tab, take]);

  useSavingOnLeave(now, canEdit, flush);
  return { cells, saving, take, flush, latest: now };
}

/** Whoever leaves the page has it saved; one who would close the tab before that is asked. */
function useSavingOnLeave(
  now: { readonly current: { readonly cells: Tables; readonly saved: Tables } },
  canEdit: boolean,
  flush: () => Promise<boolean>,
): void {
  useEffect(() => {
    const leave = (e: BeforeUnloadEvent): void => {
      if (now.current.cells === now.current.saved || !canEdit) return;
      void flush();
      e.preventDefault();
    };
    window.addEventListener('beforeunload', leave);
    return () => {
      window.removeEventListener('beforeunload', leave);
      if (canEdit) void flush();
    };
  }, [now, canEdit, flush]);
}
