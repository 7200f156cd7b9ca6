/**
 * Business tables. Each carries workspace_id, first in its key; row-level security stands behind (see
 * migrations). One file, since tables name each other and the migrations are drawn from the whole.
 */
import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  date,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgSchema,
  primaryKey,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import type { Attachment } from '../mail.ts';
import type { TaskKind } from '../jobs/kinds.ts';
import type { CheckGist } from '../../core/check/check.ts';
import type { CheckSession, ShelfCheck } from '../../core/check/schema.ts';
import type { Blank } from '../../core/lane/blanks.ts';
import type { EarlierResult, LaneResult } from '../../core/lane/result.ts';
import type { CandidateData, QuoteSource, StoredLane } from '../../core/workspace/records.ts';
import type { CARD_FIELDS } from '../../core/workspace/compose.ts';
import type { CardData, CardKind } from '../../core/cards/schema.ts';
import type { Tables } from '../../core/cards/reader.ts';
import type { MailedSince, NoticeKind } from '../../core/workspace/notices.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import type { Language } from '../../core/workspace/supplier.ts';
import type { WeighLine } from '../../core/workspace/weighLine.ts';
import type { ListMap } from '../../core/lists/map.ts';
import type { ListLook } from '../../core/lists/query.ts';
import type { Choice } from '../../core/lists/reference.ts';
import type { ListSettings } from '../../core/lists/settings.ts';
import type { CatalogueChoice } from '../../core/shops/schema.ts';
import type { Fault } from '../../core/fault.ts';
import type { EvidenceMap } from '../../core/evidence/fileMap.ts';
import type { ObservedKind, Watch } from '../../core/evidence/observed.ts';
import type { FeedRow } from '../../between/feed.ts';
import type { MarketStored, NewerLine } from '../../core/evidence/stored.ts';
import type { Origin } from '../../core/packs/schema.ts';
import type { Enquiry, EnquiryState } from '../../core/enquiries/schema.ts';
import type { OrderProgress, OrderState, OrderTerms } from '../../core/orders/schema.ts';
import type { Mail } from '../../core/mail/schema.ts';
import type { Proof } from '../../core/proofs/schema.ts';
import type { SettledKind, SettlementMap } from '../../core/actuals/schema.ts';
import type { Claim, ClaimState, FeeKind } from '../../core/actuals/fees.ts';
import type { CodeSum, LaneBook, PlaceMonth } from '../../core/actuals/book.ts';
import type { Count } from '../../core/actuals/stock.ts';
import type { CashPlan } from '../../core/cash/schema.ts';
import type { Stopped } from '../../core/actuals/letGo.ts';
import type { KindSums } from '../../core/actuals/sums.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';

export const bm = pgSchema('bm');
const when = (name: string) => timestamp(name, { withTimezone: true });

export const workspace = bm.table('workspace', {
  workspaceId: text('workspace_id').primaryKey(),
  settings: jsonb('settings').$type<Settings>().notNull(),
  deletedAt: when('deleted_at'),
  createdAt: when('created_at').notNull().defaultNow(),
});

const workspaceId = () =>
  text('workspace_id')
    .notNull()
    .references(() => workspace.workspaceId, { onDelete: 'cascade' });

export const supplier = bm.table(
  'supplier',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    name: text('name').notNull(),
    country: text('country'),
    currency: text('currency'),
    contact: text('contact').notNull().default(''),
    /** Where orders and enquiries go; blank: not known. */
    mail: text('mail').notNull().default(''),
    /** The language one writes to them in. */
    language: text('language').$type<Language>().notNull().default('en'),
    notes: text('notes').notNull().default(''),
    /** How this supplier's lists are read: the mapping of the last one. */
    listMap: jsonb('list_map').$type<ListMap>(),
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
    /** Who put it down and when, where it came in a pack. */
    origin: jsonb('origin').$type<Origin>(),
    /** The version it was made from. */
    basedOn: text('based_on'),
    /** Taken out of force; lanes that were computed with it keep it. */
    withdrawnAt: when('withdrawn_at'),
    createdBy: text('created_by'),
    createdAt: when('created_at').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.id] }),
    // Two versions of one card cannot be in force from the same day.
    uniqueIndex('rate_card_one_a_day')
      .on(t.workspaceId, t.kind, t.key, t.inForceFrom)
      .where(sql`withdrawn_at is null`),
  ],
);

