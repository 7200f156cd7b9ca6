/** What several measures share: the browser's arguments, and a stopwatch. */
export const CHROMIUM = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-background-networking',
  '--disable-sync',
  '--no-first-run',
];

export async function timed<T>(work: () => Promise<T>): Promise<{ value: T; ms: number }> {
  const started = performance.now();
  const value = await work();
  return { value, ms: performance.now() - started };
}
