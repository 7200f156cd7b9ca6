/** A thread of its own that stores parts of long lists while the next are read. */
import { storeGathered } from './storeGathered.ts';
import type { PartDone, PartJob } from './storeGathered.ts';

/** The last part of the list that is read; one worker reads one at a time. */
let last: { readonly reading: string; readonly stored: Promise<boolean> } | null = null;

export default async function store(job: PartJob): Promise<PartDone> {
  try {
    const before = last?.reading === job.reading ? last.stored : Promise.resolve(true);
    const stored = storeGathered(job, before);
    last = { reading: job.reading, stored };
    return { stored: await stored };
  } catch (e) {
    return { failed: e instanceof Error ? e.message : String(e), code: (e as { code?: string }).code };
  }
}
