/** What people of a workspace are told of, in groups that each of them may have by mail. */
import { z } from 'zod';

export type NoticeKind =
  | 'underHurdle'
  | 'upToDate'
  | 'taskFailed'
  | 'purseSolved'
  | 'listRead'
  | 'underBreakEven'
  | 'rivalLeft'
  | 'ownShopBack'
  | 'permissionChanged'
  | 'mailFailed'
  | 'mailUnsure'
  | 'enquiryDue'
  | 'sellerChanged'
  | 'drift'
  | 'reportRead';

export type Notice = {
  id: string;
  kind: NoticeKind;
  data: Record<string, string | number>;
  /** Path under the workspace. */
  link: string;
  at: Date;
};

/** Groups one chooses from. That a mail did not go is no news for the mail. */
export const NOTICE_GROUPS = {
  work: ['listRead', 'purseSolved', 'upToDate', 'taskFailed'],
  hurdles: ['underHurdle'],
  markets: ['underBreakEven', 'rivalLeft', 'ownShopBack', 'permissionChanged'],
  sellers: ['sellerChanged'],
  enquiries: ['enquiryDue'],
  selling: ['drift', 'reportRead'],
} as const satisfies Record<string, readonly NoticeKind[]>;
export type NoticeGroup = keyof typeof NOTICE_GROUPS;

/** The group of a kind; null: it is not mailed. */
export const groupOf = (kind: NoticeKind): NoticeGroup | null =>
  noticeGroups.options.find((g) => (NOTICE_GROUPS[g] as readonly NoticeKind[]).includes(kind)) ?? null;

export const noticeGroups = z.enum(Object.keys(NOTICE_GROUPS) as [NoticeGroup, ...NoticeGroup[]]);
/** The groups that somebody wants by mail, none of them twice. */
export const noticeChoice = z
  .array(noticeGroups)
  .max(20)
  .transform((of) => [...new Set(of)]);

/** Which groups somebody has by mail, each since when (ISO): older notices are no news. */
export type MailedSince = Partial<Record<NoticeGroup, string>>;

/** Minutes without another notice after which a mail goes, so that one mail tells what belongs together. */
export const QUIET_MINUTES = 2;
/** Minutes that a notice waits at most for others to go with it. */
export const LATEST_MINUTES = 15;

/**
 * The notices that go to somebody by mail now, in the order they came; none where more may be about to come. `after`:
 * what came up to then was mailed. Notices of the last two minutes are left for the next mail, since work that is
 * under way may add some that are older.
 */
export function dueByMail<N extends Pick<Notice, 'kind' | 'at'>>(
  notices: readonly N[],
  since: MailedSince,
  after: Date,
  now: Date,
): N[] {
  const ago = (minutes: number): number => now.getTime() - minutes * 60_000;
  const wanted = notices
    .filter(({ kind, at }) => {
      const group = groupOf(kind);
      const from = group === null ? undefined : since[group];
      return from !== undefined && at > after && at >= new Date(from);
    })
    .sort((a, b) => a.at.getTime() - b.at.getTime());
  const settled = wanted.filter(({ at }) => at.getTime() <= ago(QUIET_MINUTES));
  const isQuiet = settled.length === wanted.length;
  const oldest = settled[0];
  return oldest !== undefined && (isQuiet || oldest.at.getTime() <= ago(LATEST_MINUTES)) ? settled : [];
}
