/** Notices that lines of a lane on sale have left the plan. */
import { and, desc, eq } from 'drizzle-orm';
import type { Tx } from '../db/client.ts';
import { notice } from '../db/schema.ts';
import { onSaleIn } from './onSale.ts';
import { addNotices } from './tasks.ts';
import type { NewNotice } from './tasks.ts';

/** Gives notice of each lane of a place whose lines drift, once: again only where other lines do. */
export async function noticeDrift(tx: Tx, workspaceId: string, place: string): Promise<void> {
  const { lanes } = await onSaleIn(tx, workspaceId, { place });
  const notices: NewNotice[] = [];
  for (const { launched, lately } of lanes) {
    const [worst] = lately?.drifts ?? [];
    if (worst === undefined || lately === null || launched.stopped !== null) continue;
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
    if (told?.data.lines === lines) continue;
    const { what, each, year } = worst;
    const { currency } = lately.compared;
    notices.push({
      kind: 'drift',
      data: { name: launched.name, line: what, each, year, currency, lines },
      link,
    });
  }
  await addNotices(tx, workspaceId, notices);
}
