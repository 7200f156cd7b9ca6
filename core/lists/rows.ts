/** Rows of a supplier's file, read by a mapping: each is good, or says why not. */
import { isUnknown } from '../rules/numbers.ts';
import { ASIDE_COLUMNS, roleRule } from './roles.ts';
import type { ListColumns } from '../columns/columns.ts';
import type { AsideColumns } from './roles.ts';
import { readGtin } from '../goods/gtin.ts';
import type { GtinTrouble } from '../goods/gtin.ts';
import { packField, packIn } from '../goods/packs.ts';
import { codeOfKey, goodsSaid } from '../match/remembered.ts';
import { amountOf, UNREADABLE } from './amounts.ts';
import { ROLES } from './roles.ts';
import type { ListMap } from './map.ts';
import type { Role } from './roles.ts';
import { fault } from '../fault.ts';
import type { Fault } from '../fault.ts';

/** A purchase price above this is a slip. */
const ABSURD = 1_000_000;

export type RowTrouble =
  | { readonly what: 'barcode'; readonly why: GtinTrouble; readonly value: string }
  | {
      readonly what: 'cost';
      readonly why: 'missing' | 'text' | 'negative' | 'absurd';
      readonly value: string;
    }
  | { readonly what: 'duplicate'; readonly first: number; readonly value: string };

const TROUBLES = {
  cost: { missing: 'costMissing', text: 'costText', negative: 'costNegative', absurd: 'costAbsurd' },
  barcode: {
    missing: 'barcodeMissing',
    notDigits: 'barcodeNotDigits',
    wrongLength: 'barcodeLength',
    wrongCheckDigit: 'barcodeCheckDigit',
    digitsLost: 'barcodeDigitsLost',
  },
} as const;

/** What is wrong with a row, as it is said. */
export function faultOfRow(t: RowTrouble): Fault {
  const { value } = t;
  if (t.what === 'duplicate') return fault('rowDuplicate', { value, first: t.first });
  if (t.what === 'cost') return fault(TROUBLES.cost[t.why], { value });
  return fault(TROUBLES.barcode[t.why], { value, digits: value.replace(/\D/g, '').length });
}

/** Numbers above 0 by barcode: 12 bytes for each in flat arrays, so that a million fit beside the work. */
export class KeyIndex {
  private keys = new Float64Array(1 << 12);
  private values = new Uint32Array(1 << 12);
  private count = 0;

  /** What stands under a 14-digit key; where it is new, 0, and `value` stands there from now on. */
  note(key: string, value: number): number {
    return this.noteNumber(Number(key), value);
  }

  /** The same by the key as a number. */
  noteNumber(k: number, value: number): number {
    if (this.count * 2 > this.keys.length) this.grow();
    const at = this.place(k);
    if (this.keys[at] === k) return this.values[at] as number;
    this.keys[at] = k;
    this.values[at] = value;
    this.count++;
    return 0;
  }

  /** What stands under a key; 0 where nothing does. */
  find(key: string): number {
    const k = Number(key);
    const at = this.place(k);
    return this.keys[at] === k ? (this.values[at] as number) : 0;
  }

  /** All keys, in no order. */
  *numbers(): Generator<number> {
    for (const k of this.keys) if (k !== 0) yield k;
  }

  private place(k: number): number {
    const mask = this.keys.length - 1;
    // Sixteen codes in a row (without their check digits) stand beside each other, where memory is read at
    // once; such rows are spread by a multiplication over both halves of the number.
    const code = Math.floor(k / 10);
    const block = Math.floor(code / 16);
    const high = Math.floor(block / 16777216);
    const low = block - high * 16777216;
    let at = (Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) >>> 0;
    at = (((at ^ (at >>> 15)) << 4) | (code - block * 16)) & mask;
    while (this.keys[at] !== 0 && this.keys[at] !== k) at = (at + 1) & mask;
    return at;
  }

  private grow(): void {
    const { keys, values } = this;
    this.keys = new Float64Array(keys.length * 4);
    this.values = new Uint32Array(keys.length * 4);
    for (let i = 0; i < keys.length; i++) {
      const k = keys[i] as number;
      if (k === 0) continue;
      const at = this.place(k);
      this.keys[at] = k;
      this.values[at] = values[i] as number;
    }
  }
}

