/** Fields that are edited where they stand: what is typed, what is saved, what others changed meanwhile. */
import equal from 'fast-deep-equal';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useRevalidator } from 'react-router';
import type { z } from 'zod';
import { tell } from './client.ts';
import { keepInTab, keptInTab } from './saving.ts';
import type { SaveAnswer } from './saving.ts';

export type FieldsSaving = SaveAnswer | 'viewer' | 'unsaved' | 'saving';
type Where<T> = {
  /** What it is kept under in the tab while it is not saved. */
  readonly tab: string;
  readonly url: string;
  readonly canEdit: boolean;
  /** Reads what an earlier page of the tab has left. */
  readonly part: z.ZodType<Partial<T>>;
  /** What is sent for fields that changed. */
  readonly bodyOf: (changed: Partial<T>) => object;
};

/** What of the fields is no longer as it was known. */
function changesOf<T extends object>(now: T, known: T): Partial<T> {
  return Object.fromEntries(
    Object.entries(now).filter(([k, v]) => !equal(v, known[k as keyof T])),
  ) as Partial<T>;
}

/**
 * The fields while they are edited. What is changed is saved a moment later, at once when the page is left, and again
 * while the server does not answer; until then it also stands in the tab. What others change comes in where one has
 * changed nothing oneself.
 */
export function useSavedFields<T extends object>(
  stored: T,
  { tab, url, canEdit, part, bodyOf }: Where<T>,
): { fields: T; set: (some: Partial<T>) => void; state: FieldsSaving; error: string | null } {
  const { revalidate } = useRevalidator();
  const [fields, setFields] = useState(stored);
  const [known, setKnown] = useState(stored);
  const [said, setSaid] = useState<{ state: FieldsSaving; error: string | null; of: T | null }>({
    state: 'saved',
    error: null,
    of: null,
  });
  const changed = changesOf(fields, known);
  const dirty = Object.keys(changed).length > 0;
  const send = async (): Promise<void> => {
    const now = latest.current;
    setSaid({ state: 'saving', error: null, of: now.fields });
    const told = await tell(url, bodyOf(now.changed), { leaving: true });
    if (told.ok) {
      setKnown((k) => ({ ...k, ...now.changed }));
      void revalidate();
    }
    setSaid({
      state: told.ok ? 'saved' : told.why,
      error: !told.ok && told.why === 'invalid' ? told.error : null,
      of: now.fields,
    });
  };
  const set = useCallback((some: Partial<T>) => setFields((p) => ({ ...p, ...some })), []);
  const latest = useRef({ fields, known, changed, dirty, send });
  latest.current = { fields, known, changed, dirty, send };
  useEffect(() => {
    const kept = part.safeParse(keptInTab(tab));
    if (canEdit && kept.success) setFields((p) => ({ ...p, ...kept.data }));
  }, [canEdit, tab, part]);
  useEffect(() => {
    // Others' changes, and what a save of one's own has settled, come in under what is not saved yet.
    setFields((p) => ({ ...stored, ...changesOf(p, latest.current.known) }));
    setKnown(stored);
  }, [stored]);
  useEffect(() => {
    if (!canEdit) return;
    keepInTab(tab, dirty ? latest.current.changed : null);
    // What was refused is sent again once something in it is changed.
    const refused = said.of === fields && said.state !== 'saved' && said.state !== 'offline';
    if (!dirty || said.state === 'saving' || refused) return;
    const timer = setTimeout(() => void latest.current.send(), said.state === 'offline' ? 3000 : 500);
    return () => clearTimeout(timer);
  }, [fields, dirty, canEdit, said, tab]);
  useEffect(() => {
    const leave = (): void => {
      if (canEdit && latest.current.dirty) void latest.current.send();
    };
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [canEdit]);
  return {
    fields,
    set,
    state: !canEdit ? 'viewer' : dirty && said.state === 'saved' ? 'unsaved' : said.state,
    error: said.error,
  };
}
