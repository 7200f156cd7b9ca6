import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { cardDocument } from './cards/schema.ts';
import { evaluate } from './lane/evaluate.ts';
import { laneDocument } from './lane/schema.ts';
import { priceFor } from './lane/solve.ts';
import { launch } from './launch/launch.ts';
import { launchDocument } from './launch/schema.ts';
import { listMap } from './lists/map.ts';
import { evidenceDocument } from './evidence/schema.ts';
import { cardPack } from './packs/schema.ts';
import { screenSettings } from './lists/settings.ts';
import { broughtUp, FORMATS, versionOf } from './versions.ts';

const SCHEMAS = {
  'bold-margin/lane': laneDocument,
  'bold-margin/launch': launchDocument,
  'bold-margin/rate-card': cardDocument,
  'bold-margin/list-map': listMap,
  'bold-margin/screen': screenSettings,
  'bold-margin/card-pack': cardPack,
  'bold-margin/evidence': evidenceDocument,
} as const;
type Kept = { document: { format: keyof typeof SCHEMAS; version: number }; figures?: Record<string, number> };
const folder = new URL('./testing/samples/', import.meta.url);
const samples = readdirSync(folder).map(
  (name) => [name, JSON.parse(readFileSync(new URL(name, folder), 'utf8')) as Kept] as const,
);

/** The figures that were kept with a sample, as they come out today. */
function figuresOf(document: Kept['document']): Record<string, number | null> {
  if (document.format === 'bold-margin/launch') {
    const { lane, plan } = launchDocument.parse(broughtUp(document));
    return { total: launch(lane, plan).budget?.total ?? null };
  }
  const doc = laneDocument.parse(broughtUp(document));
  const { unitProfit, roi, landedCost } = evaluate(doc).figures;
  return { unitProfit, roi, landedCost, breakEvenPrice: priceFor(doc).price };
}

describe('kept samples of every version', () => {
  it('are there for every format, from the first version to that of today', () => {
    const have = new Set(samples.map(([, s]) => `${s.document.format} ${s.document.version}`));
    for (const format of FORMATS)
      for (let v = 1; v <= versionOf(format); v++) expect([...have]).toContain(`${format} ${v}`);
    expect(FORMATS.sort()).toEqual(Object.keys(SCHEMAS).sort());
  });
  it.each(samples)('%s is read, and says what it said', (_name, { document, figures }) => {
    const read = SCHEMAS[document.format].safeParse(broughtUp(document));
    expect(read.error?.issues).toBeUndefined();
    expect((read.data as Kept['document']).version).toBe(versionOf(document.format));
    if (figures === undefined) return;
    const now = figuresOf(document);
    for (const [name, value] of Object.entries(figures)) expect(now[name], name).toBeCloseTo(value, 9);
  });
});

describe('bringing a document up', () => {
  const steps = {
    'bold-margin/shelf': [
      ({ height, ...rest }: Readonly<Record<string, unknown>>) => ({ ...rest, heightCm: height }),
      (d: Readonly<Record<string, unknown>>) => ({ ...d, heightCm: [d.heightCm] }),
    ],
  };
  const shelf = { format: 'bold-margin/shelf', version: 1, height: 40, name: 'A' };
  it('takes every step from its version on, and leaves the document itself alone', () => {
    const before = JSON.stringify(shelf);
    expect(broughtUp(shelf, steps)).toEqual({ ...shelf, version: 3, height: undefined, heightCm: [40] });
    expect(broughtUp({ format: shelf.format, version: 2, heightCm: 40 }, steps)).toEqual({
      format: shelf.format,
      version: 3,
      heightCm: [40],
    });
    expect(JSON.stringify(shelf)).toBe(before);
    expect(versionOf('bold-margin/shelf', steps)).toBe(3);
  });
  it('leaves alone what is of today, newer, of no known format, or no document', () => {
    for (const x of [
      { ...shelf, version: 3 },
      { ...shelf, version: 4 },
      { ...shelf, version: 0 },
      { ...shelf, version: 1.5 },
      { ...shelf, version: '1' },
      { ...shelf, format: 'constructor' },
      { ...shelf, format: 'bold-margin/other' },
      null,
      'text',
      [shelf],
    ])
      expect(broughtUp(x, steps)).toBe(x);
  });
});
