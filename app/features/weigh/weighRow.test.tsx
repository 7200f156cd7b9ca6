import { fireEvent, render, screen } from '@testing-library/react';
import { ThemeProvider } from '@mui/material/styles';
import { MemoryRouter } from 'react-router';
import { describe, expect, it } from 'vitest';
import { EVIDENCE_GATES } from '../../../core/evidence/gates.ts';
import type { StoredGate } from '../../../core/evidence/stored.ts';
import { plainLane } from '../../../core/testing/documents.ts';
import { GATES } from '../../../core/workspace/records.ts';
import { planOf, summarise } from '../../../core/workspace/summary.ts';
import { weighLine } from '../../../core/workspace/weighLine.ts';
import { PLAIN_PRODUCT, PLAIN_SETTINGS } from '../../../core/testing/plainParts.ts';
import { theme } from '../../theme/theme.ts';
import { CandidateRow } from './WeighRow.tsx';
import type { CandidateLine, LaneLine } from './weighed.ts';

const laneOf = (over: object = {}, id = 'l1'): LaneLine => {
  const doc = plainLane({ marketplace: 'Testmarket', ...over });
  return { ...weighLine(doc, summarise(doc, [], planOf(PLAIN_PRODUCT, PLAIN_SETTINGS.launch))), id };
};
const gates = (over: Partial<CandidateLine['gates']> = {}): CandidateLine['gates'] => ({
  ...(Object.fromEntries(GATES.map((g) => [g, 'passed'])) as CandidateLine['gates']),
  ...over,
});
const marketOf = (own: Partial<StoredGate>, old: string[] = []): CandidateLine['market'] => ({
  gates: Object.fromEntries(
    EVIDENCE_GATES.map((g) => [g, { verdict: 'passed', figure: null, value: null, ...own }]),
  ) as never,
  old: old as never,
});
const candidate = (over: Partial<CandidateLine> = {}): CandidateLine => ({
  id: 'c1',
  name: 'Bird bath',
  way: 'ownBrand',
  stage: 'idea',
  tags: [],
  archived: false,
  dropped: null,
  changed: '2026-11-01',
  gates: gates(),
  market: null,
  newer: [],
  best: laneOf(),
  laneCount: 1,
  ...over,
});
function shown(line: CandidateLine, lanes: readonly LaneLine[] = [], isOpen = false) {
  const pressed: string[] = [];
  render(
    <ThemeProvider theme={theme}>
      <MemoryRouter>
        <table>
          <tbody>
            <CandidateRow
              line={line}
              lanes={lanes}
              barOf={(x) => x.bar as never}
              scale={40}
              base="/w/shop"
              homeCurrency="EUR"
              isOpen={isOpen}
              ticked={false}
              onOpen={() => pressed.push('open')}
              onTick={() => pressed.push('tick')}
              onMenu={() => pressed.push('menu')}
            />
          </tbody>
        </table>
      </MemoryRouter>
    </ThemeProvider>,
  );
  return pressed;
}
const text = (): string => document.body.textContent ?? '';
const gatesSaid = (): string =>
  screen.getByRole('img', { name: /Affordable/ }).getAttribute('aria-label') ?? '';

describe('a candidate in the list', () => {
  it('leads to its best lane; ticks, lanes and what can be done are pressed', () => {
    const pressed = shown(candidate({ laneCount: 3 }));
    expect(screen.getByRole('link', { name: 'Bird bath' }).getAttribute('href')).toBe(
      '/w/shop/weigh/c1?lane=l1',
    );
    fireEvent.click(screen.getByRole('checkbox'));
    fireEvent.click(screen.getByRole('button', { name: /best of 3/ }));
    fireEvent.click(screen.getByRole('button', { name: /Bird bath/ }));
    expect(pressed).toEqual(['tick', 'open', 'menu']);
  });
  it('opened it has its other lanes under it, not the best one again', () => {
    const lanes = [laneOf(), laneOf({ country: 'FR' }, 'l2'), laneOf({ country: 'ES' }, 'l3')];
    shown(candidate({ laneCount: 3 }), lanes, true);
    expect(screen.getByRole('link', { name: /France/ }).getAttribute('href')).toContain('lane=l2');
    expect(screen.getByRole('link', { name: /Spain/ })).toBeTruthy();
    expect(screen.queryByRole('link', { name: /Germany/ })).toBeNull();
  });
  it('without a lane it says so', () => {
    shown(candidate({ best: null, laneCount: 0 }));
    expect(screen.getByRole('link', { name: 'Bird bath' }).getAttribute('href')).toBe('/w/shop/weigh/c1');
    expect(text()).toContain('no lane');
  });
});

describe('newer evidence than the lane holds', () => {
  const newer = (over: object = {}) => ({
    use: 'price' as const,
    asOf: '2026-11-28',
    before: 4,
    after: 2.5,
    ...over,
  });
  it('says what the unit would keep, and leads to where it is taken over', () => {
    shown(candidate({ newer: [newer()] }));
    const link = screen.getByRole('link', { name: 'By newer evidence it keeps €2.50' });
    expect(link.getAttribute('href')).toBe('/w/shop/weigh/c1/market?lane=l1');
  });
  it('of several it says how many; what it would keep is not known: it says only that', () => {
    shown(candidate({ newer: [newer(), newer({ use: 'season' })] }));
    expect(text()).toContain('Newer evidence would change 2 figures');
  });
  it('where the answer is not known it says that one figure would change', () => {
    shown(candidate({ newer: [newer({ after: null })] }));
    expect(text()).toContain('Newer evidence would change one figure');
  });
  it('a lane that lacks a cost keeps under that', () => {
    shown(candidate({ newer: [newer()], best: laneOf({ storage: null }) }));
    expect(text()).toMatch(/By newer evidence it keeps under €2\.50/);
  });
  it('without any, nothing is said', () => {
    shown(candidate());
    expect(text()).not.toContain('evidence');
  });
});

describe('gates with their reasons', () => {
  it('each by its name and state; all passed', () => {
    shown(candidate());
    for (const name of ['Affordable', 'Demanded', 'Enterable', 'Profitable', 'Permitted'])
      expect(gatesSaid()).toContain(`${name}: passed`);
    expect(text()).toContain('all passed');
  });
  it('one that the market decided names the figure that did', () => {
    shown(
      candidate({
        gates: gates({ enterable: 'failed' }),
        market: marketOf({ verdict: 'failed', figure: 'ownShopShare', value: 0.6 }),
      }),
    );
    expect(gatesSaid()).toContain('Enterable: failed (days with the own shop)');
    expect(text()).toContain('stops: enterable');
  });
  it('old evidence is said; a gate that nobody looked at comes next', () => {
    shown(candidate({ gates: gates({ demanded: 'open' }), market: marketOf({}, ['history']) }));
    expect(gatesSaid()).toContain('Demanded: not looked at yet');
    expect(gatesSaid()).toContain('some of its evidence is old');
    expect(text()).toContain('next: demanded');
  });
  it('what was dropped says why instead', () => {
    shown(candidate({ dropped: 'too heavy', gates: gates({ profitable: 'failed' }) }));
    expect(text()).toContain('too heavy');
    expect(text()).not.toContain('stops:');
  });
});
