/** Whether an SVG is safe to be shown as a picture of its own. Source: SVG 2, sections 2.2 and 5.7 to 5.9. */
import { XMLParser } from 'fast-xml-parser';
import { parseXml } from '../xml/parsed.ts';
import { svgFault, type SvgFault } from './messages.ts';

type Node = Readonly<Record<string, unknown>>;

/** Elements that run script, or show what is not a drawing. */
const REFUSED = new Set(['script', 'foreignobject', 'iframe', 'object', 'embed', 'audio', 'video', 'handler']);
/** Anything but an element of its own, or what is written out in place; in JSON a quotation mark has a backslash. */
const LOADS = /url\((?!\s*\\?["']?\s*(?:#|data:))/i;
const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  removeNSPrefix: true,
  processEntities: { enabled: false },
});

/** Why it is not taken; undefined where it is. Scripts, and whatever is loaded from elsewhere, never are. */
export function checkSvg(text: string): SvgFault | undefined {
  if (/<!ENTITY/i.test(text)) return svgFault('entities');
  // The line that older tools write is harmless by itself; entities were looked for above.
  const parsed = parseXml(parser, text.replace(/<!DOCTYPE[^>[]*>/i, ''));
  if (!Array.isArray(parsed)) return svgFault('damaged');
  const waiting = [...(parsed as Node[])];
  for (let node = waiting.pop(); node !== undefined; node = waiting.pop()) {
    for (const [key, value] of Object.entries(node)) {
      if (key === ':@') {
        const fault = findAttributeFault(value as Node);
        if (fault !== undefined) return fault;
      }
      if (REFUSED.has(key.toLowerCase())) return svgFault('acts', { element: `<${key}>` });
      if (
        key.toLowerCase() === 'style' &&
        (/@import/i.test(JSON.stringify(value)) || LOADS.test(JSON.stringify(value)))
      )
        return svgFault('loads');
      if (Array.isArray(value)) waiting.push(...(value as Node[]));
    }
  }
  return undefined;
}

function findAttributeFault(attributes: Node): SvgFault | undefined {
  for (const [name, value] of Object.entries(attributes)) {
    const text = String(value).trim();
    if (/^on/i.test(name)) return svgFault('script', { attribute: name });
    if (/^href$/i.test(name) && text !== '' && !text.startsWith('#') && !/^data:image\/(png|jpeg|gif|webp)/i.test(text))
      return svgFault('refers');
    if (LOADS.test(text) && name.toLowerCase() !== 'd') return svgFault('loads');
  }
  return undefined;
}
