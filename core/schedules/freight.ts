/**
 * What a forwarder quotes, as people have it: a list of charges, each for a shipment, a kilogram, a cubic metre,
 * a carton or a container; or prices a kilogram by bands of weight. It becomes the legs of a freight card.
 */
import { percentIn } from './percents.ts';
import type { Stage } from '../cards/carriage.ts';
import { type FREIGHT_BASES, STAGES } from '../cards/carriage.ts';
import { fault } from '../fault.ts';
import type { Fault } from '../fault.ts';
import type { Role } from './columns.ts';
import { moneyIn, weightsIn } from './forms.ts';
import type { Around, Said } from './forms.ts';
import type { Block, Line } from './given.ts';
import { withoutFootnote } from './numbers.ts';
import type { Choices } from './readCells.ts';
import { TableShape } from './tableShape.ts';
import { weightUnitIn } from './units.ts';
import type { CellRead, CellState, FreightParts, LegPart, TableRead } from './understood.ts';
import { means, NO_FIGURE, TOTAL } from './vocabulary.ts';

export type Basis = (typeof FREIGHT_BASES)[number];
/** An amount and what it is for. */
export type RateSaid = {
  readonly is: 'rate';
  readonly amount: number;
  readonly currency: string | null;
  readonly basis: Basis;
};
/** Where on the way a charge falls. */
export type StageSaid = { readonly is: 'stage'; readonly stage: Stage };

const FOR = '(?:per|/|je|pro|par|por|al|alla|za|each|every|a)\\s*(?:chargeable\\s+)?';
const edged = (words: string): RegExp => new RegExp(`${FOR}(?:${words})(?![\\p{L}\\d])`, 'iu');
/** What a charge is for, in the words of forwarders. */
const BASIS_WORDS: readonly (readonly [Basis, RegExp])[] = [
  [
    'perCbm',
    edged(
      'cbm|m3|m³|cubic met(?:er|re)|kubikmeter|mètre cube|metro c[úu]bico|metro cubo|metr sześcienny|w/?m',
    ),
  ],
  ['perKg', edged('kgs?|kilos?|kilograms?|kilogramm|kilogramme|kilogramo')],
  [
    'perContainer',
    edged("container(?:\\s*\\d+\\s*['’]?)?|conteneur|contenedor|kontener|fcl|(?:20|40)\\s*(?:'|ft|hc)"),
  ],
  ['perCarton', edged('cartons?|box|karton|colis|caja|cartone|kartonu?')],
  [
    'perShipment',
    edged(
      'shipments?|consignments?|sendung|exp[ée]dition|envoi|env[íi]o|spedizione|przesyłk[aęi]|b/?l|entry|order',
    ),
  ],
  ['perUnit', edged('units?|pieces?|pcs?|stück|pièce|unidad|pezzo|sztuk[aęi]')],
];
const LUMP = means('flat|lump sum|fixed|pauschal|forfait|fijo|forfettario|ryczałt');

/** What an amount is for, where a text says so. */
export const basisIn = (text: string): Basis | null =>
  BASIS_WORDS.find(([, words]) => words.test(text))?.[0] ?? (LUMP.test(text) ? 'perShipment' : null);
const withoutBasis = (text: string): string =>
  [...BASIS_WORDS.map(([, words]) => words), LUMP].reduce((t, words) => t.replace(words, ' '), text).trim();

