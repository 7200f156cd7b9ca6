/** Which column of a file says what, by the headings it may have in any language. */

/** A heading without case and signs. */
export const plain = (heading: string): string =>
  heading
    .toLowerCase()
    .replace(/[_\s./()[\]:*#]+/g, ' ')
    .trim();

/** How well a heading fits what a column may be called, 0 to 3: whole, by its beginning, by a part. */
export function headingFits(heading: string, headings: readonly string[]): number {
  const h = plain(heading);
  if (h === '') return 0;
  const names = headings.map(plain);
  if (names.includes(h)) return 3;
  if (names.some((n) => n.length > 3 && h.startsWith(n))) return 2;
  return names.some((n) => (n.length > 3 ? h.includes(n) : h.split(' ').includes(n))) ? 1 : 0;
}

/** How well a column fits what is looked for; 0: not at all. */
export type Fit<K extends string> = { readonly key: K; readonly at: number; readonly score: number };

/** What fits best first: each key one column, each column one key. Of two that fit alike, the column further left. */
export function eachOnce<K extends string>(fits: readonly Fit<K>[]): Partial<Record<K, number>> {
  const places: Partial<Record<K, number>> = {};
  const taken = new Set<number>();
  for (const { key, at } of fits
    .filter((f) => f.score > 0)
    .sort((a, b) => b.score - a.score || a.at - b.at)) {
    if (places[key] !== undefined || taken.has(at)) continue;
    places[key] = at;
    taken.add(at);
  }
  return places;
}

/** The same as headings. */
export const namedBy = <K extends string>(
  header: readonly string[],
  places: Partial<Record<K, number>>,
): Partial<Record<K, string>> =>
  Object.fromEntries(
    Object.entries<number | undefined>(places).map(([key, at]) => [key, header[at as number]]),
  ) as Partial<Record<K, string>>;

/** Each key the column whose heading fits its names best. */
export const columnsOf = <K extends string>(
  header: readonly string[],
  names: Readonly<Record<K, readonly string[]>>,
): Partial<Record<K, number>> =>
  eachOnce(
    (Object.keys(names) as K[]).flatMap((key) =>
      header.map((h, at) => ({ key, at, score: headingFits(h, names[key]) })),
    ),
  );
