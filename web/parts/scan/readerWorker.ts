import { expose } from 'comlink';
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';

/** Reads the codes of a picture, off the page's own thread: Code 128, Data Matrix and QR, as labels of drives have them. */
const reader = {
  async read(picture: ImageData): Promise<string[]> {
    const found = await readBarcodes(picture, {
      formats: ['Code128', 'DataMatrix', 'QRCode'],
      tryHarder: true,
      maxNumberOfSymbols: 8,
    });
    return found.flatMap(({ isValid, text }) => (isValid && text !== '' ? [text] : []));
  },
};
export type CodeReader = typeof reader;

// From this server and nowhere else.
prepareZXingModule({
  overrides: { locateFile: (): string => new URL('zxing-wasm/reader/zxing_reader.wasm', import.meta.url).href },
});
expose(reader);
