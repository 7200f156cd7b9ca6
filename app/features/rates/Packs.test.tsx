import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it } from 'vitest';
import { marketplaceCard } from '../../../core/cards/rates.ts';
import { comparePack } from '../../../core/packs/compare.ts';
import type { OwnVersion } from '../../../core/packs/compare.ts';
import type { CardPack } from '../../../core/packs/schema.ts';
import { proof } from '../../../core/proofs/schema.ts';
import { marketplaceCardOf } from '../../../core/testing/documents.ts';
import { PacksPage } from './Packs.tsx';
import type { PackAnswer } from './TakePack.tsx';
import type { Version } from './Rates.tsx';

const market = (name: string, inForceFrom: string, pct = 0.15) =>
  marketplaceCard.parse({
    ...marketplaceCardOf([{ upTo: null, pct }]),
    name,
    marketplace: name,
    inForceFrom,
  });
const version = (name: string, inForceFrom: string, over: Partial<Version> = {}): Version => ({
  id: `${name} ${inForceFrom}`,
  kind: 'marketplace',
  key: `${name}/DE`,
  name,
  inForceFrom,
  example: false,
  withdrawn: false,
  ...over,
});
const PACK: CardPack = {
  format: 'bold-margin/card-pack',
  version: 1,
  name: 'Autumn',
  madeOn: '2026-11-01',
  cards: [market('Fell', '2026-01-01'), market('Brack', '2027-01-01'), market('Tarn', '2026-01-01')].map(
    (data) => ({ kind: 'marketplace', data, from: { source: 'Tern', day: '2026-10-02' } }),
  ),
  proofs: [{ card: 'Fell/DE', proof: proof.parse({ price: 20, charged: { referral: 3 } }) }],
};
const own = (data: ReturnType<typeof market>): OwnVersion => ({
  id: data.name,
  kind: 'marketplace',
  key: `${data.marketplace}/DE`,
  inForceFrom: data.inForceFrom,
  withdrawn: false,
  data,
});
const LINES = comparePack(
  PACK,
  [own(market('Brack', '2026-01-01', 0.1)), own(market('Tarn', '2026-01-01', 0.12))],
  new Map(),
);
type Sent = { takings: { at: number; as: string }[]; pack: CardPack };

function page(
  answer: PackAnswer = { pack: PACK, lines: LINES },
  versions: readonly Version[] = [],
  canEdit = true,
) {
  const sent: Sent[] = [];
  const action = async ({ request }: { request: Request }): Promise<PackAnswer> => {
    if (!request.headers.get('content-type')?.includes('json')) return answer;
    const body = (await request.json()) as Sent;
    sent.push(body);
    return { taken: { inForce: body.takings.filter((t) => t.as === 'force').length, drafts: 0, proofs: 1 } };
  };
  const Page = () => <PacksPage versions={versions} today="2026-11-29" name="Our shop" canEdit={canEdit} />;
  const Stub = createRoutesStub([{ path: '/packs', Component: Page, action }]);
  render(<Stub initialEntries={['/packs']} />);
  return sent;
}
const choose = () =>
  fireEvent.change(screen.getByLabelText('Choose a pack (JSON or zip)'), {
    target: { files: [new File(['{}'], 'autumn.json')] },
  });
const rowOf = (name: string) => within(screen.getByText(name).closest('tr') as HTMLElement);

describe('a pack that comes in', () => {
  it('stands beside one’s own cards, and nothing is overwritten unless one says so', async () => {
    const sent = page();
    choose();
    await screen.findByText('Autumn, put together on 1 Nov 2026');
    expect(rowOf('Fell').getByText('new to you')).toBeTruthy();
    expect(rowOf('Fell').getByText('one new proof')).toBeTruthy();
    expect(rowOf('Fell').getByText(/Tern, 2 Oct 2026/)).toBeTruthy();
    expect(rowOf('Brack').getByText('another version of yours')).toBeTruthy();
    expect(rowOf('Brack').getByText('2 rows differ')).toBeTruthy();
    expect(rowOf('Tarn').getByText('yours says otherwise from that day')).toBeTruthy();
    const ways = rowOf('Tarn').getByRole<HTMLSelectElement>('combobox');
    expect([...ways.options].map((o) => o.value)).toEqual(['leave', 'draft']);
    fireEvent.change(rowOf('Brack').getByRole('combobox'), { target: { value: 'leave' } });
    fireEvent.click(screen.getByRole('button', { name: 'Take in one card' }));
    await screen.findByText('Taken in: one card in force, one proof.');
    expect(sent[0]?.takings).toEqual([{ at: 0, as: 'force' }]);
    expect(sent[0]?.pack).toEqual(PACK);
  });
  it('that is there already says so', async () => {
    page({ pack: PACK, lines: LINES.map((l) => ({ ...l, state: 'same', newProofs: 0 })) });
    choose();
    expect((await screen.findByRole('status')).textContent).toBe('You have all of this already.');
  });
  it('with nothing but new proofs takes these', async () => {
    const sent = page({ pack: PACK, lines: LINES.map((l) => ({ ...l, state: 'same' })) });
    choose();
    fireEvent.click(await screen.findByRole('button', { name: 'Take in the new proofs' }));
    await waitFor(() => expect(sent[0]?.takings).toEqual([]));
  });
  it('that cannot be read says what is wrong, line by line', async () => {
    page({ issues: ['cards.0: First.', 'cards.1: Second.'] });
    choose();
    const alert = await screen.findByRole('alert');
    expect(
      within(alert)
        .getAllByRole('listitem')
        .map((x) => x.textContent),
    ).toEqual(['cards.0: First.', 'cards.1: Second.']);
  });
  it('is nothing for one who may only look', () => {
    page(undefined, [version('Fell', '2026-01-01')], false);
    expect(screen.queryByText('Take in')).toBeNull();
    expect(screen.getByText('Give')).toBeTruthy();
  });
});

describe('a pack that is given', () => {
  const versions = [
    version('Fell', '2027-03-01'),
    version('Fell', '2026-06-01'),
    version('Fell', '2026-01-01'),
    version('Alder', '2026-01-01', { example: true }),
  ];
  const inPack = () =>
    [...document.querySelectorAll<HTMLInputElement>('input[name=card]')].map((x) => x.value);
  it('holds one’s own cards as they are and will be, no examples; earlier ones where asked', () => {
    page(undefined, versions);
    expect(inPack()).toEqual(['Fell 2027-03-01', 'Fell 2026-06-01']);
    fireEvent.click(screen.getByLabelText('earlier versions too'));
    expect(inPack()).toEqual(['Fell 2027-03-01', 'Fell 2026-06-01', 'Fell 2026-01-01']);
    fireEvent.click(screen.getByLabelText('Alder'));
    expect(inPack()).toContain('Alder 2026-01-01');
    fireEvent.click(screen.getByRole('button', { name: 'None' }));
    expect(inPack()).toEqual([]);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Save as zip' }).disabled).toBe(true);
    fireEvent.click(screen.getByRole('button', { name: 'All' }));
    expect(inPack()).toHaveLength(4);
  });
  it('without cards there is nothing to give', () => {
    page();
    expect(screen.getByText('There are no cards yet.')).toBeTruthy();
  });
});
