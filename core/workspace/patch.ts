/**
 * Changes by path. A patch says what stood there before, so that nobody overwrites what another has changed
 * meanwhile.
 */
import { z } from 'zod';

const FORBIDDEN = new Set(['__proto__', 'prototype', 'constructor']);
export const path = z
  .array(
    z.union([
      z
        .string()
        .max(60)
        .refine((key) => !FORBIDDEN.has(key), 'noSuchField'),
      z.number().int().min(0).max(10_000),
    ]),
  )
  .min(1)
  .max(12);
export type Path = z.output<typeof path>;

export const patch = z.strictObject({
  entity: z.enum(['candidate', 'quote', 'lane']),
  id: z.string().max(64),
  path,
  from: z.unknown(),
  to: z.unknown(),
});
export type Patch = z.output<typeof patch>;

/** The value at a path; undefined where the path leads nowhere. */
export function valueAt(root: unknown, at: Path): unknown {
  let here: unknown = root;
  for (const key of at) {
    if (here === null || typeof here !== 'object' || !Object.hasOwn(here, key)) return undefined;
    here = (here as Record<string | number, unknown>)[key];
  }
  return here;
}

/** A copy of `root` with the value at a path replaced; the rest is shared. Undefined removes an optional key. */
export function withValueAt<T>(root: T, at: Path, value: unknown): T {
  const [key, ...rest] = at as [string | number, ...Path];
  if (FORBIDDEN.has(String(key))) throw new TypeError(`No such field: ${key}`);
  const copy = (Array.isArray(root) ? root.slice() : { ...(root as object) }) as Record<
    string | number,
    unknown
  >;
  const next = rest.length === 0 ? value : withValueAt(copy[key] ?? {}, rest, value);
  if (next === undefined) delete copy[key];
  else copy[key] = next;
  return copy as T;
}

/**
 * A copy of `root` as a patch leaves it. A note of where a value came from is taken away by null: it was not
 * there before, and undoing an edit has to undo its note.
 */
export function patched<T>(root: T, p: Pick<Patch, 'path' | 'to'>): T {
  return withValueAt(root, p.path, p.path[0] === 'provenance' && p.to === null ? undefined : p.to);
}

/** Whether two patches are about the same place. */
export function samePlace(a: Patch, b: Patch): boolean {
  return (
    a.entity === b.entity &&
    a.id === b.id &&
    a.path.length === b.path.length &&
    a.path.every((key, i) => key === b.path[i])
  );
}

export function inverse(p: Patch): Patch {
  return { ...p, from: p.to, to: p.from };
}
