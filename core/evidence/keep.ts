/** Parts of a whole that are worked out again only where something they are made of is new. */

/** Works a part out, or gives the one that was worked out of the very same things before. */
export type Keep = <T>(name: string, of: readonly unknown[], work: () => T) => T;
/** Without a memory. */
export const anew: Keep = (_, __, work) => work();
/** A memory of the last part of each name. */
export function keeper(): Keep {
  const kept = new Map<string, { of: readonly unknown[]; value: unknown }>();
  return <T>(name: string, of: readonly unknown[], work: () => T): T => {
    const known = kept.get(name);
    if (known !== undefined && known.of.length === of.length && known.of.every((x, i) => x === of[i]))
      return known.value as T;
    const value = work();
    kept.set(name, { of, value });
    return value;
  };
}
