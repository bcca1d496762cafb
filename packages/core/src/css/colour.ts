/** Colours as people write them. Source: CSS Color Module Level 4, section 4. */
import { formatHex, parse, type Color } from 'culori';

/** Undefined where a text is no colour; the package throws at some numbers that are none. */
export function parseColour(text: string): Color | undefined {
  try {
    return parse(text.trim());
  } catch {
    return undefined;
  }
}

/** The colour as `#rrggbb`, without its transparency; undefined where a text is no colour. */
export function readColour(text: string): string | undefined {
  const colour = parseColour(text);
  return colour && formatHex(colour);
}
