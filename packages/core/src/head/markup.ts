/** Code that others want on a page: a statistics script, a line that proves who owns the site. */
import { markup, type MarkupMessage } from './markupMessages.ts';
import { parseFragment, type DefaultTreeAdapterMap, type ParserError } from 'parse5';

type Node = DefaultTreeAdapterMap['childNode'];

/** What may stand in a head (HTML standard, section 4.2.1, metadata content); anything else would end it. */
const IN_HEAD = new Set(['script', 'noscript', 'meta', 'link', 'style', 'template', 'base']);
/** Faults that change what follows on the page. */
const OPEN = new Set([
  'eof-in-tag',
  'eof-in-comment',
  'eof-in-script-html-comment-like-text',
  'eof-before-tag-name',
  'eof-in-element-that-can-contain-only-text',
]);
const VOID = new Set([
  'meta',
  'link',
  'base',
  'img',
  'br',
  'hr',
  'input',
  'source',
  'area',
  'wbr',
  'col',
  'embed',
  'track',
]);

/** Why some markup cannot be put there; undefined where it can. */
export function findMarkupFault(text: string, place: 'head' | 'end'): MarkupMessage | undefined {
  if (text.trim() === '') return markup('empty');
  const faults: ParserError[] = [];
  const { childNodes } = parseFragment(text, {
    sourceCodeLocationInfo: true,
    onParseError: (error) => faults.push(error),
  });
  const open = faults.find(({ code }) => OPEN.has(code));
  if (open) return markup('never-ends', { line: open.startLine });
  for (const node of childNodes) {
    const fault = findNodeFault(node, place);
    if (fault !== undefined) return fault;
  }
  return /<\/?(?:html|head|body)\b/i.test(text) ? markup('whole-page') : undefined;
}

function findNodeFault(node: Node, place: 'head' | 'end'): MarkupMessage | undefined {
  if ('tagName' in node) {
    const location = node.sourceCodeLocation;
    if (!VOID.has(node.tagName) && location && !location.endTag)
      return markup('never-closed', { element: node.tagName, line: location.startLine });
    if (place === 'head' && !IN_HEAD.has(node.tagName)) return markup('not-in-head', { element: node.tagName });
    return undefined;
  }
  return place === 'head' && node.nodeName === '#text' && 'value' in node && node.value.trim() !== ''
    ? markup('text-in-head')
    : undefined;
}
