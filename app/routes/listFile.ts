import { Readable } from 'node:stream';
import { data } from 'react-router';
import { z } from 'zod';
import { blanksIn } from '../../core/lane/blanks.ts';
import { boundOf } from '../../core/lane/bounds.ts';
import { queryIn } from '../../core/lists/query.ts';
import type { ListQuery } from '../../core/lists/query.ts';
import { LIST_FIGURES, listFigureRule } from '../../core/lists/figures.ts';
import type { ListFigure } from '../../core/lists/figures.ts';
import { minorDigits, powerOfTen } from '../../core/money/money.ts';
import { roundMinor } from '../../core/rules/numbers.ts';
import { listSettings } from '../../core/lists/settings.ts';
import type { ListSettings } from '../../core/lists/settings.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { savedAs } from '../../server/files/names.ts';
import { rowsToMend } from '../../server/files/refusedRows.ts';
import { fillIn, sayFault } from '../../words/index.ts';
import { ROW_FORMATS, rowsOut } from '../../server/files/rowsOut.ts';
import type { OutValue, RowColumn } from '../../server/files/rowsOut.ts';
import { askList } from '../../server/screening/client.ts';
import type { ListRow } from '../../between/ask.ts';
import { moreOf } from '../../server/use/goods.ts';
import type { ListPage } from '../../server/use/lists.ts';
import { extrasOf, goneGoods, loadList, refusedFileOf } from '../../server/use/lists.ts';
import { jsonIn } from '../jsonIn.ts';
import { floorTo } from '../ui/locale.ts';
import { en } from '../locales/en.ts';
import { listTerms } from '../locales/en.listTerms.ts';
import type { Route } from './+types/listFile.ts';
import { answering } from '../answers.ts';
import { fileNames } from '../../words/en/fileNames.ts';

const PIECE = 2500;
const asked = z.object({
  as: z.enum(ROW_FORMATS).catch('csv'),
  what: z.enum(['shown', 'all', 'shortlist', 'refused', 'gone']).catch('shown'),
});
const TYPES = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  parquet: 'application/vnd.apache.parquet',
} as const;

function answer(name: string, body: Readable, type: string): Response {
  return new Response(Readable.toWeb(body) as ReadableStream, {
    headers: { 'content-type': type, ...savedAs(name), 'cache-control': 'no-store' },
  });
}

/**
 * A list as a file: what is shown, all of it, the shortlist, the rows to be mended, or what the last edition
 * had and this one has not.
 */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  return fileOf(request, params, null);
});

/** The same under assumptions that are tried and not saved. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const form = await request.formData();
  const tried = listSettings.safeParse(jsonIn(String(form.get('settings') ?? '')));
  if (!tried.success) throw data(null, 422);
  return fileOf(request, params, tried.data);
});

async function fileOf(
  request: Request,
  params: { workspace: string; list: string },
  tried: ListSettings | null,
): Promise<Response> {
  const entry = await enterWorkspace(request, params.workspace);
  const page = await loadList(entry.workspaceId, params.list, tried);
  if (page === null) throw data(null, 404);
  const search = new URL(request.url).searchParams;
  const { as, what } = asked.parse({ as: search.get('as'), what: search.get('what') });
  if (what === 'refused') {
    const file = await refusedFileOf(entry.workspaceId, page);
    if (file === null) throw data(null, 404);
    return answer(
      `${fillIn(fileNames.toMend, { name: page.list.name })}.csv`,
      rowsToMend(file, sayFault),
      TYPES.csv,
    );
  }
  if (page.shown === null || page.screen === null) throw data(null, 404);
  const { name } = page.list;
  if (what === 'gone') {
    const rows = goneGoods(entry.workspaceId, page);
    return answer(
      `${fillIn(fileNames.gone, { name })}.${as}`,
      rowsOut(as, 'Gone', GONE_COLUMNS, rows),
      TYPES[as],
    );
  }
  const currencies = {
    purchase: page.list.settings?.assumptions.purchase.currency ?? '',
    sales: page.screen.currency,
  };
  const rows = rowsKept(entry.workspaceId, page, page.shown.id, queryFor(what, search), currencies);
  return answer(
    `${what === 'shortlist' ? fillIn(fileNames.shortlist, { name }) : name}.${as}`,
    rowsOut(as, name, keptColumns(currencies, extrasOf(page.list)), rows),
    TYPES[as],
  );
}

/** Which rows are taken along: all, the short list in the order shown, or those that are shown. */
function queryFor(what: z.output<typeof asked>['what'], search: URLSearchParams): ListQuery {
  if (what === 'all') return { text: '', filters: [], sort: [] };
  if (what !== 'shortlist') return queryIn(search);
  return { text: '', filters: [{ kind: 'flag', flag: 'shortlisted', is: true }], sort: queryIn(search).sort };
}

