import { data } from 'react-router';
import { z } from 'zod';
import { enterWorkspace } from '../../server/auth/session.ts';
import { askFeed } from '../../server/outside/feed.ts';
import { feedOf, keepFeed } from '../../server/use/feeds.ts';
import { inWords } from '../../words/index.ts';
import { answering, unfit } from '../answers.ts';
import type { Route } from './+types/settingsFeed.ts';

const body = z.strictObject({
  feed: z
    .strictObject({ address: z.string().trim().max(500), secret: z.string().max(2000).nullable() })
    .nullable(),
});

/** Keeps the market feed and asks it once, so that one sees whether it answers. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'own');
  const sent = body.safeParse(await request.json().catch(() => null));
  if (!sent.success) return unfit(sent.error);
  await keepFeed(entry.workspaceId, sent.data.feed, entry.person.id);
  const feed = await feedOf(entry.workspaceId);
  if (feed === null) return data({ markets: null, wrong: null });
  const said = await askFeed(feed, 'markets', {});
  return data(
    said.ok
      ? { markets: said.value.markets.length, wrong: null }
      : { markets: null, wrong: inWords(said.fault) },
  );
});
