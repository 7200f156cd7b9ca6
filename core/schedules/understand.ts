/**
 * A fee schedule as somebody gave it, understood: its tables cell by cell, its sentences, and the parts of a
 * card.
 */
import { fault } from '../fault.ts';
import type { Fault } from '../fault.ts';
import { moneyIn, sidesIn, weightsIn } from './forms.ts';
import type { Around } from './forms.ts';
import type { Given } from './given.ts';
import { decimalMarkOf, NUMBER, numberOf } from './numbers.ts';
import type { Choices } from './readCells.ts';
import { readTable } from './readTable.ts';
import { TableShape } from './tableShape.ts';
import type { Found } from './takeRows.ts';
import { divisorOf, lengthUnitIn, volumeUnitIn, weightUnitIn } from './units.ts';
import { AT_LEAST, COLUMN_WORDS, WITH_VAT } from './vocabulary.ts';
import { FreightReader } from './freight.ts';
import type { CellState, Parts, TableRead, NoteRead, StepPart, TierPart, Understood } from './understood.ts';

/** All that a schedule says around its cells: the decimal mark, units of bare numbers. */
function aroundOf(given: Given, currency: string): Around {
  const texts = given.blocks.flatMap((b) => b.rows.flatMap((r) => r.cells));
  const all = [...texts, ...given.blocks.map((b) => b.title), ...given.notes.map((n) => n.text)];
  return {
    mark: decimalMarkOf(texts) ?? decimalMarkOf(all),
    currency,
    kg: one(all.map(weightUnitIn)),
    cm: one(all.map(lengthUnitIn)),
  };
}
/** Tables of fees that name nothing their fees are for are told apart by their titles, which is said. */
function namesByTitle(shapes: readonly TableShape[], found: Found): string[] {
  const nameless = (s: TableShape): boolean =>
    s.kind === 'fees' &&
    !s.has('tier', 'sides') &&
    s.across.every((a) => a?.by !== 'name') &&
    s.block.title !== '';
  const titles = [...new Set(shapes.filter(nameless).map((s) => s.block.title))];
  if (titles.length < 2) return shapes.map(() => '');
  found.faults.push({ ...fault('scheduleTitles', { titles: titles.join(', ') }), line: null });
  return shapes.map((s) => (nameless(s) ? s.block.title : ''));
}
/** The unit that is named, where no other is. */
const one = (units: readonly (number | null)[]): number | null => {
  const named = new Set(units.filter((u) => u !== null));
  return named.size === 1 ? ([...named][0] as number) : null;
};

/** What a sentence adds: limits of a tier, a divisor, a least referral fee. True where it was read. */
function readNote(text: string, around: Around, found: Found, tiers: ReadonlySet<string>): boolean {
  const named = /^([^:]{1,60}):\s*(.+)$/u.exec(text);
  const tier =
    named === null ? undefined : [...tiers].find((t) => t.toLowerCase() === named[1]?.trim().toLowerCase());
  if (tier !== undefined && named !== null) {
    const sides = sidesIn(named[2] as string, around)?.said.cm ?? null;
    const maxKg = sides === null ? (weightsIn(named[2] as string, around)?.said.upTo ?? null) : null;
    if (sides === null && maxKg === null) return false;
    found.tiers.push({
      ...NO_TIER,
      name: tier,
      sides: sides === null ? null : [...sides].sort((a, b) => b - a),
      maxKg,
    });
    return true;
  }
  const divided = new RegExp(
    `(?:/|÷|divided by|geteilt durch|divis[ée]e? (?:par|por|per)|diviso|podzielon[aey] przez)\\s*(${NUMBER})`,
    'iu',
  ).exec(text);
  if (divided !== null && (COLUMN_WORDS.weight.test(text) || COLUMN_WORDS.divisor.test(text))) {
    const n = numberOf(divided[1] as string, around.mark)?.value ?? null;
    if (n === null || n <= 0) return false;
    const divisor = divisorOf(n, around.cm === 2.54 || /\b(?:inch|lb|pound|oz)/i.test(text));
    for (const name of tiers) found.tiers.push({ ...NO_TIER, name, divisor });
    return tiers.size > 0;
  }
  if (found.categories.length > 0 && AT_LEAST.test(text)) {
    const amount = moneyIn(
      text
        .slice(AT_LEAST.exec(text)?.index ?? 0)
        .replace(/[^\d.,€$£¥]+/gu, ' ')
        .trim(),
      around,
    )?.said;
    if (amount?.is !== 'money') return false;
    found.categories.forEach((c, i) => {
      if (c.percent.min === null)
        found.categories[i] = { ...c, percent: { ...c.percent, min: amount.amount } };
    });
    return true;
  }
  return false;
}
const NO_TIER: TierPart = {
  name: '',
  sides: null,
  maxKg: null,
  girth: null,
  divisor: null,
  packagingKg: null,
};

