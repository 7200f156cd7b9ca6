/** Where the parts of the picture of an account stand, in pixels. */
export const LEFT = 58;
/** Room for what the lines are called. */
export const RIGHT = 76;
export const TOP = 62;
export const ACCOUNT = 210;
export const STOCK = 74;
const GAP = 34;
/** Where the stock stands. */
export const BASE = TOP + ACCOUNT + GAP + STOCK;
export const HEIGHT = BASE + 22;
export const v = (name: string): string => `var(--mui-palette-${name})`;

/** Steps from day to day: a day's value stands until the next. */
export function steps(values: ArrayLike<number>, x: (t: number) => number, y: (v: number) => number): string {
  let d = `M${x(0).toFixed(1)} ${y(values[0] as number).toFixed(1)}`;
  for (let t = 1; t < values.length; t++) {
    if (values[t] === values[t - 1]) continue;
    d += `H${x(t).toFixed(1)}V${y(values[t] as number).toFixed(1)}`;
  }
  return `${d}H${x(values.length).toFixed(1)}`;
}
