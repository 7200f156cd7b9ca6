import { z } from 'zod';
import { isGtin } from '../../core/goods/gtin.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { findIn } from '../../server/use/findIn.ts';
import { shelfSaid } from '../../server/use/shelf.ts';
import { gone } from '../../server/refusal.ts';
import { inWords } from '../../words/index.ts';
import { answering } from '../answers.ts';
import type { Route } from './+types/checkAsk.ts';

const text = z.string().trim().min(1).max(200).nullable().catch(null);
const asked = z.object({
  market: z.string().max(300),
  gtin: z.string().refine(isGtin, 'wrongCheckDigit').nullable().catch(null),
  code: text,
  words: text,
});

/** What is known of goods that somebody holds, by barcode, listing code or words. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const from = new URL(request.url).searchParams;
  const of = (name: string): string | null => from.get(name);
  const question = asked.parse({
    market: of('market') ?? '',
    gtin: of('gtin'),
    code: of('code'),
    words: of('words'),
  });
  const at = await findIn(entry.workspaceId, question.market);
  if (at === null || at.market !== question.market) throw gone();
  const { faults, ...said } = await shelfSaid(
    entry.workspaceId,
    at.feed,
    at.settings,
    question,
    request.signal,
  );
  return Response.json({
    ...said,
    hasFeed: at.feed !== null,
    wrong: [...new Set(faults.map((f) => inWords(f)))],
  });
});
