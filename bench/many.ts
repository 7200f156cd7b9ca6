/**
 * Measures of many lanes and of rates: generating, comparing, importing a card, weighing ten thousand lanes
 * again.
 */
import { and, eq, isNull, sql } from 'drizzle-orm';
import Papa from 'papaparse';
import { cardFrom } from '../core/cards/schema.ts';
import { quoteSource } from '../core/workspace/records.ts';
import type { CardOf } from '../core/cards/schema.ts';
import { tablesOf } from '../core/cards/tables.ts';
import { authDb, inWorkspace } from '../server/db/client.ts';
import { organization } from '../server/db/authSchema.ts';
import { candidate, lane, quote, rateCard, task } from '../server/db/schema.ts';
import { cellsFrom, outSheets } from '../server/files/cardFiles.ts';
import { readCsv, writeCsv } from '../server/files/sheets.ts';
import { workOnLanes } from '../server/jobs/weighLanes.ts';
import { previewOf } from '../server/use/cards.ts';
import { generateLanes } from '../server/use/proposals.ts';
import { cardsInForce, newId } from '../server/use/workspaces.ts';
import type { Measure } from './core.ts';
import { median, scripting } from './sheet.ts';
import { inDemo, timed } from './tools.ts';

/**
 * A candidate with five quotes; its lanes are every combination of all marketplaces, two ways of fulfilment
 * and all routes.
 */
async function manyLanes(
  workspaceId: string,
): Promise<{ id: string; lanes: number; ms: number; one: string }> {
  const cards = await inWorkspace(workspaceId, (tx) => cardsInForce(tx, workspaceId, '2026-11-24'));
  const [bee] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ id: candidate.id, data: candidate.data })
      .from(candidate)
      .where(
        and(eq(candidate.workspaceId, workspaceId), sql`${candidate.data} ->> 'name' like 'Bee house%'`),
      ),
  );
  const [q] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ data: quote.data })
      .from(quote)
      .where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, bee?.id ?? ''))),
  );
  const made: string[] = [];
  for (const quotes of [5, 1]) {
    const id = newId();
    const ids = Array.from({ length: quotes }, () => newId());
    await inWorkspace(workspaceId, async (tx) => {
      await tx
        .insert(candidate)
        .values({
          workspaceId,
          id,
          data: {
            ...(bee?.data as NonNullable<typeof bee>['data']),
            name: quotes === 5 ? 'Many lanes' : 'One lane',
          },
        });
      await tx
        .insert(quote)
        .values(
          ids.map((quoteId, i) => ({
            workspaceId,
            id: quoteId,
            candidateId: id,
            data: quoteSource.parse({ ...q?.data, supplier: `Supplier ${i + 1}` }),
          })),
        );
    });
    made.push(id);
    const marketplaces = cards.filter((c) => c.kind === 'marketplace').map((c) => c.key);
    const routes = cards.filter((c) => c.kind === 'freight').map((c) => c.key);
    const ask =
      quotes === 5
        ? { marketplaces, methods: ['warehouse' as const, 'ownDispatch' as const], quotes: ids, routes }
        : { marketplaces: ['Alderway/DE'], methods: ['warehouse' as const], quotes: ids, routes: [] };
    const { value, ms } = await timed(() =>
      generateLanes(workspaceId, id, { ...ask, without: [], like: null, habit: '99' }, 'bench'),
    );
    if (quotes === 1) return { id: made[0] as string, lanes: total, ms: took, one: id };
    if (value === null || !('ids' in value)) throw new Error('no lanes');
    // Just five hundred are kept.
    const extra = value.ids.slice(500);
    if (extra.length > 0)
      await inWorkspace(workspaceId, (tx) =>
        tx
          .delete(lane)
          .where(
            and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, id), sql`${lane.position} >= 500`),
          ),
      );
    total = value.ids.length;
    took = ms;
  }
  throw new Error('unreachable');
}
let total = 0;
let took = 0;

