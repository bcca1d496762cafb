/**
 * A page's source parsed with positions: parse5's tree, and a walk over it that does not recurse,
 * because hostile pages nest deep.
 */
import { defaultTreeAdapter, html, parse, type DefaultTreeAdapterMap } from 'parse5';
import { decodeSource, type SourceText } from './decode.ts';

export type Element = DefaultTreeAdapterMap['element'];
type Node = DefaultTreeAdapterMap['node'];
type Parent = DefaultTreeAdapterMap['parentNode'];

export interface PageDocument {
  readonly source: SourceText;
  readonly root: DefaultTreeAdapterMap['document'];
}

/**
 * As deep as browsers go: what would stand deeper stands beside its parent instead. Source: Chromium's
 * HTMLConstructionSite, kMaximumHTMLParserDOMTreeDepth; from memory. The standard sets no limit.
 */
const MOST_DEPTH = 512;

/** parse5's own tree, no deeper than that; each parent knows how deep it stands, since asking upwards would cost. */
const treeAdapter: typeof defaultTreeAdapter = {
  ...defaultTreeAdapter,
  appendChild(parent: Parent & { depth?: number }, child: Node & { depth?: number }) {
    const depth = parent.depth ?? 0;
    const above = depth >= MOST_DEPTH && 'parentNode' in parent ? parent.parentNode : null;
    if ('childNodes' in child) child.depth = above ? depth : depth + 1;
    defaultTreeAdapter.appendChild(above ?? parent, child as DefaultTreeAdapterMap['childNode']);
  },
};

/** Parses a page; HTML has no syntax errors, so every input has a tree (HTML standard, 13.2). */
export function parsePage(bytes: Uint8Array): PageDocument {
  const source = decodeSource(bytes);
  return { source, root: parse(source.text, { treeAdapter, sourceCodeLocationInfo: true }) };
}

/** The same tree without positions, which cost as much again as the parsing; enough for whoever only reads. */
export function parseForReading(bytes: Uint8Array): PageDocument {
  const source = decodeSource(bytes);
  return { source, root: parse(source.text, { treeAdapter }) };
}

const isElement = defaultTreeAdapter.isElementNode;

/** All elements in tree order, those inside `<template>` too. */
export function* walkElements(root: Parent): Generator<Element> {
  const stack: Node[] = [root as Node];
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    if (isElement(node)) yield node;
    if (!('childNodes' in node)) continue;
    const inside = node.nodeName === 'template' && 'content' in node ? node.content.childNodes : node.childNodes;
    for (let i = inside.length - 1; i >= 0; i -= 1) stack.push(inside[i] as Node);
  }
}

export function readAttribute(element: Element, name: string): string | undefined {
  for (const attr of element.attrs) if (attr.name === name && attr.prefix === undefined) return attr.value;
  return undefined;
}

/** The text in an element, white space folded. */
export function collectText(element: Parent): string {
  let out = '';
  const stack: Node[] = [element as Node];
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    if (defaultTreeAdapter.isTextNode(node)) out += node.value;
    else if ('childNodes' in node && node.nodeName !== 'script' && node.nodeName !== 'style') {
      for (let i = node.childNodes.length - 1; i >= 0; i -= 1) stack.push(node.childNodes[i] as Node);
    }
  }
  return fold(out);
}

/** ASCII white space folded to single spaces (HTML standard, "strip and collapse"). */
export function fold(text: string): string {
  return text.replace(/[\t\n\f\r ]+/g, ' ').trim();
}

export function isHtml(element: Element): boolean {
  return element.namespaceURI === html.NS.HTML;
}
