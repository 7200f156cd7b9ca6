/**
 * Bytes in a buffer that grows. Plain letters are written by hand, so that nothing is kept of a text but its
 * bytes.
 */
import { foldText } from '../core/columns/rank.ts';

/** One number and its two halves, the lower first. */
const wide = new Float64Array(1);
const halves = new Uint32Array(wide.buffer);

export class Bytes {
  private buffer = Buffer.allocUnsafe(65_536);
  length = 0;

  private room(more: number): void {
    if (this.length + more <= this.buffer.length) return;
    const wider = Buffer.allocUnsafe(Math.max(this.buffer.length * 2, this.length + more));
    this.buffer.copy(wider, 0, 0, this.length);
    this.buffer = wider;
  }

  /** A text in UTF-8. */
  text(text: string): void {
    const n = text.length;
    this.room(3 * n);
    const { buffer, length } = this;
    let i = 0;
    for (; i < n; i++) {
      const c = text.charCodeAt(i);
      if (c > 127) break;
      buffer[length + i] = c;
    }
    this.length = i === n ? length + n : length + i + buffer.write(text.slice(i), length + i);
  }

  /** Bytes of a text that are UTF-8 already. */
  copy(bytes: Uint8Array, from: number, to: number): void {
    this.room(to - from);
    const { buffer, length } = this;
    const shift = length - from;
    for (let i = from; i < to; i++) buffer[shift + i] = bytes[i] as number;
    this.length = length + to - from;
  }

  /** The same, folded as texts are searched and ordered. */
  foldedCopy(bytes: Uint8Array, from: number, to: number): void {
    this.room(to - from);
    const { buffer, length } = this;
    const shift = length - from;
    for (let i = from; i < to; i++) {
      const c = bytes[i] as number;
      if (c > 127) {
        this.text(foldText(Buffer.from(bytes.buffer, bytes.byteOffset + from, to - from).toString('utf8')));
        return;
      }
      buffer[shift + i] = c > 64 && c < 91 ? c + 32 : c;
    }
    this.length = length + to - from;
  }

  byte(value: number): void {
    this.room(1);
    this.buffer[this.length++] = value;
  }
  /** Numbers as networks write them, the highest byte first. */
  int16(value: number): void {
    this.byte(value >> 8);
    this.byte(value);
  }
  int32(value: number): void {
    this.room(4);
    const { buffer, length } = this;
    buffer[length] = value >>> 24;
    buffer[length + 1] = value >>> 16;
    buffer[length + 2] = value >>> 8;
    buffer[length + 3] = value;
    this.length = length + 4;
  }
  float64(value: number): void {
    wide[0] = value;
    this.int32(halves[1] as number);
    this.int32(halves[0] as number);
  }
  /** A whole number from 0 to 2^53 in eight bytes. */
  int64(value: number): void {
    this.int32(Math.floor(value / 4_294_967_296));
    this.int32(value >>> 0);
  }

  /** What was written; valid until more is. */
  written(): Buffer {
    return this.buffer.subarray(0, this.length);
  }
  clear(): void {
    this.length = 0;
  }
}
