/** How many pieces a pack holds, as titles and fields say it in several languages. */

export type PackFound = {
  /** Pieces in the pack. */
  readonly pieces: number;
  /** The words that say so, as they stand. */
  readonly words: string;
  /** Said outright ("pack of 12"), or only likely ("4 x 250 g"). */
  readonly sure: boolean;
};

const COUNT = '(\\d{1,4})';
const NOUN =
  '(?:pcs?|pieces?|pack|packs|count|ct|units?|st(?:ü|ue)ck|stk|st\\.|teilig|tlg|er[- ' +
  ']?(?:pack|set)|pi[eè]ces?|pi[eè]ce|unit[eé]s?|unidades|uds?|piezas|pezzi|pz|confezioni|sztuk|szt|stuks)';
const MEASURE = '(?:mg|g|kg|ml|cl|dl|l|oz|lb|mm|cm|m|inch|in)';
/** Lengths beside each other are sides; weights and volumes are pieces of so much. */
const CONTENT = '(?:mg|g|kg|ml|cl|dl|l|oz|lb)';
/** From the surest to the least; the first that speaks decides. */
const PATTERNS: readonly { readonly at: RegExp; readonly sure: boolean }[] = [
  {
    at: new RegExp(`\\b(?:pack|set|box|case|bundle|lot|bag|tray|carton)\\s+of\\s+${COUNT}\\b`, 'iu'),
    sure: true,
  },
  { at: new RegExp(`\\b(?:lot|pack|paquet|bo[iî]te|jeu)\\s+de\\s+${COUNT}\\b`, 'iu'), sure: true },
  { at: new RegExp(`\\b(?:paquete|caja|juego|lote)\\s+de\\s+${COUNT}\\b`, 'iu'), sure: true },
  { at: new RegExp(`\\b(?:confezione|set|scatola)\\s+da\\s+${COUNT}\\b`, 'iu'), sure: true },
  { at: new RegExp(`\\b(?:zestaw|opakowanie|komplet)\\s+(?:z\\s+)?${COUNT}\\b`, 'iu'), sure: true },
  {
    at: new RegExp(`\\b(?:packung|set|karton|beutel|satz)\\s+(?:mit|à|a|zu)\\s+${COUNT}\\b`, 'iu'),
    sure: true,
  },
  { at: new RegExp(`\\b${COUNT}\\s*[- ]?er[- ]?(?:pack|set|packung|karton)?\\b`, 'iu'), sure: true },
  { at: new RegExp(`\\b${COUNT}[- ]?(?:pack|pk|count|ct)\\b`, 'iu'), sure: true },
  { at: new RegExp(`\\b${COUNT}\\s*${NOUN}(?![\\p{L}])`, 'iu'), sure: true },
  { at: new RegExp(`\\b(?:x|×)\\s?${COUNT}\\b(?!\\s*(?:${MEASURE}\\b|[x×]))`, 'iu'), sure: false },
  {
    at: new RegExp(`\\b${COUNT}\\s?[x×]\\s?\\d+(?:[.,]\\d+)?\\s?${CONTENT}\\b(?!\\s*[x×])`, 'iu'),
    sure: false,
  },
];
/** More than this in a title is a length, a year or a model, not a pack. */
const MOST = 1000;

/** A number near words that may speak of packs; most titles have none, and are done with. */
const MAYBE =
  /\d[\s-]{0,2}(?:[x×a-z]|st\.)|[x×]\s?\d|(?:of|de|da|mit|zu|z|à|a|zestaw|opakowanie|komplet)\s+\d/i;

/** Pieces that a title says its pack holds; null where it says nothing of packs. */
export function packIn(title: string): PackFound | null {
  if (!MAYBE.test(title)) return null;
  for (const { at, sure } of PATTERNS) {
    const m = at.exec(title);
    const pieces = Number(m?.[1]);
    if (m !== null && pieces >= 1 && pieces <= MOST) return { pieces, words: m[0].trim(), sure };
  }
  return null;
}

/** Words that speak of what a carton holds: how many are ordered together, not how many are in a pack. */
const OF_CARTON = /^(?:ve|vpe|vke|carton|karton|krt|ctn|case|outer|colisage|cartone|karton zbiorczy)\b/iu;

/** A field that holds a pack size: "6", "6 pcs". Null where it says none, or speaks of a carton ("VE 12"). */
export function packField(text: string): number | null {
  const field = text.trim();
  if (OF_CARTON.test(field)) return null;
  const m = /^(?:\D{0,12}?)\s*(\d{1,4})(?:[.,]0+)?\s*\D{0,12}$/u.exec(field);
  const pieces = Number(m?.[1]);
  return m !== null && pieces >= 1 && pieces <= MOST ? pieces : null;
}

/**
 * The packs on both sides, given the pieces that the supplier's words name (0: none) and those of the listing
 * it is sold as (0: not known). What is bought is sold as it comes unless the listing's own pack is known:
 * the shelf price is that of the set, so a set taken apart would look like a bargain it is not.
 */
export function packsAsNamed(
  named: number,
  listing: number,
): { readonly sold: number; readonly bought: number } {
  const bought = Math.max(1, named);
  return { sold: listing > 0 ? listing : bought, bought };
}
