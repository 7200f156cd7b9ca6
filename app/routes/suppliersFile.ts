import { enterWorkspace } from '../../server/auth/session.ts';
import { fileAnswer } from '../fileAnswer.ts';
import { writeCsv, writeXlsx } from '../../server/files/sheets.ts';
import { loadSuppliers } from '../../server/use/suppliers.ts';
import { settingsOf } from '../../server/use/workspaces.ts';
import type { Route } from './+types/suppliersFile.ts';
import { answering } from '../answers.ts';

const TITLES = [
  'supplier',
  'country',
  'candidate',
  'currency',
  'rule',
  'unit price',
  'minimum order',
  'date',
  'valid until',
  'lanes',
];

/** All quotes of all suppliers as a table. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const settings = await settingsOf(entry.workspaceId);
  const rows = (await loadSuppliers(entry.workspaceId)).flatMap((s) =>
    s.quotes.map((q) => [
      s.name,
      s.country,
      q.candidate,
      q.data.currency,
      q.data.kind === 'quote' ? q.data.incoterm : 'EXW',
      q.data.kind === 'quote' ? (q.data.priceBreaks[0]?.unitPrice ?? null) : q.data.shelfPrice,
      q.data.kind === 'quote' ? q.data.minimumOrder : null,
      q.data.date,
      q.data.validUntil,
      q.lanes,
      q.bestProfit,
    ]),
  );
  const sheet = {
    name: 'suppliers',
    columns: [...TITLES, `best unit profit ${settings?.homeCurrency ?? ''}`].map((title) => ({ title })),
    rows,
  };
  return new URL(request.url).searchParams.get('as') === 'csv'
    ? fileAnswer('suppliers.csv', writeCsv(sheet))
    : fileAnswer('suppliers.xlsx', await writeXlsx([sheet]));
});