const STAGE_WORDS: Readonly<Record<Stage, RegExp>> = {
  inbound: means('warehouse|inbound|last mile|to the warehouse|lager|entrepôt|almacén|magazzino|magazyn'),
  destination: means(
    'destination|import|customs|clearance|unloading|delivery|zustellung|verzollung|entladung|livraison',
    'dédouanement|entrega|aduana|despacho|consegna|sdoganamento|dostawa|odprawa celna|通関|配達',
  ),
  origin: means(
    'origin|export|pick[- ]?up|collection|loading|fob charges|abholung|ausfuhr|enlèvement|recogida|ritiro',
    'exportación|odbiór|załadunek|集荷|輸出',
  ),
  main: means(
    '(?:sea|ocean|air|road|rail|main|line)?[- ]?(?:freight|haul)|carriage|fracht|(?:see|luft)fracht|fret',
    'flete|nolo|trasporto principale|transport główny|運賃|海上運賃|航空運賃',
  ),
};
const EXPORT = means('export|ausfuhr|exportación|exportation|esportazione|eksport|輸出');
/** The stages that a name may mean; several where its words are of several. */
function stagesIn(name: string): readonly Stage[] {
  if (STAGE_WORDS.inbound.test(name)) return ['inbound'];
  // "Export customs" is paid before the goods leave, whatever customs are elsewhere.
  if (EXPORT.test(name)) return ['origin'];
  const found = (['origin', 'destination', 'main'] as const).filter((s) => STAGE_WORDS[s].test(name));
  return found.length > 1 && found.includes('main') ? found.filter((s) => s !== 'main') : found;
}

const MINIMUM = means(
  'minimum(?: charge)?|min\\.?|mindest(?:betrag|preis)|mínimo|minimo|opłata minimalna|最低',
);
const FUEL = means(
  'fuel(?: surcharge)?|bunker|baf|treibstoff\\p{L}*|carburant|combustible|carburante|paliwow\\p{L}+|燃油',
);
const INSURANCE = means('insurance|versicherung|assurance|seguro|assicurazione|ubezpieczenie|保険');
const TRANSIT = means('transit(?: time)?|laufzeit|délai|tránsito|transito|czas tranzytu|日数');

type Band = { readonly upToKg: number | null; readonly rate: number };

/** Reads a forwarder's tables. */
export class FreightReader {
  readonly legs: LegPart[] = [];
  readonly faults: (Fault & { line: number | null })[] = [];
  private transitDays: number | null = null;
  private insuranceRate: number | null = null;

  constructor(
    private readonly around: Around,
    private readonly choices: Choices,
  ) {}

  parts(): FreightParts {
    return { legs: this.legs, transitDays: this.transitDays, insuranceRate: this.insuranceRate };
  }

  table(block: Block): TableRead {
    const shape = new TableShape(block, this.around);
    const weights = shape.at('weight');
    const rows =
      weights.length > 0 && (shape.columns.length > weights.length || shape.fees.length > 0)
        ? this.bands(shape, weights)
        : this.charges(block, shape);
    return { kind: 'freight', title: block.title, rows };
  }

  private fail(line: number | null, wrong: Fault): void {
    this.faults.push({ ...wrong, line });
  }

  private cell(line: Line, at: number, state: CellState, role: Role, said: Said | null = null): CellRead {
    const text = line.cells[at] ?? '';
    const key = `freight|${line.cells[0]}|${at}|${text}`.slice(0, 300);
    return { text, state: text === '' ? 'blank' : state, role, said, or: [], why: null, key };
  }
  private unread(line: Line, at: number, why: Fault): CellRead {
    const cell = this.cell(line, at, 'notUnderstood', 'unread');
    return cell.text === '' ? cell : { ...cell, why };
  }
  private heading = (line: Line) => ({
    line: line.line,
    cells: line.cells.map((_, i) => this.cell(line, i, 'heading', 'unread')),
  });

  /** An amount with what it is for: in its own words, its neighbours', or the heading's. */
  private rateIn(text: string, beside: string): RateSaid | null {
    const t = withoutFootnote(text);
    const basis = basisIn(t) ?? basisIn(beside);
    const money = moneyIn(withoutBasis(t), this.around)?.said;
    if (basis === null || money?.is !== 'money' || money.each !== null) return null;
    return { is: 'rate', amount: money.amount, currency: money.currency, basis };
  }

  // ---- prices a kilogram by bands of weight

