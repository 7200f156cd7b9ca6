import { useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { loadOrders } from '../../server/use/orders.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { OrdersPage } from '../features/order/OrdersPage.tsx';
import type { Route } from './+types/orders.ts';
import { answering } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const { orders, settings, exchange, today } = await loadOrders(entry.workspaceId);
  const { cash, reserve } = settings.launch;
  const left = Number(new URL(request.url).searchParams.get('left') ?? 0);
  return {
    orders,
    money: { cash, reserve },
    homeCurrency: settings.homeCurrency,
    exchange,
    today,
    left: Number.isInteger(left) && left > 0 ? left : 0,
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Order · Bold Margin' }];

export default function Orders() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <OrdersPage {...loaded} base={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
