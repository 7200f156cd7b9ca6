/**
 * Measures of evidence: its core, what a market's page costs, a search through the feed, and bringing markets up
 * to date.
 */
import type { Page } from '@playwright/test';
import { and, eq } from 'drizzle-orm';
import { marginOverTime } from '../core/evidence/marginOverTime.ts';
import { rivalsSaid } from '../core/evidence/rivals.ts';
import { rival } from '../core/evidence/schema.ts';
import { seasonOf } from '../core/evidence/season.ts';
import { evidenceSettings } from '../core/evidence/settings.ts';
import { watch } from '../core/evidence/observed.ts';
import { authDb, inWorkspace } from '../server/db/client.ts';
import { organization } from '../server/db/authSchema.ts';
import { candidate, observation, watched } from '../server/db/schema.ts';
import { env } from '../server/env.ts';
import { watchMarkets } from '../server/jobs/watchMarkets.ts';
import { askFeed } from '../server/outside/feed.ts';
import { createCandidates, loadMarketSheet, loadSheet } from '../server/use/candidates.ts';
import { keepFeed, standIn } from '../server/use/feeds.ts';
import { storeTask } from '../server/use/tasks.ts';
import { newId } from '../server/use/workspaces.ts';
import { makeWorkspace, someCandidate } from '../server/testing/workspaces.ts';
import type { Measure } from './core.ts';
import { demoLanes } from './lanes.ts';
import { median, scripting } from './sheet.ts';
import { firstLoad, inDemo, statementsOf, timed } from './tools.ts';

const best = (work: () => unknown, runs = 60): number =>
  Math.min(
    ...Array.from({ length: runs }, () => {
      const started = performance.now();
      work();
      return performance.now() - started;
    }),
  );

function measureCore(): Measure[] {
  const [lane] = demoLanes();
  if (lane === undefined) throw new Error('no lane');
  const days = Array.from({ length: 730 }, (_, i) => ({
    day: new Date(Date.UTC(2024, 10, 25 + i)).toISOString().slice(0, 10),
    price: 30 + ((i * 7919) % 700) / 100,
  }));
  const rows = Array.from({ length: 1000 }, (_, i) =>
    rival.parse({
      listing: `L${i}`,
      brand: `B${i % 90}`,
      price: 10 + ((i * 7919) % 4000) / 100,
      units: (i * 104_729) % 900,
      reviews: (i * 31) % 3000,
      rating: 4,
      daysListed: (i * 17) % 1000,
      paid: i % 9 === 0,
    }),
  );
  const months = Array.from({ length: 60 }, (_, i) => ({
    month: `${2021 + Math.floor(i / 12)}-${String((i % 12) + 1).padStart(2, '0')}`,
    value: 100 + ((i * 7919) % 60),
  }));
  const s = evidenceSettings.parse({});
  const sorted = best(() => [...rows].sort((a, b) => (a.price as number) - (b.price as number)));
  const of = (name: string, value: number, aim: string): Measure => ({
    name,
    value,
    unit: 'ms',
    aim,
    yardstick: `sorting 1,000 rows once: ${sorted.toFixed(3)} ms`,
    ratio: value / sorted,
  });
  return [
    of(
      'Margin over 730 days of prices',
      best(() => marginOverTime(lane, days)),
      'at most 3',
    ),
    of(
      'Rivals of 1,000 rows',
      best(() => rivalsSaid(rows, s)),
      'at most 1',
    ),
    of(
      'Season of 60 months',
      best(() => seasonOf(months, '2026-01-01'), 200),
      'at most 0.1',
    ),
  ];
}

async function bees(): Promise<{ workspaceId: string; id: string }> {
  const [w] = await authDb().select({ id: organization.id }).from(organization).limit(1);
  if (w === undefined) throw new Error('no workspace');
  const rows = await inWorkspace(w.id, (tx) =>
    tx.select({ id: candidate.id, data: candidate.data }).from(candidate),
  );
  return { workspaceId: w.id, id: rows.find((r) => r.data.name.startsWith('Bee house'))?.id ?? '' };
}