/** A card that is being edited: its cells as they stand, right or wrong. */
export const rateDraft = bm.table(
  'rate_draft',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    kind: text('kind').$type<CardKind>().notNull(),
    name: text('name').notNull(),
    basedOn: text('based_on'),
    cells: jsonb('cells').$type<Tables>().notNull(),
    /** Rises with every save, so that two who edit at once do not overwrite each other. */
    edition: integer('edition').notNull().default(1),
    /** Thrown away; can be brought back. */
    thrownAt: when('thrown_at'),
    createdAt: when('created_at').notNull().defaultNow(),
    updatedAt: when('updated_at').notNull().defaultNow(),
    updatedBy: text('updated_by'),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.id] })],
);

/**
 * What was really charged for an item, by the card it is about (`rateCard.key`): kept whatever version is in
 * force.
 */
export const cardProof = bm.table(
  'card_proof',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    cardKey: text('card_key').notNull(),
    data: jsonb('data').$type<Proof>().notNull(),
    createdBy: text('created_by'),
    createdAt: when('created_at').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.id] }),
    index('card_proof_of_card').on(t.workspaceId, t.cardKey, t.createdAt),
  ],
);

/** How a doubtful cell of a fee table was read, by what names the cell: found again in the table's next version. */
export const scheduleChoice = bm.table(
  'schedule_choice',
  {
    workspaceId: workspaceId(),
    cell: text('cell').notNull(),
    reading: integer('reading').notNull(),
    updatedAt: when('updated_at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.cell] })],
);

/** The barcode of a candidate in 14 digits, as it is looked up. */
export const barcodeKey = (data: unknown) => sql`lpad(${data} ->> 'gtin', 14, '0')`;

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
    /** Who edited it last: the person's id, or null. */
    updatedBy: text('updated_by'),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.id] }),
    index('candidate_by_barcode')
      .on(t.workspaceId, barcodeKey(t.data))
      .where(sql`${t.data} ->> 'gtin' is not null`),
  ],
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
    foreignKey({
      columns: [t.workspaceId, t.candidateId],
      foreignColumns: [candidate.workspaceId, candidate.id],
    }).onDelete('cascade'),
    foreignKey({
      columns: [t.workspaceId, t.supplierId],
      foreignColumns: [supplier.workspaceId, supplier.id],
    }),
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
    /**
     * Card versions that were brought in since `data` was written; they beat those in it. Read both as
     * `laneData`.
     */
    newerCards: jsonb('newer_cards')
      .$type<Partial<Pick<StoredLane, (typeof CARD_FIELDS)[keyof typeof CARD_FIELDS]>>>()
      .notNull()
      .default({}),
    /** What the server reckoned when the lane was last saved. */
    result: jsonb('result').$type<LaneResult>(),
    resultAt: when('result_at'),
    /**
     * Measures of the result in the home currency, by which the best lane of a candidate is found without
     * reading the others.
     */
    unitProfit: doublePrecision('unit_profit'),
    margin: doublePrecision('margin'),
    roi: doublePrecision('roi'),
    profitPerMonth: doublePrecision('profit_per_month'),
    yearlyReturnOnCash: doublePrecision('yearly_return_on_cash'),
    launchCash: doublePrecision('launch_cash'),
    /** Whether no cost line of the unit profit is blank. */
    whole: boolean('whole').notNull().default(false),
    /** What a list of candidates shows of the lane, and the state it was worked out in. */
    shown: jsonb('shown').$type<{ key: string; line: WeighLine }>(),
    /** A scenario is a named copy of this lane's inputs; it is compared with it, and counts nowhere else. */
    scenarioOf: text('scenario_of'),
    createdAt: when('created_at').notNull().defaultNow(),
    updatedAt: when('updated_at').notNull().defaultNow(),
    updatedBy: text('updated_by'),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.id] }),
    foreignKey({
      columns: [t.workspaceId, t.candidateId],
      foreignColumns: [candidate.workspaceId, candidate.id],
    }).onDelete('cascade'),
    index('lane_by_candidate').on(t.workspaceId, t.candidateId, t.position),
  ],
);

