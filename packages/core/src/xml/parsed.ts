/** XML by fast-xml-parser, which refuses what is nested too deeply by throwing. */
import { XMLValidator, type XMLParser } from 'fast-xml-parser';

/** Undefined for what is not well formed, defines its own terms, or is nested deeper than the parser reads. */
export function parseXml(parser: XMLParser, text: string): unknown {
  // Entities of a document's own are not read: a few of them can stand for gigabytes.
  if (/<!DOCTYPE|<!ENTITY/i.test(text)) return undefined;
  try {
    return XMLValidator.validate(text) === true ? (parser.parse(text) as unknown) : undefined;
  } catch {
    return undefined;
  }
}
