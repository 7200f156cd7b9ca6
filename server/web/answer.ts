/**
 * Between Node's server and React Router: bodies are counted as they come and refused over the limit, texts
 * that cannot be kept are refused before anything reads them, uploads stream through.
 */
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream } from 'node:stream/web';
import { createReadableStreamFromReadable } from '@react-router/node';
import type { Request as ExpressRequest, RequestHandler, Response as ExpressResponse } from 'express';
import { createRequestHandler } from 'react-router';
import type { AppLoadContext, ServerBuild } from 'react-router';
import { addressIsKeepable, bodyIsKeepable } from '../text.ts';
import { fault } from '../../core/fault.ts';
import { inWords } from '../../words/index.ts';

/** Largest body we read, in bytes: some hundred times the largest lane document. */
const MOST = 10_000_000;
/** Where files are taken in as a stream, which counts for itself. */
const UPLOAD = /^\/w\/[^/]+\/lists\/upload(\.data)?$/;
/** Longest that nothing may come of a body, ms. */
const STALL = 30_000;
/** How long, and for how many bytes more, a client that still sends is heard out, so that it reads the refusal. */
const LINGER = 1000;
const HEARD_OUT = 64_000_000;

class Refused extends Error {
  constructor(
    readonly status: 400 | 408 | 413,
    code: string,
  ) {
    super(inWords(fault(code)));
  }
}
const tooLarge = (): Refused => new Refused(413, 'bodyTooLarge');
const stalled = (): Refused => new Refused(408, 'bodyStalled');

const hasBody = (req: ExpressRequest): boolean => req.method !== 'GET' && req.method !== 'HEAD';

/** The whole body, counted as it comes. */
function readBody(req: ExpressRequest): Promise<Buffer> {
  return new Promise((done, no) => {
    if (Number(req.headers['content-length'] ?? 0) > MOST) return no(tooLarge());
    const pieces: Buffer[] = [];
    let bytes = 0;
    let timer = setTimeout(() => give(stalled()), STALL);
    const give = (why: Error): void => {
      clearTimeout(timer);
      req.pause();
      req.off('data', take);
      no(why);
    };
    const take = (piece: Buffer): void => {
      bytes += piece.length;
      if (bytes > MOST) {
        give(tooLarge());
        return;
      }
      pieces.push(piece);
      clearTimeout(timer);
      timer = setTimeout(() => give(stalled()), STALL);
    };
    req.on('data', take);
    req.once('end', () => {
      clearTimeout(timer);
      done(Buffer.concat(pieces));
    });
    req.once('error', give);
    req.once('close', () => clearTimeout(timer));
  });
}

/** Ends an upload from which nothing comes any more; as long as bytes come it may take as long as it takes. */
function endWhenStalled(req: ExpressRequest): void {
  let timer = setTimeout(() => req.destroy(stalled()), STALL);
  req.on('data', () => {
    clearTimeout(timer);
    timer = setTimeout(() => req.destroy(stalled()), STALL);
  });
  req.pause();
  for (const over of ['end', 'close', 'error']) req.once(over, () => clearTimeout(timer));
}

/** Sends a refusal, reads no further, and closes the connection once the client has had time to hear it. */
function refuse(req: ExpressRequest, res: ExpressResponse, { status, message }: Refused): void {
  // A body that nobody has begun to read would be read to its end by Node.
  req.on('data', () => undefined);
  req.pause();
  // Whole by its length, but not ended: an ended answer would close the connection before a client that still
  // sends has read it.
  if (!res.headersSent)
    res
      .status(status)
      .type('text')
      .set({
        'content-length': String(Buffer.byteLength(message)),
        connection: 'close',
        'cache-control': 'no-store, no-transform',
      })
      .write(message);
  setTimeout(() => req.socket.destroy(), LINGER).unref();
}

function addressOf(req: ExpressRequest, origin: string): URL {
  return new URL(req.originalUrl.replace(/^\/{2,}/, '/'), origin);
}

async function requestOf(req: ExpressRequest, res: ExpressResponse, origin: string): Promise<Request> {
  if (!addressIsKeepable(req.originalUrl)) throw new Refused(400, 'addressUnreadable');
  const controller = new AbortController();
  res.once('close', () => controller.abort());
  const headers = new Headers();
  for (const [key, values] of Object.entries(req.headers))
    for (const v of Array.isArray(values) ? values : values === undefined ? [] : [values])
      headers.append(key, v);
  // The guard has held the origin against ours; what host a client names is of no account.
  headers.set('host', new URL(origin).host);
  const init: RequestInit & { duplex?: 'half' } = { method: req.method, headers, signal: controller.signal };
  if (hasBody(req)) {
    if (UPLOAD.test(req.path)) {
      endWhenStalled(req);
      init.body = createReadableStreamFromReadable(req);
      init.duplex = 'half';
    } else {
      const body = await readBody(req);
      if (!(await bodyIsKeepable(body, req.headers['content-type'] ?? '')))
        throw new Refused(400, 'unkeepable');
      if (body.length > 0) init.body = new Uint8Array(body);
    }
  }
  return new Request(addressOf(req, origin).href, init);
}

async function send(res: ExpressResponse, answer: Response): Promise<void> {
  if (res.destroyed || res.writableEnded) return answer.body?.cancel();
  res.status(answer.status);
  for (const [key, value] of answer.headers) res.append(key, value);
  if (answer.body === null) res.end();
  // Node's own pipe takes its listeners off again, also where the answer is packed on the way.
  else
    await pipeline(Readable.fromWeb(answer.body as ReadableStream), res).catch((e) => {
      if (!res.destroyed && !res.writableEnded) throw e;
    });
}

/**
 * After an answer to an upload that was not read to its end, hears the rest out within bounds, so that the
 * answer arrives.
 */
function hearOut(req: ExpressRequest): void {
  if (req.readableEnded || req.destroyed) return;
  let bytes = 0;
  const end = setTimeout(() => req.socket.destroy(), 10 * LINGER);
  end.unref();
  req.on('data', (piece: Buffer) => {
    bytes += piece.length;
    if (bytes > HEARD_OUT) req.socket.destroy();
  });
  req.once('close', () => clearTimeout(end));
  req.resume();
}

/**
 * Answers every request by React Router. `origin` is the application's own address, whatever a client says
 * its host is.
 */
export function answering(
  build: ServerBuild,
  mode: 'production' | 'development',
  origin: string,
  context: (res: ExpressResponse) => AppLoadContext,
): RequestHandler {
  return answeringBy(createRequestHandler(build, mode), origin, context);
}

/** The same by any function from request to answer. */
export function answeringBy(
  handle: (request: Request, context: AppLoadContext) => Promise<Response>,
  origin: string,
  context: (res: ExpressResponse) => AppLoadContext,
): RequestHandler {
  return (req, res, next) => {
    requestOf(req, res, origin)
      .then((request) => handle(request, context(res)))
      .then(async (answer) => {
        await send(res, answer);
        if (hasBody(req)) hearOut(req);
      })
      .catch((e) => (e instanceof Refused ? refuse(req, res, e) : next(e)));
  };
}
