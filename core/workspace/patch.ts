/** Changes by path. A patch says what stood there before, so that nobody overwrites what another has changed meanwhile. */
import { z } from 'zod';

export const path = z.array(z.union([z.string().max(60), z.number().int().min(0).max(10_000)])).min(1).max(12);
export type Path = z.output<typeof path>;

export const patch = z.strictObject({
  entity: z.enum(['candidate', 'quote', 'lane']),
  id: z.string().max(64),
  path,
  from: z.unknown(),
  to: z.unknown(),
});
export type Patch = z.output<typeof patch>;

const FORBIDDEN = new Set(['__proto__', 'prototype', 'constructor']);

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
  const copy = (Array.isArray(root) ? root.slice() : { ...(root as object) }) as Record<string | number, unknown>;
  const next = rest.length === 0 ? value : withValueAt(copy[key] ?? {}, rest, value);
  if (next === undefined) delete copy[key];
  else copy[key] = next;
  return copy as T;
}

export function inverse(p: Patch): Patch {
  return { ...p, from: p.to, to: p.from };
}
