import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { fault } from '../../core/fault.ts';
import { readPack } from '../../core/packs/read.ts';
import type { PackRead } from '../../core/packs/read.ts';
import { MOST_CARDS } from '../../core/packs/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import { packOfFile } from '../../server/files/packFiles.ts';
import { listCards } from '../../server/use/cards.ts';
import { previewPack, takePack } from '../../server/use/packs.ts';
import { settingsOf } from '../../server/use/workspaces.ts';
import { inWords } from '../../words/index.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { PacksPage } from '../features/rates/Packs.tsx';
import { answering, unfit } from '../answers.ts';
import type { Route } from './+types/ratePacks.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  if ((await settingsOf(entry.workspaceId)) === null) throw redirect(`/w/${entry.slug}`);
  const { versions } = await listCards(entry.workspaceId);
  return { versions: versions.filter((v) => !v.withdrawn), today: today() };
});

export const meta: Route.MetaFunction = () => [{ title: 'Rates · Bold Margin' }];

const told = z.strictObject({
  intent: z.literal('take'),
  /** Checked by what reads packs. */
  pack: z.unknown(),
  takings: z
    .array(z.strictObject({ at: z.number().int().min(0).max(MOST_CARDS), as: z.enum(['force', 'draft']) }))
    .max(MOST_CARDS),
});

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  if (!request.headers.get('content-type')?.startsWith('application/json')) {
    const file = (await request.formData()).get('file');
    if (!(file instanceof File) || file.size === 0) return unfit(fault('notPack'));
    const read = await packOfFile(Buffer.from(await file.arrayBuffer()));
    if (!read.ok) return unreadable(read);
    return data({ pack: read.pack, lines: await previewPack(entry.workspaceId, read.pack) });
  }
  const parsed = told.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  const read = readPack(parsed.data.pack);
  if (!read.ok) return unreadable(read);
  return data({ taken: await takePack(entry.workspaceId, read.pack, parsed.data.takings, entry.person.id) });
});

const unreadable = (read: Extract<PackRead, { ok: false }>) =>
  data({ issues: read.issues.map((i) => inWords(i)) }, 422);

export default function RatePacks() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <PacksPage {...loaded} name={head.name} canEdit={head.role !== 'viewer'} />;
}
