/** Colours as people write them. Source: CSS Color Module Level 4, section 4. */
import { formatHex, parse } from 'culori';

/** The colour as `#rrggbb`, without its transparency; undefined where a text is no colour. */
export function readColour(text: string): string | undefined {
  const colour = parse(text.trim());
  return colour && formatHex(colour);
}