/** What a lane's result was before: one row for each change that moved its profit. */
export const laneHistory = bm.table(
  'lane_history',
  {
    // The lane's own key leads to the workspace: a second check of it would cost as much as the row.
    workspaceId: text('workspace_id').notNull(),
    laneId: text('lane_id').notNull(),
    at: when('at').notNull().defaultNow(),
    by: text('by'),
    /** What moved it: an edit, a change of rates. */
    cause: text('cause').notNull(),
    result: jsonb('result').$type<EarlierResult>().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.laneId, t.at] }),
    foreignKey({ columns: [t.workspaceId, t.laneId], foreignColumns: [lane.workspaceId, lane.id] }).onDelete(
      'cascade',
    ),
  ],
);

/** Long work: what it does, how far it is, how it ended. The queue itself stands in the schema `jobs`. */
export const task = bm.table(
  'task',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    kind: text('kind').$type<TaskKind>().notNull(),
    state: text('state').$type<TaskState>().notNull().default('waiting'),
    done: integer('done').notNull().default(0),
    total: integer('total').notNull().default(0),
    /** What to do, and where a piece of work goes on after a stop. */
    data: jsonb('data').$type<Record<string, unknown>>().notNull().default({}),
    error: jsonb('error').$type<Fault>(),
    createdBy: text('created_by'),
    createdAt: when('created_at').notNull().defaultNow(),
    updatedAt: when('updated_at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.id] })],
);
export type TaskState = 'waiting' | 'running' | 'done' | 'cancelled' | 'failed';

/** Something people should know, with the way to it. */
export const notice = bm.table(
  'notice',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    kind: text('kind').$type<NoticeKind>().notNull(),
    data: jsonb('data').$type<Record<string, string | number>>().notNull(),
    /** Path under the workspace. */
    link: text('link').notNull(),
    at: when('at').notNull().defaultNow(),
    readAt: when('read_at'),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.id] }), index('notice_by_time').on(t.workspaceId, t.at)],
);
/** Which notices somebody has by mail, to the address of their account. */
export const noticeMail = bm.table(
  'notice_mail',
  {
    workspaceId: workspaceId(),
    userId: text('user_id').notNull(),
    since: jsonb('since').$type<MailedSince>().notNull(),
    /** Reader's locale when they chose: how figures in the mail are written. */
    locale: text('locale').notNull(),
    /** Notices up to then have gone. */
    mailedUpTo: when('mailed_up_to').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.userId] })],
);

/** The last answer of an outside service to each question, with its time. */
export const outsideAnswer = bm.table(
  'outside_answer',
  {
    workspaceId: workspaceId(),
    question: text('question').notNull(),
    answer: jsonb('answer').$type<unknown>().notNull(),
    at: when('at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.question] })],
);

// ---- suppliers' lists
// -----------------------------------------------------------------------------------------------

/** A file in the store, as it came. */
export type StoredFile = {
  readonly name: string;
  readonly bytes: number;
  readonly sha256: string;
  readonly kind: 'csv' | 'xlsx';
};
/** Market figures of one's own that complete a list. */
export type StoredReference = {
  readonly file: StoredFile;
  readonly sheet: string | null;
  readonly map: ListMap;
  readonly choice: Choice;
};

export const supplierList = bm.table(
  'supplier_list',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    name: text('name').notNull(),
    supplierId: text('supplier_id'),
    file: jsonb('file').$type<StoredFile>().notNull(),
    /** Sheet of a workbook; null: the first, or no workbook. */
    sheet: text('sheet'),
    map: jsonb('map').$type<ListMap>(),
    settings: jsonb('settings').$type<ListSettings>(),
    /** How it was looked at last. */
    look: jsonb('look').$type<ListLook>(),
    reference: jsonb('reference').$type<StoredReference>(),
    /** What of which shop's catalogue it is read of; null: of a file. */
    catalogue: jsonb('catalogue').$type<CatalogueChoice>(),
    /** The supplier's edition before this one. */
    previousId: text('previous_id'),
    /** The last check, and the run whose rows are shown. */
    checkId: text('check_id'),
    runId: text('run_id'),
    createdBy: text('created_by'),
    createdAt: when('created_at').notNull().defaultNow(),
    updatedAt: when('updated_at').notNull().defaultNow(),
    deletedAt: when('deleted_at'),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.id] })],
);

