import type { RequestHandler } from 'express';
import { SOCKET_ADDRESS_HEADER } from '../auth/address.ts';
import { fault } from '../../core/fault.ts';
import { inWords } from '../../words/index.ts';

const FORWARDING = [
  'x-forwarded-for',
  'x-forwarded-host',
  'x-forwarded-proto',
  'x-real-ip',
  'forwarded',
  'cf-connecting-ip',
  'x-client-ip',
  'true-client-ip',
];

/**
 * Stands before everything else. Removes the headers by which a client could claim another address and sets
 * our own from the socket, or from what a trusted proxy says; refuses requests that change something and do
 * not come from our own pages (cross-site request forgery).
 */
export function guard(origin: string): RequestHandler {
  return (req, res, next) => {
    // Express reads what trusted proxies say (main.ts names them); from anybody else it is the socket's
    // address.
    const address = req.ip ?? req.socket.remoteAddress ?? 'unknown';
    for (const name of FORWARDING) delete req.headers[name];
    req.headers[SOCKET_ADDRESS_HEADER] = address;
    if (req.method !== 'GET' && req.method !== 'HEAD' && req.method !== 'OPTIONS') {
      const from = req.headers.origin;
      const site = req.headers['sec-fetch-site'];
      const ours = from !== undefined ? from === origin : site === 'same-origin';
      if (!ours) {
        res
          .status(403)
          .type('text')
          .send(inWords(fault('foreignOrigin')));
        return;
      }
    }
    next();
  };
}
