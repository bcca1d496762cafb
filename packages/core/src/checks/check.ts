/** A check: what it looks for, and where its authority comes from. */
import { findAnchorAt, type Anchor, type Element, type PageDocument } from '../html/index.ts';
import type { Matcher } from '../css/index.ts';
import type { PictureSize } from '../picture/index.ts';
import type { CheckCode, MendMessage, QuestionMessage, SnagDetail } from './messages.ts';
import type { TouchWork } from '../touches/index.ts';

/** `must`: a release is held until it is fixed, or somebody takes it on their name; `look`: worth a look. */
export type Severity = 'must' | 'should';

export interface Check {
  /** What is wrong (`check`) and how to mend it (`remedy`) is said by it. */
  readonly code: CheckCode;
  readonly severity: Severity;
  /** A standard with its section, or "common practice". */
  readonly source: string;
}

/** One step that mends a finding. */
export interface Mend {
  /** On the button. */
  readonly label: MendMessage;
  /** What has to be answered first; undefined where nothing has. */
  readonly asks: QuestionMessage | undefined;
  /** Undefined where the place is not in the page. */
  readonly work: (answer: string) => TouchWork | LineWork | undefined;
}

/** A line of the page's head, set for that page: false for none. */
export interface LineWork {
  readonly kind: 'line';
  readonly name: string;
  readonly text: string | false;
}

export interface Finding {
  /** What distinguishes it from others of its kind in the same file; shown beside it. */
  readonly detail: SnagDetail;
  /** Span in the source text; a finding about the whole file has none. */
  readonly start?: number;
  readonly end?: number;
  readonly mend?: Mend;
}

export interface CheckedPage {
  readonly path: string;
  /** Where it answers, the base path included. */
  readonly address: string;
  readonly document: PageDocument;
  /** The site's own domains, in small letters; none as long as it has none. */
  readonly ownNames: readonly string[];
  /** In tree order. */
  readonly elements: readonly Element[];
  /** The rules of its own style sheets. */
  readonly styles: () => Matcher;
  /** Size of a picture of the site by its address path; undefined for what is none. */
  readonly pictureAt: (path: string) => PictureSize | undefined;
}

export interface PageCheck extends Check {
  readonly find: (page: CheckedPage) => Iterable<Finding>;
}

/** The span of an element's start tag, or of one of its attributes. */
export function findSpan(element: Element, attributeName?: string): { start?: number; end?: number } {
  const location = element.sourceCodeLocation;
  const span =
    attributeName === undefined
      ? (location?.startTag ?? location)
      : (location?.attrs?.[attributeName] ?? location?.startTag ?? location);
  return span ? { start: span.startOffset, end: span.endOffset } : {};
}

export function anchorElement({ document }: CheckedPage, element: Element): Anchor | undefined {
  const start = element.sourceCodeLocation?.startOffset;
  return start === undefined ? undefined : findAnchorAt(document, start, undefined);
}
