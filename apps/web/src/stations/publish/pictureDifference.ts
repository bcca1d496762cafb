/** Where two pictures of a page begin to differ, so that just that is shown. */

export interface Pixels {
  readonly width: number;
  readonly height: number;
  /** Red, green, blue and alpha of each pixel, row by row. */
  readonly data: Uint8ClampedArray;
}

/** What JPEG makes of equal pages differs by less than this in each colour, of 255. */
const NOISE = 24;

/** The first row that differs, from 0 to 1 of the first picture's height; undefined where none does. */
export function firstDifference(before: Pixels, after: Pixels): number | undefined {
  const rows = Math.min(before.height, after.height);
  for (let row = 0; row < rows; row += 1) {
    const [from, to] = [row * before.width * 4, row * after.width * 4];
    for (let at = 0; at < Math.min(before.width, after.width) * 4; at += 1) {
      if (Math.abs((before.data[from + at] ?? 0) - (after.data[to + at] ?? 0)) > NOISE) return row / before.height;
    }
  }
  return before.height === after.height ? undefined : rows / before.height;
}

/** Reads a picture of this origin. Throws where it cannot be shown. */
export async function pixelsOf(address: string): Promise<Pixels> {
  const picture = new Image();
  picture.src = address;
  await picture.decode();
  const canvas = document.createElement('canvas');
  canvas.width = picture.naturalWidth;
  canvas.height = picture.naturalHeight;
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('this browser draws nothing');
  context.drawImage(picture, 0, 0);
  return context.getImageData(0, 0, canvas.width, canvas.height);
}
