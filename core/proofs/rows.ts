/** Proofs as people write them: one line typed in, or the rows of a table; and as the CSV that leaves with a card. */
import type { MarketplaceCard } from '../cards/rates.ts';
import { fault } from '../fault.ts';
import type { Fault } from '../fault.ts';
import { moneyIn, sidesIn, weightsIn } from '../schedules/forms.ts';
import type { Around } from '../schedules/forms.ts';
import { decimalMarkOf, plain } from '../schedules/numbers.ts';
import { MOST_PROOFS, PROVED, proof } from './schema.ts';
import type { Proof, Proved } from './schema.ts';

type Card = Pick<MarketplaceCard, 'currency' | 'categories' | 'warehouse'>;
export type Line =
  | { readonly ok: true; readonly proof: Proof }
  | { readonly ok: false; readonly wrong: Fault };
export const PROOF_COLUMNS = ['date', 'sides', 'weight', 'category', 'price', ...PROVED, 'note'] as const;
type ProofColumn = (typeof PROOF_COLUMNS)[number];

const around = (texts: Iterable<string>, currency: string): Around => ({
  mark: decimalMarkOf(texts) ?? '.',
  currency,
  kg: null,
  cm: null,
});

const categoryOf = (text: string, card: Card): string | null => {
  const wanted = plain(text).toLowerCase();
  return (
    card.categories.find((c) => c.key.toLowerCase() === wanted || c.name.toLowerCase() === wanted)?.key ??
    null
  );
};

/** A proof while it is put together; what says nothing stays null. */
type Made = { -readonly [K in Exclude<keyof Proof, 'charged'>]: Proof[K] } & {
  charged: Record<Proved, number | null>;
};
const nothing = (): Made => ({
  date: null,
  sides: null,
  kg: null,
  category: '',
  price: null,
  charged: { referral: null, itemFee: null, payment: null, fulfilment: null },
  note: '',
});

/** Takes one cell into a proof; what is wrong with it, or null. */
function take(made: Made, column: ProofColumn, text: string, a: Around, card: Card): Fault | null {
  if (text === '') return null;
  const amount = (): number | null => {
    const money = moneyIn(text, a)?.said;
    return money?.is === 'money' &&
      money.each === null &&
      (money.currency === null || money.currency === card.currency)
      ? money.amount
      : null;
  };
  switch (column) {
    case 'date':
      made.date = text;
      return /^\d{4}-\d{2}-\d{2}$/.test(text) ? null : fault('notDay', { text });
    case 'sides': {
      const sides = sidesIn(text, a)?.said.cm;
      if (sides?.length !== 3) return fault('proofSides', { text });
      made.sides = [...sides] as [number, number, number];
      return null;
    }
    case 'weight': {
      const kg = weightsIn(text, a)?.said.upTo ?? null;
      if (kg === null) return fault('proofWeight', { text });
      made.kg = kg;
      return null;
    }
    case 'category': {
      const key = categoryOf(text, card);
      if (key === null) return fault('proofCategory', { text });
      made.category = key;
      return null;
    }
    case 'note':
      made.note = text.slice(0, 200);
      return null;
    default: {
      const x = amount();
      if (x === null) return fault('proofAmount', { text, currency: card.currency });
      if (column === 'price') made.price = x;
      else made.charged[column] = x;
      return null;
    }
  }
}

function finished(made: Made): Line {
  const parsed = proof.safeParse(made);
  if (parsed.success) return { ok: true, proof: parsed.data };
  const [issue] = parsed.error.issues;
  return {
    ok: false,
    wrong:
      issue?.message === 'proofNoFee'
        ? fault('proofNoFee')
        : fault('proofWrong', { field: issue?.path.join('.') ?? '' }),
  };
}

const LABELS: readonly [RegExp, ProofColumn][] = [
  [/^(?:price|sold (?:at|for)|at)\b/i, 'price'],
  [/^(?:referral|commission)\b/i, 'referral'],
  [/^(?:item fee)\b/i, 'itemFee'],
  [/^(?:payment)\b/i, 'payment'],
  [/^(?:fulfilment|warehouse|shipping)\b/i, 'fulfilment'],
];

