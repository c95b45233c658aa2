import type { Result } from '@zxing/library';
import { symbolText } from '../../core/gs1/symbol-text.ts';

/** Longer pictures are made smaller: a symbol that fills a tenth of one is still read. */
const MOST_PIXELS = 1_600;
const BETWEEN_LOOKS_MS = 120;

/** Reads symbols from pictures and from a camera. Its code is large and only comes when it is used. */
export async function cameraReader() {
  const [{ BrowserMultiFormatReader }, { BarcodeFormat, DecodeHintType }] = await Promise.all([
    import('@zxing/browser'),
    import('@zxing/library')
  ]);
  const formats = [
    BarcodeFormat.DATA_MATRIX,
    BarcodeFormat.QR_CODE,
    BarcodeFormat.CODE_128,
    BarcodeFormat.EAN_13,
    BarcodeFormat.UPC_A,
    BarcodeFormat.ITF,
    BarcodeFormat.CODE_39
  ];
  const hints = new Map<number, unknown>([
    [DecodeHintType.POSSIBLE_FORMATS, formats],
    [DecodeHintType.ASSUME_GS1, true],
    [DecodeHintType.TRY_HARDER, true]
  ]);
  const reader = new BrowserMultiFormatReader(hints, {
    delayBetweenScanAttempts: BETWEEN_LOOKS_MS,
    delayBetweenScanSuccess: BETWEEN_LOOKS_MS
  });
  const textOf = (result: Result): string =>
    symbolText(result.getBarcodeFormat() === BarcodeFormat.DATA_MATRIX, result.getText());

  return {
    /** What a picture shows; null where there is no symbol, or none that can be read. */
    async readPicture(picture: Blob): Promise<string | null> {
      const canvas = await drawn(picture);
      try {
        return textOf(reader.decodeFromCanvas(canvas));
      } catch {
        return null;
      }
    },
    /**
     * Looks through the back camera until it is ended.
     * @param seen is told of every look: what it saw, or null
     * @returns ends it
     */
    async watch(video: HTMLVideoElement, seen: (text: string | null) => void): Promise<() => void> {
      const wanted = { video: { facingMode: 'environment', width: { ideal: 1280 } } };
      const controls = await reader.decodeFromConstraints(wanted, video, (result) => {
        seen(result ? textOf(result) : null);
      });
      return () => controls.stop();
    }
  };
}

/** A picture on a canvas, no larger than is of use. @throws where it is none */
async function drawn(picture: Blob): Promise<HTMLCanvasElement> {
  const bitmap = await createImageBitmap(picture);
  const scale = Math.min(1, MOST_PIXELS / Math.max(bitmap.width, bitmap.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(bitmap.width * scale);
  canvas.height = Math.round(bitmap.height * scale);
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  return canvas;
}
