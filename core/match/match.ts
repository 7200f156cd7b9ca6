/**
 * Which listing goods of a source are: by barcode, then by model number, then by brand and title, and what is left to
 * the eye. What one has decided by hand comes before all of it.
 */
import { packField, packIn, packsAsNamed } from '../goods/packs.ts';
import { contradict, NOISE, tokensOf } from './tokens.ts';
import type { Tokens } from './tokens.ts';

/** Goods of a source or of a market. `key`: the barcode in 14 digits, proven; blank: none. */
export type Goods = {
  readonly key: string;
  readonly model: string;
  readonly brand: string;
  readonly title: string;
  /** What a field says of its pack; blank: its title may. */
  readonly pack: string;
};
/** `units`: sold a month, by which one of several listings is chosen; null: not known. */
export type Listing = Goods & { readonly code: string; readonly units: number | null };

/** `byEye`: somebody has to look; `none`: nothing is near enough to look at. */
export const CONFIDENCES = ['certain', 'likely', 'byEye', 'none'] as const;
export type Confidence = (typeof CONFIDENCES)[number];
export const REASONS = [
  'byHand',
  'refused',
  'barcode',
  'barcodeOtherGoods',
  'model',
  'modelAlone',
  'title',
  'titleNear',
  'severalAlike',
  'otherMeasure',
  'noWordInCommon',
] as const;
export type Reason = (typeof REASONS)[number];

export type Match = {
  readonly confidence: Confidence;
  readonly reason: Reason;
  /** Place of the listing; -1: none. */
  readonly listing: number;
  /** Others to look at, the nearest first. */
  readonly others: readonly number[];
  /** How alike brand and title are, 0 to 1. */
  readonly alike: number;
  /** Pieces in the pack that is sold, and in the pack that is bought. */
  readonly packs: { readonly sold: number; readonly bought: number };
};
/** What one has decided of goods before: the listing's code, or that none is; a pack by hand. */
export type Decided = {
  readonly code: string | null;
  readonly refused: readonly string[];
  readonly packs: Match['packs'] | null;
};

/** Alike enough to be certain, to be likely, to be looked at. */
const CERTAIN = 0.82;
const LIKELY = 0.62;
const LOOKED_AT = 0.35;
/** So far behind the next has to be for a certain one. */
const AHEAD = 0.12;
/** Listings compared in full, of those that share the rarest words. */
const COMPARED = 24;
const SHOWN = 5;
/** A word of more listings than this finds none: it says too little. */
const COMMON = 4000;
/** Answers kept for titles that come again. */
const REMEMBERED = 20_000;

type Known = {
  readonly tokens: Tokens;
  readonly ids: Uint32Array;
  readonly weight: number;
  readonly brand: string;
  /** Words and measures in one text: listings of which it is the same are of the same goods. */
  readonly said: string;
};

/** The listings of a market, found by barcode, model and word. */
export class MatchIndex {
  private readonly noise: ReadonlySet<string>;
  private readonly idOf = new Map<string, number>();
  private readonly posting: number[][] = [];
  private rarity = new Float64Array(0);
  private readonly known: Known[] = [];
  private readonly byKey = new Map<string, number[]>();
  private readonly byModel = new Map<string, number[]>();
  private readonly byCode = new Map<string, number>();
  private readonly shared: Float64Array;
  private readonly remembered = new Map<string, Match>();

  constructor(
    private readonly listings: readonly Listing[],
    noise: readonly string[] = NOISE,
  ) {
    this.noise = new Set(noise);
    this.shared = new Float64Array(listings.length);
    const read = listings.map((l, i) => this.take(l, i));
    this.rarity = Float64Array.from(this.posting, (p) => Math.log(1 + listings.length / p.length));
    for (const k of read) this.known.push({ ...k, weight: this.weightOf(k.ids) });
  }

  private take(l: Listing, i: number): Omit<Known, 'weight'> {
    const tokens = this.tokens(l);
    const ids = Uint32Array.from(tokens.words, (w) => {
      const id = this.idOf.get(w) ?? this.posting.length;
      if (id === this.posting.length) {
        this.idOf.set(w, id);
        this.posting.push([]);
      }
      (this.posting[id] as number[]).push(i);
      return id;
    });
    if (l.key !== '') push(this.byKey, l.key, i);
    for (const m of tokens.models) push(this.byModel, m, i);
    this.byCode.set(l.code, i);
    const said = `${[...tokens.words].sort().join(' ')} ${[...tokens.measures].flat(2).join(' ')}`;
    return { tokens, ids, brand: this.brandOf(l), said };
  }

  /** The words of brand, title and model: a brand that a title leaves out is added. */
  private tokens(g: Goods): Tokens {
    return tokensOf(`${g.brand} ${g.title} ${g.model}`, this.noise);
  }
  private brandOf = (g: Goods): string => tokensOf(g.brand, this.noise).words.join(' ');

  private weightOf(ids: Iterable<number>): number {
    let sum = 0;
    for (const id of ids) sum += this.rarity[id] as number;
    return sum;
  }

