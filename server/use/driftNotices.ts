/** Notices that lines of a lane on sale have left the plan. */
import { and, desc, eq } from 'drizzle-orm';
import type { LaneBook } from '../../core/actuals/book.ts';
import type { Tx } from '../db/client.ts';
import { notice } from '../db/schema.ts';
import type { Launched } from './onSale.ts';
import { addNotices } from './tasks.ts';

/** Gives notice of a lane whose lines drift, once: again only where other lines do. */
export async function noticeDrift(
  tx: Tx,
  workspaceId: string,
  launched: Launched,
  { lately }: Pick<LaneBook, 'lately'>,
): Promise<void> {
  const [worst] = lately?.drifts ?? [];
  if (worst === undefined || lately === null || launched.stopped !== null) return;
  const link = `/selling/${launched.laneId}`;
  const lines = lately.drifts
    .map((d) => d.what)
    .sort()
    .join(' ');
  const [told] = await tx
    .select({ data: notice.data })
    .from(notice)
    .where(and(eq(notice.workspaceId, workspaceId), eq(notice.kind, 'drift'), eq(notice.link, link)))
    .orderBy(desc(notice.at))
    .limit(1);
  if (told?.data.lines === lines) return;
  const { what, each, year } = worst;
  const { currency } = lately.gist;
  const data = { name: launched.name, line: what, each, year, currency, lines };
  await addNotices(tx, workspaceId, [{ kind: 'drift', data, link }]);
}
