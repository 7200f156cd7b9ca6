/** Reads barcodes in pictures, apart from the screen. The reader (WebAssembly) is loaded here, at the first scan. */
import { expose } from 'comlink';
import { BarcodeDetector, prepareZXingModule } from 'barcode-detector/ponyfill';
import readerFile from 'zxing-wasm/reader/zxing_reader.wasm?url';

// Shipped with the application; nothing is fetched from elsewhere.
prepareZXingModule({ overrides: { locateFile: () => readerFile } });
const detector = new BarcodeDetector({
  formats: ['ean_13', 'ean_8', 'upc_a', 'upc_e', 'itf', 'code_128', 'code_39', 'data_matrix', 'qr_code'],
});
export type Seen = { readonly format: string; readonly text: string };

const work = {
  /** Every barcode in a picture. */
  async read(picture: ImageBitmap | Blob): Promise<Seen[]> {
    const found = await detector.detect(picture);
    if (picture instanceof ImageBitmap) picture.close();
    return found.map((b) => ({ format: b.format, text: b.rawValue }));
  },
};
export type ScanWork = typeof work;
expose(work);
