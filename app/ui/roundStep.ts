/** The smallest step of 1, 2 or 5 times a power of ten that cuts a stretch into at most so many parts. */
export function roundStep(stretch: number, most: number): number {
  const span = Math.max(stretch, 1e-9);
  for (let power = 10 ** (Math.floor(Math.log10(span)) - 2); ; power *= 10)
    for (const lead of [1, 2, 5]) if (span / (lead * power) <= most + 1e-9) return lead * power;
}
