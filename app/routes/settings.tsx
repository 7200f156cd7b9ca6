import { and, desc, eq, ne } from 'drizzle-orm';
import { data, redirect, useActionData, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { firstIssue } from '../../core/issues.ts';
import { inWords } from '../../words/index.ts';
import { path as pathSchema, withValueAt } from '../../core/workspace/patch.ts';
import { settings as settingsSchema } from '../../core/workspace/settings.ts';
import { COUNTRY_CURRENCY } from '../../core/tax/countries.ts';
import { makeResetLink } from '../../server/auth/auth.ts';
import { forwardToAuth } from '../../server/auth/forward.ts';
import { invitationForm, ROLES } from '../../core/workspace/people.ts';
import { notYet, readForm } from '../ui/forms.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { authDb, inWorkspace, reachable } from '../../server/db/client.ts';
import { invitation, member, user } from '../../server/db/authSchema.ts';
import { env } from '../../server/env.ts';
import { weighAllAgain } from '../../server/use/tasks.ts';
import {
  saveSettings,
  setWorkspaceDeleted,
  settingsIn,
  taxedCountries,
} from '../../server/use/workspaces.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { SettingsPage } from '../features/settings/Settings.tsx';
import type { Route } from './+types/settings.ts';
import { answering } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const { settings, taxed } = await inWorkspace(entry.workspaceId, async (tx) => ({
    settings: await settingsIn(tx, entry.workspaceId),
    taxed: await taxedCountries(tx, entry.workspaceId),
  }));
  if (settings === null) throw redirect(`/w/${entry.slug}`);
  return reachable(async () => {
    const members = await authDb()
      .select({ id: member.id, userId: member.userId, role: member.role, name: user.name, email: user.email })
      .from(member)
      .innerJoin(user, eq(member.userId, user.id))
      .where(eq(member.organizationId, entry.workspaceId))
      .orderBy(member.createdAt);
    const invitations =
      entry.role !== 'owner'
        ? []
        : await authDb()
            .select({ id: invitation.id, email: invitation.email, role: invitation.role })
            .from(invitation)
            .where(and(eq(invitation.organizationId, entry.workspaceId), eq(invitation.status, 'pending')))
            .orderBy(desc(invitation.createdAt));
    return {
      settings,
      me: entry.person.id,
      members,
      invitations: invitations.map((i) => ({ ...i, link: `${env().BM_ORIGIN}/invitation/${i.id}` })),
      countries: [
        ...new Set([...Object.keys(COUNTRY_CURRENCY), ...taxed, ...Object.keys(settings.standings)]),
      ],
    };
  });
});

export const meta: Route.MetaFunction = () => [{ title: 'Settings · Bold Margin' }];

/** Settings that stored results of lanes read. */
const READ_BY_LANES = new Set(['homeCurrency', 'standings', 'launch']);

const change = z.strictObject({ path: pathSchema, to: z.unknown() });

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  if (request.headers.get('content-type')?.includes('application/json')) {
    const entry = await enterWorkspace(request, params.workspace, 'edit');
    const parsed = change.safeParse(await request.json().catch(() => null));
    if (!parsed.success) return data({ error: 'invalid', link: null }, 422);
    try {
      await saveSettings(entry.workspaceId, (s) =>
        settingsSchema.parse(withValueAt(s, parsed.data.path, parsed.data.to)),
      );
      if (READ_BY_LANES.has(String(parsed.data.path[0])))
        await weighAllAgain(entry.workspaceId, entry.person.id);
    } catch (e) {
      if (e instanceof z.ZodError) return data({ error: inWords(firstIssue(e)), link: null }, 422);
      throw e;
    }
    return data({ error: null, link: null });
  }
  const form = await request.formData();
  const intent = form.get('intent');
  if (intent === 'leave') {
    const entry = await enterWorkspace(request, params.workspace);
    const answer = await forwardToAuth(request, '/organization/leave', { organizationId: entry.workspaceId });
    if (!answer.ok) return data({ error: answer.code, link: null }, 400);
    throw redirect('/');
  }
  const entry = await enterWorkspace(request, params.workspace, 'own');
  const role = ROLES.find((r) => r === form.get('role')) ?? 'viewer';
  const say = (answer: { ok: boolean; code: string }) =>
    data({ error: answer.ok ? null : answer.code, link: null }, answer.ok ? 200 : 400);
  switch (intent) {
    case 'invite': {
      const sent = readForm(form, invitationForm);
      if (sent.status !== 'success') return data({ error: null, link: null, ...notYet(sent) }, 422);
      return say(
        await forwardToAuth(request, '/organization/invite-member', {
          organizationId: entry.workspaceId,
          ...sent.value,
          resend: true,
        }),
      );
    }
    case 'uninvite':
      return say(
        await forwardToAuth(request, '/organization/cancel-invitation', {
          invitationId: String(form.get('id')),
        }),
      );
    case 'role':
      return say(
        await forwardToAuth(request, '/organization/update-member-role', {
          organizationId: entry.workspaceId,
          memberId: String(form.get('id')),
          role,
        }),
      );
    case 'remove':
      return say(
        await forwardToAuth(request, '/organization/remove-member', {
          organizationId: entry.workspaceId,
          memberIdOrEmail: String(form.get('id')),
        }),
      );
    case 'resetLink': {
      // An owner is the administrator of people who belong to this workspace alone; for others the server's
      // terminal is.
      const [who] = await authDb()
        .select({ userId: member.userId, email: user.email })
        .from(member)
        .innerJoin(user, eq(member.userId, user.id))
        .where(and(eq(member.id, String(form.get('id'))), eq(member.organizationId, entry.workspaceId)));
      const elsewhere =
        who === undefined
          ? []
          : await authDb()
              .select({ id: member.id })
              .from(member)
              .where(and(eq(member.userId, who.userId), ne(member.organizationId, entry.workspaceId)))
              .limit(1);
      if (who === undefined || elsewhere.length > 0) return data({ error: 'ELSEWHERE', link: null }, 403);
      return data({ error: null, link: await makeResetLink(who.email) });
    }
    case 'delete':
      await setWorkspaceDeleted(entry.workspaceId, true);
      throw redirect(`/w/${entry.slug}`);
    default:
      return data({ error: 'unknown', link: null }, 400);
  }
});

export default function Settings() {
  const loaded = useLoaderData<typeof loader>();
  const said = useActionData<typeof action>();
  const head = useOutletContext<WorkspaceHead>();
  return <SettingsPage {...loaded} said={said ?? null} head={head} />;
}
