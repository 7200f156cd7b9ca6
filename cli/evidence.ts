/** Evidence at a prompt: season and direction of terms, the history of prices, and the margin over it. */
import { evidenceDocument } from '../core/evidence/schema.ts';
import type { EvidenceDocument } from '../core/evidence/schema.ts';
import { historyOf } from '../core/evidence/history.ts';
import { marginOverTime } from '../core/evidence/marginOverTime.ts';
import { directionOf, monthAfter, seasonOf, together } from '../core/evidence/season.ts';
import type { MonthValue } from '../core/evidence/season.ts';
import { fault } from '../core/fault.ts';
import { issuesOf } from '../core/issues.ts';
import type { Issue } from '../core/issues.ts';
import { laneDocument } from '../core/lane/schema.ts';
import { broughtUp } from '../core/versions.ts';
import { cannot, readText } from './files.ts';

type Write = (value: object) => void;
type Report = (issues: readonly Issue[]) => void;
const SECTIONS = ['season', 'history'] as const;

function documentIn(path: string | undefined): unknown {
  try {
    return broughtUp(JSON.parse(readText(path)));
  } catch (e) {
    if (e instanceof SyntaxError) return undefined;
    throw e;
  }
}
const NOT_JSON: Issue[] = [{ path: '(document)', ...fault('notJson') }];

/** Season and direction of each term, and of all of them together. */
function season({ terms, now }: EvidenceDocument): object {
  const asOf = now ?? monthAfter(terms.flatMap((t) => t.volumes));
  const said = (series: readonly MonthValue[]) => ({
    season: seasonOf(series, asOf),
    direction: directionOf(series, asOf),
  });
  const series = terms.map((t) => ({ series: t.volumes, weight: t.weight }));
  return {
    format: 'bold-margin/evidence-season',
    version: 1,
    now: asOf,
    terms: terms.map((t) => ({ term: t.term, ...said(t.volumes) })),
    together: said(together(series, asOf)),
  };
}

/** Prints the figures of a section. 0: done; 2: something was invalid. */
export function evidence(
  section: string | undefined,
  path: string | undefined,
  lanePath: string | undefined,
  write: Write,
  report: Report,
): number {
  if (!SECTIONS.some((s) => s === section)) throw cannot('whichEvidence', { choices: SECTIONS.join(', ') });
  const document = documentIn(path);
  const parsed = evidenceDocument.safeParse(document);
  if (document === undefined || !parsed.success) {
    report(parsed.success || document === undefined ? NOT_JSON : issuesOf(parsed.error));
    return 2;
  }
  if (section === 'season') {
    write(season(parsed.data));
    return 0;
  }
  const { prices, now } = parsed.data;
  if (prices === null) throw cannot('noPrices');
  const history = { format: 'bold-margin/evidence-history', version: 1, currency: prices.currency };
  if (lanePath === undefined) {
    write({ ...history, ...historyOf(prices.days, now) });
    return 0;
  }
  const lane = laneDocument.safeParse(documentIn(lanePath));
  if (!lane.success) {
    report(issuesOf(lane.error));
    return 2;
  }
  if (lane.data.currency !== prices.currency)
    throw cannot('otherCurrency', { prices: prices.currency, lane: lane.data.currency });
  write({ ...history, ...historyOf(prices.days, now), margin: marginOverTime(lane.data, prices.days, now) });
  return 0;
}
