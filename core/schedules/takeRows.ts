/** Rows of a table whose cells are read, made into parts of a card. */
import { limitOf } from './percents.ts';
import { agedFrom, ageBegins, DAYS_A_MONTH, PER_DAY, PER_WEEK } from './ages.ts';
import { fault } from '../fault.ts';
import type { Fault } from '../fault.ts';
import type { Column, Role } from './columns.ts';
import { namedSidesIn, namedWeightIn, rangeIn } from './forms.ts';
import type { Around, Money, Percent, Range, Said, Weights } from './forms.ts';
import type { Line } from './given.ts';
import { chargeOf, isCommission } from './tableShape.ts';
import type { Across, TableShape } from './tableShape.ts';
import { divisorOf, volumeUnitIn } from './units.ts';
import { OF_THE_REST, OF_THE_WHOLE, OVER, COLUMN_WORDS, FIRST } from './vocabulary.ts';
import type {
  CategoryPart,
  CellRead,
  ChargePart,
  LongStayPart,
  StepPart,
  StoragePart,
  TierPart,
} from './understood.ts';

/** The parts that a schedule has come to, and what is wrong between its rows. */
export type Found = {
  readonly charges: ChargePart[];
  readonly tiers: TierPart[];
  readonly steps: StepPart[];
  readonly categories: CategoryPart[];
  readonly storage: StoragePart[];
  readonly longStay: LongStayPart[];
  readonly faults: (Fault & { line: number | null })[];
};

/** Columns that say what a fee is for. */
const SAYS_WHAT_FOR: ReadonlySet<Role> = new Set([
  'tier',
  'category',
  'weight',
  'namedWeight',
  'price',
  'period',
  'age',
  'sides',
]);
const says = (cell: CellRead | undefined): Said | null =>
  cell === undefined || cell.state === 'notUnderstood' ? null : cell.said;

/** Takes the rows of one table, in their order: a blank name is that of the row above. */
export class RowTaker {
  private readonly above: string[] = [];
  private readonly used = new Set<number>();
  /** The heading between rows under which they stand. */
  private section = '';

  constructor(
    private readonly shape: TableShape,
    private readonly name: string,
    private readonly volume: number | null,
    private readonly found: Found,
  ) {}

  /** A heading between rows: it names what follows. */
  begin(section: string): void {
    this.section = section;
    this.above.length = 0;
  }

  /** Takes a row; the places of the cells that became part of something, or null where the row makes no part. */
  take(cells: readonly CellRead[], line: Line): ReadonlySet<number> | null {
    this.used.clear();
    // Where sizes have no names, they are told apart by what they measure.
    const named = this.shape.has('tier', 'namedWeight') ? 'tier' : 'sides';
    const tier = this.nameOf(cells, named) || this.section || this.name;
    // A figure of which it is not known what it is for becomes part of nothing.
    if (cells.some((c) => c.state === 'notUnderstood' && SAYS_WHAT_FOR.has(c.role))) return null;
    if (this.isForNothing(cells)) return null;
    // "Payment" in a list of percentages is no category.
    const isCharge = !this.shape.has('category') && chargeOf(cells[0]?.text ?? '') !== null;
    if (this.shape.kind === 'referral' && !isCharge) this.takeCategory(cells, line);
    else if (this.shape.kind === 'referral') this.takeCharge(cells, line);
    else if (this.shape.kind === 'charges') this.takeCharge(cells, line);
    else if (this.shape.kind === 'storage') this.takeStorage(cells, line);
    else if (this.shape.kind === 'fees' || this.shape.kind === 'tiers') {
      this.takeTier(cells, tier);
      if (this.shape.kind === 'fees') this.takeFees(cells, tier, line);
    } else return null;
    return this.used;
  }