/** Tiers named more than once, each made one. */
function merged(tiers: readonly TierPart[]): TierPart[] {
  const by = new Map<string, TierPart>();
  for (const t of tiers) {
    const before = by.get(t.name) ?? { ...NO_TIER, name: t.name };
    by.set(t.name, {
      name: t.name,
      sides: t.sides ?? before.sides,
      maxKg: t.maxKg ?? before.maxKg,
      girth: t.girth ?? before.girth,
      divisor: t.divisor ?? before.divisor,
      packagingKg: t.packagingKg ?? before.packagingKg,
    });
  }
  return [...by.values()];
}

/** Steps of one tier and price band must rise, each with one fee; what comes twice or falls is named. */
function checkSteps(steps: readonly StepPart[], found: Found): void {
  const last = new Map<string, StepPart>();
  const open = new Map<string, StepPart>();
  const told = new Set<string>();
  const tell = (key: string, wrong: Fault, line: number): void => {
    if (!told.has(key)) found.faults.push({ ...wrong, line });
    told.add(key);
  };
  for (const s of steps) {
    const key = `${s.tier}|${s.priceUpTo}`;
    const tier = s.tier || '–';
    const ended = open.get(key);
    if (ended !== undefined && ended.each !== null) tell(key, fault('scheduleEachInside', { tier }), s.line);
    else if (ended !== undefined) tell(key, fault('scheduleSame', { tier }), s.line);
    if (s.upToKg === null) {
      open.set(key, s);
      continue;
    }
    const before = last.get(key);
    last.set(key, s);
    if (before === undefined || (before.upToKg as number) < s.upToKg - 1e-9) continue;
    const same = Math.abs((before.upToKg as number) - s.upToKg) < 1e-9;
    const of = { tier: s.tier || '–', kg: Math.round(s.upToKg * 1e4) / 1e4 };
    found.faults.push({ ...(same ? fault('scheduleTwice', of) : fault('scheduleFalls', of)), line: s.line });
  }
}

function countsOf(tables: readonly TableRead[]): Record<CellState, number> {
  const counts = { sure: 0, doubtful: 0, notUnderstood: 0, heading: 0, blank: 0, leftOut: 0 };
  for (const t of tables) for (const r of t.rows) for (const c of r.cells) counts[c.state]++;
  return counts;
}

/** What is left out of a schedule that is too long, and that none was found. */
function faultsOfGiven({ left }: Given, tables: readonly TableRead[]): Understood['faults'] {
  const all = [
    left.lines > 0 ? fault('scheduleLong', { left: left.lines }) : null,
    left.columns > 0 ? fault('scheduleWide', { left: left.columns }) : null,
    tables.length === 0 ? fault('scheduleNoTable') : null,
  ];
  return all.flatMap((f) => (f === null ? [] : [{ ...f, line: null }]));
}
const NO_PARTS: Parts = { charges: [], tiers: [], steps: [], categories: [], storage: [], longStay: [] };

/**
 * Understands what a forwarder quotes, for a freight card whose amounts are in `currency`. Total, as `understand`
 * is.
 */
export function understandFreight(given: Given, currency: string, choices: Choices = {}): Understood {
  const reader = new FreightReader(aroundOf(given, currency), choices);
  const tables = given.blocks.map((b) => reader.table(b));
  return {
    tables,
    notes: given.notes.map((n) => ({ ...n, read: false })),
    parts: NO_PARTS,
    freight: reader.parts(),
    faults: [...reader.faults, ...faultsOfGiven(given, tables)],
    counts: countsOf(tables),
  };
}

/**
 * Understands a schedule for a card in `currency`. `choices`: readings of doubtful cells that were chosen
 * before. Total: what is not understood stays, marked, and becomes part of nothing.
 */
export function understand(given: Given, currency: string, choices: Choices = {}): Understood {
  const around = aroundOf(given, currency);
  const volume = one(
    [...given.notes.map((n) => n.text), ...given.blocks.map((b) => b.title)].map(volumeUnitIn),
  );
  const found: Found = {
    charges: [],
    tiers: [],
    steps: [],
    categories: [],
    storage: [],
    longStay: [],
    faults: [],
  };
  const shapes = given.blocks.map((b) => new TableShape(b, around));
  for (const { day } of shapes.flatMap((s) => s.columns))
    if (day !== undefined) found.faults.push({ ...fault('scheduleDated', { taken: day }), line: null });
  const withVat = shapes.flatMap((s) =>
    s.columns.filter((c) => c.role === 'fee' && WITH_VAT.test(c.heading)),
  );
  if (withVat.length > 0)
    found.faults.push({ ...fault('scheduleWithVat', { heading: withVat[0]?.heading }), line: null });
  const named = namesByTitle(shapes, found);
  const tables = shapes.map((s, i) => readTable(s, named[i] as string, choices, volume, found));
  const names = new Set(
    [...found.steps.map((s) => s.tier), ...found.tiers.map((t) => t.name)].filter(Boolean),
  );
  const notes: NoteRead[] = given.notes.map((n) => ({ ...n, read: readNote(n.text, around, found, names) }));
  checkSteps(found.steps, found);
  const counts = countsOf(tables);
  found.faults.push(...faultsOfGiven(given, tables));
  const { charges, steps, categories, storage, longStay, faults } = found;
  return {
    tables,
    notes,
    parts: { charges, tiers: merged(found.tiers), steps, categories, storage, longStay },
    freight: null,
    faults,
    counts,
  };
}