/**
 * Rows of lists, one partition for each run: the loader fills a table of its own by COPY, indexes it by line
 * and by barcode and attaches it here. All rows of a partition are of one workspace and one run, so neither
 * stands in its indexes. Money in the list's own currency but for the shelf price.
 */
export const listRow = bm.table('list_row', {
  workspaceId: text('workspace_id').notNull(),
  runId: uuid('run_id').notNull(),
  /** Row in the file, as a spreadsheet counts. */
  line: integer('line').notNull(),
  /** Barcode as 14 digits, a number. */
  key: bigint('key', { mode: 'number' }).notNull(),
  code: text('code').notNull(),
  title: text('title').notNull(),
  brand: text('brand').notNull(),
  category: text('category').notNull(),
  cost: doublePrecision('cost').notNull(),
  price: doublePrecision('price'),
  units: doublePrecision('units'),
  /** What else the row says, by role or by the heading of a column kept as it is. */
  more: jsonb('more').$type<Record<string, string>>(),
});

/** What people have decided about goods, by barcode, across all lists. */
export const goodsMark = bm.table(
  'goods_mark',
  {
    workspaceId: workspaceId(),
    key: bigint('key', { mode: 'number' }).notNull(),
    state: text('state').$type<MarkState>(),
    reason: text('reason').notNull().default(''),
    note: text('note').notNull().default(''),
    tags: jsonb('tags').$type<string[]>().notNull().default([]),
    /** Pieces sold and bought that were confirmed for it; null: as the list takes them. */
    soldPack: integer('sold_pack'),
    boughtPack: integer('bought_pack'),
    /** By list: the row of its market figures that was chosen by hand for this barcode. */
    listings: jsonb('listings').$type<Record<string, number>>().notNull().default({}),
    candidateId: text('candidate_id'),
    listId: text('list_id'),
    name: text('name').notNull().default(''),
    /** A month's profit when it was kept, home currency. */
    profitPerMonth: doublePrecision('profit_per_month'),
    /** Costs which that profit leaves out: it is a bound. */
    profitLacks: jsonb('profit_lacks').$type<readonly Blank[]>().notNull().default([]),
    by: text('by'),
    at: when('at').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.key] }),
    index('goods_mark_by_time').on(t.workspaceId, t.at),
  ],
);
export type MarkState = 'shortlisted' | 'kept' | 'dropped' | 'ordered';

/**
 * Goods of a list that were looked at a second time: as which listing, and how that ended. What was seen of it is
 * observed.
 */
export const closerLook = bm.table(
  'closer_look',
  {
    workspaceId: workspaceId(),
    listId: text('list_id').notNull(),
    key: bigint('key', { mode: 'number' }).notNull(),
    line: integer('line').notNull(),
    code: text('code').notNull(),
    title: text('title').notNull(),
    market: text('market').notNull(),
    /** Blank: none is known yet, or none was found. */
    listing: text('listing').notNull().default(''),
    /** Title of the listing, for the eye, and whether it speaks of other goods than the row does. */
    listingTitle: text('listing_title').notNull().default(''),
    otherGoods: boolean('other_goods').notNull().default(false),
    state: text('state').$type<CloserState>().notNull().default('waiting'),
    fault: jsonb('fault').$type<Fault>(),
    by: text('by'),
    askedAt: when('asked_at').notNull().defaultNow(),
    lookedAt: when('looked_at'),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.listId, t.key] })],
);
export type CloserState = 'waiting' | 'looked' | 'noListing' | 'failed';

