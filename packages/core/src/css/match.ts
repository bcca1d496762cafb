/** Which rules hold for an element: css-select on the parser's own tree, asked only where a rule's last part can match. */
import { compile } from 'css-select';
import { readAttribute, collectText, type Element } from '../html/index.ts';
import type { StyleRule } from './sheet.ts';

type Test = (element: Element) => boolean;

interface Matching {
  readonly rule: StyleRule;
  readonly order: number;
  readonly test: Test;
}

export interface Matcher {
  /** Rules that hold, the weakest first. */
  rulesFor(element: Element): StyleRule[];
  /** Whether some of the page's styles could not be read. */
  readonly isPartial: boolean;
}

type Tree = Element['parentNode'] | Element['childNodes'][number];
const isTag = (node: unknown): node is Element => typeof node === 'object' && node !== null && 'tagName' in node;
const listChildren = (node: Tree) => (node && 'childNodes' in node ? node.childNodes : []);

const adapter = {
  isTag,
  existsOne: (test: Test, nodes: readonly Tree[]): boolean =>
    nodes.some((node) => isTag(node) && (test(node) || adapter.existsOne(test, node.childNodes))),
  getAttributeValue: (element: Element, name: string) => readAttribute(element, name),
  getChildren: (node: Tree) => listChildren(node) as Element['childNodes'],
  getName: (element: Element) => element.tagName,
  getParent: (node: Tree) => (node && 'parentNode' in node && isTag(node.parentNode) ? node.parentNode : null),
  getSiblings: (node: Tree) =>
    (node && 'parentNode' in node ? listChildren(node.parentNode) : [node]) as Element['childNodes'],
  getText: (node: Tree) =>
    isTag(node) ? collectText(node) : node && node.nodeName === '#text' && 'value' in node ? node.value : '',
  hasAttrib: (element: Element, name: string) => readAttribute(element, name) !== undefined,
  removeSubsets: <N>(nodes: N[]) => nodes,
  findAll: (test: Test, nodes: readonly Tree[]): Element[] =>
    nodes.flatMap((node) =>
      isTag(node) ? [...(test(node) ? [node] : []), ...adapter.findAll(test, node.childNodes)] : [],
    ),
  findOne: (test: Test, nodes: readonly Tree[]): Element | null => adapter.findAll(test, nodes)[0] ?? null,
};

/** What visitors do, or what no element is, shows nothing of how a page stands. */
const NOT_STANDING =
  /:(hover|focus|active|visited|target|before|after|first-line|first-letter|placeholder|selection|marker|disabled|checked|focus-within|focus-visible)\b|::/;

export function createMatcher(rules: readonly StyleRule[], isPartial = false): Matcher {
  const byKey = new Map<string, Matching[]>();
  rules.forEach((rule, order) => {
    if (NOT_STANDING.test(rule.selector)) return;
    let test: Test;
    try {
      test = compile(rule.selector, { adapter, cacheResults: false } as unknown as Parameters<
        typeof compile
      >[1]) as unknown as Test;
    } catch {
      // A selector that css-select does not know cannot be judged.
      return;
    }
    const key = readSelectorKey(rule.selector);
    byKey.set(key, [...(byKey.get(key) ?? []), { rule, order, test }]);
  });
  return {
    isPartial,
    rulesFor(element) {
      const id = readAttribute(element, 'id');
      const keys = [
        '*',
        element.tagName,
        ...(id === undefined ? [] : [`#${id}`]),
        ...(readAttribute(element, 'class') ?? '')
          .split(/\s+/)
          .filter((name) => name !== '')
          .map((name) => `.${name}`),
      ];
      return keys
        .flatMap((key) => byKey.get(key) ?? [])
        .filter(({ test }) => test(element))
        .sort((a, b) => a.rule.weight - b.rule.weight || a.order - b.order)
        .map(({ rule }) => rule);
    },
  };
}

/** An id, class or tag that an element needs to match at all. */
function readSelectorKey(selector: string): string {
  const last = /[^\s>+~]*$/.exec(selector)?.[0] ?? '';
  if (/[:[(\\]/.test(last) && !/^[a-zA-Z][a-zA-Z0-9-]*|[.#][\w-]+/.test(last)) return '*';
  const bare = last.replace(/:[\w-]+(\([^)]*\))?|\[[^\]]*\]/g, '');
  if (/[()\\]/.test(bare)) return '*';
  return (
    /#[\w-]+/.exec(bare)?.[0] ??
    /\.[\w-]+/.exec(bare)?.[0] ??
    (/^[a-zA-Z][a-zA-Z0-9-]*/.exec(bare)?.[0]?.toLowerCase() || '*')
  );
}
