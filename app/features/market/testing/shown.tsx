/** The market of a candidate on a page, with all of its evidence or as little as one likes, for tests. */
import { render, screen } from '@testing-library/react';
import { ThemeProvider } from '@mui/material/styles';
import { createRoutesStub } from 'react-router';
import { NO_WATCH, OBSERVED } from '../../../../core/evidence/observed.ts';
import type { Observation, ObservedKind, Watch } from '../../../../core/evidence/observed.ts';
import { packDays } from '../../../../core/evidence/series.ts';
import { dayRow } from '../../../../core/evidence/schema.ts';
import {
  PLAIN_CARDS,
  PLAIN_PRODUCT,
  PLAIN_SETTINGS,
  plainQuote,
  plainStored,
} from '../../../../core/testing/plainParts.ts';
import { theme } from '../../../theme/theme.ts';
import { stubServer } from '../../../ui/testing/server.ts';
import type { Sent } from '../../../ui/testing/server.ts';
import { MarketPage } from '../MarketPage.tsx';

export const TODAY = '2026-11-24';
export const seen = (kind: ObservedKind, value: unknown, asOf = TODAY): Observation => ({
  id: kind,
  kind,
  value,
  asOf,
  source: 'feed',
  stated: true,
});
export const dayAgo = (n: number): string =>
  new Date(Date.parse(TODAY) - n * 86_400_000).toISOString().slice(0, 10);
const monthOf = (i: number): string =>
  `${2024 + Math.floor((10 + i) / 12)}-${String(((10 + i) % 12) + 1).padStart(2, '0')}`;
const HISTORY = packDays(
  Array.from({ length: 120 }, (_, i) =>
    dayRow.parse({
      day: dayAgo(119 - i),
      price: i >= 50 && i < 55 ? null : i < 10 ? 1 : 40 + (i % 2),
      rank: 300 + i,
      offers: 2,
      ownShop: i % 4 === 0,
    }),
  ),
  'EUR',
);
export const term = (name: string, peak: number) =>
  OBSERVED.terms.shape.terms.element.parse({
    term: name,
    volumes: Array.from({ length: 24 }, (_, i) => ({
      month: monthOf(i),
      value: [12, 1].includes(Number(monthOf(i).slice(5))) ? peak : 1000,
    })),
  });
export const ALL: Observation[] = [
  seen('history', HISTORY),
  seen('terms', { terms: [term('bird bath stoneware', 3000), term('bath', 1000)] }),
  seen('bids', { bids: [{ term: 'bird bath stoneware', low: 0.4, high: 0.9, match: 'exact' }] }),
  seen('rivals', {
    currency: 'EUR',
    rows: [
      { listing: 'R1', title: 'Stone bath', brand: 'Fenlow', price: 25, units: 300, reviews: 40 },
      { title: 'Oak bath', price: 60, units: 100, reviews: 900 },
      { title: 'Paid bath', price: 29, paid: true },
    ],
  }),
  seen(
    'offers',
    {
      currency: 'EUR',
      list: [
        { seller: 'A', price: 41, delivery: 0, isDefault: true },
        { seller: 'B', price: 44, delivery: null },
      ],
    },
    dayAgo(9),
  ),
  seen('units', {
    units: { statedListing: 100, hasVariations: true, ratingsListing: 200 },
    variations: [
      { code: 'v1', name: 'small', price: 42, ratings: 150 },
      { code: 'v2', name: 'large', price: 2, ratings: 50 },
    ],
  }),
  seen('permission', { state: 'approval', by: 'purchase', units: 30, price: 10 }),
  seen('complaints', { complaints: [{ theme: 'rusts', share: 0.6 }] }),
];

/** Our server as the market asks it; `answers` may say otherwise for an address that holds a text. */
export function marketServer() {
  const answers = new Map<string, () => Response>();
  const server = stubServer(({ url }) => {
    const own = [...answers].find(([part]) => url.includes(part));
    if (own !== undefined) return own[1]();
    if (url.includes('/earlier')) return Response.json({ earlier: [EARLIER] });
    if (url.includes('/market/file')) return Response.json(LOOK);
    return Response.json({ ok: true, results: {} });
  });
  const bodies = (part: string): Record<string, unknown>[] =>
    server.sent
      .filter((s: Sent) => s.url.includes(part))
      .map((s) => (s.body ?? {}) as Record<string, unknown>);
  return { server, answers, bodies };
}
const EARLIER = {
  id: 'o1',
  asOf: dayAgo(3),
  source: 'file:a.csv',
  stated: true,
  takenBack: false,
  at: `${TODAY}T10:00:00Z`,
  by: null,
  gist: { count: 3, price: 12.5, units: null, state: null },
};
/** A file of which no row can be read. */
export const LOOK = {
  kept: false,
  sheets: [''],
  header: ['Day', 'Price'],
  rows: [['x', '1']],
  map: { columns: { day: 'Day' }, decimal: 'point', days: 'dayFirst' },
  good: 0,
  stops: ['No column is chosen for price.'],
  faults: [{ row: 2, column: 'day', message: '"x" is no day.' }],
  faultCount: 1,
  asOf: null,
};

let count = 0;
/** The market of a lane that sells on the plain marketplace, as somebody sees it. */
export async function shown({
  observations = ALL,
  watch = {},
  canEdit = true,
  lane = {},
  search = '',
  hasFeed = false,
  other = [],
}: {
  observations?: Observation[];
  watch?: Partial<Watch>;
  canEdit?: boolean;
  lane?: object;
  search?: string;
  hasFeed?: boolean;
  /** What is known of the second lane's market, in France. */
  other?: Observation[];
} = {}) {
  const id = `m${++count}`;
  const data = { ...plainStored(), marketplace: 'Somewhere', ...lane };
  const state = {
    candidate: { id, data: { ...PLAIN_PRODUCT, name: 'Bird bath' } as never },
    quotes: [{ id: 'q', data: plainQuote() as never }],
    lanes: [
      { id: 'l', position: 0, data: data as never, scenarioOf: null },
      { id: 'l2', position: 1, data: { ...data, country: 'FR' } as never, scenarioOf: null },
    ],
  };
  const marketOf = (country: string, own: Observation[]) =>
    own.length === 0
      ? []
      : [{ market: `Somewhere/${country}`, watch: { ...NO_WATCH, ...watch }, observations: own }];
  const { country } = data as { country: string };
  const markets = [...marketOf(country, observations), ...marketOf('FR', other)];
  const Stub = createRoutesStub([
    {
      path: '/w/:workspace/weigh/:candidate/market',
      Component: () => (
        <MarketPage
          state={state}
          settings={PLAIN_SETTINGS}
          cards={PLAIN_CARDS}
          today={TODAY}
          markets={markets}
          hasFeed={hasFeed}
          canEdit={canEdit}
          base="/w/shop/weigh"
        />
      ),
    },
    { path: '/w/:workspace/weigh/:candidate', Component: () => <p>the costs</p> },
  ]);
  render(
    <ThemeProvider theme={theme}>
      <Stub initialEntries={[`/w/shop/weigh/${id}/market${search}`]} />
    </ThemeProvider>,
  );
  await screen.findByText('Bird bath');
}
