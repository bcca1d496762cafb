/** Checks of what machines read in the head beside title and description. */
import { mend, question, snag } from '../messages.ts';
import { readLine } from '../../head/index.ts';
import { readAttribute, findFirstElement } from '../../html/index.ts';
import { checkLanguage } from '../../languages/index.ts';
import { checkData } from '../../structured/index.ts';
import { findSpan, type PageCheck } from '../check.ts';

/** Lines that machines take once; of a second one nobody knows which counts. */
const ONCE = new Map([
  ['meta:description', 'description'],
  ['meta:robots', 'robots'],
  ['meta:og:title', 'shareTitle'],
  ['meta:og:description', 'shareText'],
  ['link:canonical', 'canonical'],
] as const);

export const doubledLine: PageCheck = {
  code: 'head-doubled',
  severity: 'should',
  source: 'HTML standard, section 4.2.5.1; common practice',
  *find({ elements }) {
    const seen = new Set<string>();
    for (const element of elements) {
      const name = element.tagName === 'meta' || element.tagName === 'link' ? readLine(element)?.name : undefined;
      const called = name === undefined ? undefined : ONCE.get(name as 'meta:robots');
      if (name === undefined || called === undefined) continue;
      if (seen.has(name)) yield { detail: snag('line-twice', { line: called }), ...findSpan(element) };
      seen.add(name);
    }
  },
};

export const unknownLanguage: PageCheck = {
  code: 'language-unknown',
  severity: 'should',
  source: 'RFC 5646, section 2.2.9; IANA Language Subtag Registry',
  *find({ document }) {
    const html = findFirstElement(document, 'html');
    const tag = (html && readAttribute(html, 'lang'))?.trim() ?? '';
    const checked = tag === '' ? undefined : checkLanguage(tag);
    if (html && checked && !checked.ok)
      yield {
        detail: snag('language-unknown', { tag, why: checked.why }),
        ...findSpan(html, 'lang'),
        mend: {
          label: mend('set-language'),
          asks: question('language'),
          work: (value) => ({ kind: 'line', name: 'language', text: value }),
        },
      };
  },
};

export const faultyData: PageCheck = {
  code: 'data-faulty',
  severity: 'should',
  source: 'W3C standard JSON-LD 1.1, section 7; schema.org',
  *find({ elements }) {
    for (const element of elements) {
      if (
        element.tagName !== 'script' ||
        readAttribute(element, 'type')?.trim().toLowerCase() !== 'application/ld+json'
      )
        continue;
      const text = element.childNodes.map((node) => ('value' in node ? node.value : '')).join('');
      for (const { at, message: problem } of checkData(text).slice(0, 5))
        yield {
          detail: at === '' ? snag('data', { problem }) : snag('data-at', { at, problem }),
          ...findSpan(element),
        };
    }
  },
};

export const relativeCanonical: PageCheck = {
  code: 'canonical-relative',
  severity: 'should',
  source: 'RFC 6596, section 3',
  *find({ elements }) {
    for (const element of elements) {
      const line = element.tagName === 'link' ? readLine(element) : undefined;
      if (line?.name === 'link:canonical' && !/^https?:\/\//i.test(line.text))
        yield {
          detail: line.text || snag('canonical-empty'),
          ...findSpan(element),
          mend: {
            label: mend('take-away'),
            asks: undefined,
            work: () => ({ kind: 'line', name: 'link:canonical', text: false }),
          },
        };
    }
  },
};