/**
 * One line: "10 x 8 x 3 in, 1.1 lb, 4.52" or "price 19.90, garden, referral 2.99". Parts stand between commas
 * or semicolons followed by a blank; an amount without a name is the warehouse's fee, or the referral fee
 * where the card has none.
 */
export function proofOfLine(text: string, card: Card): Line {
  const parts = plain(text)
    .split(/[;,]\s+/)
    .map((p) => p.trim())
    .filter(Boolean);
  const a = around(parts, card.currency);
  const made = nothing();
  for (const part of parts) {
    const wrong = takePart(made, part, a, card);
    if (wrong !== null) return { ok: false, wrong };
  }
  // What was typed stays beside what it is in our units.
  made.note = plain(text).slice(0, 200);
  return finished(made);
}

function takePart(made: Made, part: string, a: Around, card: Card): Fault | null {
  if (/^\d{4}-\d{2}-\d{2}$/.test(part)) return take(made, 'date', part, a, card);
  const label = LABELS.find(([words]) => words.test(part));
  if (label !== undefined)
    return take(made, label[1], part.replace(label[0], '').replace(/^[\s:]+/, ''), a, card);
  if ((sidesIn(part, a)?.said.cm.length ?? 0) === 3) return take(made, 'sides', part, a, card);
  if (weightsIn(part, a) !== null) return take(made, 'weight', part, a, card);
  if (categoryOf(part, card) !== null) return take(made, 'category', part, a, card);
  if (moneyIn(part, a)?.said.is === 'money')
    return take(made, card.warehouse === null ? 'referral' : 'fulfilment', part, a, card);
  return fault('proofPart', { text: part });
}

export type RowsRead = {
  readonly proofs: readonly Proof[];
  readonly wrong: readonly (Fault & { readonly row: number; readonly column: string | null })[];
};

/** Proofs of rows under the headings of `PROOF_COLUMNS` (any order; the first row names them). Rows count from 1. */
export function proofsOfRows(rows: readonly (readonly string[])[], card: Card): RowsRead {
  const heads = (rows[0] ?? []).map(
    (h) => PROOF_COLUMNS.find((c) => c.toLowerCase() === plain(h).replace(/\s+/g, '').toLowerCase()) ?? null,
  );
  const proofs: Proof[] = [];
  const wrong: (Fault & { row: number; column: string | null })[] = [];
  if (!heads.some((h) => h !== null && PROVED.includes(h as Proved)))
    return {
      proofs,
      wrong: [{ ...fault('proofHeadings', { headings: PROOF_COLUMNS.join(', ') }), row: 1, column: null }],
    };
  const a = around(rows.slice(1).flat(), card.currency);
  rows.slice(1, MOST_PROOFS + 1).forEach((cells, i) => {
    if (cells.every((c) => c.trim() === '')) return;
    const made = nothing();
    const faults = heads.flatMap((column, k) => {
      const bad = column === null ? null : take(made, column, plain(cells[k] ?? ''), a, card);
      return bad === null ? [] : [{ ...bad, row: i + 2, column }];
    });
    if (faults.length > 0) wrong.push(...faults);
    else {
      const line = finished(made);
      if (line.ok) proofs.push(line.proof);
      else wrong.push({ ...line.wrong, row: i + 2, column: null });
    }
  });
  if (rows.length > MOST_PROOFS + 1)
    wrong.push({
      ...fault('tooManyRows', { rows: rows.length - 1, most: MOST_PROOFS }),
      row: MOST_PROOFS + 2,
      column: null,
    });
  return { proofs, wrong };
}

const shown = (x: number | null): string => (x === null ? '' : String(x));
/** Proofs as rows of text under their headings; they read back as the same proofs. */
export const rowsOfProofs = (proofs: readonly Proof[]): string[][] => [
  [...PROOF_COLUMNS],
  ...proofs.map((p) => [
    p.date ?? '',
    p.sides === null ? '' : `${p.sides.join(' x ')} cm`,
    p.kg === null ? '' : `${p.kg} kg`,
    p.category,
    shown(p.price),
    ...PROVED.map((f) => shown(p.charged[f])),
    p.note,
  ]),
];
