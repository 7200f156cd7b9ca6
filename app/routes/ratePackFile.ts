import { z } from 'zod';
import { MOST_CARDS } from '../../core/packs/schema.ts';
import { shortText } from '../../core/money/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import { zipOfPack } from '../../server/files/packFiles.ts';
import { packOf } from '../../server/use/packs.ts';
import { answering, unfit } from '../answers.ts';
import { fileAnswer } from '../fileAnswer.ts';
import type { Route } from './+types/ratePackFile.ts';

const asked = z.strictObject({
  name: shortText.trim().min(1, 'packNoName'),
  source: shortText,
  as: z.enum(['json', 'zip']),
  cards: z.array(z.string().max(64)).min(1, 'packNoCards').max(MOST_CARDS, 'packTooManyCards'),
});

/** Cards with their proofs as one file. Reads alone; a form sends it, since an address has no room for many cards. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const form = await request.formData();
  const parsed = asked.safeParse({
    name: form.get('name'),
    source: form.get('source'),
    as: form.get('as'),
    cards: form.getAll('card'),
  });
  if (!parsed.success) return unfit(parsed.error);
  const { name, source, as, cards } = parsed.data;
  const pack = await packOf(entry.workspaceId, cards, { name, source, madeOn: today() });
  return as === 'zip'
    ? fileAnswer(`${name}.zip`, await zipOfPack(pack))
    : fileAnswer(`${name}.json`, JSON.stringify(pack, null, 2));
});
