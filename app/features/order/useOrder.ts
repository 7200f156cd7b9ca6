/** A draft while it is edited: every change saved a moment later, and undone until the order is sent. */
import { useCallback, useMemo, useRef, useState } from 'react';
import { z } from 'zod';
import { orderLine, orderTerms } from '../../../core/orders/schema.ts';
import type { OrderLine, OrderTerms } from '../../../core/orders/schema.ts';
import { useSavedFields } from '../../ui/useSavedFields.ts';

/** Terms beside lines, each line a field of its own: two people who change different ones keep both. */
type Flat = Omit<OrderTerms, 'lines'> & { sequence: readonly string[] } & {
  [line: `line/${string}`]: OrderLine | null;
};

function flat({ lines, ...terms }: OrderTerms): Flat {
  return {
    ...terms,
    sequence: lines.map((l) => l.id),
    ...Object.fromEntries(lines.map((l) => [`line/${l.id}`, l])),
  } as Flat;
}

function whole(fields: Flat): OrderTerms {
  const { sequence, ...rest } = fields;
  const terms = Object.fromEntries(Object.entries(rest).filter(([k]) => !k.startsWith('line/')));
  return {
    ...(terms as Omit<OrderTerms, 'lines'>),
    lines: sequence.flatMap((id) => fields[`line/${id}`] ?? []),
  };
}

/** What is sent of fields that changed. */
function bodyOf(changed: Partial<Flat>): object {
  const lines = Object.entries(changed).filter(([k]) => k.startsWith('line/'));
  const terms = Object.entries(changed).filter(([k]) => !k.startsWith('line/') && k !== 'sequence');
  return {
    terms: Object.fromEntries(terms),
    lines: Object.fromEntries(lines.map(([k, line]) => [k.slice('line/'.length), line])),
    ...(changed.sequence === undefined ? {} : { sequence: changed.sequence }),
  };
}

const keptPart = z.record(z.string(), z.unknown()).transform((raw) => {
  const terms = orderTerms
    .partial()
    .safeParse(
      Object.fromEntries(Object.entries(raw).filter(([k]) => !k.startsWith('line/') && k !== 'sequence')),
    );
  const lines = Object.entries(raw).flatMap(([k, v]) => {
    const line = k.startsWith('line/') ? orderLine.nullable().safeParse(v) : null;
    return line?.success === true ? [[k, line.data]] : [];
  });
  const sequence = z.array(z.string()).safeParse(raw.sequence);
  const given = new Set(Object.keys(raw));
  return {
    ...Object.fromEntries(Object.entries(terms.data ?? {}).filter(([k]) => given.has(k))),
    ...Object.fromEntries(lines),
    ...(sequence.success ? { sequence: sequence.data } : {}),
  } as Partial<Flat>;
});

/** Changes of the same fields within so many milliseconds are undone together. */
const TOGETHER_MS = 900;
type Step = { readonly before: Partial<Flat>; readonly after: Partial<Flat>; readonly at: number };

export function useOrder(id: string, stored: OrderTerms, url: string, canEdit: boolean) {
  const known = useMemo(() => flat(stored), [stored]);
  const { fields, set, state, error } = useSavedFields<Flat>(known, {
    tab: `bm-unsaved-order-${id}`,
    url,
    canEdit,
    part: keptPart,
    bodyOf,
  });
  const [done, setDone] = useState<readonly Step[]>([]);
  const [undone, setUndone] = useState<readonly Step[]>([]);
  const now = useRef(fields);
  now.current = fields;
  const change = useCallback(
    (after: Partial<Flat>): void => {
      const keys = Object.keys(after) as (keyof Flat)[];
      const before = Object.fromEntries(keys.map((k) => [k, now.current[k] ?? null])) as Partial<Flat>;
      now.current = { ...now.current, ...after } as Flat;
      set(after);
      setUndone([]);
      setDone((steps) => {
        const last = steps[steps.length - 1];
        const joins =
          last !== undefined &&
          Date.now() - last.at < TOGETHER_MS &&
          keys.length === Object.keys(last.after).length &&
          keys.every((k) => k in last.after);
        const step = { before: joins ? last.before : before, after, at: Date.now() };
        return [...(joins ? steps.slice(0, -1) : steps), step].slice(-200);
      });
    },
    [set],
  );
  const undo = useCallback((): void => {
    const last = done[done.length - 1];
    if (last === undefined) return;
    set(last.before);
    setDone(done.slice(0, -1));
    setUndone([...undone, last]);
  }, [done, undone, set]);
  const redo = useCallback((): void => {
    const last = undone[undone.length - 1];
    if (last === undefined) return;
    set(last.after);
    setUndone(undone.slice(0, -1));
    setDone([...done, { ...last, at: 0 }]);
  }, [done, undone, set]);
  const terms = useMemo(() => whole(fields), [fields]);
  const setTerms = useCallback((some: Partial<Omit<OrderTerms, 'lines'>>) => change(some), [change]);
  const setLine = useCallback(
    (line: OrderLine) => change({ [`line/${line.id}`]: line } as Partial<Flat>),
    [change],
  );
  const addLine = useCallback(
    (line: OrderLine) =>
      change({ [`line/${line.id}`]: line, sequence: [...now.current.sequence, line.id] } as Partial<Flat>),
    [change],
  );
  const removeLine = useCallback(
    (lineId: string) =>
      change({
        [`line/${lineId}`]: null,
        sequence: now.current.sequence.filter((x) => x !== lineId),
      } as Partial<Flat>),
    [change],
  );
  return {
    terms,
    state,
    error,
    setTerms,
    setLine,
    addLine,
    removeLine,
    undo: done.length > 0 ? undo : null,
    redo: undone.length > 0 ? redo : null,
  };
}
export type OrderEdit = ReturnType<typeof useOrder>;
