import { orderName } from '../../core/orders/name.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { orderPdf, orderSheet } from '../../server/files/orderFile.tsx';
import { writeCsv, writeXlsx } from '../../server/files/sheets.ts';
import type { Route } from './+types/orderFile.ts';
import { answering } from '../answers.ts';
import { fileAnswer } from '../fileAnswer.ts';
import { orderPaper } from '../orderFiles.ts';

/** An order as PDF, XLSX or CSV. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const paper = await orderPaper(request, entry, params.order);
  const name = orderName(paper.order.number);
  switch (new URL(request.url).searchParams.get('as')) {
    case 'csv':
      return fileAnswer(`${name}.csv`, writeCsv(orderSheet(paper)));
    case 'xlsx':
      return fileAnswer(`${name}.xlsx`, await writeXlsx([orderSheet(paper)]));
    default:
      return fileAnswer(`${name}.pdf`, await orderPdf(paper));
  }
});
