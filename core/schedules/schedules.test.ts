import { describe, expect, it } from 'vitest';
import { brief } from '../testing/brief.ts';
import { CORPUS, FAULTY } from '../testing/scheduleCorpus.ts';
import type { CorpusTable } from '../testing/scheduleCorpus.ts';
import { givenOfText } from './given.ts';
import { understand } from './understand.ts';

const read = ({ text, currency }: CorpusTable) =>
  understand(givenOfText(text.replaceAll('→', '\t')), currency);
const said = (t: CorpusTable) => {
  const u = read(t);
  return {
    reads: brief(u.parts).sort(),
    doubtful: u.counts.doubtful,
    notUnderstood: u.counts.notUnderstood,
    faults: u.faults.map((f) => f.code),
  };
};
const expected = (t: CorpusTable) => ({
  reads: [...t.reads].sort(),
  doubtful: t.doubtful ?? 0,
  notUnderstood: t.notUnderstood ?? 0,
  faults: t.faults ?? [],
});

describe('fee tables as people have them', () => {
  it('are sixty and more, in seven languages', () => {
    expect(CORPUS.length).toBeGreaterThanOrEqual(60);
  });
  it.each(CORPUS.map((t) => [t.name, t] as const))('%s', (_, t) => {
    expect(said(t)).toEqual(expected(t));
  });
});

describe('tables with something wrong', () => {
  it.each(FAULTY.map((t) => [t.name, t] as const))('%s', (_, t) => {
    expect(said(t)).toEqual(expected(t));
  });
});
