import equal from 'fast-deep-equal';
import { createContext, use, useSyncExternalStore } from 'react';
import { z } from 'zod';
import { inverse, patch, patched, samePlace, valueAt } from '../../../core/workspace/patch.ts';
import type { Patch, Path } from '../../../core/workspace/patch.ts';
import type { CandidateData, QuoteSource, StoredLane } from '../../../core/workspace/records.ts';
import type { Provenance } from '../../../core/lane/schema.ts';
import { tell } from '../../ui/client.ts';
import { keepInTab, keptInTab } from '../../ui/saving.ts';
import type { SaveAnswer } from '../../ui/saving.ts';

export type LaneState = {
  readonly id: string;
  readonly position: number;
  readonly data: StoredLane;
  readonly scenarioOf: string | null;
};
export type SheetState = {
  readonly candidate: { readonly id: string; readonly data: CandidateData };
  readonly quotes: readonly { readonly id: string; readonly data: QuoteSource }[];
  readonly lanes: readonly LaneState[];
};
export type Saving = SaveAnswer | 'saving' | 'unsaved' | 'viewer';
type Edit = { readonly patches: readonly Patch[]; readonly at: number };
export type Conflict = { readonly patch: Patch; readonly current: unknown };
type Snapshot = {
  readonly state: SheetState;
  readonly saving: Saving;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly conflicts: readonly Conflict[];
  readonly invalid: readonly { patch: Patch; message: string }[];
};
type Change = {
  readonly entity: Patch['entity'];
  readonly id: string;
  readonly path: Path;
  readonly to: unknown;
};

/**
 * What is on the sheet while it is edited: applies each change at once, keeps undo and redo, and saves in the
 * background. What is not saved yet also stands in the tab's session storage, so that a lost session or a
 * reload loses nothing.
 */
export class SheetStore {
  private snapshot: Snapshot;
  private readonly listeners = new Set<() => void>();
  private undoStack: Edit[] = [];
  private redoStack: Edit[] = [];
  private pending: Patch[] = [];
  private inFlight = false;
  private sending: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private readonly key: string;

  constructor(
    state: SheetState,
    private readonly saveUrl: string,
    readonly canEdit: boolean,
    private readonly today: string,
  ) {
    this.key = `bm-unsaved-${state.candidate.id}`;
    this.snapshot = {
      state,
      saving: canEdit ? 'saved' : 'viewer',
      canUndo: false,
      canRedo: false,
      conflicts: [],
      invalid: [],
    };
  }

  subscribe = (f: () => void): (() => void) => {
    this.listeners.add(f);
    return () => this.listeners.delete(f);
  };
  get = (): Snapshot => this.snapshot;

  private set(part: Partial<Snapshot>): void {
    this.snapshot = {
      ...this.snapshot,
      ...part,
      canUndo: this.undoStack.length > 0,
      canRedo: this.redoStack.length > 0,
    };
    for (const f of this.listeners) f();
  }

  /** Takes over what the server says now, keeping edits that are still on their way. */
  refresh(state: SheetState): void {
    let next = state;
    for (const p of this.pending) next = applied(next, p);
    if (!equal(next, this.snapshot.state)) this.set({ state: next });
  }

  /** Brings back what an earlier page of this tab could not save. */
  recover(): void {
    const kept = z.array(patch).safeParse(keptInTab(this.key));
    if (!this.canEdit || !kept.success || kept.data.length === 0) return;
    const own = (kept.data as Patch[]).filter((p) => root(this.snapshot.state, p) !== undefined);
    this.pending.push(...own);
    let state = this.snapshot.state;
    for (const p of own) state = applied(state, p);
    this.set({ state, saving: 'unsaved' });
    this.schedule(0);
  }

  /**
   * Applies changes as one step of undo. A run of changes at one place within a second is one step. `source`
   * is what a lane notes of them: a figure put there to be typed over is a guess, one of evidence says of when.
   */
  edit(changes: readonly Change[], source: 'typed' | 'guess' | Provenance[string] = 'typed'): void {
    const patches: Patch[] = [];
    let state = this.snapshot.state;
    const add = (c: Change): void => {
      const from = valueAt(root(state, c), c.path) ?? null;
      if (equal(from, c.to ?? null)) return;
      const p: Patch = { ...c, from };
      state = applied(state, p);
      patches.push(p);
    };
    for (const c of changes) {
      add(c);
      if (c.entity === 'lane' && patches.length > 0 && c.path[0] !== 'provenance')
        add({
          entity: 'lane',
          id: c.id,
          path: ['provenance', c.path.join('.')],
          to: typeof source === 'string' ? { source, date: this.today, note: '' } : source,
        });
    }
    if (patches.length === 0) return;
    const last = this.undoStack.at(-1);
    const follows = (p: Patch) => patches.find((q) => samePlace(q, p));
    // A later keystroke may touch fewer places than the first, which also noted where the value came from.
    const run =
      last !== undefined &&
      Date.now() - last.at < 1000 &&
      patches.every((q) => last.patches.some((p) => follows(p) === q));
    if (run)
      this.undoStack[this.undoStack.length - 1] = {
        at: Date.now(),
        patches: last.patches.map((p) => ({ ...p, to: (follows(p) ?? p).to })),
      };
    else this.undoStack.push({ at: Date.now(), patches });
    if (this.undoStack.length > 200) this.undoStack.shift();
    this.redoStack = [];
    this.queue(state, patches);
  }

  undo(): void {
    const step = this.undoStack.pop();
    if (step === undefined) return;
    this.redoStack.push(step);
    this.replay([...step.patches].reverse().map(inverse));
  }

