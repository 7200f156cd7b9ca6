/** Measures of the list of candidates. */
import { and, eq, sql } from 'drizzle-orm';
import { organization } from '../server/db/authSchema.ts';
import { authDb, inWorkspace } from '../server/db/client.ts';
import { candidate } from '../server/db/schema.ts';
import { duplicateCandidate, setFate } from '../server/use/candidates.ts';
import type { Measure } from './core.ts';
import { median } from './sheet.ts';
import { inDemo, timed } from './tools.ts';

/** Weigh with 500 candidates beside Weigh with a dozen: the page as the server sends it, and until its rows stand. */
export async function measureWeigh(origin: string): Promise<Measure[]> {
  const [w] = await authDb().select({ id: organization.id }).from(organization).limit(1);
  if (w === undefined) throw new Error('no workspace');
  const workspaceId = w.id;
  return inDemo(origin, async (page) => {
    const url = page.url();
    const look = async (): Promise<{ sent: number; stands: number }> => {
      const sent: number[] = [];
      const stands: number[] = [];
      for (let i = 0; i < 12; i++) {
        const { ms } = await timed(async () => (await page.request.get(url)).body());
        const seen = await timed(async () => {
          await page.goto(url, { waitUntil: 'commit' });
          await page.locator('html[data-answers]').waitFor({ state: 'attached' });
        });
        if (i > 1) {
          sent.push(ms);
          stands.push(seen.ms);
        }
      }
      return { sent: median(sent), stands: median(stands) };
    };
    const few = await look();
    const ids = await addCandidates(workspaceId, 500);
    const many = await look();
    await setFate(workspaceId, ids, { deleted: true });
    return [
      {
        name: 'Weigh with 500 candidates more: page rendered by the server, median of 10',
        value: many.sent,
        unit: 'ms',
        aim: 'at most 2 times almost none',
        yardstick: `the same page with those of the demo: ${few.sent.toFixed(1)} ms`,
        ratio: many.sent / few.sent,
      },
      {
        name: 'The same until its first rows answer in the browser',
        value: many.stands,
        unit: 'ms',
        aim: 'at most 2 times almost none',
        yardstick: `with those of the demo: ${few.stands.toFixed(1)} ms`,
        ratio: many.stands / few.stands,
      },
    ];
  });
}

/** Copies of a candidate of the demo, each with its lanes. */
async function addCandidates(workspaceId: string, n: number): Promise<string[]> {
  const [bee] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ id: candidate.id })
      .from(candidate)
      .where(
        and(eq(candidate.workspaceId, workspaceId), sql`${candidate.data} ->> 'name' like 'Bee house%'`),
      ),
  );
  const ids: string[] = [];
  for (let i = 0; i < n; i++) {
    const id = await duplicateCandidate(workspaceId, bee?.id ?? '', (old) => `${old.slice(0, 150)} ${i}`);
    if (id !== null) ids.push(id);
  }
  return ids;
}
