/** Pages of a PDF document as pictures, for places in which no browser shows the document itself. */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Canvas } from '@napi-rs/canvas';

export interface DocumentToShow {
  readonly bytes: Uint8Array;
  /** Of each picture, in pixels. */
  readonly widthPx: number;
  readonly mostPages: number;
}

export interface ShownDocument {
  readonly pagesInAll: number;
  /** The first pages, each a PNG. */
  readonly pictures: readonly Uint8Array[];
}

/** Longer pages, such as a roll of paper, are cut. */
const MOST_HEIGHT_TO_WIDTH = 4;

/** @returns undefined where it cannot be read: no such document, or one that asks for a password */
export async function drawDocumentPages({
  bytes,
  widthPx,
  mostPages,
}: DocumentToShow): Promise<ShownDocument | undefined> {
  // Large, and seldom needed.
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const folder = dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));
  const loading = getDocument({
    // Taken over by the reader, so it gets bytes of its own.
    data: new Uint8Array(bytes),
    standardFontDataUrl: `${join(folder, 'standard_fonts')}/`,
    cMapUrl: `${join(folder, 'cmaps')}/`,
    cMapPacked: true,
    isEvalSupported: false,
    useSystemFonts: false,
    disableFontFace: true,
    verbosity: 0,
  });
  try {
    const document = await loading.promise;
    const factory = document.canvasFactory as { create(width: number, height: number): { canvas: Canvas } };
    const pictures: Uint8Array[] = [];
    for (let number = 1; number <= Math.min(document.numPages, mostPages); number += 1) {
      const page = await document.getPage(number);
      const viewport = page.getViewport({ scale: widthPx / page.getViewport({ scale: 1 }).width });
      const height = Math.ceil(Math.min(viewport.height, widthPx * MOST_HEIGHT_TO_WIDTH));
      const { canvas } = factory.create(widthPx, Math.max(1, height));
      await page.render({ canvas: canvas as unknown as HTMLCanvasElement, viewport }).promise;
      pictures.push(canvas.toBuffer('image/png'));
      page.cleanup();
    }
    return { pagesInAll: document.numPages, pictures };
  } catch {
    return undefined;
  } finally {
    await loading.destroy();
  }
}
