import { describe, expect, it } from 'vitest';
import { clears, LIMITS, SORTS, weighedBy } from './weighed.ts';
import type { CandidateLine } from './weighed.ts';

type Over = Partial<CandidateLine> & {
  profit?: number | null;
  margin?: number | null;
  roi?: number | null;
  launch?: number | null;
  verdicts?: string[];
};
const line = (
  name: string,
  { profit, margin, roi, launch, verdicts, ...over }: Over = {},
): CandidateLine => ({
  id: name,
  name,
  way: 'ownBrand',
  stage: 'idea',
  tags: [],
  archived: false,
  dropped: null,
  changed: '2026-11-01',
  gates: {} as never,
  market: null,
  newer: [],
  best: {
    bar: { figures: { unitProfit: profit ?? null } },
    margin: margin ?? null,
    roi: roi ?? null,
    launchCash: launch ?? null,
    hurdles: (verdicts ?? []).map((verdict) => ({ verdict })),
  } as never,
  laneCount: 1,
  ...over,
});
const lines = [
  line('Nest box', { profit: 4, margin: 0.2, roi: 0.9, launch: 1200, tags: ['garden', 'wood'] }),
  line('bee house', { profit: 9, margin: 0.1, roi: 0.5, launch: 4000, way: 'wholesale', stage: 'selling' }),
  line('Suet balls', { profit: -1, margin: -0.1, launch: 300, tags: ['garden'], changed: '2026-11-20' }),
  line('Arch', { profit: null }),
  line('Lamp', { best: null }),
  line('Old', { profit: 50, archived: true }),
  line('Gone', { profit: 60, dropped: 'too dear' }),
];
const names = (search: string, locale = 'en-GB'): string[] =>
  weighedBy(lines, new URLSearchParams(search), locale).shown.map((l) => l.name);

describe('the candidates that Weigh shows', () => {
  it('are those one works on, what keeps most first, what is not known last', () => {
    expect(names('')).toEqual(['bee house', 'Nest box', 'Suet balls', 'Arch', 'Lamp']);
    expect(names('show=archived')).toEqual(['Old']);
    expect(names('show=dropped')).toEqual(['Gone']);
  });
  it('are ordered by what the address says, both ways; what is not known stays last', () => {
    expect(names('sort=margin')).toEqual(['Nest box', 'bee house', 'Suet balls', 'Arch', 'Lamp']);
    expect(names('sort=margin&down=0')).toEqual(['Suet balls', 'bee house', 'Nest box', 'Arch', 'Lamp']);
    expect(names('sort=launch&down=0').slice(0, 3)).toEqual(['Suet balls', 'Nest box', 'bee house']);
    expect(names('sort=name&down=0')).toEqual(['Arch', 'bee house', 'Lamp', 'Nest box', 'Suet balls']);
    expect(names('sort=changed')[0]).toBe('Suet balls');
    expect(names('sort=roi').slice(0, 2)).toEqual(['Nest box', 'bee house']);
    expect(names('sort=nonsense')).toEqual(names('sort=keeps'));
    for (const sort of SORTS) expect(names(`sort=${sort}`).sort()).toEqual(names('').sort());
  });
  it('are limited by words, kind, stage, tag and amounts, whatever the case', () => {
    expect(names('q=BOX')).toEqual(['Nest box']);
    expect(names('way=wholesale')).toEqual(['bee house']);
    expect(names('stage=selling')).toEqual(['bee house']);
    expect(names('tag=garden')).toEqual(['Nest box', 'Suet balls']);
    expect(names('keeps=4')).toEqual(['bee house', 'Nest box']);
    expect(names('launch=1200')).toEqual(['Nest box', 'Suet balls']);
  });
  it('amounts are read as the reader writes them; what is no number limits nothing', () => {
    expect(names('keeps=4,5', 'de-DE')).toEqual(['bee house']);
    expect(names('keeps=4.5')).toEqual(['bee house']);
    expect(names('keeps=much')).toEqual(names(''));
  });
  it('each limit says how many it takes by itself of what the others leave', () => {
    const w = weighedBy(lines, new URLSearchParams('tag=garden&keeps=0'), 'en-GB');
    expect(w.shown.map((l) => l.name)).toEqual(['Nest box']);
    expect([w.takes('tag'), w.takes('keeps'), w.takes('q')]).toEqual([1, 1, 0]);
    const none = weighedBy(lines, new URLSearchParams(''), 'en-GB');
    for (const limit of LIMITS) expect(none.takes(limit)).toBe(0);
  });
});

describe('a candidate clears its hurdles', () => {
  it('where its best lane clears each, and there is one', () => {
    expect(clears(line('a', { verdicts: ['pass', 'pass'] }))).toBe(true);
    expect(clears(line('a', { verdicts: ['pass', 'near'] }))).toBe(false);
    expect(clears(line('a', { verdicts: [] }))).toBe(false);
    expect(clears(line('a', { best: null }))).toBe(false);
  });
});
