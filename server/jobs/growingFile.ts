/** A CSV file that is written while it is read. */
import { appendFile, mkdir, stat, truncate } from 'node:fs/promises';
import { dirname } from 'node:path';
import Papa from 'papaparse';

type Row = readonly (string | number | null)[];

/** A file that rows are added to, of which so many bytes count. */
export class GrowingFile {
  private waiting: Row[] = [];
  constructor(
    readonly path: string,
    private counted: number,
  ) {}

  /** Bytes that count: everything that was written. */
  get bytes(): number {
    return this.counted;
  }

  /** Cuts off what a worker wrote that was stopped before it counted; a new file gets its head. */
  async begin(head: readonly string[]): Promise<void> {
    await mkdir(dirname(this.path), { recursive: true });
    const has = (await stat(this.path).catch(() => null))?.size ?? 0;
    if (has > this.counted) await truncate(this.path, this.counted);
    if (this.counted === 0) this.add(head);
    await this.write();
  }

  add(row: Row): void {
    this.waiting.push(row);
  }

  async write(): Promise<void> {
    if (this.waiting.length === 0) return;
    const text = `${Papa.unparse(this.waiting as unknown[][], { newline: '\r\n' })}\r\n`;
    await appendFile(this.path, text);
    this.counted += Buffer.byteLength(text);
    this.waiting = [];
  }
}
