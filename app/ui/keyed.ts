/** Items with a key of their own each: what they are called, and where that stands again, which one it is. */
export function keyed<T>(
  items: readonly T[],
  nameOf: (item: T) => string,
): { key: string; item: T; place: number }[] {
  const seen = new Map<string, number>();
  return items.map((item, place) => {
    const name = nameOf(item);
    const n = (seen.get(name) ?? 0) + 1;
    seen.set(name, n);
    return { key: n === 1 ? name : `${name} ${n}`, item, place };
  });
}
