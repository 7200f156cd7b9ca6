/** Pictures of barcodes for tests: EAN-13 as bars (GS1 General Specifications, section 5.2.1), grey or as files. */

const LEFT = [
  '0001101',
  '0011001',
  '0010011',
  '0111101',
  '0100011',
  '0110001',
  '0101111',
  '0111011',
  '0110111',
  '0001011',
];
const right = (digit: number): string =>
  [...(LEFT[digit] ?? '')].map((b) => (b === '1' ? '0' : '1')).join('');
const mirrored = (digit: number): string => [...right(digit)].reverse().join('');
/** Which of the six digits at the left are mirrored, by the first digit. */
const PARITY = [
  '000000',
  '001011',
  '001101',
  '001110',
  '010011',
  '011001',
  '011100',
  '010101',
  '010110',
  '011010',
];

/** The 95 modules of a barcode of 13 digits, 1 for a bar. */
export function modulesOf(gtin: string): string {
  const digits = [...gtin].map(Number);
  const parity = PARITY[digits[0] ?? 0] ?? '';
  const left = digits
    .slice(1, 7)
    .map((d, i) => (parity[i] === '1' ? mirrored(d) : LEFT[d]))
    .join('');
  const end = digits.slice(7).map(right).join('');
  return `101${left}01010${end}101`;
}

/** A grey picture of barcodes one above the other, or of none (`dark`: of nothing but darkness). */
export function picture(gtins: readonly string[], width = 1280, height = 720, dark = false): Uint8Array {
  const grey = new Uint8Array(width * height).fill(dark ? 0 : 235);
  const module = 5;
  const band = Math.floor(height / Math.max(1, gtins.length));
  for (const [k, gtin] of gtins.entries()) {
    const modules = modulesOf(gtin);
    const from = Math.floor((width - module * modules.length) / 2);
    for (let y = band * k + Math.floor(band * 0.2); y < band * k + band * 0.8; y++)
      for (const [i, bar] of [...modules].entries())
        if (bar === '1') grey.fill(20, y * width + from + i * module, y * width + from + (i + 1) * module);
  }
  return grey;
}

const ascii = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));
function joined(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const p of parts) {
    whole.set(p, at);
    at += p.length;
  }
  return whole;
}

/** One picture again and again as a film that a browser takes for a camera (YUV4MPEG2, grey). */
export function film(grey: Uint8Array, width = 1280, height = 720, frames = 3): Uint8Array {
  const colour = new Uint8Array((width * height) / 2).fill(128);
  const frame = joined([ascii('FRAME\n'), grey, colour]);
  const head = ascii(`YUV4MPEG2 W${width} H${height} F5:1 Ip A1:1 C420mpeg2\n`);
  return joined([head, ...Array.from({ length: frames }, () => frame)]);
}

/** The picture as a file (BMP, 24 bits). */
export function bitmap(grey: Uint8Array, width = 1280, height = 720): Uint8Array {
  const file = new Uint8Array(54 + 3 * grey.length);
  const head = new DataView(file.buffer);
  file.set(ascii('BM'));
  head.setUint32(2, file.length, true);
  head.setUint32(10, 54, true);
  head.setUint32(14, 40, true);
  head.setInt32(18, width, true);
  head.setInt32(22, -height, true);
  head.setUint16(26, 1, true);
  head.setUint16(28, 24, true);
  for (let i = 0; i < grey.length; i++) file.fill(grey[i] ?? 0, 54 + 3 * i, 57 + 3 * i);
  return file;
}