  /** A fee beside a column that is not understood, and beside nothing that is. */
  private isForNothing(cells: readonly CellRead[]): boolean {
    return (
      (this.shape.kind === 'fees' || this.shape.kind === 'referral') &&
      cells.some((c) => c.role === 'unread' && c.state === 'notUnderstood') &&
      !this.shape.has('tier', 'category', 'weight', 'namedWeight', 'sides', 'limits', 'price') &&
      this.shape.across.every((a) => a === null)
    );
  }

  private fail(line: number, wrong: Fault): void {
    this.found.faults.push({ ...wrong, line });
  }

  /** The name a row has in a column, or that of the row above where it is blank. */
  private nameOf(cells: readonly CellRead[], role: Role): string {
    const at =
      role === 'tier' ? [...this.shape.at('tier'), ...this.shape.at('namedWeight')] : this.shape.at(role);
    const parts = at.map((i) => {
      this.used.add(i);
      const text = cells[i]?.state === 'notUnderstood' ? '' : (cells[i]?.text ?? '');
      const own = role === 'tier' ? this.nameIn(text) : text;
      if (own !== '') {
        // A new name begins anew what stands under it.
        this.above.length = Math.min(this.above.length, i);
        this.above[i] = own;
      }
      return this.above[i] ?? '';
    });
    return [role === 'sides' ? '' : this.section, ...parts].filter(Boolean).join(', ');
  }

  private nameIn(text: string): string {
    const { around } = this.shape;
    const own = namedSidesIn(text, around)?.name ?? namedWeightIn(text, around)?.name ?? text;
    // "Price" before amounts names nothing.
    const isWord = [COLUMN_WORDS.fee, COLUMN_WORDS.price].some((w) => w.exec(own)?.[0] === own);
    return isWord ? '' : own;
  }

  private one<S extends Said['is']>(
    cells: readonly CellRead[],
    role: Role,
    is: S,
  ): Extract<Said, { is: S }> | null {
    for (const i of this.shape.at(role)) {
      const said = says(cells[i]);
      if (said?.is !== is) continue;
      this.used.add(i);
      return said as Extract<Said, { is: S }>;
    }
    return null;
  }

  private takeCharge(cells: readonly CellRead[], line: Line): void {
    const of = chargeOf(cells[0]?.text ?? '');
    const at = cells.findIndex((c, i) => i > 0 && ['percent', 'money'].includes(says(c)?.is ?? ''));
    const said = says(cells[at]);
    // A payment fee has one share: what has more becomes part of nothing, and is marked.
    const hasMore =
      said?.is === 'percent' && (said.tiers.length > 1 || said.min !== null || said.max !== null);
    if (of !== null && hasMore) return;
    this.used.add(0).add(at);
    if (said?.is === 'percent' && of === null && isCommission(cells[0]?.text ?? ''))
      this.found.categories.push({ name: '', percent: said, itemFee: said.plus, line: line.line });
    if (of === null || said === null) return;
    if (said.is === 'money') this.found.charges.push({ of, pct: null, amount: said.amount, line: line.line });
    else if (said.is === 'percent')
      this.found.charges.push({ of, pct: said.tiers[0]?.pct ?? 0, amount: said.plus, line: line.line });
  }

  private takeTier(cells: readonly CellRead[], tier: string): void {
    const [at] = this.shape.at('tier');
    const own = cells[at ?? -1]?.text ?? '';
    const named = namedSidesIn(own, this.shape.around);
    const sides = named ?? this.one(cells, 'sides', 'sides');
    const limits = this.one(cells, 'limits', 'limits');
    const [l, w, h] = (['length', 'width', 'height'] as const).map(
      (r) => this.one(cells, r, 'sides')?.cm[0] ?? null,
    );
    const apart = [l, w, h].filter((x): x is number => x != null);
    const all = sides?.cm ?? (apart.length > 0 ? apart : (limits?.sides ?? null));
    const girth = this.one(cells, 'girth', 'sides')?.cm[0] ?? limits?.girth ?? null;
    const maxKg = this.one(cells, 'maxWeight', 'weight')?.upTo ?? limits?.maxKg ?? null;
    const n = this.one(cells, 'divisor', 'range')?.upTo ?? null;
    const divisor = n === null ? null : divisorOf(n, this.shape.imperial);
    const packagingKg = this.one(cells, 'packaging', 'weight')?.upTo ?? null;
    if (all === null && girth === null && maxKg === null && divisor === null && packagingKg === null) return;
    this.found.tiers.push({
      name: tier,
      sides: all === null ? null : [...all].sort((a, b) => b - a),
      maxKg,
      girth,
      divisor,
      packagingKg,
    });
  }

