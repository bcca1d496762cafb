/** The size of a picture in CSS pixels, from its own bytes. */
import { imageSize } from 'image-size';

export interface PictureSize {
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Undefined where the bytes are no picture of a known kind, or a broken one. */
export function readPictureSize(bytes: Uint8Array): PictureSize | undefined {
  try {
    const { width, height, orientation } = imageSize(bytes);
    if (!(width > 0 && height > 0)) return undefined;
    // From 5 on the picture is stored lying on its side (Exif 2.3, tag 0x0112).
    const isTurned = orientation !== undefined && orientation >= 5;
    return isTurned ? { widthPx: height, heightPx: width } : { widthPx: width, heightPx: height };
  } catch {
    return undefined;
  }
}
