/** Bundles whose components are other candidates: what may be put into which. */

/** Of each candidate, the candidates it is made of. */
export type Makeup = ReadonlyMap<string, readonly string[]>;

/**
 * The way by which `part` already contains `whole` (ids, from `part` to `whole`), so that putting `part` into
 * `whole` would close a circle; null where it would not.
 */
export function circleBy(makeup: Makeup, whole: string, part: string): string[] | null {
  const cameFrom = new Map<string, string | null>([[part, null]]);
  const open = [part];
  for (let at = open.shift(); at !== undefined; at = open.shift()) {
    if (at === whole) {
      const way: string[] = [];
      for (let x: string | null = at; x !== null; x = cameFrom.get(x) ?? null) way.unshift(x);
      return way;
    }
    for (const next of makeup.get(at) ?? [])
      if (!cameFrom.has(next)) {
        cameFrom.set(next, at);
        open.push(next);
      }
  }
  return null;
}
