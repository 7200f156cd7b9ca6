/** The way to the screening process. */
import { createHmac } from 'node:crypto';
import { eq, sql } from 'drizzle-orm';
import { MARK_STATES } from '../../between/ask.ts';
import type { Answer, Ask, JudgedRow, OpenedRow } from '../../between/ask.ts';
import { inWorkspace } from '../db/client.ts';
import { goodsMark } from '../db/schema.ts';
import { env } from '../env.ts';
import { gone, Refusal } from '../refusal.ts';
import type { ListPage } from '../use/lists.ts';

/** The screening process does not answer: it is starting again, or was never started. */
export class ScreeningAway extends Refusal {
  constructor(message: string) {
    super('away');
    this.message = message;
  }
}

export const screeningToken = (): string =>
  createHmac('sha256', env().BM_SECRET).update('screening').digest('hex');

async function post<T>(body: unknown, left?: AbortSignal): Promise<T> {
  const url = env().BM_SCREENING_URL;
  if (url === undefined) throw new ScreeningAway('no screening process');
  let res: Response;
  try {
    res = await fetch(url, {
      method: 'POST',
      headers: { authorization: `Bearer ${screeningToken()}`, 'content-type': 'application/json' },
      body: JSON.stringify(body),
      signal: AbortSignal.any([AbortSignal.timeout(60_000), ...(left === undefined ? [] : [left])]),
    });
  } catch (e) {
    throw new ScreeningAway(e instanceof Error ? e.message : 'away');
  }
  if (!res.ok)
    throw new Error(`The screening process answers ${res.status}: ${(await res.text()).slice(0, 300)}`);
  return (await res.json()) as T;
}

/** What is asked beside list, run and marks. */
export type Wanted = Pick<Ask, 'query' | 'show' | 'from' | 'count' | 'remedies' | 'figures' | 'facets'> & {
  asker?: string;
};

async function askWith<T>(
  workspaceId: string,
  page: ListPage,
  wanted: Wanted,
  { line, ahead, left }: { line?: number; ahead?: readonly number[]; left?: AbortSignal } = {},
): Promise<T> {
  const { list, shown, screen } = page;
  if (shown === null || screen === null || list.settings === null) throw gone();
  const edition = await inWorkspace(
    workspaceId,
    async (tx) =>
      (
        await tx
          .select({
            edition: sql<string>`count(*) || '/' || coalesce(max(extract(epoch
                from ${goodsMark.at}) * 1000000)::bigint::text, '')`,
          })
          .from(goodsMark)
          .where(eq(goodsMark.workspaceId, workspaceId))
      )[0]?.edition ?? '',
  );
  const ask: Omit<Ask, 'settings'> = {
    workspaceId,
    listId: list.id,
    runId: shown.id,
    parts: shown.data.parts ?? [],
    ranked: shown.data.ranked === true,
    expected: shown.total ?? 0,
    basis: list.settings.basis,
    categories: list.settings.categories,
    marksEdition: edition,
    marks: null,
    asker: '',
    ...wanted,
  };
  const settings = JSON.stringify(screen);
  const first = await post<T | { needsMarks: true } | null>({ ask, settings, line, ahead }, left);
  if (first !== null && !(typeof first === 'object' && 'needsMarks' in first)) return first as T;
  const marks = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({
        key: goodsMark.key,
        state: goodsMark.state,
        sold: goodsMark.soldPack,
        bought: goodsMark.boughtPack,
        listing: sql<number | null>`(${goodsMark.listings} ->> ${list.id})::int`,
      })
      .from(goodsMark)
      .where(eq(goodsMark.workspaceId, workspaceId)),
  );
  return post<T>(
    {
      ask: {
        ...ask,
        marks: marks.map((m) => [m.key, MARK_STATES.indexOf(m.state ?? ''), m.sold, m.bought, m.listing]),
      },
      settings,
      line,
      ahead,
    },
    left,
  );
}

/**
 * Rows of a list as a query leaves them, with counts and, where asked for, sums and distributions. `left`
 * tells when whoever asked has left: what nobody waits for is not worked out.
 */
export const askList = async (
  workspaceId: string,
  page: ListPage,
  wanted: Wanted,
  left?: AbortSignal,
): Promise<Answer> =>
  hasNoRows(page) ? NO_ROWS : askWith<Answer>(workspaceId, page, wanted, left === undefined ? {} : { left });
/** Before the first rows are read, and of a list in which no row is good. */
const hasNoRows = ({ shown }: ListPage): boolean => (shown?.data.parts ?? []).length === 0;
const NO_ROWS: Answer = {
  rows: 0,
  kept: 0,
  funnel: [],
  window: [],
  verdicts: { pass: 0, near: 0, fail: 0, unknown: 0 },
  unknown: { noMarket: 0, noCategory: 0, troubled: 0 },
  lacking: [],
  strange: [],
  stats: [],
  facets: null,
  took: { load: 0, evaluate: 0, select: 0, sort: 0 },
};

/**
 * The rows at these lines under assumptions that are tried, ahead of the whole list; null where they have to
 * wait for it.
 */
export const askAhead = async (
  workspaceId: string,
  page: ListPage,
  wanted: Wanted,
  ahead: readonly number[],
  left?: AbortSignal,
): Promise<JudgedRow[] | null> =>
  hasNoRows(page)
    ? null
    : askWith(workspaceId, page, wanted, { ahead, ...(left === undefined ? {} : { left }) });

/** One row by its line in the file, with what a lane document of it takes; null where the list has no such row. */
export const askRow = async (workspaceId: string, page: ListPage, line: number): Promise<OpenedRow | null> =>
  hasNoRows(page)
    ? null
    : askWith(
        workspaceId,
        page,
        {
          query: { text: '', filters: [], sort: [] },
          show: 'kept',
          from: 0,
          count: 0,
          remedies: true,
          figures: [],
          facets: false,
        },
        { line },
      );
