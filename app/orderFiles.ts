/** An order as files: what is taken along, and what goes with a mail. */
import { orderName } from '../core/orders/name.ts';
import { orderSaid } from '../core/orders/totals.ts';
import type { Entry } from '../server/auth/session.ts';
import { orderPdf, orderSheet } from '../server/files/orderFile.tsx';
import type { OrderPaper } from '../server/files/orderFile.tsx';
import { writeCsv } from '../server/files/sheets.ts';
import type { Attachment } from '../server/mail.ts';
import { loadOrder } from '../server/use/orders.ts';
import { orderWords } from './locales/en.orders.ts';
import { sender } from './mailsShown.ts';
import { localeOf } from './ui/locale.ts';

/** Everything that is drawn of an order, in the reader's numbers. */
export async function orderPaper(request: Request, entry: Entry, id: string): Promise<OrderPaper> {
  const { order, settings, today } = await loadOrder(entry.workspaceId, id);
  // A draft is drawn as it would go out today.
  const placedOn = order.terms.placedOn ?? today;
  const terms = { ...order.terms, placedOn };
  return {
    order: { number: order.number, terms },
    said: orderSaid(terms, placedOn),
    from: sender(entry, settings),
    words: orderWords.orderFile,
    locale: localeOf(request.headers.get('accept-language')),
  };
}

/** The files that go with an order's mail. */
export async function orderFiles(request: Request, entry: Entry, id: string): Promise<Attachment[]> {
  const paper = await orderPaper(request, entry, id);
  const name = orderName(paper.order.number);
  const pdf = await orderPdf(paper);
  return [
    { name: `${name}.pdf`, type: 'application/pdf', base64: pdf.toString('base64') },
    {
      name: `${name}.csv`,
      type: 'text/csv; charset=utf-8',
      base64: Buffer.from(writeCsv(orderSheet(paper))).toString('base64'),
    },
  ];
}
