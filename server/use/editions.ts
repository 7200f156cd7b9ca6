/** What a candidate's page asks every few seconds: whether somebody has changed it since it was read, and who. */
import { and, desc, eq, isNull } from 'drizzle-orm';
import { authDb, inWorkspace } from '../db/client.ts';
import { member, user } from '../db/authSchema.ts';
import { candidate, lane, quote } from '../db/schema.ts';

/** `at`: when it was last changed, as text to be compared; `by`: who did, where that is known. */
export type Edition = {
  readonly at: string;
  readonly by: { readonly id: string; readonly name: string } | null;
};

/** The latest change to a candidate, its quotes or its lanes; null where there is no such candidate. */
export async function editionOf(workspaceId: string, candidateId: string): Promise<Edition | null> {
  const found = await inWorkspace(workspaceId, async (tx) => {
    const [whole] = await tx
      .select({ at: candidate.updatedAt, by: candidate.updatedBy })
      .from(candidate)
      .where(
        and(
          eq(candidate.workspaceId, workspaceId),
          eq(candidate.id, candidateId),
          isNull(candidate.deletedAt),
        ),
      );
    if (whole === undefined) return null;
    const [ofLane] = await tx
      .select({ at: lane.updatedAt, by: lane.updatedBy })
      .from(lane)
      .where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId)))
      .orderBy(desc(lane.updatedAt))
      .limit(1);
    const [ofQuote] = await tx
      .select({ at: quote.updatedAt })
      .from(quote)
      .where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, candidateId)))
      .orderBy(desc(quote.updatedAt))
      .limit(1);
    const changes = [
      whole,
      ...(ofLane === undefined ? [] : [ofLane]),
      ...(ofQuote === undefined ? [] : [{ at: ofQuote.at, by: null }]),
    ];
    // Of changes at one moment, the one whose author is known speaks for all.
    return changes.reduce((a, b) =>
      b.at > a.at || (b.at.getTime() === a.at.getTime() && a.by === null) ? b : a,
    );
  });
  if (found === null) return null;
  const [who] =
    found.by === null
      ? []
      : await authDb()
          .select({ id: user.id, name: user.name })
          .from(member)
          .innerJoin(user, eq(member.userId, user.id))
          .where(and(eq(member.organizationId, workspaceId), eq(member.userId, found.by)))
          .limit(1);
  return { at: found.at.toISOString(), by: who ?? null };
}
