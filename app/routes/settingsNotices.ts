import { data } from 'react-router';
import { z } from 'zod';
import { noticeChoice } from '../../core/workspace/notices.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { chooseNoticesByMail } from '../../server/use/noticeMail.ts';
import { answering, unfit } from '../answers.ts';
import { localeOf } from '../ui/locale.ts';
import type { Route } from './+types/settingsNotices.ts';

const body = z.strictObject({ groups: noticeChoice });

/** Keeps which notices come to whoever asks by mail; everybody chooses for themselves, whatever they may change. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const sent = body.safeParse(await request.json().catch(() => null));
  if (!sent.success) return unfit(sent.error);
  const locale = localeOf(request.headers.get('accept-language'));
  await chooseNoticesByMail(entry.workspaceId, entry.person.id, sent.data.groups, locale);
  return data({ ok: true });
});
