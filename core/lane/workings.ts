import { isQuoted } from './costLines.ts';
import { reckon } from './reckon.ts';
import { traceFigures } from './figureWorkings.ts';
import type { Proof } from './figureWorkings.ts';
import { Reckoning } from './reckoning.ts';
import type { Term, TermUnit } from './reckoning.ts';
import type { Conversion } from '../money/money.ts';
import type { LaneDocument } from './schema.ts';

/**
 * Where an input came from: what was typed, a quote, a rate card of a date, evidence, a default; `reckoned`
 * for a step between.
 */
export type Origin = { readonly source: string; readonly date: string | null; readonly note: string };
export type WorkingTerm = {
  readonly name: string;
  readonly value: number | string | null;
  readonly unit: TermUnit;
  readonly path: string;
  readonly origin: Origin;
};
/** One step: the formula in the names of its terms, the numbers in it, and the amount it gave (null: unknown). */
export type Working = {
  readonly amount: number | null;
  readonly unit: TermUnit;
  readonly formula: string;
  readonly terms: readonly WorkingTerm[];
  /** Exchange rates the step was converted at, each with its day. */
  readonly rates: readonly Conversion[];
};
export type Workings = Readonly<Record<string, readonly Working[]>>;

/** Where the input at `path` of a lane document came from. The longest recorded path that begins it decides. */
export function originOf(doc: LaneDocument, path: string): Origin {
  if (path === '') return { source: 'reckoned', date: null, note: '' };
  for (let p = path; p !== ''; p = p.includes('.') ? p.slice(0, p.lastIndexOf('.')) : '') {
    const said = doc.provenance[p];
    if (said !== undefined) return said;
  }
  if (path.startsWith('rates.exchange'))
    return { source: 'card', date: doc.rates.exchange?.date ?? null, note: doc.rates.exchange?.source ?? '' };
  if (path.startsWith('rates.tax'))
    return { source: 'card', date: doc.rates.tax?.inForceFrom ?? null, note: doc.rates.tax?.name ?? '' };
  if (path.startsWith('rates.'))
    return {
      source: 'card',
      date: doc.rates.marketplace?.inForceFrom ?? null,
      note: doc.rates.marketplace?.name ?? '',
    };
  if (path.startsWith('goods.') && Array.isArray(doc.goods)) {
    const source = doc.goods[Number(path.split('.')[1])]?.source;
    if (source !== undefined && path.includes('.source.'))
      return { source: isQuoted(source) ? 'quote' : 'typed', date: source.date, note: source.supplier };
  }
  return { source: 'typed', date: null, note: '' };
}

/**
 * A working for reading: what is added and is 0 is left out of formula and terms (a surcharge the card does
 * not have), and so are terms without a value. A working that would be left with nothing stays as it is.
 */
export function withoutNothing(step: Working): Working {
  let formula = step.formula;
  const gone = new Set<string>();
  for (const term of step.terms) {
    if (term.value !== 0) continue;
    // A summand of that name alone, or of that name times one other.
    const without = formula.replace(new RegExp(` \\+ ${term.name}(?: \\* \\w+)?(?=[ )]|$)`), '');
    if (without === formula) continue;
    formula = without;
    gone.add(term.name);
  }
  return {
    ...step,
    formula,
    terms: step.terms.filter((term) => !gone.has(term.name) && term.value !== null && term.value !== ''),
  };
}

/** A proof as workings, so that a break-even opens like any other figure. */
export function proofSteps(doc: LaneDocument, proof: Proof): Working[] {
  return [
    {
      amount: proof.amount,
      unit: proof.unit,
      formula: proof.formula,
      terms: proof.terms.map((term) => termOf(doc, term)),
      rates: [],
    },
  ];
}

function termOf(doc: LaneDocument, [name, value, unit, path]: Term): WorkingTerm {
  return {
    name,
    unit,
    path,
    value: typeof value === 'number' && !Number.isFinite(value) ? null : value,
    origin: originOf(doc, path),
  };
}

/** Evaluates a lane once more and writes down how each line and result came about. Not for hot paths. */
export function workings(doc: LaneDocument): Workings {
  const out: Record<string, Working[]> = {};
  const r = new Reckoning();
  let read = new Map<string, number>();
  r.trace = {
    rate(currency: string, factor: number) {
      read.set(currency, factor);
    },
    line(key: string, amount: number, formula: string, terms: Term[], unit: TermUnit = 'money') {
      out[key] ??= [];
      out[key].push({
        amount: Number.isFinite(amount) ? amount : null,
        unit,
        formula,
        terms: terms.map((term) => termOf(doc, term)),
        rates: [...read].map(([from, factor]) => ({
          from,
          to: doc.currency,
          factor,
          date: doc.rates.exchange?.date ?? doc.date,
        })),
      });
      read = new Map();
    },
  };
  reckon(doc, r);
  traceFigures(r);
  return out;
}
