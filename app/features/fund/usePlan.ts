/** A launch plan that is edited: what is typed, what is saved, what others changed meanwhile. */
import equal from 'fast-deep-equal';
import { useEffect, useRef, useState } from 'react';
import { useRevalidator } from 'react-router';
import { launchPart } from '../../../core/launch/schema.ts';
import type { LaunchPlan } from '../../../core/launch/schema.ts';
import { tell } from '../../ui/client.ts';
import { keepInTab, keptInTab } from '../../ui/saving.ts';
import type { SaveAnswer } from '../../ui/saving.ts';

type PlanSaving = SaveAnswer | 'viewer' | 'unsaved' | 'saving';

/** What of a plan is no longer as it was known. */
function changesOf(plan: LaunchPlan, known: LaunchPlan): Partial<LaunchPlan> {
  return Object.fromEntries(Object.entries(plan).filter(([k, v]) => !equal(v, known[k as keyof LaunchPlan])));
}

/**
 * The plan while it is edited. What is changed is saved a moment later, at once when the page is left, and
 * again while the server does not answer; until then it also stands in the tab. What others change comes in
 * where one has changed nothing oneself.
 */
export function usePlan(
  stored: LaunchPlan,
  candidate: string,
  url: string,
  canEdit: boolean,
): { plan: LaunchPlan; set: (part: Partial<LaunchPlan>) => void; state: PlanSaving; error: string | null } {
  const { revalidate } = useRevalidator();
  const tab = `bm-unsaved-plan-${candidate}`;
  const [plan, setPlan] = useState(stored);
  const [known, setKnown] = useState(stored);
  const [said, setSaid] = useState<{ state: PlanSaving; error: string | null; of: LaunchPlan | null }>({
    state: 'saved',
    error: null,
    of: null,
  });
  const changed = changesOf(plan, known);
  const dirty = Object.keys(changed).length > 0;
  const send = async (): Promise<void> => {
    const now = latest.current;
    setSaid({ state: 'saving', error: null, of: now.plan });
    const told = await tell(url, { changed: now.changed, candidate }, { leaving: true });
    if (told.ok) {
      setKnown((k) => ({ ...k, ...now.changed }));
      void revalidate();
    }
    setSaid({
      state: told.ok ? 'saved' : told.why,
      error: !told.ok && told.why === 'invalid' ? told.error : null,
      of: now.plan,
    });
  };
  const latest = useRef({ plan, known, changed, dirty, send });
  latest.current = { plan, known, changed, dirty, send };
  useEffect(() => {
    const kept = launchPart.safeParse(keptInTab(tab));
    if (canEdit && kept.success) setPlan((p) => ({ ...p, ...kept.data }));
  }, [canEdit, tab]);
  useEffect(() => {
    // Others' changes, and what a save of one's own has settled, come in under what is not saved yet.
    setPlan((p) => ({ ...stored, ...changesOf(p, latest.current.known) }));
    setKnown(stored);
  }, [stored]);
  useEffect(() => {
    if (!canEdit) return;
    keepInTab(tab, dirty ? latest.current.changed : null);
    // What was refused is sent again once something in it is changed.
    const refused = said.of === plan && said.state !== 'saved' && said.state !== 'offline';
    if (!dirty || said.state === 'saving' || refused) return;
    const timer = setTimeout(() => void latest.current.send(), said.state === 'offline' ? 3000 : 500);
    return () => clearTimeout(timer);
  }, [plan, dirty, canEdit, said, tab]);
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
    plan,
    set: (part) => setPlan((p) => ({ ...p, ...part })),
    state: !canEdit ? 'viewer' : dirty && said.state === 'saved' ? 'unsaved' : said.state,
    error: said.error,
  };
}
