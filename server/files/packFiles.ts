/**
 * A pack of cards as a zip: `manifest.json` with what each file holds and its SHA-256, every card as a document of
 * its own, the proofs of a card as the CSV that leaves with it.
 */
import { createHash } from 'node:crypto';
import { buffer } from 'node:stream/consumers';
import Papa from 'papaparse';
import yauzl from 'yauzl';
import yazl from 'yazl';
import { cardDocument, cardKey } from '../../core/cards/schema.ts';
import type { MarketplaceCard } from '../../core/cards/rates.ts';
import { fault } from '../../core/fault.ts';
import { issuesOf } from '../../core/issues.ts';
import type { Issue } from '../../core/issues.ts';
import { readPack } from '../../core/packs/read.ts';
import type { PackRead } from '../../core/packs/read.ts';
import { MOST_CARDS, packManifest } from '../../core/packs/schema.ts';
import type { CardPack, PackManifest } from '../../core/packs/schema.ts';
import { proofsOfRows, rowsOfProofs } from '../../core/proofs/rows.ts';
import type { Proof } from '../../core/proofs/schema.ts';
import { broughtUp } from '../../core/versions.ts';

/** What a pack may unpack to, in bytes, and how many files it may have. */
export const PACK_LIMITS = { all: 40_000_000, file: 8_000_000, files: 2 * MOST_CARDS + 1 } as const;

const hashOf = (text: string | Buffer): string => createHash('sha256').update(text).digest('hex');
const json = (value: object): string => `${JSON.stringify(value, null, 2)}\n`;
/** A name of a file that every system takes, told apart by number. */
const fileName = (n: number, text: string): string =>
  `${String(n).padStart(3, '0')}-${
    text
      .normalize('NFKD')
      .replace(/[^A-Za-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 60)
      .toLowerCase() || 'card'
  }`;

/** Writes a pack as a zip. */
export async function zipOfPack(pack: CardPack): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  const files: PackManifest['files'] = [];
  pack.cards.forEach(({ kind, data, from }, i) => {
    const text = json({ format: 'bold-margin/rate-card', version: 1, kind, data });
    const path = `cards/${fileName(i + 1, `${kind} ${cardKey(kind, data)}`)}.json`;
    zip.addBuffer(Buffer.from(text), path);
    files.push({ path, holds: 'card', from, sha256: hashOf(text) });
  });
  const proofs = new Map<string, Proof[]>();
  for (const { card, proof } of pack.proofs) proofs.set(card, [...(proofs.get(card) ?? []), proof]);
  let n = 0;
  for (const [card, own] of proofs) {
    const text = `${Papa.unparse(rowsOfProofs(own))}\n`;
    const path = `proofs/${fileName(++n, card)}.csv`;
    zip.addBuffer(Buffer.from(text), path);
    files.push({ path, holds: 'proofs', card, sha256: hashOf(text) });
  }
  const { name, madeOn } = pack;
  const manifest: PackManifest = {
    format: 'bold-margin/card-pack-manifest',
    version: 1,
    name,
    madeOn,
    files,
  };
  zip.addBuffer(Buffer.from(json(manifest)), 'manifest.json');
  zip.end();
  return buffer(zip.outputStream);
}

const wrong = (path: string, ...said: Parameters<typeof fault>): PackRead => ({
  ok: false,
  issues: [{ path, ...fault(...said) }],
});

class Unpacked extends Error {
  constructor(
    readonly path: string,
    readonly code: string,
  ) {
    super(code);
  }
}

/** The files of a zip, each counted as it inflates; one that grows beyond measure is refused. */
async function unpacked(bytes: Buffer): Promise<Map<string, Buffer>> {
  const zip = await new Promise<yauzl.ZipFile>((done, failed) =>
    yauzl.fromBuffer(bytes, { lazyEntries: true }, (e, z) => (e === null ? done(z) : failed(e))),
  ).catch(() => {
    throw new Unpacked('(file)', 'notPack');
  });
  const files = new Map<string, Buffer>();
  let all = 0;
  try {
    for await (const entry of entriesOf(zip)) {
      if (entry.fileName.endsWith('/')) continue;
      if (files.size >= PACK_LIMITS.files) throw new Unpacked('(file)', 'packTooManyCards');
      const body = await inflated(zip, entry, Math.min(PACK_LIMITS.file, PACK_LIMITS.all - all));
      all += body.length;
      files.set(entry.fileName, body);
    }
  } finally {
    zip.close();
  }
  return files;
}

