/** Contrast of two colours. Source: WCAG 2.2, definitions of "relative luminance" and "contrast ratio". */

/** Each part from 0 to 1, in sRGB. */
export interface Rgb {
  readonly r: number;
  readonly g: number;
  readonly b: number;
}

export interface Rgba extends Rgb {
  readonly alpha: number;
}

export function computeRelativeLuminance({ r, g, b }: Rgb): number {
  const linear = (part: number) => (part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4);
  return 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b);
}

/** From 1 to 21. */
export function computeContrastRatio(a: Rgb, b: Rgb): number {
  const [light, dark] = [computeRelativeLuminance(a), computeRelativeLuminance(b)].sort((x, y) => y - x) as [
    number,
    number,
  ];
  return (light + 0.05) / (dark + 0.05);
}

/** What is seen of a colour that lets the one behind it through (CSS Compositing 1, "simple alpha compositing"). */
export function blendOver(front: Rgba, back: Rgb): Rgb {
  const mix = (x: number, y: number) => x * front.alpha + y * (1 - front.alpha);
  return { r: mix(front.r, back.r), g: mix(front.g, back.g), b: mix(front.b, back.b) };
}

/**
 * The least ratio for text of a size (WCAG 2.2, success criterion 1.4.3): 3 for large text, which is 18
 * point, or 14 point and bold; 4.5 for all other. A point is 4/3 of a CSS pixel.
 */
export function requireRatio(sizePx: number, isBold: boolean): number {
  return sizePx >= 24 || (isBold && sizePx >= 18.66) ? 3 : 4.5;
}
