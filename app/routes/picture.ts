import { z } from 'zod';
import { enterWorkspace } from '../../server/auth/session.ts';
import { pictureOf } from '../../server/use/pictures.ts';
import { answering, unfit } from '../answers.ts';
import type { Route } from './+types/picture.ts';

const text = z.string().min(1).max(400);
const asked = z.union([
  z.strictObject({ market: text, code: text }),
  z.strictObject({ shop: text, code: text }),
]);

/** A picture of goods, as an image; 404 where there is none. A day long it is not asked for again. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const of = asked.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!of.success) return unfit(of.error);
  const { type, bytes } = await pictureOf(entry.workspaceId, of.data);
  return new Response(bytes, {
    headers: {
      'content-type': type,
      'cache-control': 'private, max-age=86400',
      'content-security-policy': "default-src 'none'; sandbox",
    },
  });
});
