import { redirect, useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import { loadSuppliers, saveSupplier, supplierRecord } from '../../server/use/suppliers.ts';
import { settingsOf } from '../../server/use/workspaces.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { SuppliersPage } from '../features/suppliers/Suppliers.tsx';
import type { Route } from './+types/suppliers.ts';
import { answering, unfit } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const settings = await settingsOf(entry.workspaceId);
  if (settings === null) throw redirect(`/w/${entry.slug}`);
  const suppliers = await loadSuppliers(entry.workspaceId);
  return { suppliers, homeCurrency: settings.homeCurrency, today: today() };
});

export const meta: Route.MetaFunction = () => [{ title: 'Suppliers · Bold Margin' }];

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const form = await request.formData();
  const text = (k: string): string => String(form.get(k) ?? '').trim();
  const parsed = supplierRecord.safeParse({
    name: text('name'),
    country: text('country').toUpperCase() || null,
    currency: text('currency').toUpperCase() || null,
    contact: text('contact'),
    notes: text('notes'),
  });
  if (!parsed.success) return unfit(parsed.error);
  await saveSupplier(entry.workspaceId, text('id') || null, parsed.data);
  throw redirect(`/w/${entry.slug}/suppliers?name=${encodeURIComponent(parsed.data.name)}`);
});

export default function Suppliers() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <SuppliersPage {...loaded} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
