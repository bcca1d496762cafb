/** The head of a page as its source, line by line. */
import { walkElements, findFirstElement, collectText, type Element, type PageDocument } from '../html/index.ts';
import { readLine, type LineName } from './lines.ts';

export interface SourceLine {
  /** As it stands in the source. */
  readonly source: string;
  /** Undefined for what has no name here: scripts, style sheets and so on. */
  readonly name: LineName | undefined;
  readonly text: string;
}

const MOST_LETTERS = 4000;

/** Elements directly in the head in tree order, after the start tag of `<html>`, which holds the language. */
export function readHeadSource(document: PageDocument): SourceLine[] {
  const {
    source: { text },
  } = document;
  const html = findFirstElement(document, 'html');
  const head = findFirstElement(document, 'head');
  const out: SourceLine[] = [];
  const tag = html?.sourceCodeLocation?.startTag;
  if (html && tag)
    out.push({
      source: text.slice(tag.startOffset, tag.endOffset),
      name: 'language',
      text: html.attrs.find(({ name }) => name === 'lang')?.value ?? '',
    });
  if (!head) return out;
  for (const element of walkElements(head)) {
    const location = element.sourceCodeLocation;
    if (element === head || element.parentNode !== head || !location) continue;
    const line = nameLine(element);
    const source = text.slice(location.startOffset, location.endOffset);
    out.push({
      source: source.length > MOST_LETTERS ? `${source.slice(0, MOST_LETTERS)} …` : source,
      name: line?.name,
      text: line?.text ?? '',
    });
  }
  return out;
}

function nameLine(element: Element): { readonly name: LineName; readonly text: string } | undefined {
  if (element.tagName === 'title') return { name: 'title', text: collectText(element) };
  if (element.tagName !== 'script') return readLine(element);
  return element.attrs.some(
    ({ name, value }) => name === 'type' && value.trim().toLowerCase() === 'application/ld+json',
  )
    ? { name: 'json', text: readScriptText(element) }
    : undefined;
}

/** What a script holds is no text of the page. */
function readScriptText({ childNodes: [only] }: Element): string {
  return only && 'value' in only ? only.value : '';
}
