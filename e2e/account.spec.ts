import {
  addProduct,
  another,
  at,
  DEMO,
  enterDemo,
  expect,
  newcomer,
  openDemoSheet,
  ready,
  signUp,
  test,
} from './help.ts';

test('wrong password, short password, known e-mail: each said plainly; signing out ends the session', async ({
  page,
}) => {
  const { base, email } = await newcomer(page);
  await page.getByRole('button', { name: /^Account of/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await page.waitForURL(/sign-in/);
  await page.goto(at(`${base}/weigh`));
  await expect(page).toHaveURL(/sign-in\?to=/);
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill('not the right one');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('E-mail and password do not match.')).toBeVisible();
  await page.getByLabel('Password').fill('a long enough one');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL(new RegExp(`${base}/weigh`));
  await page.context().clearCookies();
  await page.goto(at('/sign-up'));
  await page.getByLabel('Your name').fill('Again');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill('short');
  await page.getByRole('button', { name: 'Create an account' }).click();
  await expect(page.getByText('The password needs at least 10 characters.')).toBeVisible();
  await page.getByLabel('Password').fill('a long enough one');
  await page.getByRole('button', { name: 'Create an account' }).click();
  await expect(page.getByText('There is an account with this e-mail already.')).toBeVisible();
});

test('an invited editor edits; an owner makes a password link that works once; members leave', async ({
  page,
  browser,
}) => {
  const { base } = await newcomer(page);
  await addProduct(page, base);
  const sheet = page.url();
  await page.goto(at(`${base}/settings`));
  await ready(page);
  const email = `editor.${Date.now()}@test.example`;
  await page.getByLabel('E-mail to invite').fill(email);
  await page.getByRole('button', { name: 'Invite' }).click();
  const link = (
    await page
      .getByText(/is invited as editor/)
      .locator('code')
      .innerText()
  ).trim();

  // The link is for that address alone.
  const stranger = await another(browser);
  await signUp(stranger, `stranger.${Date.now()}@test.example`);
  await stranger.goto(link);
  await expect(stranger.getByText('This invitation is for another e-mail address')).toBeVisible();
  await stranger.context().close();

  const editor = await another(browser);
  await signUp(editor, email);
  await editor.goto(link);
  await editor.getByRole('button', { name: 'Join' }).click();
  await editor.waitForURL(new RegExp(base));
  await editor.goto(sheet);
  await ready(editor);
  await editor.getByLabel('Price, EUR', { exact: true }).fill('41');
  await expect(editor.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();
  // An editor has no say over members.
  await editor.goto(at(`${base}/settings`));
  await expect(editor.getByRole('button', { name: 'Invite' })).toHaveCount(0);
  const refused = await editor.request.post(`${at(`${base}/settings`)}.data`, {
    form: { intent: 'delete' },
    headers: { origin: new URL(at('/')).origin },
  });
  expect(refused.status()).toBe(403);
  await editor.goto(link);
  await expect(editor.getByText('This invitation has been used')).toBeVisible();

  await page.reload();
  await ready(page);
  await page.getByRole('button', { name: 'Password link' }).click();
  const reset = (await page.getByText('Hand this link over').locator('code').innerText()).trim();
  await editor.context().clearCookies();
  await editor.goto(reset);
  await editor.getByLabel('New password').fill('another long one');
  await editor.getByRole('button', { name: 'Set password' }).click();
  await expect(editor.getByText('Your new password is set')).toBeVisible();
  await editor.goto(reset);
  await editor.getByLabel('New password').fill('a third long one');
  await editor.getByRole('button', { name: 'Set password' }).click();
  await expect(editor.getByText('This link has been used or is too old.')).toBeVisible();
  await editor.goto(at('/sign-in'));
  await editor.getByLabel('E-mail').fill(email);
  await editor.getByLabel('Password').fill('another long one');
  await editor.getByRole('button', { name: 'Sign in' }).click();
  await editor.waitForURL(/weigh/);
  await editor.goto(at(`${base}/settings`));
  await ready(editor);
  await editor.getByRole('button', { name: 'Leave this workspace' }).click();
  await expect(editor).not.toHaveURL(new RegExp(base));
  await editor.goto(sheet);
  await expect(editor.getByText('There is nothing here')).toBeVisible();
});

test('the only owner cannot leave; a deleted workspace says so and can be brought back', async ({ page }) => {
  const { base } = await newcomer(page);
  await addProduct(page, base, { name: 'Frog shelter' });
  await page.goto(at(`${base}/settings`));
  await ready(page);
  await page.getByRole('button', { name: 'Leave this workspace' }).click();
  await expect(page.getByText('You are the only owner.')).toBeVisible();
  await page.getByRole('button', { name: 'Delete this workspace' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Delete this workspace' }).click();
  await expect(page.getByText('Thornbury Garden Post is deleted')).toBeVisible();
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await page.waitForURL(/\/weigh$/);
  await expect(page.getByRole('link', { name: 'Frog shelter' })).toBeVisible();
});

test('a password is changed with the old one', async ({ page }) => {
  await newcomer(page);
  await page.goto(at('/account'));
  await ready(page);
  await page.getByLabel('Current password').fill('wrong one indeed');
  await page.getByLabel('New password').fill('brand new password');
  await page.getByRole('button', { name: 'Change password' }).click();
  await expect(page.getByText('The current password is not right.')).toBeVisible();
  await page.getByLabel('Current password').fill('a long enough one');
  await page.getByLabel('New password').fill('brand new password');
  await page.getByRole('button', { name: 'Change password' }).click();
  await expect(page.getByText('Changed. Other devices have been signed out.')).toBeVisible();
});

test('nobody reads or changes another workspace through the address, nor exports it', async ({ page }) => {
  await openDemoSheet(page);
  const theirs = page.url();
  await page.context().clearCookies();
  const { base } = await newcomer(page);
  for (const path of [
    theirs,
    at(`${DEMO}/weigh`),
    at(`${DEMO}/settings`),
    at(`${DEMO}/export`),
    `${at(base)}/weigh/${theirs.split('/').pop()}`,
  ]) {
    const answer = await page.request.get(path);
    expect(answer.status()).toBe(404);
    expect(await answer.text()).not.toContain('Bee house');
  }
  const origin = new URL(at('/')).origin;
  const write = await page.request.post(`${theirs.split('?')[0]}/save`, {
    data: { patches: [] },
    headers: { origin },
  });
  expect([400, 404]).toContain(write.status());
  const out = await page.request.get(at(`${base}/export`));
  expect(out.headers()['content-disposition']).toContain('attachment');
  expect(await out.json()).toMatchObject({ format: 'bold-margin/workspace', candidates: [] });
});

test('requests from other sites are refused; cookies and headers are closed up', async ({
  page,
  request,
}) => {
  for (const headers of [{ origin: 'https://elsewhere.example' }, {}, { origin: 'null' }] as Record<
    string,
    string
  >[]) {
    const answer = await request.post(at('/sign-in'), {
      form: { email: 'a@b.example', password: 'x' },
      headers,
    });
    expect(answer.status()).toBe(403);
  }
  await enterDemo(page);
  const session = (await page.context().cookies()).find((c) => /session_token/.test(c.name));
  expect(session).toMatchObject({ httpOnly: true, sameSite: 'Lax' });
  const headers = (await page.request.get(at(`${DEMO}/weigh`))).headers();
  expect(headers['content-security-policy']).toMatch(/script-src 'self' 'nonce-[^']+'/);
  expect(headers['content-security-policy']).not.toMatch(/script-src[^;]*unsafe/);
  expect(headers['content-security-policy']).toContain("frame-ancestors 'none'");
  expect(headers['x-content-type-options']).toBe('nosniff');
  expect(headers['x-powered-by']).toBeUndefined();
});

test("attempts to sign in are counted by the socket's address: a forged header does not help", async ({
  request,
}) => {
  const strict = process.env.E2E_STRICT_URL as string;
  const attempt = (i: number) =>
    request.post(`${strict}/sign-in.data`, {
      form: { email: 'someone@test.example', password: `guess number ${i}` },
      headers: {
        origin: strict,
        'x-forwarded-for': `203.0.113.${i}`,
        'x-real-ip': `203.0.113.${i}`,
        'x-bm-socket-address': `203.0.113.${i}`,
        forwarded: `for=203.0.113.${i}`,
      },
    });
  const said: string[] = [];
  for (let i = 0; i < 6; i++) said.push(await (await attempt(i)).text());
  expect(said[0]).toContain('INVALID_EMAIL_OR_PASSWORD');
  expect(said[5]).toContain('TOO_MANY');
});
