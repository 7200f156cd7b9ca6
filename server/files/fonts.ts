/**
 * Fonts for drawn documents. They ship cut into parts by script; of each document only the parts that its characters
 * need are loaded, so that a Chinese or Hebrew name costs nothing where there is none.
 */
import { createRequire } from 'node:module';
import { Font } from '@react-pdf/renderer';

const require = createRequire(import.meta.url);
/** Asked in this order for each character. */
const PACKAGES = ['noto-sans', 'noto-sans-hebrew', 'vazirmatn', 'noto-sans-sc'] as const;
const WEIGHTS = [400, 700] as const;

type Part = { readonly family: string; readonly from: number; readonly to: number };

/** The parts of a package with the characters they hold, as its own table of them says. */
function partsOf(name: (typeof PACKAGES)[number]): Part[] {
  const table = require(`@fontsource/${name}/unicode.json`) as Record<string, string>;
  return Object.entries(table).flatMap(([part, ranges]) =>
    ranges.split(',').map((range): Part => {
      const [from = '', to = from] = range.replace(/^U\+/, '').split('-');
      return {
        family: `${name}-${part.replace(/[[\]]/g, '')}`,
        from: Number.parseInt(from, 16),
        to: Number.parseInt(to, 16),
      };
    }),
  );
}

let parts: readonly Part[] | null = null;
const registered = new Set<string>();

function register(family: string): void {
  if (registered.has(family)) return;
  registered.add(family);
  const name = PACKAGES.findLast((p) => family.startsWith(`${p}-`)) ?? PACKAGES[0];
  Font.register({
    family,
    fonts: WEIGHTS.map((fontWeight) => ({
      fontWeight,
      src: require.resolve(`@fontsource/${name}/files/${family}-${fontWeight}-normal.woff`),
    })),
  });
}

/** Families that together have the characters of a text, in the order in which they are asked; Latin first. */
export function familiesFor(text: string): string[] {
  parts ??= PACKAGES.flatMap(partsOf);
  const needed = new Set<string>(['noto-sans-latin']);
  for (const character of new Set(text)) {
    const code = character.codePointAt(0) as number;
    const part = parts.find((p) => code >= p.from && code <= p.to);
    if (part !== undefined) needed.add(part.family);
  }
  for (const family of needed) register(family);
  return [...needed];
}

// Words are never broken by rules of one language.
Font.registerHyphenationCallback((word) => [word]);
