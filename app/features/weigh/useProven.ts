/** What was really charged, held against the card that a lane's fees come from. */
import { useEffect, useMemo, useState } from 'react';
import { useParams } from 'react-router';
import { cardKey } from '../../../core/cards/schema.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { holdAll } from '../../../core/proofs/check.ts';
import type { HeldAll } from '../../../core/proofs/check.ts';
import type { Proof } from '../../../core/proofs/schema.ts';
import { tell } from '../../ui/client.ts';

/** `key`: what the card is about, null without one; `held`: null as long as it is not known, or without proofs. */
export type LaneProofs = {
  readonly key: string | null;
  readonly known: boolean;
  readonly held: HeldAll | null;
};

/** The proofs of a lane's marketplace card, asked for once a card. */
export function useProven(doc: LaneDocument): LaneProofs {
  const { workspace } = useParams();
  const { marketplace: card, tax } = doc.rates;
  const key = card === null ? null : cardKey('marketplace', card);
  const [proofs, setProofs] = useState<readonly Proof[] | null>(null);
  useEffect(() => {
    if (key === null) return;
    let stale = false;
    void tell<{ proofs: { proof: Proof }[] }>(
      `/w/${workspace}/rates/proofs?key=${encodeURIComponent(key)}`,
    ).then((told) => {
      if (!stale && told.ok) setProofs(told.data.proofs.map((p) => p.proof));
    });
    return () => {
      stale = true;
    };
  }, [key, workspace]);
  const held = useMemo(() => {
    if (card === null || proofs === null || proofs.length === 0) return null;
    const standings = doc.standing === null ? {} : { [doc.country]: doc.standing };
    return holdAll(card, tax, { homeCurrency: doc.homeCurrency, standings, today: doc.date }, proofs);
  }, [card, tax, proofs, doc.standing, doc.country, doc.homeCurrency, doc.date]);
  return { key, known: proofs !== null, held };
}
