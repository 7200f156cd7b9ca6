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
  /** Listings by word. */
  private readonly posting: Int32Array[];
  private rarity = new Float64Array(0);
  private readonly known: Known[] = [];
  private readonly byKey = new Map<string, number[]>();
  private readonly byModel = new Map<string, number[]>();
  private readonly byCode = new Map<string, number>();
  /** While goods are looked for: what each listing shares with them, and the listings that share anything. */
  private readonly shared: Float64Array;
  private readonly touched: Int32Array;
  private readonly remembered = new Map<string, Match>();
  private readonly brands = new Map<string, string>();
  /** Words of the goods at hand: those that bear its number. */
  private readonly marked: Int32Array;
  private turn = 0;

  constructor(
    private readonly listings: readonly Listing[],
    noise: readonly string[] = NOISE,
  ) {
    this.noise = new Set(noise);
    this.shared = new Float64Array(listings.length);
    this.touched = new Int32Array(listings.length);
    const posting: number[][] = [];
    const read = listings.map((l, i) => this.take(l, i, posting));
    this.posting = posting.map((p) => Int32Array.from(p));
    this.marked = new Int32Array(posting.length);
    this.rarity = Float64Array.from(this.posting, (p) => Math.log(1 + listings.length / p.length));
    for (const k of read) this.known.push({ ...k, weight: this.weightOf(k.ids) });
  }

  private take(l: Listing, i: number, posting: number[][]): Omit<Known, 'weight'> {
    const tokens = this.tokens(l);
    const ids = Uint32Array.from(tokens.words, (w) => {
      const id = this.idOf.get(w) ?? posting.length;
      if (id === posting.length) {
        this.idOf.set(w, id);
        posting.push([]);
      }
      (posting[id] as number[]).push(i);
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
  /** Words of a brand; the same few come again and again. */
  private brandOf({ brand }: Goods): string {
    const before = this.brands.get(brand);
    if (before !== undefined) return before;
    const words = tokensOf(brand, this.noise).words.join(' ');
    if (this.brands.size < REMEMBERED) this.brands.set(brand, words);
    return words;
  }

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
    const own = { tokens, brand: this.brandOf(g), ids: ids.filter((id) => id >= 0), weight };
    this.turn++;
    for (const id of own.ids) this.marked[id] = this.turn;
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
    if (ranked[0] === undefined) return null;
    const { i: first, alike } = ranked[0];
    const isAlone = this.aheadOf(ranked) >= AHEAD;
    const others = placesOf(ranked.slice(1));
    if (isAlone && own.brand !== '' && alike >= LOOKED_AT)
      return this.answer(g, 'certain', 'model', first, others, alike, d);
    return alike < LOOKED_AT ? null : this.answer(g, 'likely', 'modelAlone', first, others, alike, d);
  }

  private byTitle(g: Goods, own: Own, refused: ReadonlySet<number>, d: Decided | null): Match {
    const ranked = this.nearest(own, this.sharing(own, refused));
    const { i: first, alike } = ranked[0] ?? { i: -1, alike: 0 };
    const others = placesOf(ranked.slice(1));
    // Much the same words in another measure are worth a look, where nothing of the own measure is near.
    const other = ranked.find((r) => r.other);
    if (
      other !== undefined &&
      other.alike >= LOOKED_AT &&
      (other.i === first || (alike < LIKELY && other.alike >= LIKELY))
    ) {
      const rest = placesOf(ranked.filter((r) => r !== other));
      return this.answer(g, 'byEye', 'otherMeasure', other.i, rest, other.alike, d);
    }
    if (alike < LOOKED_AT) {
      const why = refused.size > 0 ? 'refused' : 'noWordInCommon';
      return this.answer(g, 'none', why, -1, placesOf(ranked), alike, d);
    }
    if (this.aheadOf(ranked) < AHEAD && alike >= LIKELY)
      return this.answer(g, 'byEye', 'severalAlike', first, others, alike, d);
    const sameBrand = own.brand !== '' && this.mentions(first, own.brand);
    const saysAsMuch = this.saysAsMuch(own.tokens.measures, this.of(first).tokens.measures);
    if (alike >= CERTAIN && sameBrand && saysAsMuch)
      return this.answer(g, 'certain', 'title', first, others, alike, d);
    return this.answer(g, alike >= LIKELY ? 'likely' : 'byEye', 'titleNear', first, others, alike, d);
  }

  /** Listings that share the rarest of the words, the most telling first. */
  private sharing(own: Own, refused: ReadonlySet<number>): number[] {
    const { shared, touched } = this;
    const words = [...own.ids].sort((a, b) => this.posts(a).length - this.posts(b).length);
    let count = 0;
    for (const id of words) {
      const posts = this.posts(id);
      if (posts.length > COMMON && count > 0) break;
      const rarity = this.rarity[id] as number;
      for (let k = 0; k < posts.length; k++) {
        const i = posts[k] as number;
        const before = shared[i] as number;
        if (before === 0) touched[count++] = i;
        shared[i] = before + rarity;
      }
    }
    const best = this.topOf(count, refused);
    for (let k = 0; k < count; k++) shared[touched[k] as number] = 0;
    return best;
  }

  /** The few that share most; of equals the earlier. */
  private topOf(count: number, refused: ReadonlySet<number>): number[] {
    const { shared, touched } = this;
    const top: number[] = [];
    let least = 0;
    for (let k = 0; k < count; k++) {
      const i = touched[k] as number;
      const worth = shared[i] as number;
      if (worth <= least || refused.has(i)) continue;
      let at = Math.min(top.length, COMPARED - 1);
      while (at > 0 && (shared[top[at - 1] as number] as number) < worth) {
        top[at] = top[at - 1] as number;
        at--;
      }
      top[at] = i;
      if (top.length === COMPARED) least = shared[top[COMPARED - 1] as number] as number;
    }
    return top;
  }

  /** How alike goods and a listing are: the weight of the words they share, over the mean of what each has. */
  private alike(own: Own, i: number): number {
    const { ids, weight } = this.of(i);
    let common = 0;
    for (const id of ids) if (this.marked[id] === this.turn) common += this.rarity[id] as number;
    const whole = own.weight + weight;
    return whole <= 0 ? 0 : (2 * common) / whole;
  }

  /** The nearest first, those with another measure behind all others; of the very same words the fastest. */
  private nearest(own: Own, among: readonly number[]): Near[] {
    const units = (i: number): number => this.listings[i]?.units ?? -1;
    return among
      .map((i) => ({
        i,
        alike: this.alike(own, i),
        other: contradict(own.tokens.measures, this.of(i).tokens.measures),
      }))
      .sort(
        (a, b) =>
          Number(a.other) - Number(b.other) || b.alike - a.alike || units(b.i) - units(a.i) || a.i - b.i,
      );
  }

  /** How far the first is ahead of the next that is not the same goods in another listing, nor of another measure. */
  private aheadOf(ranked: readonly Near[]): number {
    const [first] = ranked;
    if (first === undefined) return 1;
    const { said } = this.of(first.i);
    const next = ranked.find((r) => !r.other && this.of(r.i).said !== said);
    return next === undefined ? 1 : first.alike - next.alike;
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
  private posts = (id: number): Int32Array => this.posting[id] as Int32Array;
}

type Own = {
  readonly tokens: Tokens;
  readonly brand: string;
  /** Its words that some listing has. */
  readonly ids: readonly number[];
  readonly weight: number;
};

/** A listing held against goods: how alike they are, and whether it speaks of another measure. */
type Near = { readonly i: number; readonly alike: number; readonly other: boolean };
const placesOf = (near: readonly Near[]): number[] => near.slice(0, SHOWN).map((n) => n.i);

/** Pieces in a pack by its field, else by its title; 0: nothing says so. */
const piecesIn = (g: Goods): number => packField(g.pack) ?? packIn(g.title)?.pieces ?? 0;

function push(map: Map<string, number[]>, key: string, value: number): void {
  const own = map.get(key);
  if (own === undefined) map.set(key, [value]);
  else own.push(value);
}