  private bands(shape: TableShape, weights: readonly number[]) {
    const { block, heads, columns } = shape;
    const amounts = columns.flatMap((_, i) => (weights.includes(i) ? [] : [i]));
    const around = {
      ...this.around,
      kg: weightUnitIn(columns[weights[0] as number]?.heading ?? '') ?? this.around.kg,
    };
    const found: Band[] = [];
    let currency: string | null = null;
    let minCharge: number | null = null;
    const [first] = amounts;
    const at = amounts.find((i) => basisIn(`${columns[i]?.heading} ${block.title}`) !== null) ?? first;
    const rows = block.rows.map((line) => {
      if (heads.includes(line)) return this.heading(line);
      const beside = `${columns[at ?? -1]?.heading ?? ''} ${block.title}`;
      const rate = this.rateIn(line.cells[at ?? -1] ?? '', `${beside} ${line.cells.join(' ')}`);
      const isMinimum = MINIMUM.test(line.cells[weights[0] as number] ?? '');
      const last = weights[weights.length - 1] as number;
      const limit = weightsIn(line.cells[last] ?? '', around)?.said ?? null;
      const money = isMinimum ? moneyIn(line.cells[at ?? -1] ?? '', this.around)?.said : undefined;
      if (money?.is === 'money') minCharge = money.amount;
      const isBand = !isMinimum && limit !== null && rate?.basis === 'perKg';
      if (isBand) {
        found.push({ upToKg: limit.upTo, rate: rate.amount });
        currency ??= rate.currency;
      }
      const cells = line.cells.map((_, i): CellRead => {
        if (isMinimum && (weights.includes(i) || i === at))
          return this.cell(line, i, 'sure', i === at ? 'fee' : 'weight', i === at ? (money ?? null) : null);
        if (weights.includes(i) && limit !== null)
          return this.cell(line, i, 'sure', 'weight', i === last ? limit : null);
        if (i === at && isBand) return this.cell(line, i, 'sure', 'fee', rate);
        return this.unread(
          line,
          i,
          i === at ? fault('freightBand') : fault('scheduleUnused', { text: line.cells[i] ?? '' }),
        );
      });
      return { line: line.line, cells };
    });
    if (found.length > 0) this.addBands(block, found, currency, minCharge);
    return rows;
  }

  private addBands(
    block: Block,
    found: readonly Band[],
    currency: string | null,
    minCharge: number | null,
  ): void {
    const closed = found.flatMap((b) => (b.upToKg === null ? [] : [{ upToKg: b.upToKg, rate: b.rate }]));
    const open = found.find((b) => b.upToKg === null);
    // Past its last band a card has no price a kilogram, so that one without an end gets one, which is said.
    const bands = open === undefined ? closed : [...closed, { upToKg: NO_END_KG, rate: open.rate }];
    if (open !== undefined) this.fail(block.rows[0]?.line ?? null, fault('freightNoEnd', { kg: NO_END_KG }));
    const [stage = null, ...others] = stagesIn(block.title);
    if (stage === null || others.length > 0) this.fail(block.rows[0]?.line ?? null, fault('freightMain'));
    this.legs.push({
      name: block.title,
      stage: others.length === 0 ? (stage ?? 'main') : 'main',
      basis: 'perKg',
      rate: null,
      currency: currency ?? this.around.currency,
      minCharge,
      fuel: null,
      bands,
      line: block.rows[0]?.line ?? 1,
    });
  }

  // ---- a list of charges

  private charges(block: Block, { heads }: TableShape) {
    return block.rows.map((line) => {
      if (heads.includes(line) && line.cells.every((c) => !/\d/.test(c))) return this.heading(line);
      if (TOTAL.test(line.cells[0] ?? ''))
        return { line: line.line, cells: line.cells.map((_, i) => this.cell(line, i, 'leftOut', 'unread')) };
      return { line: line.line, cells: this.charge(line, heads) };
    });
  }

