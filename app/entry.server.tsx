import { PassThrough } from 'node:stream';
import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import { createReadableStreamFromReadable } from '@react-router/node';
import { isbot } from 'isbot';
import { renderToPipeableStream } from 'react-dom/server';
import type { AppLoadContext, EntryContext } from 'react-router';
import { isRouteErrorResponse, ServerRouter } from 'react-router';
import { isDatabaseAway } from '../server/db/client.ts';
import { log } from '../server/log.ts';
import { startI18n } from './i18n.ts';
import { NonceContext } from './ui/nonce.ts';

startI18n();

declare module 'react-router' {
  interface AppLoadContext {
    nonce: string;
  }
}

export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  router: EntryContext,
  context: AppLoadContext,
): Promise<Response> {
  const { nonce } = context;
  const cache = createCache({ key: 'bm', nonce });
  return new Promise((done, no) => {
    let answered = false;
    const whole = isbot(request.headers.get('user-agent') ?? '');
    const { pipe, abort } = renderToPipeableStream(
      <NonceContext value={nonce}>
        <CacheProvider value={cache}>
          <ServerRouter context={router} url={request.url} nonce={nonce} />
        </CacheProvider>
      </NonceContext>,
      {
        nonce,
        [whole ? 'onAllReady' : 'onShellReady']() {
          answered = true;
          const body = new PassThrough();
          headers.set('content-type', 'text/html; charset=utf-8');
          headers.set('cache-control', 'private, no-store');
          done(new Response(createReadableStreamFromReadable(body), { headers, status }));
          pipe(body);
        },
        onShellError: no,
        onError(error: unknown) {
          if (answered)
            log.error({ message: error instanceof Error ? error.message : 'unknown' }, 'rendering failed');
        },
      },
    );
    setTimeout(abort, 10_000).unref();
  });
}

/** Errors go to the log without what people typed; a database that is away is one line, not a stack. */
export function handleError(error: unknown, { request }: { request: Request }): void {
  if (request.signal.aborted || isRouteErrorResponse(error) || error instanceof Response) return;
  if (isDatabaseAway(error)) log.warn('the database is away');
  else
    log.error(
      {
        message: error instanceof Error ? error.message.split('\nparams:')[0] : 'unknown',
        stack:
          error instanceof Error
            ? error.stack
                ?.split('\n')
                .filter((l) => l.startsWith('    at'))
                .slice(0, 8)
            : undefined,
      },
      'a request failed',
    );
}