/** Another seller's shop that is followed: what it had when it was looked at last. */
export const watchedSeller = bm.table(
  'watched_seller',
  {
    workspaceId: workspaceId(),
    market: text('market').notNull(),
    seller: text('seller').notNull(),
    data: jsonb('data').$type<SellerKept>().notNull(),
    /** Last time the feed was asked about it. */
    askedAt: when('asked_at').notNull().defaultNow(),
    createdBy: text('created_by'),
    createdAt: when('created_at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.market, t.seller] })],
);
export type SellerKept = {
  readonly asOf: string;
  readonly currency: string;
  /** Whether these are all its goods. */
  readonly whole: boolean;
  /** What was told of its changes last. */
  readonly told?: string;
  readonly goods: readonly {
    readonly listing: string;
    readonly title: string;
    readonly price: number | null;
  }[];
};

/** What goods without a proven barcode are: decided by hand or by rule, across lists and their editions. */
export const goodsMatch = bm.table(
  'goods_match',
  {
    workspaceId: workspaceId(),
    /** By what they are known again: brand and title, folded (`core/match/remembered.ts`). */
    said: text('said').notNull(),
    /** Barcode as 14 digits, a number; null: none of those that were shown. */
    key: bigint('key', { mode: 'number' }),
    how: text('how').$type<'hand' | 'rule'>().notNull(),
    by: text('by'),
    at: when('at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.said] })],
);

/** A way of looking at any list, under a name. */
export const listView = bm.table(
  'list_view',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    name: text('name').notNull(),
    look: jsonb('look').$type<ListLook>().notNull(),
    assumptions: jsonb('assumptions').$type<ListSettings['assumptions']>(),
    updatedAt: when('updated_at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.id] })],
);

// ---- evidence
// -------------------------------------------------------------------------------------------------------------

/**
 * What was observed of a market: dated, and never overwritten (the application may only add rows, and take one back).
 * The newest of a kind is found by the index; a daily series is one row for each stretch of days.
 */
export const observation = bm.table(
  'observation',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    /** What is observed: `candidate/…` or `listing/…`. */
    subject: text('subject').notNull(),
    /** Marketplace and country, as rate cards name them. */
    market: text('market').notNull(),
    kind: text('kind').$type<ObservedKind>().notNull(),
    asOf: date('as_of', { mode: 'string' }).notNull(),
    source: text('source').notNull(),
    stated: boolean('stated').notNull(),
    value: jsonb('value').notNull(),
    /** Taken back: it is shown among what was known, and counts no longer. */
    takenBackAt: when('taken_back_at'),
    createdBy: text('created_by'),
    createdAt: when('created_at').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.id] }),
    index('observation_newest').on(t.workspaceId, t.subject, t.market, t.kind, t.asOf, t.createdAt),
  ],
);

/** What one has decided about a candidate's market: the listing, ticks, strikes, notes. */
export const watched = bm.table(
  'watched',
  {
    workspaceId: workspaceId(),
    candidateId: text('candidate_id').notNull(),
    market: text('market').notNull(),
    data: jsonb('data').$type<Watch>().notNull(),
    /** Rises with every save, so that two who decide at once do not overwrite each other. */
    edition: integer('edition').notNull().default(1),
    /** When the feed was asked last, and when something was observed last. */
    askedAt: when('asked_at'),
    seenAt: when('seen_at'),
    /** What lists of candidates show of it, and the state it was worked out in. */
    stored: jsonb('stored').$type<{
      key: string;
      said: MarketStored;
      /** Of the lane that a list shows, with the state in which it was worked out. */
      newer?: { key: string; lines: NewerLine[] };
    }>(),
    updatedAt: when('updated_at').notNull().defaultNow(),
    updatedBy: text('updated_by'),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.candidateId, t.market] }),
    foreignKey({
      columns: [t.workspaceId, t.candidateId],
      foreignColumns: [candidate.workspaceId, candidate.id],
    }).onDelete('cascade'),
  ],
);

