/**
 * Makes a link by which an account's password can be set anew, for whoever runs this server: there is no mail
 * yet.
 */
import { makeResetLink } from './auth/auth.ts';
import { closeDatabase } from './db/client.ts';

const email = process.argv[2] ?? '';
try {
  const link = await makeResetLink(email);
  if (link === null) {
    process.stderr.write(`There is no account with the e-mail ${email}.\n`);
    process.exitCode = 1;
  } else process.stdout.write(`${link}\n`);
} finally {
  await closeDatabase();
}
