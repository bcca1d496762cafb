import { mend } from '../messages.ts';
import { resolveHref } from '../../address/index.ts';
import { readAttribute, readBaseHref, isHtml } from '../../html/index.ts';
import { anchorElement, findSpan, type PageCheck } from '../check.ts';

export const missingDimensions: PageCheck = {
  code: 'picture-dimensions',
  severity: 'should',
  source: 'HTML standard, section 4.8.17; common practice',
  *find(page) {
    const base = readBaseHref(page.document);
    for (const element of page.elements) {
      if (
        element.tagName !== 'img' ||
        !isHtml(element) ||
        (readAttribute(element, 'width') !== undefined && readAttribute(element, 'height') !== undefined)
      )
        continue;
      const src = readAttribute(element, 'src');
      const to = src === undefined ? undefined : resolveHref(src, page.address, base);
      const size = to?.kind === 'inside' ? page.pictureAt(to.address.path) : undefined;
      // Without its size there is nothing to write, and a picture from elsewhere may change.
      if (src === undefined || !size) continue;
      yield {
        detail: src,
        ...findSpan(element),
        mend: {
          label: mend('write-size', { width: size.widthPx, height: size.heightPx }),
          asks: undefined,
          work: () => {
            const place = anchorElement(page, element);
            return (
              place && {
                kind: 'attributes',
                place,
                set: { width: String(size.widthPx), height: String(size.heightPx) },
              }
            );
          },
        },
      };
    }
  },
};