/** Brings every watched market of the demo up to date, as its worker does after the start. */
async function filled(workspaceId: string): Promise<void> {
  const taskId = await inWorkspace(workspaceId, (tx) =>
    storeTask(tx, workspaceId, 'watchMarkets', {}, 0, 'bench'),
  );
  while (await watchMarkets({ workspaceId, taskId }));
}

/** The loader of a market's page beside that of the sheet, with ten thousand other listings watched. */
async function measureLoader(): Promise<Measure[]> {
  const { workspaceId, id } = await bees();
  await filled(workspaceId);
  const [kept] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ value: observation.value })
      .from(observation)
      .where(and(eq(observation.kind, 'history'), eq(observation.market, 'Alderway/DE')))
      .limit(1),
  );
  const quick = async (work: () => Promise<unknown>): Promise<number> => {
    const times: number[] = [];
    for (let i = 0; i < 15; i++) times.push((await timed(work)).ms);
    return median(times);
  };
  const before = await quick(() => loadMarketSheet(workspaceId, id));
  for (let i = 0; i < 10_000; i += 500)
    await inWorkspace(workspaceId, (tx) =>
      tx
        .insert(observation)
        .values(
          Array.from({ length: 500 }, (_, k) => ({
            workspaceId,
            id: newId(),
            subject: `listing/BENCH${i + k}`,
            market: 'Alderway/DE',
            kind: 'history' as const,
            asOf: '2026-11-24',
            source: 'feed',
            stated: true,
            value: kept?.value ?? {},
          })),
        ),
    );
  const statements = await statementsOf(() => loadMarketSheet(workspaceId, id));
  const after = await quick(() => loadMarketSheet(workspaceId, id));
  const sheet = await quick(() => loadSheet(workspaceId, id));
  return [
    {
      name: "Business statements of the market page's loader (nine countries)",
      value: statements,
      unit: 'statements',
      aim: 'at most 6',
      yardstick: `${after.toFixed(1)} ms in all`,
      ratio: null,
    },
    {
      name: "The market page's loader, 10,000 other listings watched",
      value: after,
      unit: 'ms',
      aim: "within 2x of the sheet's",
      yardstick: `the sheet's loader: ${sheet.toFixed(1)} ms; without the others ${before.toFixed(1)} ms`,
      ratio: after / sheet,
    },
  ];
}

const OF_LISTING = ['history', 'offers', 'listing', 'permission', 'complaints'] as const;
const COUNT = 1000;

/** Candidates that follow these listings, in a workspace of their own, brought up to date by the worker's own code. */
async function bringUp(codes: readonly string[]): Promise<number> {
  const w = await makeWorkspace();
  await keepFeed(w.id, { address: '', secret: null }, 'bench');
  for (let i = 0; i < codes.length; i += 100) {
    const some = codes.slice(i, i + 100);
    const ids = await createCandidates(
      w.id,
      some.map(() => someCandidate(w)),
      w.personId,
    );
    await inWorkspace(w.id, (tx) =>
      tx
        .insert(watched)
        .values(
          some.map((listing, k) => ({
            workspaceId: w.id,
            candidateId: ids[k] ?? '',
            market: 'Alderway/DE',
            data: watch.parse({ listing }),
          })),
        ),
    );
  }
  const taskId = await inWorkspace(w.id, (tx) =>
    storeTask(tx, w.id, 'watchMarkets', {}, codes.length, 'bench'),
  );
  const { ms } = await timed(async () => {
    while (await watchMarkets({ workspaceId: w.id, taskId }));
  });
  return ms;
}

