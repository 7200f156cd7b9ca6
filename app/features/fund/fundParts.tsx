/** What the parts of Fund share. */
import { Box } from '@mui/material';
import type { TFunction } from 'i18next';
import type { ReactNode } from 'react';
import type { BudgetAt, LaunchPlan, LaunchResult } from '../../../core/launch/schema.ts';
import { launchWorkings } from '../../../core/launch/workings.ts';
import { minorDigits } from '../../../core/money/money.ts';
import type { CardData } from '../../../core/cards/schema.ts';
import type { KeptMarket } from '../../../core/evidence/observed.ts';
import type { Learned } from '../../../core/risk/offered.ts';
import type { FundPlan } from '../../../core/workspace/fundPlan.ts';
import type { Settings } from '../../../core/workspace/settings.ts';
import type { Order } from '../../../core/orders/schema.ts';
import type { CandidateData, StoredLane } from '../../../core/workspace/records.ts';
import { useBounds } from '../../ui/bounds.ts';
import { roundToTotal } from '../../../core/money/money.ts';
import type { Format } from '../../ui/locale.ts';
import { Explain } from '../weigh/Workings.tsx';
import type { LaneView } from '../weigh/useFigures.ts';

/** A launch that is planned: the plan and its change, what it comes to, the lane it is of. */
export type FundPart = {
  plan: LaunchPlan;
  set: (change: Partial<LaunchPlan>) => void;
  result: LaunchResult;
  view: LaneView;
  /** Orders that cartons and minimum order allow. */
  orders: { step: number; first: number };
  /** The quantities that are compared. */
  quantities: readonly number[];
  candidate: CandidateData;
  home: string;
};

/** A launch as it is looked ahead at: the whole plan, the other lanes, and where changes of the lane are sent. */
export type AheadPart = Omit<FundPart, 'set'> & {
  whole: FundPlan;
  set: (change: Partial<FundPlan>) => void;
  views: readonly LaneView[];
  settings: Settings;
  cards: Record<string, CardData>;
  markets: readonly KeptMarket[];
  learned: Learned;
  /** Agreed orders of the candidate's goods, and the sources that the lane names. */
  ordered: { orders: readonly Order[]; lane: { id: string; data: Pick<StoredLane, 'components'> } };
  base: string;
  today: string;
  canEdit: boolean;
  save: string;
};

/** How a figure of the launch is shown: as the bound it is, with its workings, in a line. */
export function useFundRows(result: LaunchResult, plan: LaunchPlan, home: string) {
  const bounds = useBounds();
  /** A figure of the launch as the bound it is. */
  const bound = (key: string, text: string): string =>
    text === '–' || result.bounds[key] === undefined
      ? text
      : bounds.of(
          text,
          result.bounds[key] === 'notKnown' ? ['returns'] : ['advertising'],
          result.bounds[key] === 'atLeast' ? 'atLeast' : 'atMost',
        );
  const explain = (key: string, label: string, text: string) => (
    <Explain label={label} currency={home} steps={() => launchWorkings(result, plan)[key] ?? []}>
      {text}
    </Explain>
  );
  const row = (label: string, text: ReactNode, strong = false) => (
    <Box
      sx={{
        display: 'flex',
        justifyContent: 'space-between',
        gap: 2,
        py: 0.25,
        fontWeight: strong ? 680 : 400,
        borderTop: strong ? '1px solid' : 'none',
        borderColor: 'text.primary',
      }}>
      <span>{label}</span>
      <Box component="span" sx={{ whiteSpace: 'nowrap' }}>
        {text}
      </Box>
    </Box>
  );
  return { bound, explain, row };
}

/** The named lines of a launch budget in the home currency, rounded so that they add up to the shown total. */
export function budgetLines(
  result: LaunchResult,
  b: BudgetAt,
  t: TFunction,
  f: Format,
): [key: string, label: string, amount: string][] {
  const lines: [string, string, number | null][] = [
    ['goods', t('launch.goods', { quantity: f.number(b.quantity) }), b.lines.goods],
    ...result.oneOffs.map((o, i): [string, string, number | null] => [
      `oneOff${i}`,
      `${o.name || t('launch.oneOffs')}${o.source === 'quote' ? ` (${t('source.quote')})` : ''}`,
      o.amount,
    ]),
    ['advertising', t('launch.advertising'), b.lines.advertising],
    ['discounts', t('launch.discounts'), b.lines.discounts],
    ['contingency', t('launch.contingency'), b.lines.contingency],
  ];
  const rounded = roundToTotal(
    lines.map(([, , x]) => x),
    minorDigits(result.currency),
  );
  return lines.map(([key, label], i) => [key, label, f.plain(rounded[i] ?? null, result.currency)]);
}
