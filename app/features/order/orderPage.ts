/** What the parts of an order's page share. */
import type { Order } from '../../../core/orders/schema.ts';

export type OrderShown = Order & { readonly edition: number };
/** A mail about the order, in words. */
export type PageMail = {
  readonly id: string;
  readonly to: string;
  readonly state: 'waiting' | 'sending' | 'sent' | 'failed' | 'unsure';
  readonly error: string | null;
  readonly at: string;
};
/** The mails a page shows, and what it can do with mail. */
export type MailsShown = {
  readonly mails: readonly PageMail[];
  readonly canMail: boolean;
  /** Where the mail of a demo is read. */
  readonly mailbox: string | null;
};
/** Sends something that is done to the order; the page shows what the server says. */
export type ActOn = (what: {
  readonly intent: string;
  readonly edition: number;
  readonly [more: string]: unknown;
}) => void;
