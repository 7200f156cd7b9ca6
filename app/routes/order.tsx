import { useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { bill, LARGEST_BILL_FILE } from '../../core/orders/bills.ts';
import { ordersPurse } from '../../core/orders/purse.ts';
import { ORDER_STATES, payment, receipt } from '../../core/orders/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { membersByName } from '../../server/use/members.ts';
import { loadOrder, supplierNames } from '../../server/use/orders.ts';
import {
  confirmedLine,
  dropBill,
  dropPayment,
  dropReceipt,
  moveOrder,
  noteBill,
  noteBillFile,
  payOrder,
  receiveGoods,
  stepBack,
} from '../../server/use/orderSteps.ts';
import { takePaidPrice } from '../../server/use/paidPrices.ts';
import { mailOrder } from '../../server/use/sendOrders.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { OrderPage } from '../features/order/OrderPage.tsx';
import type { Route } from './+types/order.ts';
import { answering, unfit } from '../answers.ts';
import { mailsShown, sender } from '../mailsShown.ts';
import { orderFiles } from '../orderFiles.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const { order, promised, settings, exchange, today } = await loadOrder(entry.workspaceId, params.order);
  const home = settings.homeCurrency;
  return {
    shown: order,
    suppliers: await supplierNames(entry.workspaceId),
    names: await membersByName(entry.workspaceId),
    ...(await mailsShown(entry.workspaceId, `order/${order.id}/`)),
    from: sender(entry, settings),
    left: ordersPurse(promised, settings.launch, { exchange, home, today }).left,
    home,
    exchange,
    today,
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Order · Bold Margin' }];

const edition = z.number().int().min(1);
const id = z.string().max(64);
const told = z.discriminatedUnion('intent', [
  z.strictObject({
    intent: z.literal('move'),
    to: z.enum(ORDER_STATES),
    note: z.string().trim().max(1000).default(''),
    edition,
    confirmed: z.array(confirmedLine).max(500).default([]),
  }),
  z.strictObject({ intent: z.literal('back'), edition }),
  z.strictObject({
    intent: z.literal('send'),
    edition,
    to: z.string().max(300),
    subject: z.string().max(300),
    text: z.string().max(20_000),
  }),
  receipt.omit({ id: true }).extend({ intent: z.literal('receive'), edition }),
  z.strictObject({ intent: z.literal('dropReceipt'), id, edition }),
  payment.omit({ id: true }).extend({ intent: z.literal('pay'), edition }),
  z.strictObject({ intent: z.literal('dropPayment'), id, edition }),
  bill.omit({ id: true }).extend({ intent: z.literal('bill'), edition }),
  z.strictObject({ intent: z.literal('bills'), text: z.string().max(LARGEST_BILL_FILE), edition }),
  z.strictObject({ intent: z.literal('dropBill'), id, edition }),
  z.strictObject({ intent: z.literal('actual'), line: id, edition }),
]);

/** Every step of an order. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = told.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  const { workspaceId, person } = entry;
  const order = params.order;
  const act = parsed.data;
  switch (act.intent) {
    case 'move':
      await moveOrder(workspaceId, order, act, person.id);
      break;
    case 'back':
      await stepBack(workspaceId, order, act.edition, person.id);
      break;
    case 'send': {
      const files = await orderFiles(request, entry, order);
      const { to, subject, text } = act;
      await mailOrder(
        workspaceId,
        order,
        { to, subject, text, replyTo: person.email, edition: act.edition },
        files,
        person.id,
      );
      break;
    }
    case 'receive': {
      const { intent: _, edition: on, ...said } = act;
      await receiveGoods(workspaceId, order, said, on, person.id);
      break;
    }
    case 'dropReceipt':
      await dropReceipt(workspaceId, order, act.id, act.edition, person.id);
      break;
    case 'pay': {
      const { intent: _, edition: on, ...said } = act;
      await payOrder(workspaceId, order, said, on, person.id);
      break;
    }
    case 'dropPayment':
      await dropPayment(workspaceId, order, act.id, act.edition, person.id);
      break;
    case 'bill': {
      const { intent: _, edition: on, ...said } = act;
      await noteBill(workspaceId, order, said, on, person.id);
      break;
    }
    case 'bills':
      await noteBillFile(workspaceId, order, act.text, act.edition, person.id);
      break;
    case 'dropBill':
      await dropBill(workspaceId, order, act.id, act.edition, person.id);
      break;
    default:
      await takePaidPrice(workspaceId, order, act.line, person.id);
  }
  return { error: undefined };
});

export default function Order() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  // What was typed for one order is none of the next.
  return (
    <OrderPage key={loaded.shown.id} {...loaded} base={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />
  );
}