async function* entriesOf(zip: yauzl.ZipFile): AsyncGenerator<yauzl.Entry> {
  for (;;) {
    const entry = await new Promise<yauzl.Entry | null>((done, failed) => {
      zip.removeAllListeners('entry').removeAllListeners('end').removeAllListeners('error');
      zip.once('entry', done);
      zip.once('end', () => done(null));
      zip.once('error', () => failed(new Unpacked('(file)', 'notPack')));
      zip.readEntry();
    });
    if (entry === null) return;
    yield entry;
  }
}

function inflated(zip: yauzl.ZipFile, entry: yauzl.Entry, most: number): Promise<Buffer> {
  return new Promise((done, failed) => {
    zip.openReadStream(entry, (e, stream) => {
      if (e !== null) return failed(new Unpacked(entry.fileName, 'notPack'));
      const pieces: Buffer[] = [];
      let length = 0;
      stream.on('error', () => failed(new Unpacked(entry.fileName, 'notPack')));
      stream.on('end', () => done(Buffer.concat(pieces)));
      stream.on('data', (piece: Buffer) => {
        length += piece.length;
        if (length <= most) pieces.push(piece);
        else {
          stream.destroy();
          failed(new Unpacked(entry.fileName, 'packUnpacks'));
        }
      });
    });
  });
}

/**
 * Reads a pack from the bytes of a file: the zip with its manifest, or the one JSON document. Total: what is
 * wrong is named by file, and by row and column where it has these.
 */
export async function packOfFile(bytes: Buffer): Promise<PackRead> {
  // A zip begins with "PK".
  if (bytes.subarray(0, 2).toString('latin1') !== 'PK') {
    const document = parsed(bytes);
    return document === undefined ? wrong('(document)', 'notPack') : readPack(document);
  }
  try {
    return packOfFiles(await unpacked(bytes));
  } catch (e) {
    if (e instanceof Unpacked) return wrong(e.path, e.code);
    throw e;
  }
}

function parsed(bytes: Buffer): unknown {
  try {
    return JSON.parse(bytes.toString('utf8').replace(/^\ufeff/, ''));
  } catch {
    return undefined;
  }
}

/** The pack that the files of a zip make; every file must be in the manifest, as it was when the pack was made. */
function packOfFiles(files: ReadonlyMap<string, Buffer>): PackRead {
  const manifest = packManifest.safeParse(parsed(files.get('manifest.json') ?? Buffer.alloc(0)));
  if (!manifest.success)
    return files.has('manifest.json')
      ? {
          ok: false,
          issues: issuesOf(manifest.error).map((i) => ({ ...i, path: `manifest.json, ${i.path}` })),
        }
      : wrong('manifest.json', 'packNoManifest');
  const { name, madeOn, files: listed } = manifest.data;
  const issues: Issue[] = [];
  for (const path of files.keys())
    if (path !== 'manifest.json' && !listed.some((f) => f.path === path))
      issues.push({ path, ...fault('packNotListed') });
  const cards: unknown[] = [];
  const proofs: unknown[] = [];
  const marketplaces = new Map<string, MarketplaceCard>();
  for (const f of listed) {
    const body = files.get(f.path);
    if (body === undefined || hashOf(body) !== f.sha256)
      issues.push({ path: f.path, ...fault(body === undefined ? 'packFileMissing' : 'packFileChanged') });
    else if (f.holds === 'card') {
      const card = cardDocument.safeParse(broughtUp(parsed(body)));
      if (!card.success)
        issues.push(...issuesOf(card.error).map((i) => ({ ...i, path: `${f.path}, ${i.path}` })));
      else {
        const { kind, data } = card.data;
        cards.push({ kind, data, from: f.from });
        if (kind === 'marketplace') marketplaces.set(cardKey(kind, data), data as MarketplaceCard);
      }
    }
  }
  for (const f of listed) {
    const card = f.holds === 'proofs' ? marketplaces.get(f.card) : undefined;
    if (f.holds !== 'proofs' || issues.length > 0) continue;
    if (card === undefined) {
      issues.push({ path: f.path, ...fault('packProofOfNone') });
      continue;
    }
    const { data } = Papa.parse<string[]>((files.get(f.path) as Buffer).toString('utf8').trim());
    const read = proofsOfRows(data, card);
    proofs.push(...read.proofs.map((p) => ({ card: f.card, proof: p })));
    issues.push(
      ...read.wrong.map(({ row, column, ...what }) => ({
        path: [f.path, `row ${row}`, column].filter((x) => x !== null).join(', '),
        ...what,
      })),
    );
  }
  return issues.length > 0
    ? { ok: false, issues: issues.slice(0, 100) }
    : readPack({ format: 'bold-margin/card-pack', version: 1, name, madeOn, cards, proofs });
}
