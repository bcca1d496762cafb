/**
 * The last touches a finished site still needs, as data. Each is a splice into the source of the pages it
 * is meant for, found again by its anchor, so it outlives a newer export wherever its place is still there.
 */
import type { Anchor, PartName } from '../html/index.ts';

/** The one question asked of every touch: this page, the branch under it, or every page where the place stands. */
export type Scope =
  | { readonly kind: 'page'; readonly page: string }
  | { readonly kind: 'branch'; readonly page: string }
  | { readonly kind: 'everywhere' };

/** A page is meant by its identity, so that a later move keeps the link right. */
export type LinkTarget =
  /** Whichever page is home. */
  | { readonly kind: 'home' }
  | { readonly kind: 'page'; readonly page: string; readonly fragment?: string; readonly newest?: true | undefined }
  /** A file of the site, by its address inside it, `/documents/guide.pdf`. */
  | { readonly kind: 'file'; readonly address: string }
  | { readonly kind: 'url'; readonly url: string };

/** Attributes that people set; none of them can make a page run something. */
export const TOUCHED_ATTRIBUTES = ['alt', 'width', 'height', 'title', 'rel', 'target', 'lang'] as const;
export type TouchedAttribute = (typeof TOUCHED_ATTRIBUTES)[number];

export interface SectionRef {
  readonly name: string;
  readonly nth: number;
}

export type TouchWork =
  | { readonly kind: 'text'; readonly place: Anchor; readonly to: string }
  | {
      readonly kind: 'attributes';
      readonly place: Anchor;
      readonly set: Readonly<Partial<Record<TouchedAttribute, string | null>>>;
    }
  | {
      readonly kind: 'link';
      readonly place: Anchor;
      readonly target?: LinkTarget;
      readonly newWindow?: boolean;
      /** Where the link leads as it was imported, so that it is known on other pages however they spell it: see `resolveLed`. */
      readonly leads?: string;
    }
  | {
      /** One file of the site shown instead of another, wherever pages and styles in scope refer to it; by their addresses inside the site. */
      readonly kind: 'picture';
      readonly from: string;
      readonly to: string;
      readonly alt?: string;
      /** Of the new picture, so that heights written beside it can follow. */
      readonly size?: { readonly widthPx: number; readonly heightPx: number };
    }
  /** The sections of a page in the order they are to have; those with `out` are left out. */
  | { readonly kind: 'sections'; readonly order: readonly (SectionRef & { readonly out?: true })[] }
  /** Parts left out of a page. */
  | { readonly kind: 'parts-out'; readonly parts: readonly PartName[] }
  /** Style rules of a page's own; empty for none. */
  | { readonly kind: 'css'; readonly css: string }
  | {
      readonly kind: 'embed';
      readonly file: string;
      readonly label: string;
      readonly mediaType: string;
      readonly after?: SectionRef;
    }
  /** A section as a release had it, written in behind another one, or before all. Its links are written from the page's file. */
  | {
      readonly kind: 'section';
      readonly name: string;
      readonly html: string;
      readonly release: number;
      readonly after?: SectionRef;
    }
  | { readonly kind: 'head'; readonly line: 'charset' | 'viewport' | 'language'; readonly value: string };

export type Touch = TouchWork & { readonly scope: Scope };

/** Those of which a page has one at a time: a later one takes an earlier one's place. */
export function replacesEarlier(kind: Touch['kind']): boolean {
  return kind === 'sections' || kind === 'parts-out' || kind === 'css';
}

/** Two touches with the same identity say the same thing differently: the later one counts. Undefined for those that add up. */
export function identifyTouch(touch: Touch): string | undefined {
  if (replacesEarlier(touch.kind)) return JSON.stringify([touch.kind, touch.scope]);
  if (touch.kind === 'text') return JSON.stringify([touch.kind, touch.scope, touch.place]);
  if (touch.kind === 'picture') return JSON.stringify([touch.kind, touch.scope, touch.from]);
  if (touch.kind === 'head') return JSON.stringify([touch.kind, touch.scope, touch.line]);
  return undefined;
}
