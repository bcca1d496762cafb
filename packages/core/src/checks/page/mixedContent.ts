import { linkPlaces } from '../../html/index.ts';
import type { PageCheck } from '../check.ts';

/** Elements whose http content a browser refuses on an https page instead of only warning. */
const LOADS = new Set([
  'script',
  'iframe',
  'link',
  'object',
  'embed',
  'style',
  'img',
  'source',
  'audio',
  'video',
  'track',
  'input',
]);

export const mixedContent: PageCheck = {
  code: 'mixed-content',
  severity: 'should',
  source: 'Mixed Content (W3C), sections 3 and 5',
  *find({ document }) {
    for (const { hrefs, element, attribute, start, end } of linkPlaces(document)) {
      // A link is followed, not loaded; of <link>, only some are, which its purpose says elsewhere.
      if (!LOADS.has(element) || attribute === 'cite' || attribute === 'longdesc') continue;
      for (const href of hrefs)
        if (/^http:\/\//i.test(href) && !(element === 'link' && isOnlyTold(document.source.text, start)))
          yield { detail: href, start, end };
    }
  },
};

/** The tag around a `<link>`'s address: canonical, alternate and the like are read, not loaded. */
function isOnlyTold(text: string, start: number): boolean {
  const tag = text.slice(text.lastIndexOf('<', start), text.indexOf('>', start) + 1);
  return !/\brel\s*=\s*["']?[^"'>]*\b(stylesheet|icon|preload|modulepreload|prefetch|manifest|apple-touch-icon)\b/i.test(
    tag,
  );
}