  redo(): void {
    const step = this.redoStack.pop();
    if (step === undefined) return;
    this.undoStack.push({ ...step, at: 0 });
    this.replay(step.patches);
  }

  private replay(patches: readonly Patch[]): void {
    let state = this.snapshot.state;
    for (const p of patches) state = applied(state, p);
    this.queue(state, patches);
  }

  private queue(state: SheetState, patches: readonly Patch[]): void {
    if (!this.canEdit) {
      this.set({ state });
      return;
    }
    for (const p of patches) {
      // Several edits of one place go out as one, from what the server last knew.
      const earlier = this.inFlight ? -1 : this.pending.findIndex((q) => samePlace(q, p));
      if (earlier >= 0 && earlier === this.pending.length - 1)
        this.pending[earlier] = { ...(this.pending[earlier] as Patch), to: p.to };
      else this.pending.push(p);
    }
    this.keep();
    this.set({ state, saving: 'unsaved', invalid: [] });
    this.schedule(350);
  }

  private keep(): void {
    keepInTab(this.key, this.pending.length === 0 ? null : this.pending);
  }

  private schedule(ms: number): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), ms);
  }

  /** Sends what is unsaved; done when what was on its way already has arrived. */
  flush(): Promise<void> {
    if (this.pending.length === 0 || this.snapshot.conflicts.length > 0) return Promise.resolve();
    this.sending ??= this.send().finally(() => {
      this.sending = null;
    });
    return this.sending;
  }

  private async send(): Promise<void> {
    this.inFlight = true;
    // What is typed while this is on its way joins the queue behind it.
    const sent = [...this.pending];
    this.set({ saving: 'saving' });
    let retry: number | null = null;
    let saving: Saving = 'saved';
    const told = await tell<unknown>(this.saveUrl, { patches: sent });
    if (told.ok) this.pending = this.pending.slice(sent.length);
    else {
      saving = told.why;
      const { conflicts, invalid } = (told.data ?? {}) as NotSaved;
      if (saving === 'conflict' && conflicts) this.set({ conflicts });
      else if (saving === 'invalid' && invalid) {
        this.set({ invalid });
        // What is wrong stays on screen with its message; the rest is saved.
        this.pending = this.pending.filter((p) => !invalid.some((i) => samePlace(i.patch, p)));
        if (this.pending.length > 0) retry = 0;
      } else if (saving === 'offline') retry = 3000;
    }
    this.inFlight = false;
    this.keep();
    if (saving === 'saved' && this.pending.length > 0) {
      saving = 'unsaved';
      retry = 0;
    }
    // A value that was refused stays unsaved until it is typed anew, whatever else has been saved since.
    if (saving === 'saved' && this.snapshot.invalid.length > 0) saving = 'invalid';
    this.set({ saving });
    if (retry !== null) this.schedule(retry);
  }

  /** Decides a conflict: keep one's own value or take the other. */
  resolve(conflict: Conflict, mine: boolean): void {
    const same = (p: Patch) => samePlace(p, conflict.patch);
    let state = this.snapshot.state;
    if (mine) this.pending = this.pending.map((p) => (same(p) ? { ...p, from: conflict.current } : p));
    else {
      this.pending = this.pending.filter((p) => !same(p));
      state = applied(state, { ...conflict.patch, to: conflict.current });
      // The step cannot be taken back any more: it never happened.
      this.undoStack = this.undoStack.filter((e) => !e.patches.some(same));
    }
    const conflicts = this.snapshot.conflicts.filter((c) => c !== conflict);
    this.keep();
    this.set({ state, conflicts, saving: conflicts.length > 0 ? 'conflict' : 'unsaved' });
    if (conflicts.length === 0) {
      if (this.pending.length === 0) this.set({ saving: 'saved' });
      else this.schedule(0);
    }
  }
}

/** What the server says of patches that it did not take. */
type NotSaved = { conflicts?: Conflict[]; invalid?: { patch: Patch; message: string }[] };

function root(state: SheetState, p: { entity: Patch['entity']; id: string }): unknown {
  if (p.entity === 'candidate') return state.candidate.id === p.id ? state.candidate.data : undefined;
  return (p.entity === 'quote' ? state.quotes : state.lanes).find((x) => x.id === p.id)?.data;
}

function applied(state: SheetState, p: Patch): SheetState {
  const change = <T extends { id: string; data: unknown }>(row: T): T =>
    row.id === p.id ? { ...row, data: patched(row.data, p) } : row;
  if (p.entity === 'candidate') return { ...state, candidate: change(state.candidate) };
  return p.entity === 'quote'
    ? { ...state, quotes: state.quotes.map(change) }
    : { ...state, lanes: state.lanes.map(change) };
}

export const SheetContext = createContext<SheetStore | null>(null);
export function useStore(): SheetStore {
  const store = use(SheetContext);
  if (store === null) throw new Error('A sheet is missing around this part');
  return store;
}
export function useSnapshot(): Snapshot {
  const store = useStore();
  return useSyncExternalStore(store.subscribe, store.get, store.get);
}
/** A part of the snapshot; renders again only when that part changes. `select` must not make anything new. */
export function useSelected<T>(select: (snapshot: Snapshot) => T): T {
  const store = useStore();
  const read = () => select(store.get());
  return useSyncExternalStore(store.subscribe, read, read);
}
/** The value at one place; renders again only when it changes. */
export function useValue(entity: Patch['entity'], id: string, path: Path): unknown {
  const store = useStore();
  const read = () => valueAt(root(store.get().state, { entity, id }), path);
  return useSyncExternalStore(store.subscribe, read, read);
}