/** What was decided about a listing found on a market, with what was said of it then. */
export const listingMark = bm.table(
  'listing_mark',
  {
    workspaceId: workspaceId(),
    market: text('market').notNull(),
    listing: text('listing').notNull(),
    state: text('state').$type<ListingState>().notNull(),
    reason: text('reason').notNull().default(''),
    /** The row of the search as it was seen, the currency of its price, and the day it spoke of. */
    row: jsonb('row').$type<FeedRow>().notNull(),
    currency: text('currency').notNull(),
    asOf: date('as_of', { mode: 'string' }).notNull(),
    /** The candidate it became. */
    candidateId: text('candidate_id'),
    by: text('by'),
    at: when('at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.market, t.listing] })],
);
export type ListingState = 'shortlisted' | 'kept' | 'dropped';

/** How the columns of a file of evidence were read last, by kind. */
export const evidenceMap = bm.table(
  'evidence_map',
  {
    workspaceId: workspaceId(),
    kind: text('kind').$type<ObservedKind>().notNull(),
    data: jsonb('data').$type<EvidenceMap>().notNull(),
    updatedAt: when('updated_at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.kind] })],
);

/** The market feed of a workspace: where it answers, and the secret, encrypted with a key of the installation. */
export const feed = bm.table(
  'feed',
  {
    workspaceId: workspaceId(),
    /** Blank: the stand-in that ships with the program. */
    address: text('address').notNull(),
    secret: text('secret'),
    updatedAt: when('updated_at').notNull().defaultNow(),
    updatedBy: text('updated_by'),
  },
  (t) => [primaryKey({ columns: [t.workspaceId] })],
);

// ---- at the shelf
// -------------------------------------------------------------------------------------------------------------

/** A walk through shops in which goods were checked. */
export const checkSession = bm.table(
  'check_session',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    data: jsonb('data').$type<CheckSession>().notNull(),
    by: text('by').notNull(),
    /** By the clock of the device; of two that are sent the later counts. */
    changedAt: when('changed_at').notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.id] }),
    index('check_session_by_time').on(t.workspaceId, t.changedAt),
  ],
);

/** Goods checked at a shelf. The device names each once, so that what is sent twice is kept once. */
export const shelfCheck = bm.table(
  'shelf_check',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    sessionId: text('session_id').notNull(),
    at: when('at').notNull(),
    data: jsonb('data').$type<ShelfCheck>().notNull(),
    /** What came of it by the cards it names. */
    said: jsonb('said').$type<CheckGist>().notNull(),
    /** The candidate it became. */
    candidateId: text('candidate_id'),
    by: text('by').notNull(),
    keptAt: when('kept_at').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.id] }),
    index('shelf_check_by_session').on(t.workspaceId, t.sessionId, t.at),
  ],
);

// ---- orders
// -------------------------------------------------------------------------------------------------------------

/** A purchase order: what is agreed, and how it went so far. */
export const purchaseOrder = bm.table(
  'purchase_order',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    /** Counts up within the workspace; a number is given once, also where its draft is thrown away. */
    number: integer('number').notNull(),
    state: text('state').$type<OrderState>().notNull().default('draft'),
    terms: jsonb('terms').$type<OrderTerms>().notNull(),
    progress: jsonb('progress').$type<OrderProgress>().notNull(),
    /** Rises with every change, so that two who change it at once do not overwrite each other. */
    edition: integer('edition').notNull().default(1),
    createdBy: text('created_by'),
    createdAt: when('created_at').notNull().defaultNow(),
    updatedAt: when('updated_at').notNull().defaultNow(),
    updatedBy: text('updated_by'),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.id] }),
    uniqueIndex('purchase_order_number').on(t.workspaceId, t.number),
  ],
);

/**
 * A mail that is to go out, or went. Written in the transaction that decides on it, once for each `about`, so that
 * nothing is sent twice however often one presses.
 */
