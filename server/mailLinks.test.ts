/** Links that let people in, by mail: to whom they are meant for, anew each time, and only where mail can go out. */
import { and, eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDatabase, inWorkspace, authDb } from './db/client.ts';
import { invitation, member } from './db/authSchema.ts';
import { outgoingMail } from './db/schema.ts';
import { env } from './env.ts';
import { closeQueue } from './jobs/boss.ts';
import { makeWorkspace } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { mailInvitation, mailResetLink } from './use/mailLinks.ts';

let w: TestWorkspace;
let other: TestWorkspace;
const WORDS = { subject: 'Come in', text: (link: string) => `Here: ${link}` };
beforeAll(async () => {
  [w, other] = await Promise.all([makeWorkspace(), makeWorkspace()]);
  await authDb()
    .insert(invitation)
    .values({
      id: `inv-${w.id}`,
      organizationId: w.id,
      email: 'new@shop.example',
      role: 'editor',
      status: 'pending',
      expiresAt: new Date(Date.now() + 1e9),
      inviterId: w.personId,
    });
  Object.assign(env(), { BM_SMTP_URL: 'smtp://127.0.0.1:1' });
});
afterAll(async () => {
  Object.assign(env(), { BM_SMTP_URL: undefined });
  await Promise.all([closeDatabase(), closeQueue()]);
});
const mails = (of: TestWorkspace) =>
  inWorkspace(of.id, (tx) =>
    tx
      .select({ about: outgoingMail.about, data: outgoingMail.data })
      .from(outgoingMail)
      .where(and(eq(outgoingMail.workspaceId, of.id)))
      .orderBy(outgoingMail.createdAt),
  );

describe('a link by mail', () => {
  it('goes to who is invited, whatever the case of the address, anew each time', async () => {
    expect(await mailInvitation(w.id, 'NEW@shop.example', WORDS, w.personId)).toBe(true);
    expect(await mailInvitation(w.id, 'new@shop.example', WORDS, w.personId)).toBe(true);
    const sent = await mails(w);
    expect(sent.map((m) => m.about)).toEqual([`invitation/inv-${w.id}/1`, `invitation/inv-${w.id}/2`]);
    expect(sent[0]?.data).toMatchObject({ to: 'new@shop.example', subject: 'Come in' });
    expect(sent[0]?.data.text).toContain(`/invitation/inv-${w.id}`);
  });
  it('to nobody who is not invited, here or elsewhere', async () => {
    expect(await mailInvitation(w.id, 'else@shop.example', WORDS, w.personId)).toBe(false);
    expect(await mailInvitation(other.id, 'new@shop.example', WORDS, other.personId)).toBe(false);
    expect(await mails(other)).toEqual([]);
  });
  it('to set a password goes to the member alone', async () => {
    const [own] = await authDb()
      .select({ id: member.id })
      .from(member)
      .where(eq(member.organizationId, w.id));
    expect(await mailResetLink(other.id, own?.id ?? '', 'https://x', WORDS, 'me')).toBe(false);
    expect(await mailResetLink(w.id, own?.id ?? '', 'https://x', WORDS, 'me')).toBe(true);
    expect((await mails(w)).at(-1)?.data).toMatchObject({
      to: `${w.personId}@test.example`,
      text: 'Here: https://x',
    });
  });
  it('without a mail server nothing is stored', async () => {
    const before = (await mails(w)).length;
    Object.assign(env(), { BM_SMTP_URL: undefined });
    expect(await mailInvitation(w.id, 'new@shop.example', WORDS, w.personId)).toBe(false);
    expect(await mails(w)).toHaveLength(before);
  });
});