  /** From and up to, of one cell or of two side by side. */
  private weightsOf(cells: readonly CellRead[]): Weights | null {
    const at = [...this.shape.at('weight'), ...this.shape.at('namedWeight')];
    const [first, second] = at.map((i) => says(cells[i])).filter((s): s is Weights => s?.is === 'weight');
    if (first === undefined) return null;
    for (const i of at) this.used.add(i);
    if (second === undefined) {
      const alone = this.shape.columns[at[0] as number] as Column;
      return at.length === 2 && OVER.test(alone.heading) && first.upTo !== null
        ? { ...first, from: first.upTo, upTo: null }
        : first;
    }
    return { is: 'weight', from: first.upTo ?? first.from, upTo: second.upTo, each: null };
  }

  private takeFees(cells: readonly CellRead[], tier: string, line: Line): void {
    const isAcross = this.shape.fees.every((i) => this.shape.across[i]?.by === 'weight');
    const own = isAcross ? null : this.weightsOf(cells);
    const price = this.one(cells, 'price', 'range');
    for (const i of this.shape.fees) {
      const money = says(cells[i]);
      if (money?.is !== 'money') continue;
      this.used.add(i);
      const a = this.shape.across[i] ?? null;
      const weights = a?.by === 'weight' ? a.weights : own;
      // Between two weights it is not said from which of them on each further counts.
      if (a?.by === 'weight' && a.weights.each !== null && (own?.from ?? 0) > 0) {
        this.fail(line.line, fault('scheduleStepFrom', { fee: money.amount }));
        continue;
      }
      const named = a?.by === 'name' ? (tier === '' ? a.name : `${tier}, ${a.name}`) : tier;
      const priceUpTo = a?.by === 'price' ? a.upTo : (price?.upTo ?? null);
      this.addSteps({ tier: named, priceUpTo, line: line.line }, weights, money, line);
    }
  }

  /** The last step of a tier and price band that ends somewhere. */
  private lastOf(of: Pick<StepPart, 'tier' | 'priceUpTo'>): StepPart | undefined {
    return this.found.steps.findLast(
      (s) => s.tier === of.tier && s.priceUpTo === of.priceUpTo && s.upToKg !== null,
    );
  }

  private addSteps(
    of: Pick<StepPart, 'tier' | 'priceUpTo' | 'line'>,
    weights: Weights | null,
    money: Money,
    line: Line,
  ): void {
    const step = (upToKg: number | null, each: number | null, fee: number): void => {
      this.found.steps.push({ ...of, upToKg, each, fee });
    };
    if (weights?.each != null) {
      const ends = this.lastOf(of)?.upToKg ?? null;
      if (weights.from !== null && ends !== null && !meets(ends, weights.from))
        this.fail(line.line, apart(of.tier, ends, weights.from));
      step(null, weights.each, money.amount);
      return;
    }
    const last = this.lastOf(of);
    const from = weights?.from ?? null;
    if (from !== null && last !== undefined && !meets(last.upToKg as number, from))
      this.fail(line.line, apart(of.tier, last.upToKg as number, from));
    if (money.each === null) {
      step(weights?.upTo ?? null, null, money.amount);
      return;
    }
    const over = money.each.over ?? from ?? last?.upToKg ?? weights?.upTo ?? null;
    const base = last !== undefined && over !== null && meets(last.upToKg as number, over) ? last : undefined;
    if (over === null) this.fail(line.line, fault('scheduleStepFrom', { fee: money.each.fee }));
    else if (base !== undefined && Math.abs(base.fee - money.amount) > 1e-9)
      this.fail(line.line, fault('scheduleStepBase', { base: money.amount, last: base.fee }));
    else {
      if (base === undefined) step(over, null, money.amount);
      step(null, money.each.kg, money.each.fee);
      if (weights?.upTo != null && weights.upTo !== over)
        this.found.tiers.push({
          name: of.tier,
          sides: null,
          maxKg: weights.upTo,
          girth: null,
          divisor: null,
          packagingKg: null,
        });
    }
  }