/** A search through the feed, and many watched listings brought up to date beside what the stand-in can answer. */
async function measureFeed(): Promise<Measure[]> {
  const base = standIn();
  if (base === null) throw new Error('no stand-in');
  const feed = { base, secret: null, ours: true };
  const times: number[] = [];
  for (const words of ['Bienenhaus', 'Laterne', 'Igelhaus', 'Regenmesser', 'Moosstab'])
    times.push((await timed(() => askFeed(feed, 'search', { market: 'Alderway/DE', words, limit: 40 }))).ms);
  const codes = Array.from({ length: COUNT }, (_, i) => `LT${String(1000 + i).padStart(6, '0')}`);
  // What the stand-in can do: the same questions about each listing, and nothing kept.
  const bare = await timed(async () => {
    for (let i = 0; i < COUNT; i += 16)
      await Promise.all(
        codes
          .slice(i, i + 16)
          .flatMap((code) => OF_LISTING.map((q) => askFeed(feed, q, { market: 'Alderway/DE', code }))),
      );
  });
  const kept = { ms: await bringUp(codes) };
  return [
    {
      name: 'A search of 48,000 listings answered, the feed included, median',
      value: median(times),
      unit: 'ms',
      aim: 'at most 300',
      yardstick: `the quickest: ${Math.min(...times).toFixed(0)} ms`,
      ratio: null,
    },
    {
      name: 'Watched listings brought up to date (five questions each, two years of days)',
      value: (COUNT * 1000) / kept.ms,
      unit: 'a second',
      aim: 'at least 100',
      yardstick: `the stand-in asked alike, nothing kept: ${((COUNT * 1000) / bare.ms).toFixed(0)} a second`,
      ratio: bare.ms / kept.ms,
    },
  ];
}

/** Waits, in the browser, until the chart of a market stands in the page and a frame with it has been drawn. */
async function chartPainted(page: Page): Promise<void> {
  await page.waitForFunction(() => document.querySelector('[data-testid=margin-chart] path') !== null);
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => setTimeout(done))));
}

/** The page itself: scripting until the charts stand, a strike-out repainted, script of the first load. */
async function measurePage(): Promise<Measure[]> {
  return inDemo(env().BM_ORIGIN, async (page) => {
    const link = page.getByRole('link', { name: 'Bee house, larch, three chambers' });
    const href = (await link.getAttribute('href'))?.split('?')[0];
    const load = (path: string): Promise<number> => firstLoad(page, `${env().BM_ORIGIN}${path}`);
    const sheetBytes = await load(href ?? '');
    const bytes = await load(`${href}/market`);
    const spent = await scripting(page);
    await page.goto('about:blank');
    const before = await spent();
    await page.goto(`${env().BM_ORIGIN}${href}/market`, { waitUntil: 'commit' });
    await chartPainted(page);
    const painted = (await spent()) - before;
    await page.waitForFunction(() => document.documentElement.dataset.answers === location.pathname);
    const ready = (await spent()) - before;
    const strokes: number[] = [];
    const box = page.getByRole('checkbox', { name: / counts$/ }).nth(1);
    await box.waitFor();
    await page.waitForTimeout(800);
    await box.focus();
    for (let i = 0; i < 20; i++) {
      const before = await spent();
      await page.keyboard.press('Space');
      await page.evaluate(() => new Promise((done) => requestAnimationFrame(done)));
      strokes.push((await spent()) - before);
      await page.waitForTimeout(150);
    }
    return [
      {
        name: 'Scripting until the charts of a market are painted first',
        value: painted,
        unit: 'ms',
        aim: 'at most 100',
        yardstick: `until the page answers: ${ready.toFixed(0)} ms`,
        ratio: null,
      },
      {
        name: 'A strike-out repainted, scripting, median of 20',
        value: median(strokes),
        unit: 'ms',
        aim: 'at most 16',
        yardstick: `the slowest: ${Math.max(...strokes).toFixed(1)} ms`,
        ratio: null,
      },
      {
        name: 'Script of the first load of a market page, Brotli',
        value: bytes / 1000,
        unit: 'kB',
        aim: "at most the sheet's",
        yardstick: `the sheet's: ${(sheetBytes / 1000).toFixed(0)} kB`,
        ratio: bytes / sheetBytes,
      },
    ];
  });
}

export async function measureEvidence(): Promise<Measure[]> {
  const loader = await measureLoader();
  return [...measureCore(), ...loader, ...(await measurePage()), ...(await measureFeed())];
}
