/** The market feed of a workspace: its address and its secret, which is kept encrypted and never shown again. */
import { createCipheriv, createDecipheriv, hkdfSync, randomBytes } from 'node:crypto';
import { eq, sql } from 'drizzle-orm';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { feed } from '../db/schema.ts';
import { env } from '../env.ts';
import { addressFault } from '../outside/feed.ts';
import type { Feed } from '../outside/feed.ts';
import { refused } from '../refusal.ts';

/** A key of this installation for nothing else. */
const key = (): Buffer => Buffer.from(hkdfSync('sha256', env().BM_SECRET, '', 'secrets of feeds', 32));

/** AES-256-GCM, bound to the workspace: a row that is moved to another cannot be read there. */
export function sealed(secret: string, workspaceId: string): string {
  const iv = randomBytes(12);
  const cipher = createCipheriv('aes-256-gcm', key(), iv).setAAD(Buffer.from(workspaceId));
  const text = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
  return Buffer.concat([iv, cipher.getAuthTag(), text]).toString('base64');
}
/** Null where it was sealed by another installation, for another workspace, or was tampered with. */
export function opened(text: string, workspaceId: string): string | null {
  try {
    const bytes = Buffer.from(text, 'base64');
    const decipher = createDecipheriv('aes-256-gcm', key(), bytes.subarray(0, 12))
      .setAAD(Buffer.from(workspaceId))
      .setAuthTag(bytes.subarray(12, 28));
    return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8');
  } catch {
    return null;
  }
}

/** The stand-in's feed, where one is started. */
export const standIn = (): string | null => {
  const url = env().BM_OUTSIDE_URL;
  return url === undefined ? null : `${url.replace(/\/+$/, '')}/feed`;
};

/** Where a workspace's feed answers; null where it has none. */
export async function feedIn(tx: Tx, workspaceId: string): Promise<Feed | null> {
  const [kept] = await tx.select().from(feed).where(eq(feed.workspaceId, workspaceId));
  if (kept === undefined) return null;
  const ours = kept.address === '';
  const base = ours ? standIn() : kept.address;
  if (base === null) return null;
  return { base, ours, secret: kept.secret === null ? null : opened(kept.secret, workspaceId) };
}
export const feedOf = (workspaceId: string): Promise<Feed | null> =>
  inWorkspace(workspaceId, (tx) => feedIn(tx, workspaceId));

/** What may be shown of it: the address, and whether there is a secret. */
export async function feedShown(
  workspaceId: string,
): Promise<{ address: string; hasSecret: boolean } | null> {
  const [kept] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ address: feed.address, hasSecret: sql<boolean>`${feed.secret} is not null` })
      .from(feed)
      .where(eq(feed.workspaceId, workspaceId)),
  );
  return kept ?? null;
}

/**
 * Keeps the feed of a workspace; null takes it away. A secret that is not given stays as it was, unless the address
 * is another: it is never sent where it was not meant for.
 * @throws Refusal `invalid` where the address cannot be asked
 */
export async function keepFeed(
  workspaceId: string,
  given: { readonly address: string; readonly secret: string | null } | null,
  by: string,
): Promise<void> {
  if (given !== null && given.address !== '') {
    const wrong = await addressFault(given.address);
    if (wrong !== null) throw refused(wrong.code, wrong.detail);
  }
  await inWorkspace(workspaceId, async (tx) => {
    if (given === null) {
      await tx.delete(feed).where(eq(feed.workspaceId, workspaceId));
      return;
    }
    const [before] = await tx.select().from(feed).where(eq(feed.workspaceId, workspaceId));
    const same = before?.address === given.address ? before.secret : null;
    const secret =
      given.secret === null ? same : given.secret === '' ? null : sealed(given.secret, workspaceId);
    const values = { address: given.address, secret, updatedBy: by };
    await tx
      .insert(feed)
      .values({ workspaceId, ...values })
      .onConflictDoUpdate({ target: [feed.workspaceId], set: { ...values, updatedAt: sql`now()` } });
  });
}