export const outgoingMail = bm.table(
  'outgoing_mail',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    /** What it is about, once: `order/…`, `enquiry/…`, `invitation/…`. */
    about: text('about').notNull(),
    data: jsonb('data').$type<Mail>().notNull(),
    /** What goes along, as it was when one pressed. */
    attachments: jsonb('attachments').$type<readonly Attachment[]>().notNull().default([]),
    state: text('state').$type<MailState>().notNull().default('waiting'),
    tries: integer('tries').notNull().default(0),
    error: jsonb('error').$type<Fault>(),
    /** Not tried before. */
    dueAt: when('due_at').notNull().defaultNow(),
    createdBy: text('created_by'),
    createdAt: when('created_at').notNull().defaultNow(),
    sentAt: when('sent_at'),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.id] }),
    uniqueIndex('outgoing_mail_about').on(t.workspaceId, t.about),
    index('outgoing_mail_waiting').on(t.workspaceId, t.dueAt).where(sql`state = 'waiting'`),
  ],
);
export type MailState = 'waiting' | 'sending' | 'sent' | 'failed' | 'unsure';

/** What a supplier is asked about a candidate, and what came back. */
export const enquiry = bm.table(
  'enquiry',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    candidateId: text('candidate_id').notNull(),
    state: text('state').$type<EnquiryState>().notNull().default('draft'),
    data: jsonb('data').$type<Enquiry>().notNull(),
    edition: integer('edition').notNull().default(1),
    createdBy: text('created_by'),
    createdAt: when('created_at').notNull().defaultNow(),
    updatedAt: when('updated_at').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.id] }),
    foreignKey({
      columns: [t.workspaceId, t.candidateId],
      foreignColumns: [candidate.workspaceId, candidate.id],
    }).onDelete('cascade'),
    index('enquiry_by_candidate').on(t.workspaceId, t.candidateId),
  ],
);

/** What a report came to, in ten-thousandths. */
export type SettlementSaid = {
  readonly rows: number;
  readonly lines: number;
  readonly amount: number;
  readonly waiting: readonly { readonly kind: string; readonly lines: number; readonly amount: number }[];
  readonly refusedRows: number;
  readonly refusedAmount: number;
  /** The first of them, with their rows. */
  readonly refused: readonly (Fault & { readonly row: number })[];
  readonly first: string | null;
  readonly last: string | null;
};

/**
 * A marketplace's report of what it settled: a file, how it is read, and what it came to. `said` null: it has not been
 * read yet. `seq`: of two that hold one line the later counts.
 */
export const settlement = bm.table(
  'settlement',
  {
    workspaceId: workspaceId(),
    id: text('id').notNull(),
    seq: integer('seq').notNull(),
    name: text('name').notNull(),
    file: jsonb('file').$type<StoredFile>().notNull(),
    sheet: text('sheet'),
    marketplace: text('marketplace'),
    country: text('country'),
    currency: text('currency'),
    map: jsonb('map').$type<SettlementMap>(),
    said: jsonb('said').$type<SettlementSaid>(),
    createdBy: text('created_by'),
    createdAt: when('created_at').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.id] }),
    uniqueIndex('settlement_by_seq').on(t.workspaceId, t.seq),
  ],
);

/** A line of a report, in ten-thousandths. `counts`: no later report has a line of its key. */
export const settledLine = bm.table(
  'settled_line',
  {
    workspaceId: workspaceId(),
    settlementId: text('settlement_id').notNull(),
    row: integer('row').notNull(),
    key: text('key').notNull(),
    /** Marketplace and country. */
    place: text('place').notNull(),
    seq: integer('seq').notNull(),
    day: date('day', { mode: 'string' }).notNull(),
    order: text('order').notNull(),
    code: text('code').notNull(),
    kind: text('kind').$type<SettledKind>(),
    said: text('said').notNull(),
    amount: bigint('amount', { mode: 'number' }).notNull(),
    tax: bigint('tax', { mode: 'number' }),
    units: integer('units').notNull(),
    counts: boolean('counts').notNull().default(true),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.settlementId, t.key] }),
    foreignKey({
      columns: [t.workspaceId, t.settlementId],
      foreignColumns: [settlement.workspaceId, settlement.id],
    }).onDelete('cascade'),
    index('settled_line_by_key').on(t.workspaceId, t.place, t.key),
    index('settled_line_by_order').on(t.workspaceId, t.place, t.order),
    index('settled_line_by_day').on(t.workspaceId, t.place, t.code, t.day),
  ],
);

