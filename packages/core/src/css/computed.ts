/**
 * Colours and sizes of a page's texts, computed from its own style sheets as far as they can be: CSS
 * Cascade 5, section 6, without layers and origins; what lies over a picture or lets things through
 * is left out, since nobody can say what is behind it.
 */
import { converter } from 'culori';
import { parseColour } from './colour.ts';
import { readAttribute, fold, isHtml, type Element, type PageDocument } from '../html/index.ts';
import { blendOver, type Rgb, type Rgba } from './contrast.ts';
import { readSheet, type StyleRule } from './sheet.ts';
import type { Matcher } from './match.ts';

export interface SeenText {
  readonly element: Element;
  readonly colour: Rgb;
  readonly background: Rgb;
  readonly sizePx: number;
  readonly isBold: boolean;
}

interface State {
  readonly colour: Rgba;
  /** Undefined where it cannot be known. */
  readonly background: Rgb | undefined;
  readonly sizePx: number;
  readonly isBold: boolean;
  readonly isLink: boolean;
  readonly variables: ReadonlyMap<string, string>;
}

const BLACK: Rgba = { r: 0, g: 0, b: 0, alpha: 1 };
const WHITE: Rgb = { r: 1, g: 1, b: 1 };
/** HTML standard, section 15.3.4: links are blue where nobody says otherwise. */
const LINK: Rgba = { r: 0, g: 0, b: 0xee / 255, alpha: 1 };
const UNSEEN = new Set([
  'script',
  'style',
  'template',
  'noscript',
  'head',
  'title',
  'svg',
  'select',
  'textarea',
  'input',
  'button',
  'iframe',
  'object',
  'video',
  'audio',
  'canvas',
  'math',
]);
const BOLD = new Set(['b', 'strong', 'th', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6']);
/** HTML standard, section 15.3.6: how much larger headings are, outside of sections. */
const HEADING_EM: Readonly<Record<string, number>> = {
  h1: 2,
  h2: 1.5,
  h3: 1.17,
  h4: 1,
  h5: 0.83,
  h6: 0.67,
  small: 0.83,
};

export function* findSeenTexts(document: PageDocument, matcher: Matcher): Generator<SeenText> {
  const html = document.root.childNodes.find((node): node is Element => 'tagName' in node);
  if (!html) return;
  const stack: { element: Element; state: State }[] = [
    {
      element: html,
      state: { colour: BLACK, background: WHITE, sizePx: 16, isBold: false, isLink: false, variables: new Map() },
    },
  ];
  for (let top = stack.pop(); top; top = stack.pop()) {
    const { element } = top;
    if (!isHtml(element) || UNSEEN.has(element.tagName)) continue;
    const state = computeState(element, top.state, matcher.rulesFor(element));
    if (!state) continue;
    if (
      state.background &&
      element.childNodes.some((node) => node.nodeName === '#text' && 'value' in node && fold(node.value) !== '')
    ) {
      yield {
        element,
        colour: blendOver(state.colour, state.background),
        background: state.background,
        sizePx: state.sizePx,
        isBold: state.isBold,
      };
    }
    for (let i = element.childNodes.length - 1; i >= 0; i -= 1) {
      const child = element.childNodes[i];
      if (child && 'tagName' in child) stack.push({ element: child, state });
    }
  }
}

/** What each says anew where it says nothing of it (CSS Cascade 5, section 3). */
const SHORTHANDS: Readonly<Record<string, readonly string[]>> = {
  background: ['background-color', 'background-image'],
  font: ['font-size', 'font-weight'],
};
/** CSS Cascade 5, section 7.3; of what is inherited, `unset` is the same. */
const INHERITED = /^(inherit|unset)$/;

/** Undefined for what is not seen, or not where it stands. */
function computeState(element: Element, inherited: State, rules: readonly StyleRule[]): State | undefined {
  const inline = readAttribute(element, 'style');
  const inlineRules = inline === undefined ? [] : readSheet(`x{${inline}}`);
  const declared = new Map<string, string>();
  for (const important of [false, true]) {
    for (const { declarations } of [...rules, ...inlineRules])
      for (const [property, { value, important: is }] of declarations)
        if (is === important) {
          declared.set(property, value);
          for (const part of SHORTHANDS[property] ?? []) declared.delete(part);
        }
  }
  const variables = new Map(inherited.variables);
  for (const [property, value] of declared) if (property.startsWith('--')) variables.set(property, value);
  const get = (property: string) => {
    const value = declared.get(property);
    return value === undefined ? undefined : resolveVariables(value, variables).toLowerCase();
  };
  if (get('display') === 'none' || get('visibility') === 'hidden' || readAttribute(element, 'hidden') !== undefined)
    return undefined;
  if (
    /^(absolute|fixed|sticky)$/.test(get('position') ?? '') ||
    Number(get('opacity') ?? 1) < 1 ||
    (get('filter') ?? 'none') !== 'none' ||
    get('mix-blend-mode') !== undefined ||
    get('clip-path') !== undefined
  )
    return undefined;
  const isLink = element.tagName === 'a' && readAttribute(element, 'href') !== undefined;
  const base = isLink && !inherited.isLink ? LINK : inherited.colour;
  const colour = readColour(get('color'), base, inherited.colour);
  return {
    colour,
    isBold: readBold(get, BOLD.has(element.tagName) || inherited.isBold, inherited.isBold),
    isLink: isLink || inherited.isLink,
    variables,
    sizePx: readSize(get, inherited.sizePx * (HEADING_EM[element.tagName] ?? 1), inherited.sizePx),
    background: readBackground(get, colour, inherited.background),
  };
}

/** CSS Custom Properties 1, section 3; a variable that is not there takes the fallback, and circles end. */
function resolveVariables(value: string, variables: ReadonlyMap<string, string>, depth = 0): string {
  if (!value.includes('var(') || depth > 8) return value;
  return resolveVariables(
    value.replace(
      /var\(\s*(--[\w-]+)\s*(?:,((?:[^()]|\([^()]*\))*))?\)/g,
      (_, name: string, fallback?: string) => variables.get(name) ?? fallback?.trim() ?? '',
    ),
    variables,
    depth + 1,
  );
}

/** What is declared of a property, without variables, in small letters. */
type Declared = (property: string) => string | undefined;

const toRgb = converter('rgb');

function readColour(value: string | undefined, otherwise: Rgba, inherited: Rgba): Rgba {
  if (value === undefined) return otherwise;
  if (INHERITED.test(value) || value === 'currentcolor') return inherited;
  return parseRgba(value) ?? otherwise;
}

function parseRgba(value: string): Rgba | undefined {
  const found = toRgb(parseColour(value));
  if (!found) return undefined;
  const within = (part: number) => Math.min(1, Math.max(0, part));
  return { r: within(found.r), g: within(found.g), b: within(found.b), alpha: found.alpha ?? 1 };
}

function readBackground(get: Declared, colour: Rgba, behind: Rgb | undefined): Rgb | undefined {
  const shorthand = get('background');
  if (/url\(|gradient\(|image\(/.test(get('background-image') ?? shorthand ?? '')) return undefined;
  const value =
    get('background-color') ??
    shorthand?.split(/\s+(?![^(]*\))/).find((part) => parseRgba(part) !== undefined || part === 'currentcolor');
  if (value === undefined || /^(inherit|unset|initial|none|transparent)$/.test(value)) return behind;
  const painted = value === 'currentcolor' ? colour : parseRgba(value);
  if (!painted) return behind;
  if (painted.alpha === 1) return painted;
  return behind && blendOver(painted, behind);
}

function readBold(get: Declared, otherwise: boolean, inherited: boolean): boolean {
  const shorthand = get('font');
  const value = get('font-weight') ?? shorthand;
  if (value === undefined) return otherwise;
  if (INHERITED.test(value)) return inherited;
  const weight = /\b(bold|bolder|normal|lighter|[1-9]00)\b/.exec(value)?.[1];
  // A shorthand that says nothing of the weight says that it is normal (CSS Fonts 4, section 2.7).
  if (weight === undefined) return readFontSize(shorthand) === undefined && otherwise;
  return weight === 'bold' || weight === 'bolder' || Number(weight) >= 700;
}

function readFontSize(shorthand: string | undefined): string | undefined {
  if (shorthand === undefined || INHERITED.test(shorthand)) return shorthand;
  return /(?:^|\s)([\d.]+(?:px|em|rem|pt|%)|(?:x{1,2}-)?small|medium|(?:x{1,2}-)?large)(?=\s*\/|\s)/.exec(
    shorthand,
  )?.[1];
}

/** CSS Fonts 4, section 2.5: sizes of the keywords for a medium of 16 px. */
const KEYWORDS: Readonly<Record<string, number>> = {
  'xx-small': 9,
  'x-small': 10,
  small: 13,
  medium: 16,
  large: 18,
  'x-large': 24,
  'xx-large': 32,
};

function readSize(get: Declared, otherwise: number, inheritedPx: number): number {
  const value = get('font-size') ?? readFontSize(get('font'));
  if (value === undefined) return otherwise;
  if (INHERITED.test(value)) return inheritedPx;
  const keyword = KEYWORDS[value];
  if (keyword !== undefined) return keyword;
  const [, number = '', unit = ''] = /^([\d.]+)(px|em|rem|pt|%)$/.exec(value) ?? [];
  const n = Number(number);
  switch (unit) {
    case 'px':
      return n;
    case 'em':
      return n * inheritedPx;
    case 'rem':
      return n * 16;
    case 'pt':
      return (n * 4) / 3;
    case '%':
      return (n / 100) * inheritedPx;
    default:
      return otherwise;
  }
}