  /** The listing of goods, with the reason; what was decided by hand before anything else. */
  match(g: Goods, decided: Decided | null = null): Match {
    const byHand = decided?.code == null ? undefined : this.byCode.get(decided.code);
    if (byHand !== undefined) return this.answer(g, 'certain', 'byHand', byHand, [], 1, decided);
    const refused = new Set((decided?.refused ?? []).flatMap((c) => this.byCode.get(c) ?? []));
    if (refused.size > 0 || decided?.packs != null) return this.reckoned(g, refused, decided);
    const asked = `${g.key}\n${g.model}\n${g.brand}\n${g.title}\n${g.pack}`;
    const before = this.remembered.get(asked);
    if (before !== undefined) return before;
    const found = this.reckoned(g, refused, null);
    if (this.remembered.size < REMEMBERED) this.remembered.set(asked, found);
    return found;
  }

  private reckoned(g: Goods, refused: ReadonlySet<number>, decided: Decided | null): Match {
    const tokens = this.tokens(g);
    const ids = tokens.words.map((w) => this.idOf.get(w) ?? -1);
    // A word that no listing has is as telling as the rarest.
    const unheard = Math.log(1 + this.listings.length);
    const weight = ids.reduce((sum, id) => sum + (id < 0 ? unheard : (this.rarity[id] as number)), 0);
    const own = { tokens, brand: this.brandOf(g), ids: new Set(ids.filter((id) => id >= 0)), weight };
    return (
      this.byBarcode(g, own, refused, decided) ??
      this.byModelNumber(g, own, refused, decided) ??
      this.byTitle(g, own, refused, decided)
    );
  }

  /** The same barcode; where nothing else is in common it is wrong on one side, and somebody has to look. */
  private byBarcode(g: Goods, own: Own, refused: ReadonlySet<number>, d: Decided | null): Match | null {
    const same = (g.key === '' ? [] : (this.byKey.get(g.key) ?? [])).filter((i) => !refused.has(i));
    if (same.length === 0) return null;
    const ranked = this.fastest(same);
    const [first = -1, ...others] = ranked;
    const best = Math.max(...same.map((i) => this.alike(own, i)));
    const otherBrand = own.brand !== '' && this.of(first).brand !== '' && own.brand !== this.of(first).brand;
    const doubtful =
      best < 0.12 ||
      (best < LOOKED_AT && otherBrand) ||
      contradict(own.tokens.measures, this.of(first).tokens.measures);
    return doubtful
      ? this.answer(g, 'byEye', 'barcodeOtherGoods', first, others, best, d)
      : this.answer(g, 'certain', 'barcode', first, others, best, d);
  }

  /** The same model number: certain where the brand is the same too, and nothing speaks against it. */
  private byModelNumber(g: Goods, own: Own, refused: ReadonlySet<number>, d: Decided | null): Match | null {
    const models = own.tokens.models.filter((m) => (this.byModel.get(m)?.length ?? 99) <= SHOWN);
    const same = [...new Set(models.flatMap((m) => this.byModel.get(m) ?? []))].filter(
      (i) => !refused.has(i),
    );
    const fitting = same.filter((i) => !contradict(own.tokens.measures, this.of(i).tokens.measures));
    const ofBrand = fitting.filter((i) => own.brand === '' || this.mentions(i, own.brand));
    const ranked = this.nearest(own, ofBrand);
    const [first] = ranked;
    if (first === undefined) return null;
    const alike = this.alike(own, first);
    const isAlone = this.aheadOf(own, ranked) >= AHEAD;
    const others = ranked.slice(1, 1 + SHOWN);
    if (isAlone && own.brand !== '' && alike >= LOOKED_AT)
      return this.answer(g, 'certain', 'model', first, others, alike, d);
    return alike < LOOKED_AT ? null : this.answer(g, 'likely', 'modelAlone', first, others, alike, d);
  }

  private byTitle(g: Goods, own: Own, refused: ReadonlySet<number>, d: Decided | null): Match {
    const ranked = this.nearest(own, this.sharing(own, refused));
    const [first = -1] = ranked;
    const alike = first < 0 ? 0 : this.alike(own, first);
    const others = ranked.filter((i) => i !== first);
    // Much the same words in another measure are worth a look, where nothing of the own measure is near.
    const other = ranked.find((i) => contradict(own.tokens.measures, this.of(i).tokens.measures)) ?? -1;
    const alikeOther = other < 0 ? 0 : this.alike(own, other);
    if (
      other >= 0 &&
      alikeOther >= LOOKED_AT &&
      (other === first || (alike < LIKELY && alikeOther >= LIKELY))
    )
      return this.answer(
        g,
        'byEye',
        'otherMeasure',
        other,
        ranked.filter((i) => i !== other),
        alikeOther,
        d,
      );
    if (alike < LOOKED_AT) {
      const why = refused.size > 0 ? 'refused' : 'noWordInCommon';
      return this.answer(g, 'none', why, -1, ranked, alike, d);
    }
    if (this.aheadOf(own, ranked) < AHEAD && alike >= LIKELY)
      return this.answer(g, 'byEye', 'severalAlike', first, others, alike, d);
    const sameBrand = own.brand !== '' && this.mentions(first, own.brand);
    const saysAsMuch = this.saysAsMuch(own.tokens.measures, this.of(first).tokens.measures);
    if (alike >= CERTAIN && sameBrand && saysAsMuch)
      return this.answer(g, 'certain', 'title', first, others, alike, d);
    return this.answer(g, alike >= LIKELY ? 'likely' : 'byEye', 'titleNear', first, others, alike, d);
  }

