import pino from 'pino';

/** One log for the server. Never give it request bodies, cookies, tokens or people's data. */
export const log = pino({ name: 'bold-margin', level: process.env.BM_LOG ?? 'warn' }, pino.destination(2));
