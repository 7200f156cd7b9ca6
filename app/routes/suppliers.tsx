import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { supplierRecord } from '../../core/workspace/supplier.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import { loadSuppliers, saveSupplier } from '../../server/use/suppliers.ts';
import { settingsOf } from '../../server/use/workspaces.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { notYet, readForm } from '../ui/forms.ts';
import { SuppliersPage } from '../features/suppliers/Suppliers.tsx';
import type { Route } from './+types/suppliers.ts';
import { answering } from '../answers.ts';

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
  const sent = readForm(form, supplierRecord);
  if (sent.status !== 'success') return data(notYet(sent), 422);
  await saveSupplier(entry.workspaceId, String(form.get('id') ?? '') || null, sent.value);
  throw redirect(`/w/${entry.slug}/suppliers?name=${encodeURIComponent(sent.value.name)}`);
});

export default function Suppliers() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <SuppliersPage {...loaded} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
