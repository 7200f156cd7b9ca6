/** Evidence at a prompt: the figures of each section of a market, as its page names them. */
import { historySection, offersSection } from '../core/evidence/keeps.ts';
import {
  marketSaid,
  rivalsSection,
  seasonSection,
  termsSection,
  unitsSection,
} from '../core/evidence/market.ts';
import { evidenceDocument } from '../core/evidence/schema.ts';
import type { EvidenceDocument } from '../core/evidence/schema.ts';
import { issuesOf } from '../core/issues.ts';
import { laneDocument } from '../core/lane/schema.ts';
import type { LaneDocument } from '../core/lane/schema.ts';
import { documentIn, NOT_JSON } from './documents.ts';
import type { Report, Write } from './documents.ts';
import { cannot } from './files.ts';

/** What each section prints; null: the document has nothing of it. */
const SECTIONS = {
  season: (doc) => seasonSection(doc),
  history: historySection,
  rivals: rivalsSection,
  terms: termsSection,
  units: unitsSection,
  offers: offersSection,
  opportunity: (doc, lane) => {
    const { figures, gates, opportunity, approvalCost } = marketSaid(doc, lane);
    return { figures, gates, opportunity, approvalCost };
  },
} as const satisfies Record<string, (doc: EvidenceDocument, lane: LaneDocument | null) => object | null>;
type Section = keyof typeof SECTIONS;
const isSection = (name: string | undefined): name is Section =>
  name !== undefined && Object.hasOwn(SECTIONS, name);
/** Of what a document lacks where a section has nothing to say. */
const LACKS = { history: 'noPrices', rivals: 'noRivals', units: 'noUnits', offers: 'noOffers' } as const;

/** Prints the figures of a section. 0: done; 2: something was invalid. */
export function evidence(
  section: string | undefined,
  path: string | undefined,
  lanePath: string | undefined,
  write: Write,
  report: Report,
): number {
  if (!isSection(section)) throw cannot('whichEvidence', { choices: Object.keys(SECTIONS).join(', ') });
  const document = documentIn(path);
  const parsed = evidenceDocument.safeParse(document);
  if (document === undefined || !parsed.success) {
    report(parsed.success || document === undefined ? NOT_JSON : issuesOf(parsed.error));
    return 2;
  }
  const lane = lanePath === undefined ? null : laneDocument.safeParse(documentIn(lanePath));
  if (lane !== null && !lane.success) {
    report(issuesOf(lane.error));
    return 2;
  }
  const doc = parsed.data;
  const currency = (doc.prices ?? doc.offers ?? doc.rivals)?.currency;
  if (lane !== null && currency !== undefined && lane.data.currency !== currency)
    throw cannot('otherCurrency', { prices: currency, lane: lane.data.currency });
  const found = SECTIONS[section](doc, lane?.data ?? null);
  if (found === null) throw cannot(LACKS[section as keyof typeof LACKS]);
  write({ format: `bold-margin/evidence-${section}`, version: 1, ...found });
  return 0;
}
