/** A page's planned lines as edits of its source: what stands there is changed in its place, what is missing is added. */
import {
  readAttribute,
  editAttributes,
  walkElements,
  escapeAttribute,
  findFirstElement,
  findHeadEnd,
  findHeadOpening,
  findHeadStart,
  isHtml,
  editTitle,
  type Edit,
  type Element,
  type PageDocument,
} from '../html/index.ts';
import type { PlannedLine } from './effective.ts';
import { escapeScriptText } from './jsonLd.ts';
import { isProperty, readLine, type LineName } from './lines.ts';

export function editHead(document: PageDocument, plan: readonly PlannedLine[]): Edit[] {
  if (plan.length === 0) return [];
  const ownLinesThere = findOwnElements(document, new Set(plan.map(({ name }) => name)));
  const edits: Edit[] = [];
  const added: string[] = [];
  const last: string[] = [];
  const replaced = new Set<LineName>();
  const slash = hasSlashes(document) ? ' /' : '';
  for (const line of plan) {
    const { name, text } = line;
    if (name === 'title') {
      if (text !== false) edits.push(editTitle(document, text));
      continue;
    }
    if (name === 'language') {
      if (text !== false) edits.push(...editLanguage(document, text));
      continue;
    }
    if (name.startsWith('json:')) {
      if (text !== false)
        last.push(
          `<script type="application/ld+json">\n${escapeScriptText(text, document.source.encoding)}\n</script>`,
        );
      continue;
    }
    if (name === 'code:head') {
      if (text !== false) last.push(text.trim());
      continue;
    }
    if (name === 'code:end') {
      if (text !== false) edits.push(editBodyEnd(document, text.trim()));
      continue;
    }
    const [first, ...others] = replaced.has(name) ? [] : (ownLinesThere.get(name) ?? []);
    replaced.add(name);
    for (const element of text === false && first ? [first, ...others] : others)
      edits.push(...editRemoval(document, element));
    if (text === false) continue;
    // Links may have to say more than their address, and icons come several to a name.
    if (first && line.attributes === undefined)
      edits.push(...editAttributes(first, { [name.startsWith('meta:') ? 'content' : 'href']: text }));
    else {
      if (first) edits.push(...editRemoval(document, first));
      added.push(writeElement(line, text, slash));
    }
  }
  const at = findHeadLinesEnd(document);
  const newline = findLineBreak(document);
  if (added.length > 0)
    edits.push({ start: at, end: at, text: added.map((each) => newline + indentAt(document, at) + each).join('') });
  const end = findHeadEnd(document);
  if (last.length > 0) edits.push({ start: end, end, text: last.map((each) => each + newline).join('') });
  return edits;
}

function findOwnElements({ root }: PageDocument, names: ReadonlySet<LineName>): Map<LineName, Element[]> {
  const out = new Map<LineName, Element[]>();
  for (const element of walkElements(root)) {
    const line = readLine(element);
    if (!line || !names.has(line.name) || !element.sourceCodeLocation) continue;
    const known = out.get(line.name);
    if (known) known.push(element);
    else out.set(line.name, [element]);
  }
  return out;
}

function writeElement({ name, attributes }: PlannedLine, text: string, slash: string): string {
  const value = escapeAttribute(text);
  if (name.startsWith('meta:')) {
    const key = name.slice('meta:'.length);
    return `<meta ${isProperty(key) ? 'property' : 'name'}="${escapeAttribute(key)}" content="${value}"${slash}>`;
  }
  const [, relation = ''] = name.split(':');
  const more = Object.entries(attributes ?? {})
    .map(([key, each]) => ` ${key}="${escapeAttribute(each)}"`)
    .join('');
  return `<link rel="${escapeAttribute(relation)}"${more} href="${value}"${slash}>`;
}

/** The element with the white space before it, where it has a line of its own. */
function editRemoval({ source: { text } }: PageDocument, { sourceCodeLocation: location }: Element): Edit[] {
  if (!location) return [];
  let start = location.startOffset;
  while (text[start - 1] === ' ' || text[start - 1] === '\t') start -= 1;
  if (text[start - 1] !== '\n') return [{ start: location.startOffset, end: location.endOffset, text: '' }];
  start -= text[start - 2] === '\r' ? 2 : 1;
  return [{ start, end: location.endOffset, text: '' }];
}

function editLanguage(document: PageDocument, tag: string): Edit[] {
  const html = findFirstElement(document, 'html');
  if (html?.sourceCodeLocation?.startTag)
    return editAttributes(
      html,
      readAttribute(html, 'xml:lang') === undefined ? { lang: tag } : { lang: tag, 'xml:lang': tag },
    );
  const at = findHeadOpening(document);
  return [{ start: at, end: at, text: `<html lang="${escapeAttribute(tag)}">` }];
}

/** Behind the title, where people look for such lines; where there is none, behind the character set. */
function findHeadLinesEnd(document: PageDocument): number {
  const head = findFirstElement(document, 'head');
  for (const element of walkElements(document.root)) {
    if (element.tagName === 'title' && isHtml(element)) {
      const location = element.sourceCodeLocation;
      return location?.endTag && element.parentNode === head ? location.endOffset : findHeadStart(document);
    }
  }
  return findHeadStart(document);
}

/** Before the end of the body, else at the end of the page. */
function editBodyEnd(document: PageDocument, text: string): Edit {
  const at =
    findFirstElement(document, 'body')?.sourceCodeLocation?.endTag?.startOffset ??
    findFirstElement(document, 'html')?.sourceCodeLocation?.endTag?.startOffset ??
    document.source.text.length;
  return { start: at, end: at, text: text + findLineBreak(document) };
}

/** As the page itself writes its lines. */
function findLineBreak({ source: { text } }: PageDocument): string {
  const at = text.indexOf('\n');
  return at > 0 && text[at - 1] === '\r' ? '\r\n' : '\n';
}

function indentAt({ source: { text } }: PageDocument, at: number): string {
  return /(?:^|\n)([ \t]*)[^\n]*$/.exec(text.slice(0, at))?.[1] ?? '';
}

/** Pages that close empty elements may be read as XML by somebody. */
function hasSlashes({ source: { text } }: PageDocument): boolean {
  return /<(?:meta|link)\b[^>]*\/>/i.test(text.slice(0, 20_000));
}
