/**
 * Pictures of the invented goods, drawn: the outline tells the thing, the colour its material, the marks its form. A
 * shop shows the same goods on ground of its own, smaller, and as many of them as there are in a pack.
 */
import { crc32, deflateSync } from 'node:zlib';
import { between, draw } from './draw.ts';
import type { World } from './feed.ts';
import { goodsAt, numberOf } from './goods.ts';
import type { Goods } from './goods.ts';
import type { Market } from './markets.ts';

const SIDE = 128;
type Rgb = readonly [number, number, number];
/** Places of the palette. */
const [GROUND, BODY, MARK, EDGE] = [0, 1, 2, 3];
/** Body and mark of each material. */
const COLOURS: readonly (readonly [Rgb, Rgb])[] = [
  [
    [193, 140, 93],
    [129, 84, 48],
  ],
  [
    [166, 124, 82],
    [101, 67, 33],
  ],
  [
    [205, 186, 112],
    [131, 148, 65],
  ],
  [
    [196, 98, 60],
    [226, 163, 127],
  ],
  [
    [95, 104, 116],
    [150, 161, 172],
  ],
  [
    [176, 186, 194],
    [88, 98, 108],
  ],
  [
    [202, 164, 120],
    [150, 108, 70],
  ],
  [
    [181, 152, 96],
    [222, 204, 160],
  ],
];
const INK: Rgb = [46, 42, 38];

/** Whether a point, -1 to 1 both ways, lies in a part: an oval, a box, a wedge that grows downwards. */
const PARTS: readonly ((x: number, y: number) => boolean)[] = [
  (x, y) => x * x + y * y <= 1,
  (x, y) => Math.abs(x) <= 1 && Math.abs(y) <= 1,
  (x, y) => Math.abs(y) <= 1 && Math.abs(x) <= (y + 1) / 2,
];
type Part = (x: number, y: number) => boolean;

/** The outline of a thing: a body and two parts that sit on it, always the same for the same thing. */
function outlineOf(thing: number, seed: number): Part[] {
  return [0, 1, 2].map((k) => {
    const d = (what: number): number => draw(seed, 80_000 + thing, k * 10 + what);
    const shape = PARTS[Math.floor(d(1) * PARTS.length)] as Part;
    const [cx, cy] = k === 0 ? [0, 0.1] : [between(d(2), -0.5, 0.5), between(d(3), -0.6, 0.5)];
    const [w, h] =
      k === 0
        ? [between(d(4), 0.5, 0.8), between(d(5), 0.5, 0.8)]
        : [between(d(4), 0.15, 0.4), between(d(5), 0.15, 0.4)];
    return (x, y) => shape((x - cx) / w, (y - cy) / h);
  });
}

/** Marks of a form: stripes across, upright or aslant, as many as its number says; or none. */
function isMarked(form: number, x: number, y: number): boolean {
  const along = [y, x, x + y][form % 3] as number;
  return form > 0 && Math.abs(((along + 4) * (2 + form / 2)) % 1) < 0.28;
}

/** One picture of goods, a colour a point. `size`: 1 fills it. */
function drawn(g: Goods, seed: number, pieces: number, size: number): Buffer {
  const parts = outlineOf(g.thingNumber, seed);
  const across = Math.ceil(Math.sqrt(pieces));
  const isBody = (x: number, y: number): boolean => parts.some((part) => part(x, y));
  const points = Buffer.alloc(SIDE * SIDE);
  for (let row = 0; row < SIDE; row++)
    for (let col = 0; col < SIDE; col++) {
      const [px, py] = [(col / SIDE) * across, (row / SIDE) * across];
      if (Math.floor(py) * across + Math.floor(px) >= pieces) continue;
      const [x, y] = [((px % 1) * 2 - 1) / size, ((py % 1) * 2 - 1) / size];
      if (!isBody(x, y)) continue;
      const inside = [-0.05, 0.05].every((by) => isBody(x + by, y) && isBody(x, y + by));
      points[row * SIDE + col] = inside ? (isMarked(g.form, x, y) ? MARK : BODY) : EDGE;
    }
  return points;
}

function chunk(name: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(name, 'latin1'), data]);
  const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(data.length);
  sum.writeUInt32BE(crc32(body));
  return Buffer.concat([length, body, sum]);
}

/** Points with a palette as a PNG. */
function png(points: Buffer, palette: readonly Rgb[]): Buffer {
  const head = Buffer.alloc(13);
  head.writeUInt32BE(SIDE, 0);
  head.writeUInt32BE(SIDE, 4);
  // Eight bits a point, by a palette.
  head.set([8, 3, 0, 0, 0], 8);
  const lines = Buffer.alloc(SIDE * (SIDE + 1));
  for (let row = 0; row < SIDE; row++) points.copy(lines, row * (SIDE + 1) + 1, row * SIDE, (row + 1) * SIDE);
  return Buffer.concat([
    Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
    chunk('IHDR', head),
    chunk('PLTE', Buffer.from(palette.flat())),
    chunk('IDAT', deflateSync(lines)),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

/** The picture of goods on a ground, in base64. */
export function pictureOf(
  g: Goods,
  seed: number,
  { ground = [255, 255, 255] as Rgb, pieces = 1, size = 0.95 } = {},
): { type: 'image/png'; base64: string } {
  const [body, mark] = COLOURS[g.material % COLOURS.length] as readonly [Rgb, Rgb];
  const palette: Rgb[] = [];
  palette[GROUND] = ground;
  palette[BODY] = body;
  palette[MARK] = mark;
  palette[EDGE] = INK;
  return { type: 'image/png', base64: png(drawn(g, seed, pieces, size), palette).toString('base64') };
}

/** The picture of a listing; null: there is no such listing, or it has none. */
export function listingPicture(w: World, m: Market, code: string) {
  const i = numberOf(code, m);
  if (i === null || draw(w.seed, i, 410) < 0.03) return null;
  return { asOf: w.today, coverage: 1, ...pictureOf(goodsAt(w.seed, m, i), w.seed) };
}
