/** A mail that goes out, as it is kept until it has gone. */
import { z } from 'zod';

/** An address that a header of a mail takes: one line, one person. */
export const mailAddress = z
  .string()
  .trim()
  .max(200)
  .regex(/^[^\s@,;<>"()[\]\\]+@[^\s@,;<>"()[\]\\]+\.[^\s@,;<>"()[\]\\]+$/, 'mailShape');

/** A line of a header: nothing that could begin another one. */
const headerLine = z
  .string()
  .trim()
  .max(300)
  .regex(/^[^\p{Cc}]*$/u, 'mailLineBreak');

export const mail = z.strictObject({
  to: mailAddress,
  subject: headerLine.min(1, 'mailNoSubject'),
  text: z.string().max(50_000),
  /** Where an answer goes; blank: where the mail came from. */
  replyTo: z.union([z.literal(''), mailAddress]).default(''),
  /** Keys of what is asked, for whoever reads mail by program. */
  asks: z.array(z.string().max(40)).max(50).default([]),
});
export type Mail = z.output<typeof mail>;