const LENGTHS = { mm: 0.1, cm: 1, m: 100, in: 2.54 } as const;
const WEIGHTS = { g: 0.001, kg: 1, lb: 0.45359237, oz: 0.028349523125 } as const;
const known = (x: number): number => (x > UNREADABLE ? x : Number.NaN);
const above0 = (x: number): number => (x > 0 ? x : Number.NaN);

export type RowRead = {
  readonly troubles: readonly RowTrouble[];
  /** 14 digits, the same for one product. */
  readonly key: string;
  readonly code: string;
  readonly repaired: boolean;
  /** Pieces that its words say the pack holds; 0: they say nothing. */
  readonly pack: number;
  /** The same of the listing it is sold as. */
  readonly listingPack: number;
};
const NO_TROUBLE: readonly RowTrouble[] = [];
function and(troubles: readonly RowTrouble[], one: RowTrouble): readonly RowTrouble[] {
  return [...troubles, one];
}

/** Reads rows by a mapping, straight into columns. One reader for one file: it notes which barcodes it has seen. */
export class RowReader {
  /** Where each role stands; -1: nowhere. */
  private readonly at: Readonly<Record<Role, number>>;
  private readonly comma: boolean;
  private readonly cm: number;
  private readonly kg: number;
  /** Figures beside those the formulas read; whether each may be 0. */
  private readonly more: readonly {
    readonly role: (typeof ASIDE_COLUMNS)[number];
    readonly at: number;
    readonly free: boolean;
  }[];
  /** First row of every barcode. */
  private readonly seen = new KeyIndex();

  /** `reference`: market figures, which need no purchase price and may name a product several times. */
  constructor(
    private readonly map: ListMap,
    header: readonly string[],
    private readonly kind: 'list' | 'reference' = 'list',
    /** Barcodes of goods that were matched, by what they are known by. */
    private readonly matched: ReadonlyMap<string, number> | null = null,
  ) {
    const at = Object.fromEntries(ROLES.map((r) => [r, -1])) as Record<Role, number>;
    for (const [role, heading] of Object.entries(map.columns)) at[role as Role] = header.indexOf(heading);
    this.at = at;
    this.more = ASIDE_COLUMNS.map((role) => ({
      role,
      at: at[role],
      free: roleRule(role).aside === 'zeroToo',
    }));
    this.comma = map.decimal === 'comma';
    this.cm = LENGTHS[map.lengthUnit];
    this.kg = WEIGHTS[map.weightUnit];
  }

  /** Text of a role in a row, trimmed; empty where the mapping has none. */
  text(cells: readonly string[], role: Role): string {
    return this.textAt(cells, this.at[role]);
  }
  private textAt(cells: readonly string[], at: number): string {
    return at < 0 ? '' : (cells[at] ?? '').trim();
  }
  private numberAt(cells: readonly string[], at: number): number {
    return at < 0 ? Number.NaN : amountOf(cells[at] ?? '', this.comma);
  }

