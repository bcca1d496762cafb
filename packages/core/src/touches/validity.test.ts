/** After every kind of touch a page has no fault that it did not have (validator: html-validate). */
import { HtmlValidate } from 'html-validate';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { listAnchors, parsePage, findParts, findSections } from '../html/index.ts';
import { compileAlone } from '../release/testing.ts';
import { foldDecisions } from '../site/index.ts';
import type { Touch } from './index.ts';

// ">" may stand in text as it is (HTML standard, section 13.1.3); the rule is one of taste.
const validator = new HtmlValidate({ extends: ['html-validate:standard'], rules: { 'no-raw-characters': 'off' } });
const demo = (path: string) => readFileSync(new URL(`../../../../demo/lanternmoor/site/${path}`, import.meta.url));
const PAGES: readonly (readonly [string, Uint8Array])[] = [
  ['visit/getting-here', demo('visit/getting-here/index.html')],
  ['journal', demo('journal/index.html')],
  ['visit/opening-times', demo('visit/opening-times/index.html')],
  ['developers-reference/l10n', readFileSync('/usr/share/developers-reference/l10n.html')],
];

/** How often each rule is broken; positions move with every touch. */
function faults(bytes: Uint8Array): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { messages } of validator.validateStringSync(Buffer.from(bytes).toString()).results) {
    for (const { ruleId, severity } of messages) if (severity === 2) counts.set(ruleId, (counts.get(ruleId) ?? 0) + 1);
  }
  return counts;
}

const page = { id: 'p', sourcePath: 'visit/index.html' };
const scope = { kind: 'page', page: 'p' } as const;
const HOSTILE = '"Tea" & <script>alert(1)</script> 5 > 4';

function touchesOf(bytes: Uint8Array): readonly (readonly [string, Touch])[] {
  const document = parsePage(bytes);
  const all = [...listAnchors(document)];
  const place = (tag: string, what: 'text' | 'element') =>
    all.find(({ anchor }) => anchor.tag === tag && anchor.what === what)?.anchor;
  const [text, link, picture] = [place('p', 'text'), place('a', 'element'), place('img', 'element')];
  const found = findSections(document).map(({ name, nth }) => ({ name, nth }));
  const around = [...new Set(findParts(document).map(({ part }) => part))];
  return [
    ...(text ? [['text', { kind: 'text', scope, place: text, to: HOSTILE }] as const] : []),
    ...(link
      ? [
          [
            'link',
            {
              kind: 'link',
              scope,
              place: link,
              target: { kind: 'url', url: 'https://a.example/?b=1&c=2' },
              newWindow: true,
            },
          ] as const,
        ]
      : []),
    ...(picture ? [['attributes', { kind: 'attributes', scope, place: picture, set: { alt: HOSTILE } }] as const] : []),
    ['picture', { kind: 'picture', scope, from: '/pictures/logo.png', to: '/new logo.png', alt: HOSTILE }],
    ['sections', { kind: 'sections', scope, order: found.toReversed() }],
    [
      'section left out',
      { kind: 'sections', scope, order: found.slice(-1).map((section) => ({ ...section, out: true as const })) },
    ],
    ['parts', { kind: 'parts-out', scope, parts: around }],
    ['css', { kind: 'css', scope, css: 'main > p { color: #222 }' }],
    [
      'embed',
      { kind: 'embed', scope, file: '/documents/guide & map.pdf', label: HOSTILE, mediaType: 'application/pdf' },
    ],
    ['viewport', { kind: 'head', scope, line: 'viewport', value: 'width=device-width' }],
  ];
}

describe.each(PAGES)('%s', (_, bytes) => {
  const before = faults(bytes);
  it.each(touchesOf(bytes))('is no worse after: %s', (_name, touch) => {
    const out = compileAlone(foldDecisions([{ seq: 1, decision: { kind: 'touch', touch } }]), page, bytes, {
      pageAddresses: new Map([['q', '/q/']]),
    }).bytes;
    const worse = [...faults(out)].filter(([rule, count]) => count > (before.get(rule) ?? 0));
    expect(worse).toEqual([]);
    if (touch.kind === 'text') expect(Buffer.from(out).toString()).toContain('&lt;script>alert(1)&lt;/script> 5 > 4');
  });
});
