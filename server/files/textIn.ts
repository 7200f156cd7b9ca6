/** Text files of whatever encoding, as a stream of text in constant memory. */
import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { Readable } from 'node:stream';

export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';

/**
 * The encoding by its byte-order mark; without one UTF-8 where the first bytes are that, else Windows-1252.
 * Null: not text.
 */
export function sniffEncoding(head: Uint8Array): Encoding | null {
  if (head[0] === 0xef && head[1] === 0xbb && head[2] === 0xbf) return 'utf-8';
  if (head[0] === 0xff && head[1] === 0xfe) return 'utf-16le';
  if (head[0] === 0xfe && head[1] === 0xff) return 'utf-16be';
  let zeros = 0;
  let odd = 0;
  for (let i = 0; i < head.length; i++)
    if (head[i] === 0) {
      zeros++;
      if (i % 2 === 1) odd++;
    }
  // Every other byte is zero in UTF-16 of western text; scattered control bytes are no text at all.
  if (zeros > head.length / 4) return odd > zeros * 0.9 ? 'utf-16le' : odd < zeros * 0.1 ? 'utf-16be' : null;
  let control = 0;
  for (const b of head) if (b < 9 || (b > 13 && b < 32)) control++;
  if (control > head.length / 50) return null;
  try {
    // A character may be cut off at the end of what was read.
    new TextDecoder('utf-8', { fatal: true }).decode(head.subarray(0, Math.max(0, head.length - 3)), {
      stream: true,
    });
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}

export type TextIn = { readonly encoding: Encoding; readonly text: Readable };

/** Opens a text file, `skip` characters past its beginning. NULs, which no screen or database takes, are left out. */
export async function textIn(path: string, skip = 0): Promise<TextIn | 'empty' | 'notText'> {
  const file = await open(path);
  const head = Buffer.alloc(65_536);
  const { bytesRead } = await file.read(head, 0, head.length, 0).finally(() => file.close());
  if (bytesRead === 0) return 'empty';
  if (head[0] === 0x50 && head[1] === 0x4b && head[2] === 3 && head[3] === 4) return 'notText';
  const encoding = sniffEncoding(head.subarray(0, bytesRead));
  if (encoding === null) return 'notText';
  const decoder = new TextDecoder(encoding, { ignoreBOM: false });
  async function* decoded(): AsyncGenerator<string> {
    let left = skip;
    const from = (raw: string): string => {
      const text = raw.includes('\0') ? raw.replaceAll('\0', '') : raw;
      if (left === 0) return text;
      const past = text.slice(left);
      left = Math.max(0, left - text.length);
      return past;
    };
    for await (const bytes of createReadStream(path, { highWaterMark: 65_536 })) {
      const text = from(decoder.decode(bytes as Buffer, { stream: true }));
      if (text !== '') yield text;
    }
    const rest = from(decoder.decode());
    if (rest !== '') yield rest;
  }
  return { encoding, text: Readable.from(decoded(), { objectMode: true, highWaterMark: 2 }) };
}
