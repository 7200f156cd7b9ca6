/** Shapes of days in a row: stretches, and outlines of what is known. */

/** Stretches of days in a row that something is so, by place: first and last. */
export function stretchesOf(on: readonly boolean[]): [number, number][] {
  const found: [number, number][] = [];
  on.forEach((is, i) => {
    if (!is) return;
    const last = found.at(-1);
    if (last !== undefined && last[1] === i - 1) last[1] = i;
    else found.push([i, i]);
  });
  return found;
}

/**
 * The path of values day by day, in steps, broken where there is none; closed down to `base` where there is one. A day
 * takes the width from `x(i)` to `x(i + 1)`.
 *
 * @example outlineOf([1, null, 2], (v) => v, null, (i) => i * 10, (v) => v) // 'M0.0 1.0H10.0M20.0 2.0H30.0'
 */
export function outlineOf<D>(
  days: readonly D[],
  valueAt: (day: D) => number | null,
  base: number | null,
  x: (i: number) => number,
  y: (value: number) => number,
): string {
  const at = (n: number): string => n.toFixed(1);
  let path = '';
  for (const [from, to] of stretchesOf(days.map((d) => valueAt(d) !== null))) {
    let last: number | null = null;
    for (let i = from; i <= to; i++) {
      const value = valueAt(days[i] as D) as number;
      if (last === null)
        path +=
          base === null ? `M${at(x(i))} ${at(y(value))}` : `M${at(x(i))} ${at(y(base))}V${at(y(value))}`;
      else if (value !== last) path += `H${at(x(i))}V${at(y(value))}`;
      last = value;
    }
    path += `H${at(x(to + 1))}`;
    if (base !== null) path += `V${at(y(base))}Z`;
  }
  return path;
}
