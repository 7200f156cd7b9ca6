/** Notices that lines of lanes on sale have left the plan. */
import { and, desc, eq, inArray } from 'drizzle-orm';
import type { LaneBook } from '../../core/actuals/book.ts';
import type { Tx } from '../db/client.ts';
import { notice } from '../db/schema.ts';
import type { Launched } from './onSale.ts';
import { addNotices } from './tasks.ts';
import type { NewNotice } from './tasks.ts';

/** Gives notice of lanes whose lines drift, once: again only where other lines do. */
export async function noticeDrift(
  tx: Tx,
  workspaceId: string,
  lanes: readonly { readonly launched: Launched; readonly book: Pick<LaneBook, 'lately'> }[],
): Promise<void> {
  const notices = lanes.flatMap(({ launched, book }): NewNotice[] => {
    const [worst] = book.lately?.drifts ?? [];
    if (worst === undefined || book.lately === null || launched.stopped !== null) return [];
    const lines = book.lately.drifts
      .map((d) => d.what)
      .sort()
      .join(' ');
    const { what, each, year } = worst;
    const { currency } = book.lately.gist;
    const data = { name: launched.name, line: what, each, year, currency, lines };
    return [{ kind: 'drift', data, link: `/selling/${launched.laneId}` }];
  });
  if (notices.length === 0) return;
  const told = await tx
    .selectDistinctOn([notice.link], { link: notice.link, data: notice.data })
    .from(notice)
    .where(
      and(
        eq(notice.workspaceId, workspaceId),
        eq(notice.kind, 'drift'),
        inArray(
          notice.link,
          notices.map((n) => n.link),
        ),
      ),
    )
    .orderBy(notice.link, desc(notice.at));
  const before = new Map(told.map((n) => [n.link, n.data.lines]));
  await addNotices(
    tx,
    workspaceId,
    notices.filter((n) => before.get(n.link) !== n.data.lines),
  );
}
