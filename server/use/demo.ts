import { DEMO } from '../../demo/scenario.ts';
import type { Forwarded } from '../auth/forward.ts';
import { forwardToAuth } from '../auth/forward.ts';
import { env } from '../env.ts';
import { demoPassword } from '../loadDemo.ts';

/**
 * Signs in with the demo account; only where the demo was started. Nobody guesses here, so strangers' tries
 * do not lock it.
 */
export async function enterDemo(request: Request): Promise<Forwarded> {
  if (env().BM_DEMO !== '1') return { ok: false, code: 'FAILED', cookies: new Headers(), body: {} };
  return forwardToAuth(request, '/sign-in/email', { email: DEMO.email, password: demoPassword() }, true);
}
