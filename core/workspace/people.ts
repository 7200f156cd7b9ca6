/** What people fill in about themselves and each other: held to the same rules in the browser and on the server. */
import { z } from 'zod';

export const ROLES = ['owner', 'editor', 'viewer'] as const;
/** Characters of a password. */
export const PASSWORD = { least: 10, most: 128 } as const;

const email = z.string('emailShape').trim().pipe(z.email('emailShape'));
const anyPassword = z.string('passwordMissing').min(1, 'passwordMissing').max(1000, 'passwordLong');
const newPassword = z
  .string('passwordMissing')
  .min(PASSWORD.least, 'passwordShort')
  .max(PASSWORD.most, 'passwordLong');

export const signInForm = z.object({ email, password: anyPassword });
export const signUpForm = z.object({
  name: z.string('personNoName').trim().min(1, 'personNoName').max(200),
  email,
  password: newPassword,
});
export const setPasswordForm = z.object({ password: newPassword });
export const changePasswordForm = z.object({ current: anyPassword, password: newPassword });
export const invitationForm = z.object({ email, role: z.enum(ROLES) });
