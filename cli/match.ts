/** Goods of a source matched to listings of a market at a prompt: two CSV files in, each row with its listing out. */
import Papa from 'papaparse';
import { readGtin } from '../core/goods/gtin.ts';
import { headingFits } from '../core/lists/headings.ts';
import { roleRule } from '../core/lists/roles.ts';
import { CONFIDENCES, MatchIndex } from '../core/match/match.ts';
import type { Goods, Listing } from '../core/match/match.ts';
import { NOISE } from '../core/match/tokens.ts';
import type { Write } from './documents.ts';
import { cannot, readText } from './files.ts';

/** What a file of goods or listings may say, by its headings. */
const HEADINGS = {
  key: roleRule('identifier').headings,
  title: roleRule('title').headings,
  brand: roleRule('brand').headings,
  pack: roleRule('packSize').headings,
  units: roleRule('units').headings,
  model: ['model', 'model number', 'mpn', 'modell', 'modèle', 'modelo'],
  code: ['code', 'listing', 'listing code', 'item', 'sku'],
} as const;
type Field = keyof typeof HEADINGS;
type Row = Readonly<Record<Field, string>>;

/** The rows of a file with its fields found by their headings; without titles nothing can be matched. */
function rowsOf(path: string | undefined): Row[] {
  const [header = [], ...body] = Papa.parse<string[]>(readText(path), { skipEmptyLines: 'greedy' }).data;
  const at = (field: Field): number => {
    const fits = header.map((h) => headingFits(h, HEADINGS[field]));
    const best = Math.max(0, ...fits);
    return best === 0 ? -1 : fits.indexOf(best);
  };
  const fields = Object.keys(HEADINGS) as Field[];
  const places = new Map(fields.map((f) => [f, at(f)]));
  if (places.get('title') === -1) throw cannot('noTitles', { file: path ?? '' });
  return body.map(
    (cells) => Object.fromEntries(fields.map((f) => [f, (cells[places.get(f) ?? -1] ?? '').trim()])) as Row,
  );
}

const goodsOf = ({ key, model, brand, title, pack }: Row): Goods => {
  const read = readGtin(key);
  return { key: read.ok ? read.key : '', model, brand, title, pack };
};
function listingOf(row: Row, i: number): Listing {
  const units = row.units === '' ? Number.NaN : Number(row.units);
  return { ...goodsOf(row), code: row.code || String(i + 2), units: Number.isFinite(units) ? units : null };
}

/**
 * Writes each row of goods with its listing, confidence and reason, packs, and others to look at, and how many of each
 * confidence there are. `noise`: a file of words that say nothing, one a line.
 */
export function matchFiles(
  file: string | undefined,
  options: { readonly listings: string | undefined; readonly noise: string | undefined },
  write: Write,
): number {
  if (options.listings === undefined) throw cannot('whichListings');
  const listings = rowsOf(options.listings).map(listingOf);
  const noise = options.noise === undefined ? NOISE : readText(options.noise).split(/\s+/).filter(Boolean);
  const index = new MatchIndex(listings, noise);
  const codeOf = (i: number): string => listings[i]?.code ?? '';
  const count = Object.fromEntries(CONFIDENCES.map((c) => [c, 0])) as Record<string, number>;
  const rows = rowsOf(file).map((row, i) => {
    const m = index.match(goodsOf(row));
    count[m.confidence] = (count[m.confidence] ?? 0) + 1;
    return {
      row: i + 2,
      listing: m.listing < 0 ? null : codeOf(m.listing),
      confidence: m.confidence,
      reason: m.reason,
      alike: Number(m.alike.toFixed(4)),
      packs: m.packs,
      others: m.others.map(codeOf),
    };
  });
  write({ format: 'bold-margin/matches', version: 1, count, rows });
  return 0;
}
