/** The reader of barcodes: a worker that is loaded at the first scan and stays. */
import { wrap } from 'comlink';
import { codesSeen } from '../../../core/goods/seen.ts';
import type { CodesSeen } from '../../../core/goods/seen.ts';
import type { ScanWork } from './scan.worker.ts';

let reader: Promise<ReturnType<typeof wrap<ScanWork>>> | null = null;

const open = () =>
  new Promise<ReturnType<typeof wrap<ScanWork>>>((resolve, reject) => {
    const worker = new Worker(new URL('./scan.worker.ts', import.meta.url), { type: 'module' });
    worker.onerror = () => reject(new Error('scanner'));
    resolve(wrap<ScanWork>(worker));
  });

/** The barcodes in a picture; null: the reader could not be loaded. */
export async function readPicture(picture: ImageBitmap | Blob): Promise<CodesSeen | null> {
  reader ??= open();
  try {
    return codesSeen(await (await reader).read(picture));
  } catch {
    reader = null;
    return null;
  }
}
