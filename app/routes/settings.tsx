import { data, redirect, useActionData, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { firstIssue } from '../../core/issues.ts';
import { fillIn, inWords } from '../../words/index.ts';
import { en } from '../locales/en.ts';
import { path as pathSchema, withValueAt } from '../../core/workspace/patch.ts';
import { settings as settingsSchema } from '../../core/workspace/settings.ts';
import { COUNTRY_CURRENCY } from '../../core/tax/countries.ts';
import { forwardToAuth } from '../../server/auth/forward.ts';
import { invitationForm, ROLES } from '../../core/workspace/people.ts';
import { notYet, readForm } from '../ui/forms.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import type { Entry } from '../../server/auth/session.ts';
import { mailInvitation, mailResetLink } from '../../server/use/mailLinks.ts';
import type { LinkWords } from '../../server/use/mailLinks.ts';
import { membersOf, openInvitations, resetLinkFor } from '../../server/use/members.ts';
import { feedShown } from '../../server/use/feeds.ts';
import { canMail } from '../../server/mail.ts';
import { noticesByMail } from '../../server/use/noticeMail.ts';
import { weighAllAgain } from '../../server/use/tasks.ts';
import {
  saveSettings,
  setWorkspaceDeleted,
  settingsWith,
  taxedCountries,
} from '../../server/use/workspaces.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { SettingsPage } from '../features/settings/Settings.tsx';
import type { Route } from './+types/settings.ts';
import { answering } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const { settings, also: taxed } = await settingsWith(entry.workspaceId, (tx) =>
    taxedCountries(tx, entry.workspaceId),
  );
  if (settings === null) throw redirect(`/w/${entry.slug}`);
  return {
    settings,
    me: entry.person.id,
    members: await membersOf(entry.workspaceId),
    feed: await feedShown(entry.workspaceId),
    byMail: {
      groups: await noticesByMail(entry.workspaceId, entry.person.id),
      email: entry.person.email,
      canMail: canMail(),
    },
    invitations: entry.role === 'owner' ? await openInvitations(entry.workspaceId) : [],
    countries: [...new Set([...Object.keys(COUNTRY_CURRENCY), ...taxed, ...Object.keys(settings.standings)])],
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Settings · Bold Margin' }];

/** Settings that stored results of lanes read. */
const READ_BY_LANES = new Set(['homeCurrency', 'standings', 'launch']);

const change = z.strictObject({ path: pathSchema, to: z.unknown() });

/** One setting changed, as a person types it. */
async function changed(request: Request, slug: string) {
  const entry = await enterWorkspace(request, slug, 'edit');
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

/** What a mail with a link that lets somebody in says. */
function linkWords(which: 'invite' | 'reset', { name, person }: Entry): LinkWords {
  const { subject, text } = en.linkMail[which];
  return {
    subject: fillIn(subject, { workspace: name }),
    text: (link) => fillIn(text, { workspace: name, by: person.name, link }),
  };
}

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  if (request.headers.get('content-type')?.includes('application/json'))
    return changed(request, params.workspace);
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
      const asked = await forwardToAuth(request, '/organization/invite-member', {
        organizationId: entry.workspaceId,
        ...sent.value,
        resend: true,
      });
      if (asked.ok)
        await mailInvitation(
          entry.workspaceId,
          sent.value.email,
          linkWords('invite', entry),
          entry.person.id,
        );
      return say(asked);
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
      const link = await resetLinkFor(entry.workspaceId, String(form.get('id')));
      if (link === null) return data({ error: 'ELSEWHERE', link }, 403);
      const id = String(form.get('id'));
      await mailResetLink(entry.workspaceId, id, link, linkWords('reset', entry), entry.person.id);
      return data({ error: null, link });
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
