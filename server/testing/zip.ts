/** Test code: ZIP archives of any size, made without holding what they unpack to. */
import { createHash } from 'node:crypto';
import { closeSync, openSync, writeSync } from 'node:fs';
import { crc32, deflateRawSync } from 'node:zlib';

/** A part of an archive: its name, and text repeated so many times between a beginning and an end. */
export type ZipPart = {
  readonly name: string;
  readonly start?: string;
  readonly repeat?: string;
  readonly times?: number;
  readonly end?: string;
};

/**
 * Deflated bytes, CRC and length of a part. A stream of stored-then-repeated blocks is joined from pieces
 * that each end on a byte (Z_SYNC_FLUSH), so that a gigabyte is made of one piece written many times.
 */
function deflated({ start = '', repeat = '', times = 0, end = '' }: ZipPart): {
  pieces: Buffer[];
  crc: number;
  size: number;
  packed: number;
} {
  const flush = (text: Buffer): Buffer => deflateRawSync(text, { finishFlush: 2 });
  const pieces: Buffer[] = [];
  let crc = 0;
  let size = 0;
  const add = (bytes: Buffer, packed: Buffer): void => {
    pieces.push(packed);
    crc = crc32(bytes, crc);
    size += bytes.length;
  };
  const block = Buffer.from(
    repeat.repeat(Math.max(1, Math.min(times, Math.ceil(1_000_000 / Math.max(1, repeat.length))))),
  );
  const perBlock = repeat === '' ? 0 : block.length / Buffer.byteLength(repeat);
  const packedBlock = flush(block);
  if (start !== '') add(Buffer.from(start), flush(Buffer.from(start)));
  for (let done = 0; repeat !== '' && done < times; done += perBlock) add(block, packedBlock);
  const last = Buffer.from(end);
  pieces.push(deflateRawSync(last));
  crc = crc32(last, crc);
  return { pieces, crc, size: size + last.length, packed: pieces.reduce((n, p) => n + p.length, 0) };
}

/** Writes an archive; returns a digest of what it says, so that a test can tell two apart. */
export function writeZip(path: string, parts: readonly ZipPart[]): string {
  const file = openSync(path, 'w');
  const hash = createHash('sha256');
  let at = 0;
  const put = (b: Buffer): void => {
    writeSync(file, b);
    hash.update(b);
    at += b.length;
  };
  const central: Buffer[] = [];
  for (const p of parts) {
    const { pieces, crc, size, packed } = deflated(p);
    const name = Buffer.from(p.name);
    const local = Buffer.alloc(30);
    local.writeUInt32LE(0x04034b50, 0);
    local.writeUInt16LE(20, 4);
    local.writeUInt16LE(8, 8);
    local.writeUInt32LE(crc >>> 0, 14);
    local.writeUInt32LE(packed, 18);
    local.writeUInt32LE(size, 22);
    local.writeUInt16LE(name.length, 26);
    const head = Buffer.alloc(46);
    head.writeUInt32LE(0x02014b50, 0);
    head.writeUInt16LE(20, 4);
    head.writeUInt16LE(20, 6);
    local.copy(head, 8, 6, 26);
    head.writeUInt16LE(8, 10);
    head.writeUInt16LE(name.length, 28);
    head.writeUInt32LE(at, 42);
    central.push(head, name);
    put(local);
    put(name);
    for (const piece of pieces) put(piece);
  }
  const from = at;
  for (const c of central) put(c);
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(parts.length, 8);
  end.writeUInt16LE(parts.length, 10);
  end.writeUInt32LE(at - from, 12);
  end.writeUInt32LE(from, 16);
  put(end);
  closeSync(file);
  return hash.digest('hex');
}

const BOOK: readonly ZipPart[] = [
  {
    name: '[Content_Types].xml',
    end:
      '<?xml version="1.0"?><Types ' +
      'xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default ' +
      'Extension="rels" ' +
      'ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default ' +
      'Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ' +
      'ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override ' +
      'PartName="/xl/worksheets/sheet1.xml" ' +
      'ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>',
  },
  {
    name: '_rels/.rels',
    end:
      '<?xml version="1.0"?><Relationships ' +
      'xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" ' +
      'Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" ' +
      'Target="xl/workbook.xml"/></Relationships>',
  },
  {
    name: 'xl/workbook.xml',
    end:
      '<?xml version="1.0"?><workbook ' +
      'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" ' +
      'xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet ' +
      'name="One" sheetId="1" r:id="rId1"/></sheets></workbook>',
  },
  {
    name: 'xl/_rels/workbook.xml.rels',
    end:
      '<?xml version="1.0"?><Relationships ' +
      'xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" ' +
      'Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" ' +
      'Target="worksheets/sheet1.xml"/></Relationships>',
  },
];
const SHEET = {
  start:
    '<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>',
  end: '</sheetData></worksheet>',
};
const row = '<row><c t="inlineStr"><is><t>9520000000011</t></is></c><c><v>12.5</v></c></row>';

/** Workbooks that are small to send and unpack to what no machine should be asked to hold. */
export const HOSTILE = {
  '400 MB of rows': [
    ...BOOK,
    { name: 'xl/worksheets/sheet1.xml', ...SHEET, repeat: row, times: 400_000_000 / row.length },
  ],
  '1 GB of styles': [
    ...BOOK,
    {
      name: 'xl/styles.xml',
      start: '<styleSheet><cellXfs>',
      repeat: '<xf numFmtId="0"/>',
      times: 1_000_000_000 / 18,
      end: '</cellXfs></styleSheet>',
    },
    { name: 'xl/worksheets/sheet1.xml', start: SHEET.start, end: row + SHEET.end },
  ],
  'one cell of 600 MB': [
    ...BOOK,
    {
      name: 'xl/worksheets/sheet1.xml',
      start: `${SHEET.start}<row><c t="inlineStr"><is><t>`,
      repeat: 'x'.repeat(1000),
      times: 600_000,
      end: `</t></is></c></row>${SHEET.end}`,
    },
  ],
  '500 MB of shared strings': [
    ...BOOK,
    {
      name: 'xl/sharedStrings.xml',
      start: '<sst>',
      repeat: '<si><t>Bird bath</t></si>',
      times: 500_000_000 / 25,
      end: '</sst>',
    },
    { name: 'xl/worksheets/sheet1.xml', start: SHEET.start, end: row + SHEET.end },
  ],
} as const satisfies Record<string, readonly ZipPart[]>;
/** A plain workbook of two rows. */
const numbered = [1, 2]
  .map(
    (n) =>
      `<row r="${n}"><c r="A${n}" t="inlineStr"><is><t>9520000000011</t></is></c><c r="B${n}"><v>12.5</v></c></row>`,
  )
  .join('');
export const PLAIN: readonly ZipPart[] = [
  ...BOOK,
  { name: 'xl/worksheets/sheet1.xml', start: SHEET.start, end: numbered + SHEET.end },
];
