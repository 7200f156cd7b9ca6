import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { EVIDENCE_FIGURES } from '../../../core/evidence/hurdles.ts';
import { OWN_BRAND_PARTS, RESALE_PARTS } from '../../../core/evidence/settings.ts';
import type { Path } from '../../../core/workspace/patch.ts';
import { settings as settingsSchema } from '../../../core/workspace/settings.ts';
import { NumField } from '../../ui/Field.tsx';
import { away, stubServer } from '../../ui/testing/server.ts';
import { EvidenceLevels } from './EvidenceLevels.tsx';
import { FeedSettings } from './FeedSettings.tsx';
import type { FeedShown } from './FeedSettings.tsx';

const server = stubServer(() => Response.json({ markets: 21, wrong: null }));
const choose = (label: string | RegExp, value: string, at = 0): void =>
  void fireEvent.change(screen.getAllByLabelText(label)[at] as HTMLElement, { target: { value } });
const type = (of: HTMLElement, value: string): void => {
  fireEvent.focus(of);
  fireEvent.change(of, { target: { value } });
  fireEvent.blur(of);
};

describe('the market feed of a workspace', () => {
  const shown = (feed: FeedShown, canEdit = true): void =>
    void render(<FeedSettings feed={feed} slug="shop" canEdit={canEdit} />);
  const keep = (): void => void fireEvent.click(screen.getByRole('button', { name: 'Keep and try' }));
  const sent = (): unknown => server.sent.at(-1)?.body;

  it('none, the stand-in, or one of one’s own: what is chosen is what is kept', async () => {
    shown(null);
    expect((screen.getByLabelText('Feed') as HTMLSelectElement).value).toBe('none');
    choose('Feed', 'standIn');
    keep();
    await waitFor(() => expect(sent()).toEqual({ feed: { address: '', secret: null } }));
    expect(await screen.findByText('Kept. It knows 21 markets.')).toBeTruthy();
    choose('Feed', 'own');
    choose('Address', ' https://feed.example.com/v1 ');
    choose('Secret', 'hush');
    keep();
    await waitFor(() =>
      expect(sent()).toEqual({ feed: { address: 'https://feed.example.com/v1', secret: 'hush' } }),
    );
    // What was typed of the secret stands nowhere any more.
    await waitFor(() => expect((screen.getByLabelText('Secret') as HTMLInputElement).value).toBe(''));
    choose('Feed', 'none');
    server.answer = () => Response.json({ markets: null, wrong: null });
    keep();
    await waitFor(() => expect(sent()).toEqual({ feed: null }));
    expect(await screen.findByText('No feed is asked any more.')).toBeTruthy();
  });
  it('a secret that is kept is not shown, and stays where nothing is typed', async () => {
    shown({ address: 'https://feed.example.com', hasSecret: true });
    expect((screen.getByLabelText(/^Secret \(kept/) as HTMLInputElement).value).toBe('');
    keep();
    await waitFor(() =>
      expect(sent()).toEqual({ feed: { address: 'https://feed.example.com', secret: null } }),
    );
  });
  it.each([
    ['the feed does wrong', () => Response.json({ markets: null, wrong: 'It broke the contract.' }), /broke/],
    [
      'the address is refused',
      () => Response.json({ error: 'This is no address.' }, { status: 422 }),
      /no address/,
    ],
    ['nobody may', () => Response.json({}, { status: 403 }), /your role in this workspace does not allow it/],
    ['the server is away', away, /no answer from the server/],
  ])('says where %s', async (_, answer, text) => {
    shown({ address: '', hasSecret: false });
    server.answer = answer;
    keep();
    expect(await screen.findByText(text)).toBeTruthy();
  });
  it('only its owner changes it', () => {
    shown({ address: '', hasSecret: false }, false);
    expect(screen.queryByRole('button', { name: 'Keep and try' })).toBeNull();
  });
});

type Change = { path: Path; to: unknown };
/** The levels of a workspace, and what is changed of them. */
function levels(over: object = {}): Change[] {
  const changes: Change[] = [];
  const settings = settingsSchema.parse(over);
  const set = (path: Path, to: unknown): void => void changes.push({ path, to });
  const valueAt = (path: Path): number | null =>
    path.reduce((x, key) => (x as Record<string, unknown>)[String(key)], settings as unknown) as
      | number
      | null;
  render(
    <EvidenceLevels
      settings={settings}
      set={set}
      num={(path, label, kind, nullable = true) => (
        <NumField
          key={label}
          label={label}
          kind={kind}
          value={valueAt(path)}
          required={!nullable}
          onChange={(v) => set(path, v)}
        />
      )}
    />,
  );
  return changes;
}

describe('the levels by which evidence is read', () => {
  it('every one stands there with its value, and is changed by its path', () => {
    const changes = levels();
    const fields: [string | RegExp, string, Path, unknown][] = [
      [/^Few ratings are at most/, '100', ['evidence', 'fewReviews', 'cap'], 100],
      [/^and earns from/, '500', ['evidence', 'fewReviews', 'revenueFrom'], 500],
      [/^A brand owns beyond listings/, '5', ['evidence', 'brandListings'], 5],
      [/^or from revenue/, '60', ['evidence', 'brandRevenue'], 0.6],
      [/^Newcomer up to days/, '90', ['evidence', 'newcomerDays'], 90],
      [/^Sells from units/, '20', ['evidence', 'sellsUnits'], 20],
      [/^Ceiling at percentile/, '80', ['evidence', 'ceiling'], 0.8],
      [/^Weak under searches/, '50', ['evidence', 'weakVolume'], 50],
      [/^Clicks of adverts per search/, '4', ['evidence', 'clickShare'], 0.04],
      [/^Estimate may be under by/, '30', ['evidence', 'estimateUnder'], 0.3],
      [/^or over by/, '90', ['evidence', 'estimateOver'], 0.9],
      [/^One undercuts by/, '1', ['evidence', 'undercutBy'], 0.01],
      [/^Prices old after days/, '3', ['evidence', 'ages', 'prices'], 3],
      [/^Searches old after days/, '60', ['evidence', 'ages', 'searches'], 60],
    ];
    for (const [label, value, path, to] of fields) {
      type(screen.getByLabelText(label), value);
      expect(changes.at(-1)).toEqual({ path, to });
    }
  });
  it('what is blank has no limit where that is possible, and is refused where it is not', () => {
    const changes = levels({ evidence: { clickShare: 0.1 } });
    type(screen.getByLabelText(/^Clicks of adverts per search/), '');
    expect(changes).toEqual([{ path: ['evidence', 'clickShare'], to: null }]);
    type(screen.getByLabelText(/^Newcomer up to days/), '');
    type(screen.getByLabelText(/^Ceiling at percentile/), 'high');
    expect(changes).toHaveLength(1);
  });
  it('each part of what it is worth has its poor and good level and its weight', () => {
    const changes = levels();
    const parts = [...new Set([...OWN_BRAND_PARTS, ...RESALE_PARTS])];
    const groups = screen.getAllByRole('group');
    expect(groups).toHaveLength(parts.length);
    const band = within(screen.getByRole('group', { name: 'Band of the price' }));
    expect((band.getByLabelText('Poor') as HTMLInputElement).value).toBe('0.5');
    type(band.getByLabelText('Good'), '0.2');
    type(band.getByLabelText('Weight'), '3');
    expect(changes).toEqual([
      { path: ['evidence', 'opportunity', 'priceSteadiness', 'good'], to: 0.2 },
      { path: ['evidence', 'opportunity', 'priceSteadiness', 'weight'], to: 3 },
    ]);
    type(band.getByLabelText('Poor'), '');
    expect(changes).toHaveLength(2);
  });
});

describe('hurdles on the market', () => {
  const OWN = [
    { figure: 'searches', bound: 'atLeast', level: 1000, near: 0.1 },
    { figure: 'ownShopShare', bound: 'atMost', level: 0.2, near: 0 },
  ];
  it('offer every figure, in the kind it is', () => {
    levels({ evidenceHurdles: OWN });
    const [first] = screen.getAllByLabelText('Figure');
    expect(within(first as HTMLElement).getAllByRole('option')).toHaveLength(EVIDENCE_FIGURES.length);
    const fields = screen.getAllByLabelText(/^Level/) as HTMLInputElement[];
    // A share is typed in per cent.
    expect(fields.map((x) => x.value)).toEqual(['1000', '20']);
  });
  it('are changed one field at a time', () => {
    const changes = levels({ evidenceHurdles: OWN });
    choose('Figure', 'rank', 1);
    choose(/^Bound|^Must/, 'atLeast', 1);
    type(screen.getAllByLabelText(/^Level/)[0] as HTMLElement, '500');
    type(screen.getAllByLabelText(/^Near/)[1] as HTMLElement, '');
    expect(changes).toEqual([
      { path: ['evidenceHurdles', 1, 'figure'], to: 'rank' },
      { path: ['evidenceHurdles', 1, 'bound'], to: 'atLeast' },
      { path: ['evidenceHurdles', 0, 'level'], to: 500 },
      { path: ['evidenceHurdles', 1, 'near'], to: 0 },
    ]);
  });
  it('one is added with a level that says something, one is taken away, the others stay', () => {
    const changes = levels({ evidenceHurdles: OWN });
    fireEvent.click(screen.getByRole('button', { name: /^Add/ }));
    fireEvent.click(screen.getByRole('button', { name: /1/ }));
    expect(changes).toEqual([
      {
        path: ['evidenceHurdles'],
        to: [...OWN, { figure: 'searches', bound: 'atLeast', level: 1000, near: 0.1 }],
      },
      { path: ['evidenceHurdles'], to: [OWN[1]] },
    ]);
  });
  it('without one there is only the way to the first', () => {
    levels({ evidenceHurdles: [] });
    expect(screen.queryByLabelText('Figure')).toBeNull();
    expect(screen.getByRole('button', { name: /^Add/ })).toBeTruthy();
  });
});
