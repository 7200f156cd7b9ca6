/** The web server: security headers, static files, and React Router for the rest. */
import { randomBytes } from 'node:crypto';
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import compression from 'compression';
import express from 'express';
import helmet from 'helmet';
import type { ServerBuild } from 'react-router';
import sirv from 'sirv';
import { answering } from './answer.ts';
import { env } from '../env.ts';
import { guard } from './guard.ts';
import { log } from '../log.ts';
import { fault } from '../../core/fault.ts';
import { inWords } from '../../words/index.ts';

const dev = process.env.NODE_ENV !== 'production';
const port = Number(process.env.PORT ?? 4300);
const { BM_ORIGIN, BM_TRUSTED_PROXIES } = env();
const folder = (path: string) => fileURLToPath(new URL(path, import.meta.url));

const app = express();
app.disable('x-powered-by');
app.set(
  'trust proxy',
  BM_TRUSTED_PROXIES.split(',')
    .map((p) => p.trim())
    .filter((p) => p !== ''),
);
app.use((_req, res, next) => {
  res.locals.nonce = randomBytes(16).toString('base64');
  next();
});
app.use(
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: [
          "'self'",
          // The purse's solver and the reader of barcodes are WebAssembly: their workers may compile it, and no page.
          (req, res) =>
            /\/(?:purse|scan)\.worker[^/]*$/.test((req as express.Request).path)
              ? "'wasm-unsafe-eval'"
              : `'nonce-${(res as unknown as { locals: { nonce: string } }).locals.nonce}'`,
          ...(dev ? ["'unsafe-inline'"] : []),
        ],
        // Style sheets need the nonce; style attributes carry the lengths of bars.
        styleSrc: [
          "'self'",
          (_req, res) =>
            dev
              ? "'unsafe-inline'"
              : `'nonce-${(res as unknown as { locals: { nonce: string } }).locals.nonce}'`,
        ],
        styleSrcAttr: ["'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'", ...(dev ? ['ws:'] : [])],
        workerSrc: ["'self'", 'blob:'],
        objectSrc: ["'none'"],
        baseUri: ["'self'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    hsts: BM_ORIGIN.startsWith('https:'),
    crossOriginEmbedderPolicy: false,
    referrerPolicy: { policy: 'same-origin' },
  }),
);
app.use(compression());
app.use(guard(BM_ORIGIN));

let handler: express.RequestHandler;
if (dev) {
  const vite = await (await import('vite')).createServer({ server: { middlewareMode: true } });
  app.use(vite.middlewares);
  handler = (req, res, next) => {
    vite
      .ssrLoadModule('virtual:react-router/server-build')
      .then((build) => answering(build as ServerBuild, 'development', BM_ORIGIN, contextOf)(req, res, next))
      .catch((e) => {
        vite.ssrFixStacktrace(e as Error);
        next(e);
      });
  };
} else {
  const build = (await import(folder('../../build/server/index.js'))) as ServerBuild;
  app.use(
    '/assets',
    sirv(folder('../../build/client/assets'), { immutable: true, maxAge: 31_536_000, etag: true }),
  );
  app.use(sirv(folder('../../build/client'), { maxAge: 3600, etag: true }));
  handler = answering(build, 'production', BM_ORIGIN, contextOf);
}

function contextOf(res: { locals: Record<string, unknown> }) {
  return { nonce: String(res.locals.nonce) };
}

app.use(handler);
app.use(((error: unknown, _req, res, _next) => {
  log.error(
    { err: error instanceof Error ? { message: error.message, stack: error.stack } : String(error) },
    'a request failed',
  );
  if (!res.headersSent)
    res
      .status(500)
      .type('text')
      .send(inWords(fault('wentWrong')));
}) as express.ErrorRequestHandler);

const server = createServer(app);
// A large file may take as long as bytes come; answer.ts ends what stalls.
server.requestTimeout = 0;
server.listen(port, '127.0.0.1');
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    server.close(() => process.exit(0));
    server.closeIdleConnections();
    setTimeout(() => process.exit(0), 1500).unref();
  });
