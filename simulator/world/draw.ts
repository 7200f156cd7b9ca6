/** Draws of the invented world: the same numbers for the same question, without keeping anything. */

/** A draw from 0 to under 1 for three numbers; neighbours have nothing to do with each other. */
export function draw(seed: number, a: number, b: number): number {
  let h = (seed ^ Math.imul(a + 1, 0x9e3779b1) ^ Math.imul(b + 1, 0x85ebca6b)) | 0;
  h = Math.imul(h ^ (h >>> 16), 0x7feb352d);
  h = Math.imul(h ^ (h >>> 15), 0x846ca68b);
  h ^= h >>> 16;
  return (h >>> 0) / 4294967296;
}
export const between = (u: number, low: number, high: number): number => low + (high - low) * u;
export const dayNumber = (day: string): number => Math.floor(Date.parse(`${day}T00:00:00Z`) / 86_400_000);
export const dayText = (n: number): string => new Date(n * 86_400_000).toISOString().slice(0, 10);