  /**
   * Reads row `line` (as a spreadsheet counts) into place `i` of the columns; what it does not say is left
   * unknown. Where it has troubles nothing of it counts. `categoryAt` gives the place of a category on the
   * marketplace's card.
   */
  read(
    cells: readonly string[],
    line: number,
    columns: ListColumns,
    i: number,
    categoryAt: (text: string) => number,
    more?: AsideColumns,
  ): RowRead {
    let troubles = NO_TROUBLE;
    const barcode = this.textAt(cells, this.at.identifier);
    const gtin = readGtin(barcode);
    let key = '';
    let code = '';
    if (!gtin.ok) {
      const byMatch = this.matchedKey(cells);
      if (byMatch === null) troubles = and(troubles, { what: 'barcode', why: gtin.trouble, value: barcode });
      else {
        key = byMatch;
        code = codeOfKey(byMatch);
      }
    } else {
      key = gtin.key;
      code = gtin.code;
    }
    const cost = this.numberAt(cells, this.at.cost);
    if (this.kind === 'reference') {
      // Nothing is bought here.
    } else if (isUnknown(cost)) troubles = and(troubles, { what: 'cost', why: 'missing', value: '' });
    else if (cost === UNREADABLE)
      troubles = and(troubles, { what: 'cost', why: 'text', value: this.textAt(cells, this.at.cost) });
    else if (cost < 0)
      troubles = and(troubles, { what: 'cost', why: 'negative', value: this.textAt(cells, this.at.cost) });
    else if (cost > ABSURD)
      troubles = and(troubles, { what: 'cost', why: 'absurd', value: this.textAt(cells, this.at.cost) });
    if (this.kind === 'list' && troubles.length === 0) {
      const first = this.seen.note(key, line);
      if (first > 0) troubles = and(troubles, { what: 'duplicate', first, value: code });
    }

    columns.cost[i] = cost;
    columns.price[i] = above0(known(this.numberAt(cells, this.at.price)));
    const units = known(this.numberAt(cells, this.at.units));
    columns.units[i] = units >= 0 ? units : Number.NaN;
    const weight = above0(known(this.numberAt(cells, this.at.weight)));
    columns.kg[i] = weight * this.kg;
    this.sides(cells, columns, i);
    const vat = known(this.numberAt(cells, this.at.vatRate));
    columns.vatRate[i] = vat >= 0 && vat <= 100 ? (vat > 1 ? vat / 100 : vat) : Number.NaN;
    columns.minimumOrder[i] = above0(known(this.numberAt(cells, this.at.minimumOrder)));
    const carton = known(this.numberAt(cells, this.at.carton));
    columns.carton[i] = carton >= 1 && carton === Math.floor(carton) ? carton : Number.NaN;
    this.break(cells, this.at.breakFrom, this.at.breakCost, columns.breakFrom, columns.breakCost, i);
    this.break(cells, this.at.breakFrom2, this.at.breakCost2, columns.breakFrom2, columns.breakCost2, i);
    columns.soldPack[i] = 1;
    columns.boughtPack[i] = 1;
    columns.category[i] = categoryAt(this.textAt(cells, this.at.category));
    const field = this.textAt(cells, this.at.packSize);
    const pack =
      (field === '' ? null : packField(field)) ?? packIn(this.textAt(cells, this.at.title))?.pieces ?? 0;
    const listed = this.textAt(cells, this.at.listingPackSize);
    const listingPack =
      (listed === '' ? null : packField(listed)) ??
      packIn(this.textAt(cells, this.at.listingTitle))?.pieces ??
      0;
    if (more !== undefined)
      for (const { role, at, free } of this.more) {
        const x = known(this.numberAt(cells, at));
        more[role][i] = x > 0 || (free && x === 0) ? x : Number.NaN;
      }
    return { troubles, key, code, repaired: gtin.ok && gtin.repaired !== null, pack, listingPack };
  }

  /** The barcode that goods without a proven one were matched to; null: none. */
  private matchedKey(cells: readonly string[]): string | null {
    if (this.matched === null || this.matched.size === 0) return null;
    const key = this.matched.get(
      goodsSaid(this.textAt(cells, this.at.brand), this.textAt(cells, this.at.title)),
    );
    return key === undefined ? null : String(key).padStart(14, '0');
  }

  /** Counts a barcode of an earlier part of the file as seen, at its row. */
  noteSeen(key: number, line: number): void {
    this.seen.noteNumber(key, line);
  }

  /** A price at a larger quantity; one without the other says nothing. */
  private break(
    cells: readonly string[],
    fromAt: number,
    costAt: number,
    from: Float64Array,
    cost: Float64Array,
    i: number,
  ): void {
    from[i] = cost[i] = Number.NaN;
    if (fromAt < 0 || costAt < 0) return;
    const least = known(this.numberAt(cells, fromAt));
    const price = known(this.numberAt(cells, costAt));
    if (!(least > 0 && price >= 0 && price <= ABSURD)) return;
    from[i] = least;
    cost[i] = price;
  }

  private sides(cells: readonly string[], columns: ListColumns, i: number): void {
    let a = above0(known(this.numberAt(cells, this.at.length)));
    let b = above0(known(this.numberAt(cells, this.at.width)));
    let c = above0(known(this.numberAt(cells, this.at.height)));
    if (isUnknown(a) && isUnknown(b) && isUnknown(c)) {
      const size = this.textAt(cells, this.at.size);
      if (size !== '') {
        const parts = size.replace(/(mm|cm|m|in|inch|")\.?$/i, '').split(/\s*[x×*/]\s*/i);
        if (parts.length === 3)
          [a, b, c] = parts.map((p) => above0(known(amountOf(p.replace(/[^\d.,]+/g, ''), this.comma)))) as [
            number,
            number,
            number,
          ];
      }
    }
    columns.a[i] = a * this.cm;
    columns.b[i] = b * this.cm;
    columns.c[i] = c * this.cm;
  }
}