/** What the lines that count come to, by place, code ('': of no product) and month. */
export const settledMonth = bm.table(
  'settled_month',
  {
    workspaceId: workspaceId(),
    place: text('place').notNull(),
    code: text('code').notNull(),
    month: text('month').notNull(),
    sums: jsonb('sums').$type<KindSums>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.place, t.code, t.month] })],
);

/** What the lines that count come to in a place as a whole: by code, and by month. */
export const settledPlace = bm.table(
  'settled_place',
  {
    workspaceId: workspaceId(),
    place: text('place').notNull(),
    currency: text('currency').notNull(),
    /** The last day that its reports speak of. */
    last: date('last', { mode: 'string' }),
    codes: jsonb('codes').$type<CodeSum[]>().notNull(),
    months: jsonb('months').$type<PlaceMonth[]>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.workspaceId, t.place] })],
);

/** A lane that is on sale, as it stood when it was launched. */
export const launchedLane = bm.table(
  'launched_lane',
  {
    workspaceId: workspaceId(),
    laneId: text('lane_id').notNull(),
    candidateId: text('candidate_id').notNull(),
    place: text('place').notNull(),
    /** How settlements name its goods. */
    codes: jsonb('codes').$type<string[]>().notNull(),
    since: date('since', { mode: 'string' }).notNull(),
    ramp: jsonb('ramp').$type<number[]>().notNull(),
    document: jsonb('document').$type<LaneDocument>().notNull(),
    /** The launch over time as it was planned then; null: put on sale before it was kept. */
    plan: jsonb('plan').$type<CashPlan>(),
    /** What was counted on the shelf, the latest last. */
    counts: jsonb('counts').$type<Count[]>().notNull().default([]),
    /** Set once one has decided to let it go. */
    stopped: jsonb('stopped').$type<Stopped>(),
    /** What the list of lanes on sale says of it, as worked out last; null: what it is worked out from has changed. */
    book: jsonb('book').$type<LaneBook>(),
    createdBy: text('created_by'),
    createdAt: when('created_at').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.laneId] }),
    foreignKey({ columns: [t.workspaceId, t.laneId], foreignColumns: [lane.workspaceId, lane.id] }).onDelete(
      'cascade',
    ),
  ],
);

/** Fees above the card's that are claimed together, and how far the claim is. */
export const feeClaim = bm.table(
  'fee_claim',
  {
    workspaceId: workspaceId(),
    place: text('place').notNull(),
    laneId: text('lane_id').notNull(),
    code: text('code').notNull(),
    kind: text('kind').$type<FeeKind>().notNull(),
    month: text('month').notNull(),
    why: text('why').$type<Claim['why']>().notNull(),
    found: jsonb('found').$type<Pick<Claim, 'count' | 'of' | 'due' | 'charged' | 'orders'>>().notNull(),
    state: text('state').$type<ClaimState>().notNull().default('open'),
    /** What was asked for when it was claimed, sales currency. */
    claimed: doublePrecision('claimed'),
    note: text('note').notNull().default(''),
    statedBy: text('stated_by'),
    statedAt: when('stated_at'),
  },
  (t) => [
    primaryKey({ columns: [t.workspaceId, t.place, t.code, t.kind, t.month, t.why] }),
    foreignKey({ columns: [t.workspaceId, t.laneId], foreignColumns: [lane.workspaceId, lane.id] }).onDelete(
      'cascade',
    ),
  ],
);

export const BUSINESS_TABLES = {
  feeClaim,
  settledPlace,
  settlement,
  settledLine,
  settledMonth,
  launchedLane,
  purchaseOrder,
  outgoingMail,
  enquiry,
  checkSession,
  shelfCheck,
  workspace,
  supplier,
  rateCard,
  cardProof,
  scheduleChoice,
  rateDraft,
  candidate,
  quote,
  lane,
  laneHistory,
  task,
  notice,
  noticeMail,
  outsideAnswer,
  supplierList,
  listRow,
  goodsMark,
  goodsMatch,
  closerLook,
  watchedSeller,
  listView,
  observation,
  watched,
  evidenceMap,
  feed,
  listingMark,
} as const;
