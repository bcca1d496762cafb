/** What differs between two pictures of a page, so that just that is shown, and marked. */
import { say } from './words.ts';

export interface Pixels {
  readonly width: number;
  readonly height: number;
  /** Red, green, blue and alpha of each pixel, row by row. */
  readonly data: Uint8ClampedArray;
}

/** What JPEG makes of equal pages differs by less than this in each colour, of 255. */
const NOISE = 24;

/** In pixels of its picture. */
export interface Part {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** Differences nearer to each other than this are one: a word, not its letters. */
const CELL = 16;

/**
 * The parts in which two pictures differ. Rows that are the same at the top and at the bottom are passed over, so that
 * what only moved down is not marked; where what is between has another height, it is one part in each.
 */
export function findDifferingParts(
  before: Pixels,
  after: Pixels,
): { readonly before: readonly Part[]; readonly after: readonly Part[] } {
  const rows = Math.min(before.height, after.height);
  let top = 0;
  while (top < rows && isSameRow(before, top, after, top)) top += 1;
  let bottom = 0;
  while (bottom < rows - top && isSameRow(before, before.height - 1 - bottom, after, after.height - 1 - bottom))
    bottom += 1;
  const between = ({ width, height }: Pixels): Part => ({ left: 0, top, width, height: height - bottom - top });
  if (before.height !== after.height || before.width !== after.width)
    return { before: [between(before)].filter(isSeen), after: [between(after)].filter(isSeen) };
  const parts = joinCells(before, after, between(before));
  return { before: parts, after: parts };
}

const isSeen = ({ width, height }: Part): boolean => width > 0 && height > 0;

function isSameRow(before: Pixels, row: number, after: Pixels, otherRow: number): boolean {
  if (before.width !== after.width) return false;
  const [from, to] = [row * before.width * 4, otherRow * after.width * 4];
  for (let at = 0; at < before.width * 4; at += 1)
    if (Math.abs((before.data[from + at] ?? 0) - (after.data[to + at] ?? 0)) > NOISE) return false;
  return true;
}

/** Cells that differ and touch each other, by their sides or corners, make one part. */
function joinCells(before: Pixels, after: Pixels, within: Part): Part[] {
  const columns = Math.ceil(before.width / CELL);
  const differing = new Set<number>();
  for (let row = within.top; row < within.top + within.height; row += 1) {
    for (let column = 0; column < before.width; column += 1) {
      const at = (row * before.width + column) * 4;
      for (let channel = 0; channel < 4; channel += 1) {
        if (Math.abs((before.data[at + channel] ?? 0) - (after.data[at + channel] ?? 0)) > NOISE)
          differing.add(Math.floor(row / CELL) * columns + Math.floor(column / CELL));
      }
    }
  }
  const parts: Part[] = [];
  for (const first of differing) {
    differing.delete(first);
    const waiting = [first];
    let [left, top, right, bottom] = [columns, Infinity, 0, 0];
    for (let cell = waiting.pop(); cell !== undefined; cell = waiting.pop()) {
      const [x, y] = [cell % columns, Math.floor(cell / columns)];
      [left, top, right, bottom] = [Math.min(left, x), Math.min(top, y), Math.max(right, x), Math.max(bottom, y)];
      for (const [dx, dy] of [
        [-1, -1],
        [0, -1],
        [1, -1],
        [-1, 0],
        [1, 0],
        [-1, 1],
        [0, 1],
        [1, 1],
      ] as const) {
        const near = (y + dy) * columns + x + dx;
        if (x + dx >= 0 && x + dx < columns && differing.delete(near)) waiting.push(near);
      }
    }
    parts.push({
      left: left * CELL,
      top: top * CELL,
      width: Math.min((right + 1) * CELL, before.width) - left * CELL,
      height: Math.min((bottom + 1) * CELL, before.height) - top * CELL,
    });
  }
  return parts.sort((a, b) => a.top - b.top || a.left - b.left);
}

const LINE_PX = 4;
/** Around a part, so that the frame hides nothing of it. */
const AIR_PX = 6;

/** The picture with its parts framed, as a data address: the only made ones that the page may show. */
export function markParts({ width, height, data }: Pixels, parts: readonly Part[]): string {
  const { canvas, context } = createDrawing(width, height);
  context.putImageData(new ImageData(new Uint8ClampedArray(data), width, height), 0, 0);
  context.strokeStyle = getComputedStyle(document.documentElement).getPropertyValue('--ochre').trim();
  context.lineWidth = LINE_PX;
  for (const { left, top, width: across, height: down } of parts)
    context.strokeRect(left - AIR_PX, top - AIR_PX, across + 2 * AIR_PX, down + 2 * AIR_PX);
  return canvas.toDataURL();
}

/** Reads a picture of this origin. Throws where it cannot be shown. */
export async function readPixels(address: string): Promise<Pixels> {
  const picture = new Image();
  picture.src = address;
  await picture.decode();
  const { canvas, context } = createDrawing(picture.naturalWidth, picture.naturalHeight);
  context.drawImage(picture, 0, 0);
  return context.getImageData(0, 0, canvas.width, canvas.height);
}

function createDrawing(
  width: number,
  height: number,
): { readonly canvas: HTMLCanvasElement; readonly context: CanvasRenderingContext2D } {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width, height];
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error(say('pictureDifference.thisBrowserDrawsNothing'));
  return { canvas, context };
}
