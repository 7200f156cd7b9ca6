import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { organization } from 'better-auth/plugins';
import { PASSWORD } from '../../core/workspace/people.ts';
import { authDb } from '../db/client.ts';
import * as tables from '../db/authSchema.ts';
import { env } from '../env.ts';
import { log } from '../log.ts';
import { SOCKET_ADDRESS_HEADER } from './address.ts';
import { accessControl, roles } from './roles.ts';

/** Reset links asked for by an administrator, waiting to be shown or mailed. Keyed by e-mail address. */
const resetLinks = new Map<string, string>();

function create() {
  const { BM_SECRET, BM_ORIGIN } = env();
  return betterAuth({
    appName: 'Bold Margin',
    secret: BM_SECRET,
    baseURL: BM_ORIGIN,
    basePath: '/api/auth',
    trustedOrigins: [BM_ORIGIN],
    database: drizzleAdapter(authDb(), { provider: 'pg', schema: tables }),
    emailAndPassword: {
      enabled: true,
      minPasswordLength: PASSWORD.least,
      maxPasswordLength: PASSWORD.most,
      revokeSessionsOnPasswordReset: true,
      sendResetPassword: async ({ user, token }) => {
        resetLinks.set(user.email, `${BM_ORIGIN}/reset-password?token=${encodeURIComponent(token)}`);
      },
    },
    session: { expiresIn: 60 * 60 * 24 * 30, updateAge: 60 * 60 * 24 },
    // Tries are counted in the database, by person and address (tries.ts).
    rateLimit: { enabled: false },
    advanced: {
      useSecureCookies: BM_ORIGIN.startsWith('https:'),
      defaultCookieAttributes: { httpOnly: true, sameSite: 'lax', path: '/' },
      ipAddress: { ipAddressHeaders: [SOCKET_ADDRESS_HEADER] },
    },
    logger: {
      level: 'error',
      log: (level, message) => log[level === 'error' ? 'error' : 'warn']({ part: 'sign-in' }, message),
    },
    telemetry: { enabled: false },
    plugins: [
      organization({
        ac: accessControl,
        roles,
        creatorRole: 'owner',
        organizationLimit: 50,
        membershipLimit: 200,
        invitationExpiresIn: 60 * 60 * 24 * 14,
        // Invitations are handed over as a link, shown on the members' page.
        sendInvitationEmail: async () => {},
        disableOrganizationDeletion: true,
      }),
    ],
  });
}

const kept = globalThis as typeof globalThis & { boldMarginAuth?: ReturnType<typeof create> };
export function auth() {
  kept.boldMarginAuth ??= create();
  return kept.boldMarginAuth;
}

/** Makes a password reset link for an account; null where there is none. Who may ask is for the caller to check. */
export async function makeResetLink(email: string): Promise<string | null> {
  resetLinks.delete(email);
  await auth().api.requestPasswordReset({ body: { email } });
  const link = resetLinks.get(email) ?? null;
  resetLinks.delete(email);
  return link;
}
