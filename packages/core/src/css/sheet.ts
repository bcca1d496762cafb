/** A style sheet as rules that can be matched: what of it holds on a wide screen, with the weight of each rule. */
import Specificity from '@bramus/specificity';
import { generate, tokenize, tokenTypes, walk, type CssNode } from 'css-tree';
import { parseCss } from './parse.ts';

export interface StyleRule {
  readonly selector: string;
  /** Specificity (Selectors 4, section 17) as one number. */
  readonly weight: number;
  /** In the order in which they hold. */
  readonly declarations: ReadonlyMap<string, { readonly value: string; readonly important: boolean }>;
}

const WIDTH_PX = 1280;

/** Only what colours, sizes and visibility come from. */
const WANTED =
  /^(--.+|color|background|background-color|background-image|font|font-size|font-weight|display|visibility|opacity|position|filter|mix-blend-mode|clip-path)$/;

/** Far more than any sheet that a person or a tool has written; what reads deeper ones runs out of stack. */
const MOST_DEPTH = 100;

/** Whether blocks, brackets and functions stand in one another further than is read. */
export function isTooDeep(css: string): boolean {
  // Nearly all sheets are told without being taken apart: strings and comments can only make more of it.
  if (findDeepest(css.matchAll(/[{}()[\]]/g), ([sign]) => (/[{([]/.test(sign) ? 1 : -1)) <= MOST_DEPTH) return false;
  const steps: number[] = [];
  tokenize(css, (type) => {
    if (OPENING.has(type)) steps.push(1);
    else if (CLOSING.has(type)) steps.push(-1);
  });
  return findDeepest(steps, (step) => step) > MOST_DEPTH;
}

const { Function: FUNCTION, LeftCurlyBracket, LeftParenthesis, LeftSquareBracket } = tokenTypes;
const OPENING: ReadonlySet<number> = new Set([FUNCTION, LeftCurlyBracket, LeftParenthesis, LeftSquareBracket]);
const CLOSING: ReadonlySet<number> = new Set([
  tokenTypes.RightCurlyBracket,
  tokenTypes.RightParenthesis,
  tokenTypes.RightSquareBracket,
]);

function findDeepest<T>(steps: Iterable<T>, stepOf: (step: T) => number): number {
  let [depth, most] = [0, 0];
  for (const step of steps) {
    // Nothing closes what was never opened (CSS Syntax 3, section 5.4).
    depth = Math.max(0, depth + stepOf(step));
    most = Math.max(most, depth);
  }
  return most;
}

/** Nothing of a sheet that {@link isTooDeep}. */
export function readSheet(css: string): StyleRule[] {
  if (isTooDeep(css)) return [];
  const out: StyleRule[] = [];
  const sheet = parseCss(css, {
    parseAtrulePrelude: true,
    parseRulePrelude: true,
    parseValue: false,
    onParseError: () => {},
  });
  const holds: boolean[] = [];
  walk(sheet, {
    enter(node: CssNode) {
      if (node.type === 'Atrule')
        holds.push(
          node.name === 'media'
            ? isMediaMatching(node.prelude ? generate(node.prelude) : '')
            : node.name === 'supports' || node.name === 'layer',
        );
      if (node.type !== 'Rule' || holds.includes(false) || node.prelude.type !== 'SelectorList') return;
      const declarations = new Map<string, { value: string; important: boolean }>();
      node.block.children.forEach((child) => {
        if (child.type !== 'Declaration') return;
        const property = child.property.startsWith('--') ? child.property : child.property.toLowerCase();
        const important = child.important !== false;
        // Importance goes before order (CSS Cascade 5, section 6.1).
        if (!WANTED.test(property) || (declarations.get(property)?.important === true && !important)) return;
        // What is said again stands last.
        declarations.delete(property);
        declarations.set(property, { value: generate(child.value).trim(), important });
      });
      if (declarations.size === 0) return;
      node.prelude.children.forEach((selector) =>
        out.push({ selector: generate(selector), weight: weighSelector(selector), declarations }),
      );
    },
    leave(node: CssNode) {
      if (node.type === 'Atrule') holds.pop();
    },
  });
  return out;
}

/** The simple conditions of real sites; anything else is taken not to hold (Media Queries 4, sections 2 and 4.3). */
function isMediaMatching(query: string): boolean {
  return query.split(',').some((part) => {
    const text = part.trim().toLowerCase();
    if (/\bnot\b|print|speech|prefers-|orientation|hover|pointer|forced-colors/.test(text)) return false;
    for (const [, side, size = '', unit] of text.matchAll(/\((min|max)-width:\s*([\d.]+)(px|em|rem)?\)/g)) {
      const px = Number(size) * (unit === 'em' || unit === 'rem' ? 16 : 1);
      if (side === 'min' ? WIDTH_PX < px : WIDTH_PX > px) return false;
    }
    return !/\(/.test(text.replace(/\((min|max)-width:[^)]*\)/g, ''));
  });
}

/** Selectors Level 4, section 17; one that no standard knows weighs nothing. */
function weighSelector(selector: CssNode): number {
  try {
    const { a, b, c } = Specificity.calculateForAST(selector).toObject();
    return a * 1_000_000 + b * 1000 + c;
  } catch {
    return 0;
  }
}
