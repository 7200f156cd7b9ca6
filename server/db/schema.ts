/** Business tables. Each carries workspace_id, first in its key; row-level security stands behind (see migrations). */
import { boolean, date, foreignKey, index, integer, jsonb, pgSchema, primaryKey, text, timestamp } from 'drizzle-orm/pg-core';
import type { LaneResult } from '../../core/lane/result.ts';
import type { CandidateData, CardData, CardKind, QuoteSource, StoredLane } from '../../core/workspace/records.ts';
import type { Settings } from '../../core/workspace/settings.ts';

export const bm = pgSchema('bm');
const when = (name: string) => timestamp(name, { withTimezone: true });

export const workspace = bm.table('workspace', {
  workspaceId: text('workspace_id').primaryKey(),
  settings: jsonb('settings').$type<Settings>().notNull(),
  deletedAt: when('deleted_at'),
  createdAt: when('created_at').notNull().defaultNow(),
});

const workspaceId = () => text('workspace_id').notNull().references(() => workspace.workspaceId, { onDelete: 'cascade' });

export const supplier = bm.table(
  'supplier',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    name: text('name').notNull(),
    country: text('country'),
    currency: text('currency'),
    contact: text('contact').notNull().default(''),
    notes: text('notes').notNull().default(''),
    createdAt: when('created_at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.id] })],
);

export const rateCard = bm.table(
  'rate_card',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    kind: text('kind').$type<CardKind>().notNull(),
    /** What the card is about: marketplace and country, or country alone. */
    key: text('key').notNull(),
    name: text('name').notNull(),
    inForceFrom: date('in_force_from', { mode: 'string' }).notNull(),
    example: boolean('example').notNull().default(false),
    data: jsonb('data').$type<CardData>().notNull(),
    createdAt: when('created_at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.id] }), index('rate_card_by_key').on(t.workspaceId, t.kind, t.key, t.inForceFrom)],
);

export const candidate = bm.table(
  'candidate',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    data: jsonb('data').$type<CandidateData>().notNull(),
    archivedAt: when('archived_at'),
    droppedAt: when('dropped_at'),
    droppedReason: text('dropped_reason'),
    deletedAt: when('deleted_at'),
    createdAt: when('created_at').notNull().defaultNow(),
    updatedAt: when('updated_at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.id] })],
);

export const quote = bm.table(
  'quote',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    candidateId: text('candidate_id').notNull(),
    supplierId: text('supplier_id'),
    data: jsonb('data').$type<QuoteSource>().notNull(),
    createdAt: when('created_at').notNull().defaultNow(),
    updatedAt: when('updated_at').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.id] }),
    foreignKey({ columns: [t.workspaceId, t.candidateId], foreignColumns: [candidate.workspaceId, candidate.id] }).onDelete('cascade'),
    foreignKey({ columns: [t.workspaceId, t.supplierId], foreignColumns: [supplier.workspaceId, supplier.id] }),
    index('quote_by_candidate').on(t.workspaceId, t.candidateId),
  ],
);

export const lane = bm.table(
  'lane',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    candidateId: text('candidate_id').notNull(),
    position: integer('position').notNull().default(0),
    data: jsonb('data').$type<StoredLane>().notNull(),
    /** What the server reckoned when the lane was last saved. */
    result: jsonb('result').$type<LaneResult>(),
    resultAt: when('result_at'),
    createdAt: when('created_at').notNull().defaultNow(),
    updatedAt: when('updated_at').notNull().defaultNow(),
    updatedBy: text('updated_by'),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.id] }),
    foreignKey({ columns: [t.workspaceId, t.candidateId], foreignColumns: [candidate.workspaceId, candidate.id] }).onDelete('cascade'),
    index('lane_by_candidate').on(t.workspaceId, t.candidateId, t.position),
  ],
);

export const BUSINESS_TABLES = { workspace, supplier, rateCard, candidate, quote, lane } as const;