  /** Listings that share the rarest of the words, the most telling first. */
  private sharing(own: Own, refused: ReadonlySet<number>): number[] {
    const touched: number[] = [];
    const words = [...own.ids].sort((a, b) => this.posts(a).length - this.posts(b).length);
    for (const id of words) {
      if (this.posts(id).length > COMMON && touched.length > 0) break;
      for (const i of this.posts(id)) {
        if (this.shared[i] === 0) touched.push(i);
        this.shared[i] = (this.shared[i] as number) + (this.rarity[id] as number);
      }
    }
    const best = this.topOf(touched, refused);
    for (const i of touched) this.shared[i] = 0;
    return best;
  }

  /** The few that share most; of equals the earlier. */
  private topOf(touched: readonly number[], refused: ReadonlySet<number>): number[] {
    const top: number[] = [];
    const worth = (i: number): number => this.shared[i] as number;
    for (const i of touched) {
      const last = top[COMPARED - 1];
      if ((last !== undefined && worth(i) <= worth(last)) || refused.has(i)) continue;
      let at = Math.min(top.length, COMPARED - 1);
      while (at > 0 && worth(top[at - 1] as number) < worth(i)) {
        top[at] = top[at - 1] as number;
        at--;
      }
      top[at] = i;
    }
    return top;
  }

  /** How alike goods and a listing are: the weight of the words they share, over the mean of what each has. */
  private alike(own: Own, i: number): number {
    const { ids, weight } = this.of(i);
    let common = 0;
    for (const id of ids) if (own.ids.has(id)) common += this.rarity[id] as number;
    const whole = own.weight + weight;
    return whole <= 0 ? 0 : (2 * common) / whole;
  }

  /** The nearest first, those with another measure behind all others; of the very same words the fastest. */
  private nearest(own: Own, among: readonly number[]): number[] {
    const units = (i: number): number => this.listings[i]?.units ?? -1;
    return among
      .map((i) => ({
        i,
        alike: this.alike(own, i),
        other: Number(contradict(own.tokens.measures, this.of(i).tokens.measures)),
      }))
      .sort((a, b) => a.other - b.other || b.alike - a.alike || units(b.i) - units(a.i) || a.i - b.i)
      .map((x) => x.i);
  }

  /** How far the first is ahead of the next that is not the same goods in another listing, nor of another measure. */
  private aheadOf(own: Own, ranked: readonly number[]): number {
    const [first = -1] = ranked;
    const next = ranked.find(
      (i) =>
        this.of(i).said !== this.of(first).said &&
        !contradict(own.tokens.measures, this.of(i).tokens.measures),
    );
    return next === undefined ? 1 : this.alike(own, first) - this.alike(own, next);
  }

  /** The listing that sells fastest first; of which nothing is known comes last. */
  private fastest(among: readonly number[]): number[] {
    const units = (i: number): number => this.listings[i]?.units ?? -1;
    return [...among].sort((a, b) => units(b) - units(a));
  }

  private mentions(i: number, brand: string): boolean {
    const { words } = this.of(i).tokens;
    return brand.split(' ').every((w) => words.includes(w));
  }

  /** A measure that only one side gives may tell two listings apart: then nothing is certain by its title. */
  private saysAsMuch(a: Tokens['measures'], b: Tokens['measures']): boolean {
    return [...b.keys()].every((k) => a.has(k));
  }

  private answer(
    g: Goods,
    confidence: Confidence,
    reason: Reason,
    listing: number,
    others: readonly number[],
    alike: number,
    decided: Decided | null,
  ): Match {
    const packs =
      decided?.packs ??
      packsAsNamed(piecesIn(g), listing < 0 ? 0 : piecesIn(this.listings[listing] as Listing));
    return { confidence, reason, listing, others: others.slice(0, SHOWN), alike: Math.min(1, alike), packs };
  }

  private of = (i: number): Known => this.known[i] as Known;
  private posts = (id: number): number[] => this.posting[id] as number[];
}

type Own = {
  readonly tokens: Tokens;
  readonly brand: string;
  readonly ids: ReadonlySet<number>;
  readonly weight: number;
};

/** Pieces in a pack by its field, else by its title; 0: nothing says so. */
const piecesIn = (g: Goods): number => packField(g.pack) ?? packIn(g.title)?.pieces ?? 0;

function push(map: Map<string, number[]>, key: string, value: number): void {
  const own = map.get(key);
  if (own === undefined) map.set(key, [value]);
  else own.push(value);
}
