import { data } from 'react-router';
import { boundOf } from '../../core/lane/bounds.ts';
import { asked } from '../../core/compare/whatIf.ts';
import { exchangeFactor, minorDigits, powerOfTen } from '../../core/money/money.ts';
import { roundMinor } from '../../core/rules/numbers.ts';
import { evaluate, restate } from '../../core/lane/evaluate.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import type { LaunchPlan } from '../../core/launch/schema.ts';
import { LINES } from '../../core/lane/costLines.ts';
import { priceFor } from '../../core/lane/solve.ts';
import { launchCash } from '../../core/launch/launch.ts';
import { composeLane } from '../../core/workspace/compose.ts';
import { planOf } from '../../core/workspace/summary.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { fileAnswer } from '../fileAnswer.ts';
import { writeCsv, writeXlsx } from '../../server/files/sheets.ts';
import type { OutColumn } from '../../server/files/sheets.ts';
import { loadComparison } from '../../server/use/lanes.ts';
import { en } from '../locales/en.ts';
import { compareWords } from '../locales/en.compare.ts';
import type { Route } from './+types/compareFile.ts';
import { answering } from '../answers.ts';
import { fileNames } from '../../words/en/fileNames.ts';
import { fillIn } from '../../words/index.ts';

const RATIOS = ['margin', 'roi', 'markup', 'yearlyReturnOnCash'] as const;
const MONEY = ['gross', 'netRevenue', 'landedCost', 'unitProfit', 'profitPerMonth'] as const;

/** The lanes of a candidate as a table with figures as numbers, or as lane documents, one a line. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const search = new URL(request.url).searchParams;
  const c = await loadComparison(entry.workspaceId, params.candidate);
  if (c === null) throw data(null, 404);
  const number = (key: string): number | null => {
    const x = Number(search.get(key) ?? Number.NaN);
    return search.has(key) && x > 0 && x <= 1e9 ? x : null;
  };
  const question = {
    orderQuantity: number('quantity'),
    mainFreight: number('freight') ?? 1,
    price: number('price') ?? 1,
  };
  const quotes = Object.fromEntries(c.quotes.map((q) => [q.id, q.data]));
  const docs = c.lanes.map((l) => ({
    id: l.id,
    doc: asked(
      composeLane({
        candidate: c.candidate.data,
        lane: l.data,
        quotes,
        cards: c.cards,
        homeCurrency: c.settings.homeCurrency,
        standings: c.settings.standings,
        today: c.today,
      }),
      question,
    ),
  }));
  const name = fillIn(fileNames.lanes, { name: c.candidate.data.name, day: c.today });
  if (search.get('as') === 'jsonl')
    return fileAnswer(`${name}.jsonl`, `${docs.map((d) => JSON.stringify(d.doc)).join('\n')}\n`);
  const home = c.settings.homeCurrency;
  const plan = planOf(c.candidate.data, c.settings.launch);
  const sheet = { name: 'lanes', columns: columnsFor(home), rows: docs.map(({ doc }) => rowOf(doc, plan)) };
  return search.get('as') === 'csv'
    ? fileAnswer(`${name}.csv`, writeCsv(sheet))
    : fileAnswer(`${name}.xlsx`, await writeXlsx([sheet]));
});

/** Money to the smallest coin of its currency; unknown is blank, never 0. */
const coins = (x: number | null, currency: string): number | null =>
  x === null ? null : roundMinor(x, powerOfTen(minorDigits(currency)));

const words = compareWords.laneFile;
function columnsFor(home: string): OutColumn[] {
  return [
    ...[
      words.country,
      words.marketplace,
      words.method,
      words.route,
      words.supplier,
      en.form.currency,
      en.form.price,
      en.form.orderQuantity,
    ].map((title) => ({ title })),
    ...MONEY.map((m) => ({ title: { ...en.figure, ...words }[m] })),
    ...RATIOS.map((x) => ({ title: en.figure[x], percent: true })),
    { title: words.bound },
    { title: en.targets.breakEvenPrice },
    { title: `${en.figure.unitProfit}, ${home}` },
    { title: `${words.launch}, ${home}` },
    ...LINES.map((l) => ({ title: en.lines[l] })),
    { title: words.missing },
    { title: words.rate },
    { title: words.rateOf },
  ];
}

/** A lane as cells: amounts in its own currency, unit profit and launch in the home currency too. */
function rowOf(doc: LaneDocument, plan: LaunchPlan): (string | number | null)[] {
  const r = evaluate(doc);
  const { homeCurrency: home } = doc;
  const { exchange } = doc.rates;
  const inHome = restate(r, home, exchange);
  const factor = exchangeFactor(exchange, doc.currency, home);
  const own = (x: number | null): number | null => coins(x, doc.currency);
  const missing = r.incomplete.unitProfit ?? [];
  return [
    doc.country,
    doc.marketplace,
    en.method[doc.method],
    doc.route === null || doc.route === 'none' ? '' : doc.route.name,
    Array.isArray(doc.goods) ? (doc.goods[0]?.source.supplier ?? '') : '',
    doc.currency,
    doc.price,
    doc.orderQuantity,
    ...MONEY.map((m) => own(r.figures[m])),
    ...RATIOS.map((x) => r.figures[x]),
    r.figures.unitProfit !== null && boundOf('unitProfit', missing) === 'atMost' ? words.atMost : '',
    own(priceFor(doc).price),
    coins(inHome?.figures.unitProfit ?? null, home),
    coins(launchCash(doc, plan), home),
    ...LINES.map((l) => own(r.lines[l])),
    r.blanks.map((b) => en.blank[b]).join(', '),
    Number.isNaN(factor) ? null : factor,
    exchange?.date ?? '',
  ];
}
