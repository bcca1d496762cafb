/**
 * URI references: taken apart, resolved and put together again.
 * Source: RFC 3986, sections 5.2, 5.3 and appendix B.
 */

/** The five parts of a reference. `undefined` means absent, which is not the same as empty. */
export interface Reference {
  readonly scheme: string | undefined;
  readonly authority: string | undefined;
  readonly path: string;
  readonly query: string | undefined;
  readonly fragment: string | undefined;
}

// RFC 3986 appendix B, with the scheme held to the grammar of section 3.1, so that the "a:b" of a
// relative path segment such as "./a:b" is not mistaken for one.
const PARTS = /^(?:([A-Za-z][A-Za-z0-9+.-]*):)?(?:\/\/([^/?#]*))?([^?#]*)(?:\?([^#]*))?(?:#([\s\S]*))?$/;

/** Splits any string into its parts; every string is some reference, so this never fails. */
export function parseReference(text: string): Reference {
  const [, scheme, authority, path = '', query, fragment] = PARTS.exec(text) ?? [];
  return { scheme, authority, path, query, fragment };
}

/** RFC 3986 section 5.3. */
export function formatReference({ scheme, authority, path, query, fragment }: Reference): string {
  return (
    (scheme === undefined ? '' : `${scheme}:`) +
    (authority === undefined ? '' : `//${authority}`) +
    path +
    (query === undefined ? '' : `?${query}`) +
    (fragment === undefined ? '' : `#${fragment}`)
  );
}

/** RFC 3986 section 5.2.4, on segments instead of on an input buffer; the outcome is the same. */
export function removeDotSegments(path: string): string {
  const segments = path.split('/');
  const kept: string[] = [];
  segments.forEach((segment, index) => {
    const last = index === segments.length - 1;
    if (segment === '..') {
      // The empty first segment of an absolute path is its root; nothing climbs over it.
      if (kept.length > 1 || (kept.length === 1 && kept[0] !== '')) kept.pop();
      if (last) kept.push('');
    } else if (segment === '.') {
      if (last) kept.push('');
    } else {
      kept.push(segment);
    }
  });
  const joined = kept.join('/');
  return path.startsWith('/') && !joined.startsWith('/') ? `/${joined}` : joined;
}

/** RFC 3986 section 5.2.3. */
function mergePaths(base: Reference, path: string): string {
  if (base.authority !== undefined && base.path === '') return `/${path}`;
  return base.path.slice(0, base.path.lastIndexOf('/') + 1) + path;
}

/** Resolves a reference against an absolute base, RFC 3986 section 5.2.2 (the strict form). */
export function resolveReference(base: Reference, reference: Reference): Reference {
  const { fragment } = reference;
  if (reference.scheme !== undefined) {
    return { ...reference, path: removeDotSegments(reference.path) };
  }
  const { scheme } = base;
  if (reference.authority !== undefined) {
    return { ...reference, scheme, path: removeDotSegments(reference.path) };
  }
  const { authority } = base;
  if (reference.path === '') {
    return { scheme, authority, path: base.path, query: reference.query ?? base.query, fragment };
  }
  const path = removeDotSegments(reference.path.startsWith('/') ? reference.path : mergePaths(base, reference.path));
  return { scheme, authority, path, query: reference.query, fragment };
}