  private takeCategory(cells: readonly CellRead[], line: Line): void {
    const name = this.nameOf(cells, 'category') || this.nameOf(cells, 'tier') || '';
    const at = this.shape.at('percent');
    for (const i of at) this.used.add(i);
    const percents = at.map((i) => says(cells[i])).filter((s): s is Percent => s?.is === 'percent');
    const percent = percents.length < 2 ? percents[0] : this.sideBySide(percents, line);
    if (percent === undefined) return;
    const itemFee = this.one(cells, 'itemFee', 'money')?.amount ?? percent.plus;
    const min = this.one(cells, 'minimum', 'money')?.amount ?? percent.min;
    const max = this.one(cells, 'maximum', 'money')?.amount ?? percent.max;
    const upTo = this.one(cells, 'price', 'range');
    const whole = { ...percent, min, max };
    const last = this.found.categories[this.found.categories.length - 1];
    const pct = percent.tiers[0]?.pct ?? 0;
    // Rows of one category by price are its tiers; the last may have no limit.
    const isOpen = this.shape.at('price').some((i) => cells[i]?.state === 'blank');
    if ((upTo !== null || isOpen) && percent.tiers.length === 1) {
      const tier = { upTo: upTo?.upTo ?? null, pct };
      const mode = this.saysPortion(cells) ? 'sliced' : 'whole';
      if (last !== undefined && last.name === name) {
        if (last.percent.tiers.length === 1 && last.percent.mode === 'whole')
          this.fail(line.line, fault('scheduleModeWhole'));
        this.found.categories[this.found.categories.length - 1] = {
          ...last,
          percent: { ...last.percent, tiers: [...last.percent.tiers, tier] },
        };
      } else
        this.found.categories.push({
          name,
          percent: { ...whole, mode, tiers: [tier] },
          itemFee,
          line: line.line,
        });
      return;
    }
    this.found.categories.push({ name, percent: whole, itemFee, line: line.line });
  }

  /** Whether a price says that its percentage is of the part up to it: "First 50", "portion up to 50". */
  private saysPortion(cells: readonly CellRead[]): boolean {
    const [at] = this.shape.at('price');
    const words = `${cells[at ?? -1]?.text ?? ''} ${this.shape.columns[at ?? -1]?.heading ?? ''}`;
    return FIRST.test(words) || OF_THE_REST.test(words);
  }

  /** How often a rate falls in a month: one that is told by the day or week is said to be converted. */
  private timesAMonth(words: string, line: Line): number {
    const often = PER_DAY.test(words) ? DAYS_A_MONTH : PER_WEEK.test(words) ? DAYS_A_MONTH / 7 : 1;
    if (often !== 1 && this.found.storage.length === 0)
      this.fail(line.line, fault('scheduleOften', { times: Math.round(often * 100) / 100 }));
    return often;
  }

