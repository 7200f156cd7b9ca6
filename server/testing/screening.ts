/** A screening process for the tests of a file. */
import { startScreening } from '../../scripts/lib/system.mjs';
import { env } from '../env.ts';

/** Starts it, and has this process ask it. */
export async function screeningForTests(): Promise<{ stop: () => void }> {
  const screening = await startScreening(process.env as never, { quiet: true });
  Object.assign(env(), { BM_SCREENING_URL: screening.url });
  return { stop: () => screening.stop() };
}