async function measureComparison(origin: string, many: string, one: string): Promise<Measure[]> {
  return inDemo(origin, async (page) => {
    const base = page.url().replace(/\/weigh.*/, '/weigh');
    const times: Record<string, number[]> = { [many]: [], [one]: [] };
    // By turns, so that a busy moment falls on both.
    for (let i = 0; i < 14; i++)
      for (const id of [one, many]) {
        const { ms } = await timed(async () => (await page.request.get(`${base}/${id}/compare`)).body());
        if (i > 1) (times[id] as number[]).push(ms);
      }
    const [slow, quick] = [median(times[many] as number[]), median(times[one] as number[])];
    await page.goto(`${base}/${many}/compare`);
    await page.getByTestId('compare-answer').waitFor();
    await page.waitForLoadState('networkidle');
    const spent = await scripting(page);
    const repaints: number[] = [];
    const slider = page.getByRole('slider');
    await slider.focus();
    const first = page.locator('.compared').first();
    for (let i = 0; i < 30; i++) {
      const was = await first.innerText();
      const before = await spent();
      await page.keyboard.press(i % 2 === 0 ? 'ArrowRight' : 'ArrowLeft');
      await page.evaluate(
        () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))),
      );
      repaints.push((await spent()) - before);
      if ((await first.innerText()) === was) throw new Error('nothing was repainted');
      await page.waitForTimeout(i % 5 === 4 ? 700 : 30);
    }
    return [
      {
        name: 'Comparison of 500 lanes, page rendered by the server with the rest as data, median of 12',
        value: slow,
        unit: 'ms',
        aim: 'at most 3 times one lane',
        yardstick: `the same page with one lane: ${quick.toFixed(1)} ms`,
        ratio: slow / quick,
      },
      {
        name: 'Repaint of 500 lanes after a change of the freight factor, scripting, median of 30',
        value: median(repaints),
        unit: 'ms',
        aim: 'at most 50',
        yardstick: 'answer and differences that follow included',
        ratio: null,
      },
    ];
  });
}

/** A tax card of 5,000 duty rows, as CSV: previewed against its version, beside parsing the file alone. */
function measureImport(tax: CardOf<'tax'>): Measure {
  const duties = Array.from({ length: 5000 }, (_, i) => ({
    heading: String(100000 + i),
    origins: i % 3 === 0 ? ['CN'] : null,
    pct: (i % 120) / 1000,
    perUnit: 0,
    perKg: i % 7 === 0 ? 0.1 : 0,
    additional: false,
  }));
  const card = { ...tax, duties };
  const [sheet] = outSheets('tax', card, 'duties');
  const text = writeCsv(sheet as NonNullable<typeof sheet>);
  const base = { ...card, duties: duties.map((d, i) => (i % 10 === 0 ? { ...d, pct: d.pct + 0.01 } : d)) };
  const preview = (): number => {
    const started = performance.now();
    const file = readCsv(text);
    const cells = file.ok ? cellsFrom('tax', file.sheets, base) : null;
    if (cells === null || !cells.ok) throw new Error('not read');
    const p = previewOf('tax', cells.cells, base, false);
    if (p.counts.changed !== 500) throw new Error(`previewed ${p.counts.changed} changes`);
    return performance.now() - started;
  };
  const parse = (): number => {
    const started = performance.now();
    Papa.parse(text);
    return performance.now() - started;
  };
  const previews: number[] = [];
  const parses: number[] = [];
  for (let i = 0; i < 60; i++) {
    parses.push(parse());
    previews.push(preview());
  }
  const [a, b] = [median(previews.slice(20)), median(parses.slice(20))];
  return {
    name: 'Card import of 5,000 rows previewed (read, checked, compared), median of 40 once warm',
    value: a,
    unit: 'ms',
    aim: 'at most 3 times parsing',
    yardstick: `papaparse alone on the same file: ${b.toFixed(1)} ms`,
    ratio: a / b,
  };
}

