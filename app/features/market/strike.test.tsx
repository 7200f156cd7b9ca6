/** What a strike-out draws again: what hangs on the rivals, and nothing else. */
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { marketServer, shown } from './testing/shown.tsx';

const { drawn, counted } = vi.hoisted(() => {
  const drawn: Record<string, number> = {};
  type Module = Record<string, (p: object) => unknown>;
  /** The pane itself, counted. */
  const counted = (name: string) => async (real: () => Promise<unknown>) => {
    const own = (await real()) as Module;
    const pane = own[name] as Module[string];
    const counting = (p: object): unknown => {
      drawn[name] = (drawn[name] ?? 0) + 1;
      return pane(p);
    };
    return { ...own, [name]: counting };
  };
  return { drawn, counted };
});
vi.mock('./TermsPane.tsx', counted('TermsPane'));
vi.mock('./SeasonPane.tsx', counted('SeasonPane'));
vi.mock('./UnitsPane.tsx', counted('UnitsPane'));
vi.mock('./OffersPane.tsx', counted('OffersPane'));
vi.mock('./CarePane.tsx', counted('CarePane'));
vi.mock('./OverTime.tsx', counted('OverTime'));
vi.mock('./Follow.tsx', counted('Follow'));
vi.mock('./MarketSentence.tsx', counted('MarketSentence'));
vi.mock('./RivalsPane.tsx', counted('RivalsPane'));

marketServer();
// Machines that test are busy.
it('leaves terms, season, units, offers, chart and sentence as they stand', async () => {
  await shown();
  const [box] = await screen.findAllByRole('checkbox', { name: / counts$/ });
  const before = { ...drawn };
  fireEvent.click(box as HTMLElement);
  await waitFor(() => expect((box as HTMLInputElement).checked).toBe(false));
  const again = Object.keys(drawn).filter((k) => drawn[k] !== before[k]);
  expect(again).toEqual(['RivalsPane']);
});
