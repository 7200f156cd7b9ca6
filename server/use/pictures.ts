/** Pictures of goods, from the workspace's feed: of a listing, or of goods in a shop. Nothing of them is kept. */
import type { FeedAnswer } from '../../between/feed.ts';
import { askFeed } from '../outside/feed.ts';
import { gone } from '../refusal.ts';
import { feedOf } from './feeds.ts';

export type PictureOf =
  | { readonly market: string; readonly code: string }
  | { readonly shop: string; readonly code: string };
type PictureType = FeedAnswer<'picture'>['type'];
export type Picture = { readonly type: PictureType; readonly bytes: Uint8Array<ArrayBuffer> };

/** How a file of each kind begins, in hexadecimal; of WebP the length stands between. */
const BEGINS: Readonly<Record<PictureType, RegExp>> = {
  'image/png': /^89504e470d0a1a0a/,
  'image/jpeg': /^ffd8ff/,
  'image/webp': /^52494646.{8}57454250/,
};

/**
 * The picture of goods. What the feed calls a picture and is none of the kind it names is no picture.
 * @throws Refusal `gone` where the feed has none, is away, or there is no feed
 */
export async function pictureOf(workspaceId: string, of: PictureOf): Promise<Picture> {
  const feed = await feedOf(workspaceId);
  const said = feed === null ? null : await askFeed(feed, 'picture', of);
  if (said === null || !said.ok) throw gone();
  const bytes = Uint8Array.from(Buffer.from(said.value.base64, 'base64'));
  const { type } = said.value;
  if (!BEGINS[type].test(Buffer.from(bytes.subarray(0, 16)).toString('hex'))) throw gone();
  return { type, bytes };
}
