/**
 * Whether every word of a figure's cell is one that fee tables use for figures. What has others may say more
 * than was read, so that its reading is a question.
 */
import { isCurrency } from '../cards/cells.ts';
import { NUMBER, withoutFootnote } from './numbers.ts';
import { LENGTH_UNIT, MONEY_SIGN, VOLUME_UNIT, WEIGHT_UNIT } from './units.ts';
import {
  AT_LEAST,
  AT_MOST,
  COLUMN_WORDS,
  EACH,
  FIRST,
  FREE,
  GREATER_OF,
  HUNDREDTHS,
  LESSER_OF,
  means,
  MONTH_NAMES,
  OF_THE_REST,
  OF_THE_WHOLE,
  OVER,
  UP_TO,
  WITHOUT_VAT,
} from './vocabulary.ts';

/** Words that only join the others. */
const JOINING = means(
  'q[1-4]|q|to|and|or|the|of|for|a|an|in|with|is|its|at|by|on|any|all|plus|then|till|until|between',
  'through|x|than|price',
  'step|so much|thereof|amount|sale|sold|unit|units|item|items|piece|parcel|including|more|less',
  'und|oder|der|die|das|des|den|dem|von|vom|zu|zum|zur|für|mit|ist|am|im|sowie',
  'angefangene[nrs]?|stück|wert|auf',
  'et|ou|le|la|les|de|du|des|à|au|aux|sur|sobre|pour|avec|en|d|l|puis|entamée?|article',
  'pièce|y|e|o|el|los|las|del|al|con',
  'un|una|por|il|lo|gli|dei|della|sul|sulla|sull|nel|i|oraz|lub|za|z|w|na|sztuk[aeęi]',
  'następnie|ceny|wartości',
  'volume|volum[eé]trique|weight|scale|dimensional|l|w|h|b|d|から|より|の|は|を|と|あたり|分',
);
const KNOWN: readonly RegExp[] = [
  GREATER_OF,
  LESSER_OF,
  UP_TO,
  OVER,
  EACH,
  FIRST,
  OF_THE_REST,
  OF_THE_WHOLE,
  AT_LEAST,
  AT_MOST,
  WITHOUT_VAT,
  MONTH_NAMES,
  COLUMN_WORDS.weight,
  COLUMN_WORDS.price,
  COLUMN_WORDS.fee,
  COLUMN_WORDS.sides,
  COLUMN_WORDS.length,
  COLUMN_WORDS.width,
  COLUMN_WORDS.height,
  COLUMN_WORDS.girth,
  COLUMN_WORDS.month,
  COLUMN_WORDS.age,
  COLUMN_WORDS.referral,
  means('percent|per cent|prozent|pour cent|por ciento|per cento|procent'),
  JOINING,
].map((r) => new RegExp(r.source, 'giu'));
const UNITS = new RegExp(
  `(?:${NUMBER}|(?<!\\p{L}))[\\s-]*(?:${WEIGHT_UNIT}|${LENGTH_UNIT}|${VOLUME_UNIT})`,
  'giu',
);

const seen = new Map<string, string>();

/**
 * The words of a figure that are none of a figure's, as they stand; '' where there are none.
 *
 * @example unknownWords('over 0.5 to 1 kg') // ''
 * @example unknownWords('12 % for new sellers') // 'new sellers'
 */
export function unknownWords(text: string): string {
  if (FREE.test(text)) return '';
  let left = seen.get(text);
  if (left === undefined) {
    left = wordsLeft(text);
    if (seen.size < 5000) seen.set(text, left);
  }
  return left;
}
function wordsLeft(text: string): string {
  let t = withoutFootnote(text)
    .replace(UNITS, ' ')
    .replace(HUNDREDTHS, ' ')
    .replace(new RegExp(MONEY_SIGN, 'gu'), ' ');
  for (const known of KNOWN) if (/\p{L}/u.test(t)) t = t.replace(known, ' ');
  return (t.match(/\p{L}+/gu) ?? []).filter((w) => !isCurrency(w.toUpperCase())).join(' ');
}
