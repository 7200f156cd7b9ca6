import { z } from 'zod';
import { OBSERVED, OBSERVED_KINDS } from '../../core/evidence/observed.ts';
import { fault } from '../../core/fault.ts';
import { day } from '../../core/money/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import { decide, decision, observe, takeBack } from '../../server/use/evidence.ts';
import { answering, unfit } from '../answers.ts';
import type { Route } from './+types/marketAct.ts';

const told = z.discriminatedUnion('intent', [
  z.strictObject({ intent: z.literal('decide'), market: z.string().max(300), change: z.unknown() }),
  z.strictObject({
    intent: z.literal('observe'),
    market: z.string().min(1).max(300),
    kind: z.enum(OBSERVED_KINDS),
    asOf: day,
    stated: z.boolean(),
    value: z.unknown(),
  }),
  z.strictObject({ intent: z.literal('takeBack'), id: z.string().max(64), back: z.boolean() }),
]);

/** What one decides about a market, says of it by hand, or takes back. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const body: unknown = await request.json().catch(() => null);
  const parsed = told.safeParse(body);
  if (!parsed.success) return unfit(parsed.error);
  const t = parsed.data;
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const { workspaceId, person } = entry;
  switch (t.intent) {
    case 'takeBack':
      await takeBack(workspaceId, t.id, t.back);
      return {};
    case 'decide': {
      const sent = decision.safeParse({ market: t.market, change: t.change });
      if (!sent.success) return unfit(sent.error);
      await decide(workspaceId, params.candidate, { market: t.market, change: t.change }, person.id);
      return {};
    }
    default: {
      const value = OBSERVED[t.kind].safeParse(t.value);
      if (!value.success) return unfit(value.error);
      if (t.asOf > today()) return unfit(fault('evidenceFuture', { text: t.asOf }));
      const { market, kind, asOf, stated } = t;
      await observe(
        workspaceId,
        { candidateId: params.candidate, market },
        [{ kind, asOf, stated, source: 'typed', value: value.data }],
        person.id,
      );
      return {};
    }
  }
});