  private charge(line: Line, heads: readonly Line[]): CellRead[] {
    const [name = '', ...rest] = line.cells;
    const headOf = (i: number): string => heads.map((h) => h.cells[i] ?? '').join(' ');
    const term = this.term(name, rest, line.line);
    if (term !== null)
      return line.cells.map((_, i) =>
        i === 0 || i === term.at
          ? this.cell(line, i, 'sure', i === 0 ? 'tier' : 'fee', i === 0 ? null : term.said)
          : this.left(line, i),
      );
    // A column of its own may say what an amount is for: "shipment", "kg".
    const own = rest.find((c) => !/\d/.test(c) && basisIn(`per ${c}`) !== null);
    const at = rest.findIndex(
      (c, i) => this.rateIn(c, `${own === undefined ? '' : `per ${own}`} ${headOf(i + 1)} ${name}`) !== null,
    );
    const rate =
      at < 0
        ? null
        : this.rateIn(
            rest[at] as string,
            `${own === undefined ? '' : `per ${own}`} ${headOf(at + 1)} ${name}`,
          );
    const stage = this.stage(line);
    if (rate !== null && stage.state === 'sure' && stage.said?.is === 'stage')
      this.legs.push({
        name: withoutBasis(name).replace(/[\s(),:-]+$/u, ''),
        stage: stage.said.stage,
        basis: rate.basis,
        rate: rate.amount,
        currency: rate.currency ?? this.around.currency,
        minCharge: null,
        fuel: null,
        bands: [],
        line: line.line,
      });
    return line.cells.map((c, i): CellRead => {
      if (i === 0) return rate === null ? this.cell(line, i, 'sure', 'tier') : stage;
      if (i === at + 1 && rate !== null) return this.cell(line, i, 'sure', 'fee', rate);
      if (c === own) return this.cell(line, i, 'sure', 'unread');
      return NO_FIGURE.test(c) ? this.cell(line, i, 'leftOut', 'fee') : this.left(line, i);
    });
  }

  private left(line: Line, at: number): CellRead {
    return this.unread(line, at, fault('freightCell', { text: line.cells[at] ?? '' }));
  }

  /** Where a charge falls: by its name, else by choice. */
  private stage(line: Line): CellRead {
    const [named, ...others] = stagesIn(line.cells[0] ?? '');
    const cell = this.cell(line, 0, 'sure', 'tier', { is: 'stage', stage: named ?? 'origin' });
    if (named !== undefined && others.length === 0) return cell;
    const readings = (named === undefined ? STAGES : [named, ...others]).map(
      (stage): StageSaid => ({ is: 'stage', stage }),
    );
    const chosen = this.choices[cell.key];
    const said = chosen === undefined ? undefined : readings[chosen];
    return said === undefined
      ? { ...cell, state: 'doubtful', said: readings[0] ?? null, or: readings.slice(1) }
      : { ...cell, said };
  }

  /** What is no charge of its own: a least charge, fuel, insurance, days on the way. */
  private term(name: string, rest: readonly string[], line: number): { at: number; said: Said } | null {
    const at = rest.findIndex((c) => /\d/.test(c));
    const text = rest[at] ?? '';
    const last = this.legs[this.legs.length - 1];
    const percent = percentIn(text, this.around)?.said;
    const one =
      percent?.tiers.length === 1 && percent.min === null && percent.max === null && percent.plus === null;
    if (FUEL.test(name) && one && this.legs.some((l) => l.stage === 'main')) {
      this.legs.forEach((l, i) => {
        if (l.stage === 'main') this.legs[i] = { ...l, fuel: percent.tiers[0]?.pct ?? null };
      });
      this.fail(line, fault('freightFuel'));
      return { at: at + 1, said: percent };
    }
    if (INSURANCE.test(name) && one) {
      this.insuranceRate = percent.tiers[0]?.pct ?? null;
      return { at: at + 1, said: percent };
    }
    const days = /^(\d{1,3})(?:\s*(?:days?|tage|jours|días|giorni|dni|日))?$/iu.exec(
      withoutFootnote(text),
    )?.[1];
    if (TRANSIT.test(name) && days !== undefined) {
      this.transitDays = Number(days);
      return { at: at + 1, said: { is: 'range', from: null, upTo: this.transitDays } };
    }
    const money = moneyIn(text, this.around)?.said;
    if (MINIMUM.test(name) && money?.is === 'money' && last !== undefined) {
      this.legs[this.legs.length - 1] = { ...last, minCharge: money.amount };
      this.fail(line, fault('freightMinimum', { leg: last.name }));
      return { at: at + 1, said: money };
    }
    return null;
  }
}
/** kg that a shipment hardly passes. */
const NO_END_KG = 100_000;
