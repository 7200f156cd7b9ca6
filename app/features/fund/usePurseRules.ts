/** Rules and ticks of the purse and the cash there is, while they are changed, and the document they make. */
import equal from 'fast-deep-equal';
import { useMemo, useRef } from 'react';
import type { PurseDocument } from '../../../core/purse/schema.ts';
import { pursePart, purseOfWorkspace, purseSaved, withSaved } from '../../../core/workspace/purse.ts';
import type { PurseSaved, PurseSource } from '../../../core/workspace/purse.ts';
import { useSavedFields } from '../../ui/useSavedFields.ts';

export function usePurseRules(source: PurseSource, base: string, canEdit: boolean) {
  const stored = useMemo(() => purseSaved(source.settings), [source.settings]);
  const { fields, set, state, error } = useSavedFields<PurseSaved>(stored, {
    tab: `bm-unsaved-purse-${base}`,
    url: `${base}/fund/purse/act`,
    canEdit,
    part: pursePart,
    bodyOf: (changed) => ({ act: 'keep', changed }),
  });
  const last = useRef<PurseDocument>(null);
  const document = useMemo(() => {
    const made = purseOfWorkspace({ ...source, settings: withSaved(source.settings, fields) });
    // What was only read again asks nothing new of the solver.
    if (!equal(last.current, made)) last.current = made;
    return last.current as PurseDocument;
  }, [source, fields]);
  return { kept: fields, change: set, document, state, error };
}
export type PurseRules = ReturnType<typeof usePurseRules>;
