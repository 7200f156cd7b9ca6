/**
 * The generator of uniform numbers: xoroshiro128+ (Blackman and Vigna), its upper 53 bits as a number in [0, 1). Two
 * 64-bit words stand as halves of 32 bits, since the language has no quick integers of 64.
 */

/** The halves of a 64-bit word, both unsigned. */
type Word = { high: number; low: number };

/** The words a seed is stretched to: splitmix64, as its authors advise. */
function stretched(seed: number): [Word, Word] {
  const MASK = (1n << 64n) - 1n;
  let state = BigInt(seed) & MASK;
  const next = (): Word => {
    state = (state + 0x9e3779b97f4a7c15n) & MASK;
    let z = state;
    z = ((z ^ (z >> 30n)) * 0xbf58476d1ce4e5b9n) & MASK;
    z = ((z ^ (z >> 27n)) * 0x94d049bb133111ebn) & MASK;
    z ^= z >> 31n;
    return { high: Number(z >> 32n), low: Number(z & 0xffffffffn) };
  };
  return [next(), next()];
}

/**
 * Numbers in [0, 1), the same for the same seed.
 *
 * @param seed a whole number from 0 to 2^53 - 1
 * @example uniforms(1, 2).length // 2
 */
export function uniforms(seed: number, count: number): Float64Array {
  const out = new Float64Array(count);
  const [first, second] = stretched(seed);
  // The halves of both words, as plain numbers: this is the innermost loop of a million draws.
  let [aHigh, aLow, bHigh, bLow] = [first.high | 0, first.low | 0, second.high | 0, second.low | 0];
  for (let i = 0; i < count; i++) {
    const low = (aLow >>> 0) + (bLow >>> 0);
    const high = (aHigh + bHigh + (low > 0xffffffff ? 1 : 0)) >>> 0;
    out[i] = (high * 0x200000 + ((low >>> 0) >>> 11)) / 2 ** 53;
    const xHigh = aHigh ^ bHigh;
    const xLow = aLow ^ bLow;
    // a: turned left by 24, mixed with x and with x shifted by 16.
    const turnedHigh = (aHigh << 24) | (aLow >>> 8);
    const turnedLow = (aLow << 24) | (aHigh >>> 8);
    aHigh = turnedHigh ^ xHigh ^ ((xHigh << 16) | (xLow >>> 16));
    aLow = turnedLow ^ xLow ^ (xLow << 16);
    // b: x turned left by 37: the halves change places, then 5 more.
    bHigh = (xLow << 5) | (xHigh >>> 27);
    bLow = (xHigh << 5) | (xLow >>> 27);
  }
  return out;
}