type Currencies = { readonly purchase: string; readonly sales: string };
/** The currency a figure of a row is in; null: it is no money. */
const currencyOf = (f: ListFigure, { purchase, sales }: Currencies): string | null => {
  const { unit } = listFigureRule(f);
  return unit === 'purchase' ? purchase : unit === 'sales' ? sales : null;
};

function keptColumns(currencies: Currencies, extras: readonly string[]): RowColumn[] {
  const text = (name: string): RowColumn => ({ name, kind: 'text' });
  return [
    { name: TEXT.line, kind: 'number' },
    ...[TEXT.code, TEXT.title, TEXT.brand, TEXT.category, TEXT.verdict].map(text),
    ...[words.why, words.bound, words.mark].map(text),
    ...LIST_FIGURES.map(
      (f): RowColumn => ({
        name: [FIGURE[f], currencyOf(f, currencies)].filter(Boolean).join(', '),
        kind: 'number',
        percent: listFigureRule(f).unit === 'share',
      }),
    ),
    { name: `${words.orderValue}, ${currencies.purchase}`, kind: 'number' },
    ...extras.map(text),
  ];
}

/** Rows under a query, piece by piece, with the columns that were kept as they are. */
async function* rowsKept(
  workspaceId: string,
  page: ListPage,
  run: string,
  query: ListQuery,
  currencies: Currencies,
): AsyncGenerator<OutValue[][]> {
  const extras = extrasOf(page.list);
  for (let from = 0; ; from += PIECE) {
    const question = { query, show: 'kept' as const, from, count: PIECE };
    const { window } = await askList(workspaceId, page, {
      ...question,
      remedies: false,
      figures: [],
      facets: false,
    });
    const lines = window.map((r) => r.line);
    const more = extras.length === 0 ? null : await moreOf(workspaceId, run, lines);
    yield window.map((r) => [
      r.line,
      r.code,
      r.title,
      r.brand,
      r.category,
      VERDICT[r.verdict],
      whyOf(r),
      boundWord(r),
      MARK[r.mark] ?? '',
      ...LIST_FIGURES.map((x) =>
        figure(r.figures[x] ?? null, currencyOf(x, currencies), listFigureRule(x).roundsDown),
      ),
      figure(orderValue(r), currencies.purchase),
      ...extras.map((e) => more?.get(r.line)?.[e] ?? null),
    ]);
    if (window.length < PIECE) return;
  }
}

const { listText: TEXT, listFigure: FIGURE, listVerdict: VERDICT, listFile: words } = listTerms;
const TROUBLE: Readonly<Record<string, string>> = listTerms.listTrouble;
const GONE_COLUMNS: readonly RowColumn[] = [
  { name: TEXT.line, kind: 'number' },
  { name: TEXT.code, kind: 'text' },
  { name: TEXT.title, kind: 'text' },
  { name: TEXT.brand, kind: 'text' },
  { name: FIGURE.cost, kind: 'number' },
];
const MARK: Readonly<Record<string, string>> = listTerms.listFlag;

/** What keeps a row from an answer, in words: what is wrong, or the costs that are not known. */
const whyOf = (r: ListRow): string =>
  r.trouble !== ''
    ? (TROUBLE[r.trouble] ?? r.trouble)
    : blanksIn(r.blanks)
        .map((b) => en.blank[b])
        .join(', ');

/** Whether what a unit keeps is a bound. */
const boundWord = (r: ListRow): string =>
  r.figures.unitProfit != null && boundOf('unitProfit', blanksIn(r.blanks)) === 'atMost' ? words.atMost : '';

/**
 * What the order of a row costs at the supplier, in the list's currency; null where quantity or price is not
 * known.
 */
function orderValue({ figures: { quantity, paid, cost } }: ListRow): number | null {
  const price = paid ?? cost ?? null;
  return quantity == null || price === null ? null : quantity * price;
}

/** Money to its currency's smallest coin, other figures to six decimals; unknown is blank, never 0. */
function figure(x: number | null, currency: string | null, isRoundedDown = false): number | null {
  if (x === null) return null;
  if (currency === null) return Math.round(x * 1e6) / 1e6;
  const digits = minorDigits(currency);
  return isRoundedDown ? floorTo(x, digits) : roundMinor(x, powerOfTen(digits));
}