  /** What a long stay costs: on top of the basic rate, or instead of it where the table begins with that. */
  private takeAge(cells: readonly CellRead[], age: Range, perM3: number, at: number, line: Line): void {
    // A card has one rate for an age, whatever the season: that of the first column.
    if (at !== this.shape.fees[0]) {
      this.used.delete(at);
      return;
    }
    const place = this.shape.at('age')[0] ?? 0;
    const [base] = this.found.storage;
    if (this.found.longStay.length === 0)
      this.fail(line.line, fault(base === undefined ? 'scheduleAgeAdds' : 'scheduleAgeTotal'));
    this.found.longStay.push({
      ...agedFrom(age, `${cells[place]?.text} ${this.shape.columns[place]?.heading}`),
      rate: Math.max(0, perM3 - (base?.perM3 ?? 0)),
      line: line.line,
    });
  }

  /** Percentages side by side, each up to the price that its heading says. */
  private sideBySide(percents: readonly Percent[], line: Line): Percent {
    const heads = this.shape.at('percent').map((i) => this.shape.columns[i]?.heading ?? '');
    const tiers = percents.map((p, i) => ({
      upTo:
        i === percents.length - 1
          ? null
          : (limitOf(heads[i] ?? '', '', this.shape.around) ?? upToOf(heads[i] ?? '', this.shape.around)),
      pct: p.tiers[0]?.pct ?? 0,
    }));
    const whole = heads.some((h) => OF_THE_WHOLE.test(h));
    // Which of the two is not said: it is taken slice by slice, and named.
    if (!whole && !heads.some((h) => OF_THE_REST.test(h)) && this.found.categories.length === 0)
      this.fail(line.line, fault('scheduleMode'));
    const mode = whole ? 'whole' : 'sliced';
    return { ...(percents[0] as Percent), tiers, mode };
  }

  private takeStorage(cells: readonly CellRead[], line: Line): void {
    const { block, columns } = this.shape;
    const words = [block.title, ...columns.map((c) => c.heading), ...line.cells].join(' ');
    const volume = volumeUnitIn(words) ?? this.volume;
    const names = new Set(this.shape.fees.map((i) => nameOver(this.shape.across[i] ?? null)));
    const [taken = '', ...others] = names;
    if (others.length > 0 && this.found.storage.length === 0)
      this.fail(line.line, fault('scheduleStorageBy', { names: others.join(', ') }));
    for (const i of this.shape.fees) {
      const money = says(cells[i]);
      // A card has one storage rate a month: that of the first column, which the fault above says.
      if (money?.is !== 'money' || nameOver(this.shape.across[i] ?? null) !== taken) continue;
      if (volume === null) {
        this.fail(line.line, fault('scheduleVolume'));
        return;
      }
      this.used.add(i);
      const perM3 = (money.amount / volume) * this.timesAMonth(words, line);
      const a = this.shape.across[i] ?? null;
      const age = this.one(cells, 'age', 'range');
      const months = a?.by === 'months' ? a.months : (this.one(cells, 'period', 'months')?.months ?? null);
      if (age !== null && ageBegins(age) > 0) this.takeAge(cells, age, perM3, i, line);
      else
        this.found.storage.push({
          months: months ?? [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12],
          perM3,
          line: line.line,
        });
    }
  }
}
const nameOver = (a: Across): string => (a?.by === 'name' || a?.by === 'months' ? a.name : '');
/** "10–50" over a column: up to 50. */
const upToOf = (heading: string, around: Around): number | null =>
  rangeIn(heading, around)?.said.upTo ?? null;
/** Whether a step goes on where the one before ends: whole grams and ounces ("251 to 500 g") are as good as that. */
const meets = (last: number, from: number): boolean =>
  Math.abs(last - from) <= 0.02 * from + 0.0011 || Math.abs(from - last - OUNCE) < 1e-6;
const OUNCE = 0.028349523125;
/** Steps that do not meet: `last` kg is where the one ends, `from` where the next begins. */
function apart(name: string, last: number, from: number): Fault {
  const of = { tier: name || '–', from: grams(last), to: grams(from) };
  return last < from ? fault('scheduleGap', of) : fault('scheduleOverlap', of);
}
const grams = (kg: number): number => Math.round(kg * 1e4) / 1e4;
