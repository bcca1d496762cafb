/** Whether an SVG is safe to be shown as a picture of its own. Source: SVG 2, sections 2.2 and 5.7 to 5.9. */
import { XMLParser } from 'fast-xml-parser';
import { parsedXml } from '../xml/parsed.ts';

type Node = Readonly<Record<string, unknown>>;

/** Elements that run script, or show what is not a drawing. */
const REFUSED = new Set(['script', 'foreignobject', 'iframe', 'object', 'embed', 'audio', 'video', 'handler']);
const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  removeNSPrefix: true,
  processEntities: { enabled: false },
});

/** Why it is not taken, in words; undefined where it is. Scripts, and whatever is loaded from elsewhere, never are. */
export function svgFault(text: string): string | undefined {
  if (/<!ENTITY/i.test(text)) return 'the SVG defines entities of its own. Save it anew as plain SVG';
  // The line that older tools write is harmless by itself; entities were looked for above.
  const parsed = parsedXml(parser, text.replace(/<!DOCTYPE[^>[]*>/i, ''));
  if (!Array.isArray(parsed)) return 'the SVG is damaged. Save it anew as plain SVG';
  const waiting = [...(parsed as Node[])];
  for (let node = waiting.pop(); node !== undefined; node = waiting.pop()) {
    for (const [key, value] of Object.entries(node)) {
      if (key === ':@') {
        const fault = attributeFault(value as Node);
        if (fault !== undefined) return fault;
      }
      if (REFUSED.has(key.toLowerCase()))
        return `the SVG holds a <${key}>, which could act on whoever looks at it. Take it out and save it as plain SVG`;
      if (key.toLowerCase() === 'style' && /@import|url\(\s*["']?(?!#|data:)/i.test(JSON.stringify(value)))
        return 'the SVG loads something from elsewhere. Embed it, or take it out';
      if (Array.isArray(value)) waiting.push(...(value as Node[]));
    }
  }
  return undefined;
}

function attributeFault(attributes: Node): string | undefined {
  for (const [name, value] of Object.entries(attributes)) {
    const text = String(value).trim();
    if (/^on/i.test(name)) return `the SVG holds script (${name}). Take it out and save it as plain SVG`;
    if (/^href$/i.test(name) && text !== '' && !text.startsWith('#') && !/^data:image\/(png|jpeg|gif|webp)/i.test(text))
      return 'the SVG refers to something outside itself. Embed it, or take it out';
    if (/url\(\s*["']?(?!#|data:)/i.test(text) && name.toLowerCase() !== 'd')
      return 'the SVG loads something from elsewhere. Embed it, or take it out';
  }
  return undefined;
}
