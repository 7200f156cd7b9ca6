/** The stand-in for services outside, started for the tests of a file as a process of its own. */
import { spawn } from 'node:child_process';
import { freePort, root } from '../../scripts/lib/system.mjs';
import { env } from '../env.ts';

export type StandIn = {
  readonly url: string;
  /** Has it be slow, fail, limit how often one may ask, or answer oddly; nothing: as it is by itself. */
  readonly behave: (how: object) => Promise<Response>;
  readonly stop: () => void;
};

/** Starts it, and has this process ask it. */
export async function startStandIn(): Promise<StandIn> {
  const port = await freePort();
  const mailPort = await freePort();
  const url = `http://127.0.0.1:${port}`;
  const child = spawn(process.execPath, ['--import', 'tsx', 'simulator/main.ts'], {
    cwd: root,
    stdio: 'ignore',
    env: { ...process.env, PORT: String(port), SMTP_PORT: String(mailPort) },
  });
  const answers = (): Promise<boolean> =>
    fetch(`${url}/openapi.json`).then(
      (r) => r.ok,
      () => false,
    );
  for (let i = 0; i < 100 && !(await answers()); i++) await new Promise((done) => setTimeout(done, 100));
  Object.assign(env(), { BM_OUTSIDE_URL: url, BM_SMTP_URL: `smtp://127.0.0.1:${mailPort}` });
  return {
    url,
    behave: (how) => fetch(`${url}/behaviour`, { method: 'PUT', body: JSON.stringify(how) }),
    stop: () => child.kill(),
  };
}
