/** What a supplier is asked about goods, and what they answer. */
import { z } from 'zod';
import { mailAddress } from '../mail/schema.ts';
import { currency, day, nonNegative, orBlank } from '../money/schema.ts';
import { partOf } from '../workspace/part.ts';
import { LANGUAGES } from '../workspace/supplier.ts';

export const ENQUIRY_STATES = ['draft', 'sent', 'answered', 'closed'] as const;
export type EnquiryState = (typeof ENQUIRY_STATES)[number];

/** What one may ask. */
export const QUESTIONS = [
  'price',
  'minimumOrder',
  'size',
  'weight',
  'carton',
  'leadDays',
  'incoterm',
  'deposit',
  'branding',
  'samples',
  'certificates',
] as const;
export type Question = (typeof QUESTIONS)[number];

/** A step of a negotiation: what was asked, what was offered, what was agreed on, per bought unit. */
export const priceStep = z.strictObject({
  day,
  kind: z.enum(['asked', 'offered', 'agreed']),
  unitPrice: nonNegative,
  units: orBlank(nonNegative),
  note: z.string().trim().max(500).default(''),
});

export const enquiry = z.strictObject({
  supplier: z.string().trim().max(200),
  mail: z.union([z.literal(''), mailAddress]).default(''),
  language: z.enum(LANGUAGES).default('en'),
  currency,
  questions: z.array(z.enum(QUESTIONS)).max(QUESTIONS.length),
  /** Quantities a price is asked for, bought units. */
  quantities: z.array(nonNegative).max(10),
  /** The unit price one can pay; blank: none is named. Named in the mail only where `tellTarget`. */
  target: orBlank(nonNegative),
  tellTarget: z.boolean().default(false),
  subject: z.string().trim().max(200).default(''),
  text: z.string().max(20_000).default(''),
  sentOn: orBlank(day),
  remindOn: orBlank(day),
  /** When one was reminded. */
  remindedOn: orBlank(day),
  answeredOn: orBlank(day),
  /** What the supplier wrote. */
  answer: z.string().max(100_000).default(''),
  /** The quote that the answer became. */
  quoteId: orBlank(z.string().max(64)),
  path: z.array(priceStep).max(100).default([]),
});
export type Enquiry = z.output<typeof enquiry>;
export const enquiryPart = partOf(enquiry);