/** Ten thousand lanes brought up to a new version of their card, beside a bare update of as many rows. */
async function measureWeighing(workspaceId: string, from: string): Promise<Measure> {
  const rows = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ data: lane.data, result: lane.result })
      .from(lane)
      .where(
        and(
          eq(lane.workspaceId, workspaceId),
          eq(lane.candidateId, from),
          sql`${lane.data} ->> 'marketplace' = 'Alderway'`,
        ),
      ),
  );
  const [of] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ data: candidate.data })
      .from(candidate)
      .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, from))),
  );
  const cards = await inWorkspace(workspaceId, (tx) => cardsInForce(tx, workspaceId, '2026-11-24'));
  const germany = cards.find((c) => c.key === 'Alderway/DE');
  const german = rows.filter((r) => r.data.country === 'DE');
  for (let c = 0; c < 5; c++) {
    const id = newId();
    await inWorkspace(workspaceId, async (tx) => {
      await tx
        .insert(candidate)
        .values({
          workspaceId,
          id,
          data: { ...(of?.data as NonNullable<typeof of>['data']), name: `Ten thousand ${c}` },
        });
      for (let i = 0; i < 4; i++)
        await tx
          .insert(lane)
          .values(
            Array.from({ length: 500 }, (_, j) => ({
              workspaceId,
              id: newId(),
              candidateId: id,
              position: i * 500 + j,
              data: (german[j % german.length] as (typeof german)[number]).data,
              result: german[j % german.length]?.result,
              resultAt: new Date(),
            })),
          );
    });
  }
  const bare = async (): Promise<number> => {
    const found = await inWorkspace(workspaceId, (tx) =>
      tx
        .select({ id: lane.id, data: lane.data, result: lane.result })
        .from(lane)
        .where(
          and(
            eq(lane.workspaceId, workspaceId),
            sql`${lane.data} ->> 'marketplace' = 'Alderway' and ${lane.data} ->> 'country' = 'DE'`,
            isNull(lane.scenarioOf),
          ),
        ),
    );
    const texts = found.map((r) => ({ id: r.id, data: r.data, result: r.result }));
    const parts = Array.from({ length: Math.ceil(texts.length / 1000) }, (_, i) =>
      JSON.stringify(texts.slice(i * 1000, i * 1000 + 1000)),
    );
    const started = performance.now();
    for (const part of parts)
      await inWorkspace(workspaceId, (tx) =>
        tx.execute(
          sql`update bm.lane l set data = u.data, result = u.result
              from jsonb_to_recordset(${part}::jsonb) as u(id text, data jsonb, result jsonb)
              where l.workspace_id = ${workspaceId} and l.id = u.id`,
        ),
      );
    return (1000 * texts.length) / (performance.now() - started);
  };
  // As after any large load, the database has taken stock of its tables before they are worked on.
  const filled = Date.now();
  for (let i = 0; i < 60; i++) {
    const { rows } = await inWorkspace(workspaceId, (tx) =>
      tx.execute(
        sql`select last_autoanalyze from pg_stat_user_tables where schemaname = 'bm' and relname = 'lane'`,
      ),
    );
    const at = (rows[0] as { last_autoanalyze: Date | null } | undefined)?.last_autoanalyze ?? null;
    if (at !== null && new Date(at).getTime() > filled) break;
    await new Promise((done) => setTimeout(done, 500));
  }
  const data = germany?.data as CardOf<'marketplace'>;
  const bares: number[] = [];
  const rates: number[] = [];
  let changed = 0;
  // By turns, so that a busy moment of the machine falls on both.
  for (const [i, day] of ['2026-11-18', '2026-11-19', '2026-11-20', '2026-11-21', '2026-11-22'].entries()) {
    bares.push(await bare());
    const next = cardFrom(
      {
        ...data,
        categories: data.categories.map((x) => ({ ...x, referral: { ...x.referral, min: 0.4 + i / 100 } })),
      },
      day,
    );
    // Put in force without the look for hurdles that a worker would take at the same time.
    await inWorkspace(workspaceId, (tx) =>
      tx
        .insert(rateCard)
        .values({
          workspaceId,
          id: newId(),
          kind: 'marketplace',
          key: 'Alderway/DE',
          name: 'Alderway DE',
          inForceFrom: day,
          data: next,
        }),
    );
    // The task is worked here, in this process, without waiting for the queue.
    const taskId = newId();
    await inWorkspace(workspaceId, (tx) =>
      tx
        .insert(task)
        .values({
          workspaceId,
          id: taskId,
          kind: 'bringUpToDate',
          data: { kind: 'marketplace', key: 'Alderway/DE' },
          total: 10_000,
        }),
    );
    const { ms } = await timed(async () => {
      while (await workOnLanes({ workspaceId, taskId })) {
        // next turn
      }
    });
    const [t] = await inWorkspace(workspaceId, (tx) =>
      tx
        .select({ data: task.data })
        .from(task)
        .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId))),
    );
    changed = Number((t?.data as { changed?: number } | undefined)?.changed ?? 0);
    rates.push((1000 * changed) / ms);
  }
  const [rate, yard] = [median(rates), median(bares)];
  return {
    name:
      `${changed.toLocaleString('en')} lanes weighed again after a change of rates ` +
      '(read, evaluated, hurdles held, history kept, stored), median of 5',
    value: rate,
    unit: 'lanes/s',
    aim: 'at least 3,000 where a bare update stores 5,000',
    yardstick: `bare bulk update of the same rows: ${Math.round(yard)} a second, median of 5`,
    ratio: rate / yard,
  };
}

export async function measureMany(origin: string): Promise<Measure[]> {
  const [w] = await authDb().select({ id: organization.id }).from(organization).limit(1);
  if (w === undefined) throw new Error('no workspace');
  const cards = await inWorkspace(w.id, (tx) => cardsInForce(tx, w.id, '2026-11-24'));
  const tax = cards.find((c) => c.key === 'DE')?.data as CardOf<'tax'>;
  if (tablesOf('tax', tax).duties === undefined) throw new Error('no duties');
  const imported = measureImport(tax);
  const many = await manyLanes(w.id);
  return [
    {
      name: `${many.lanes} lanes generated, evaluated and stored in one transaction`,
      value: many.ms,
      unit: 'ms',
      aim: '',
      yardstick: `${((1000 * many.lanes) / many.ms).toFixed(0)} lanes a second`,
      ratio: null,
    },
    ...(await measureComparison(origin, many.id, many.one)),
    imported,
    await measureWeighing(w.id, many.id),
  ];
}
