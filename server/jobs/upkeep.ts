/**
 * What the worker does now and then: clears away what was deleted long ago, and counts that nothing reads any
 * more.
 */
import { organization } from '../db/authSchema.ts';
import { clearTries } from '../auth/tries.ts';
import { authDb } from '../db/client.ts';
import { log } from '../log.ts';
import { clearDeletedLists } from '../use/deleteLists.ts';

const EVERY = 3_600_000;

/** One round, workspace after workspace. Returns how many lists left the disk. */
export async function upkeep(): Promise<number> {
  await clearTries();
  let lists = 0;
  for (const { id } of await authDb().select({ id: organization.id }).from(organization))
    lists += await clearDeletedLists(id);
  if (lists > 0) log.info({ lists }, 'deleted lists have left the disk');
  return lists;
}

/** A round soon after the start, and one every hour; what fails is tried again at the next. */
export function keepUp(): void {
  const round = (): void =>
    void upkeep().catch((e) =>
      log.warn({ message: e instanceof Error ? e.message : String(e) }, 'upkeep stopped'),
    );
  setTimeout(round, 20_000).unref();
  setInterval(round, EVERY).unref();
}
