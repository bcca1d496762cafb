import fc from 'fast-check';
import { readFileSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'parse5';
import { describe, expect, it } from 'vitest';
import {
  findAnchorAt,
  listAnchors,
  parsePage,
  recognise,
  findSections,
  splice,
  withoutOverlaps,
  type Anchor,
  type Edit,
} from '../html/index.ts';
import { compileAlone } from '../release/testing.ts';
import { foldDecisions } from '../site/index.ts';
import type { Touch } from './index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const text = (of: Uint8Array) => new TextDecoder().decode(of);
const page = { id: 'p', sourcePath: 'visit/index.html' };
const own = { kind: 'page', page: 'p' } as const;
const touched = (html: string, ...touches: Touch[]) =>
  text(
    compileAlone(
      foldDecisions(touches.map((touch, index) => ({ seq: index + 1, decision: { kind: 'touch', touch } }))),
      page,
      bytes(html),
      { pageAddresses: new Map([['q', '/about/people/']]) },
    ).bytes,
  );
const anchorOf = (html: string, mark: string, what: Anchor['what'] = 'text'): Anchor => {
  const found = [...listAnchors(parsePage(bytes(html)))].find(
    ({ anchor }) => anchor.what === what && anchor.mark.startsWith(mark),
  );
  if (!found) throw new Error(`nothing reads ${mark}`);
  return found.anchor;
};

const PAGE = `<!DOCTYPE html>
<html>
<head><title>Visit</title></head>
<body>
<header><nav><a href="/">Home</a></nav></header>
<main>
<h1>Visit</h1>
<p>Open &amp; warm,  <a href="../about/">about us</a>.</p>
<h2>By bus</h2>
<p>Bus 41 stops here.</p>
<h2>By car</h2>
<p>Dip your lights. <img src="../logo.png" width="64" height="40"></p>
</main>
<aside>Side</aside>
<footer><p>Bus 41 stops here.</p></footer>
</body>
</html>
`;

describe('a text', () => {
  it('is corrected in its place, the white space around it kept, markup in it staying text', () => {
    const out = touched(PAGE, {
      kind: 'text',
      scope: own,
      place: anchorOf(PAGE, 'Open & warm,'),
      to: 'Warm & <b>open</b>, ',
    });
    expect(out).toBe(PAGE.replace('Open &amp; warm,  ', 'Warm &amp; &lt;b>open&lt;/b>,  '));
  });

  it('of two alike is the one that was meant; in a wider scope it is both', () => {
    const place = anchorOf(PAGE, 'Bus 41');
    expect(touched(PAGE, { kind: 'text', scope: own, place, to: 'Bus 42.' })).toBe(
      PAGE.replace('Bus 41 stops here.', 'Bus 42.'),
    );
    expect(touched(PAGE, { kind: 'text', scope: { kind: 'everywhere' }, place, to: 'Bus 42.' })).toBe(
      PAGE.replaceAll('Bus 41 stops here.', 'Bus 42.'),
    );
  });

  it('said twice is what was said last', () => {
    const place = anchorOf(PAGE, 'Bus 41');
    expect(
      touched(
        PAGE,
        { kind: 'text', scope: own, place, to: 'First' },
        { kind: 'text', scope: own, place, to: 'Second' },
      ),
    ).toBe(PAGE.replace('Bus 41 stops here.', 'Second'));
  });
});

describe('a link', () => {
  it('leads to a page by reference, written the way it was written, and opens where it is told to', () => {
    const place = anchorOf(PAGE, '../about/', 'element');
    expect(
      touched(PAGE, { kind: 'link', scope: own, place, target: { kind: 'page', page: 'q', fragment: 'chair' } }),
    ).toContain('<a href="../about/people/#chair">about us</a>');
    // HTML standard, section 4.6.7.13: noopener keeps the new page from reaching back.
    expect(touched(PAGE, { kind: 'link', scope: own, place, newWindow: true })).toContain(
      '<a target="_blank" rel="noopener" href="../about/">',
    );
    expect(touched(PAGE, { kind: 'link', scope: own, place, target: { kind: 'page', page: 'gone' } })).toBe(PAGE);
  });
});

describe('a picture', () => {
  it('shows another one everywhere, its height following, its words with it', () => {
    const out = touched(PAGE, {
      kind: 'picture',
      scope: { kind: 'everywhere' },
      from: '/logo.png',
      to: '/art/new.png',
      alt: 'The dome',
      size: { widthPx: 200, heightPx: 100 },
    });
    expect(out).toContain('<img alt="The dome" src="../art/new.png" width="64" height="32">');
  });
});

describe('attributes', () => {
  it('of several touches of one element are written together, the last word counting', () => {
    const place = anchorOf(PAGE, '../logo.png', 'element');
    const out = touched(
      PAGE,
      { kind: 'attributes', scope: own, place, set: { alt: 'one', width: null } },
      { kind: 'attributes', scope: { kind: 'everywhere' }, place, set: { alt: 'A "dome" & more' } },
    );
    expect(out).toContain('<img alt="A &quot;dome&quot; &amp; more" src="../logo.png" height="40">');
  });
});

describe('sections', () => {
  const order = (...names: string[]) =>
    names.map((name) =>
      name.startsWith('-') ? { name: name.slice(1), nth: 0, out: true as const } : { name, nth: 0 },
    );

  it('are named by their headings', () => {
    expect(findSections(parsePage(bytes(PAGE))).map(({ name }) => name)).toEqual(['Visit', 'By bus', 'By car']);
  });

  it('change places with everything in them, edits made inside going along', () => {
    const out = touched(
      PAGE,
      { kind: 'sections', scope: own, order: order('Visit', 'By car', 'By bus') },
      { kind: 'text', scope: own, place: anchorOf(PAGE, 'Dip your'), to: 'Lights off.' },
      { kind: 'text', scope: own, place: anchorOf(PAGE, 'Open'), to: 'Open.' },
    );
    const [car, bus] = [out.indexOf('By car'), out.indexOf('By bus')];
    expect(car).toBeLessThan(bus);
    expect(out).toContain('<p>Lights off. <img src');
    expect(out).toContain('<p>Open.  <a');
    expect(out.length).toBe(
      PAGE.length - 'Dip your lights.'.length + 'Lights off.'.length - 'Open &amp; warm,'.length + 'Open.'.length,
    );
  });

  it('left out go with the line they stood on; one the order does not know stays where it was', () => {
    expect(touched(PAGE, { kind: 'sections', scope: own, order: order('-By bus') })).toBe(
      PAGE.replace('\n<h2>By bus</h2>\n<p>Bus 41 stops here.</p>', ''),
    );
  });
});

describe('parts and rules of a page’s own', () => {
  it('left out', () => {
    const out = touched(PAGE, { kind: 'parts-out', scope: own, parts: ['header', 'side'] });
    expect(out).not.toContain('<header>');
    expect(out).not.toContain('<aside>');
    expect(out).toContain('<footer>');
  });

  it('rules come last in the head', () => {
    expect(touched(PAGE, { kind: 'css', scope: own, css: 'h1 { color: red }' })).toContain(
      '<title>Visit</title><style>\nh1 { color: red }\n</style>\n</head>',
    );
  });

  it('a document is embedded with a plain link beside it', () => {
    const out = touched(PAGE, {
      kind: 'embed',
      scope: own,
      file: '/documents/guide.pdf',
      label: 'Guide (PDF)',
      mediaType: 'application/pdf',
      after: { name: 'By bus', nth: 0 },
    });
    expect(out).toContain(
      'stops here.</p>\n<object data="../documents/guide.pdf" type="application/pdf" style="width: 100%; height: 40rem"></object>\n<p><a href="../documents/guide.pdf">Guide (PDF)</a></p>\n<h2>By car</h2>',
    );
  });

  it('the head gains what it lacks', () => {
    const out = touched(
      PAGE,
      { kind: 'head', scope: own, line: 'language', value: 'en' },
      { kind: 'head', scope: own, line: 'charset', value: 'utf-8' },
      { kind: 'head', scope: own, line: 'viewport', value: 'width=device-width' },
    );
    expect(out).toContain('<html lang="en">');
    expect(out).toContain('<head><meta name="viewport" content="width=device-width"><meta charset="utf-8"><title>');
  });
});

describe('a place in a newer export', () => {
  it('is found by what stands there and the heading above, else told as changed, else as lost', () => {
    const place = anchorOf(PAGE, 'Bus 41');
    const kind = (html: string) => recognise(parsePage(bytes(html)), place).kind;
    expect(kind(PAGE)).toBe('found');
    expect(kind(PAGE.replace('<h1>', '<p>New opening.</p><h1>'))).toBe('found');
    expect(kind(PAGE.replaceAll('Bus 41 stops here.', 'Bus 7 stops here.'))).toBe('changed');
    expect(kind('<p>Nothing of it</p>')).toBe('lost');
  });

  it('stays the same place when everything before it grows (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 6 }),
        fc.constantFrom('Open & warm,', 'Bus 41', 'Dip your', 'about us'),
        (n, mark) => {
          const place = anchorOf(PAGE, mark);
          const grown = PAGE.replace('<main>', `<main>${'<p>More</p>'.repeat(n)}`);
          const found = recognise(parsePage(bytes(grown)), place);
          expect(found.kind).toBe('found');
          if (found.kind === 'found')
            expect(grown.slice(found.place.text?.start, found.place.text?.end)).toContain(mark.split(' ')[0]);
        },
      ),
    );
  });
});

// Pages nobody here wrote: Debian's developers-reference.
const FOLDER = '/usr/share/developers-reference';
const REAL = readdirSync(FOLDER)
  .filter((name) => name.endsWith('.html') && statSync(join(FOLDER, name)).size < 200_000)
  .slice(0, 6)
  .map((name) => [name, readFileSync(join(FOLDER, name))] as const);

describe('on real pages', () => {
  it.each(REAL)('%s: a touch changes its own span and nothing else (property)', (_, source) => {
    const document = parsePage(source);
    const all = [...listAnchors(document)].filter(({ text: found }) => found);
    expect(all.length).toBeGreaterThan(5);
    fc.assert(
      fc.property(
        fc.nat({ max: all.length - 1 }),
        fc.string({ minLength: 1, maxLength: 30 }).filter((to) => to.trim() !== ''),
        (index, to) => {
          const chosen = all[index];
          if (!chosen?.text) return;
          const out = compileAlone(
            foldDecisions([
              { seq: 1, decision: { kind: 'touch', touch: { kind: 'text', scope: own, place: chosen.anchor, to } } },
            ]),
            page,
            source,
          ).bytes;
          const before = Buffer.from(source).subarray(
            0,
            Buffer.byteLength(document.source.text.slice(0, chosen.text.start)),
          );
          const after = Buffer.from(source).subarray(Buffer.byteLength(document.source.text.slice(0, chosen.text.end)));
          expect(Buffer.from(out).subarray(0, before.length).equals(before)).toBe(true);
          expect(
            Buffer.from(out)
              .subarray(out.length - after.length)
              .equals(after),
          ).toBe(true);
          // What a browser's parser reads there is the text, whatever signs are in it.
          const now = [...listAnchors(parsePage(out))].filter(({ text: found }) => found);
          expect(now).toHaveLength(all.length);
        },
      ),
      { numRuns: 8 },
    );
  });

  it.each(REAL)('%s: every anchor finds its own place again', (_, source) => {
    const document = parsePage(source);
    const all = [...listAnchors(document)];
    for (let index = 0; index < all.length; index += Math.max(1, Math.floor(all.length / 25))) {
      const found = recognise(document, all[index]!.anchor);
      expect(found.kind === 'found' && found.place.element === all[index]!.element).toBe(true);
    }
    const some = all.find(({ text: found }) => found);
    expect(
      some?.text && findAnchorAt(document, some.element.sourceCodeLocation?.startOffset ?? -1, some.text.child),
    ).toEqual(some?.anchor);
  });
});

describe('edits that may overlap', () => {
  const edit = fc
    .record({ start: fc.nat({ max: 30 }), length: fc.nat({ max: 8 }) })
    .map(({ start, length }): Edit => ({ start, end: Math.min(30, start + length), text: 'x' }));

  it('leave a set that splices, in which the first of any two that clash stays (property)', () => {
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 12 }), (edits) => {
        const kept = withoutOverlaps(edits);
        const source = 'a'.repeat(30);
        const document = parsePage(bytes(source));
        expect(() => splice(bytes(source), document.source, kept)).not.toThrow();
        const clash = (a: Edit, b: Edit) => a.start < b.end && b.start < a.end;
        edits.forEach((each, index) => {
          if (kept.includes(each)) return;
          expect(edits.slice(0, index).some((earlier) => kept.includes(earlier) && clash(earlier, each))).toBe(true);
        });
      }),
    );
  });

  it('pieces keep the bytes of what moves, in encodings that cannot write every letter too', () => {
    const latin = Buffer.from(
      '<meta charset=windows-1252><main><h2>A\xe9</h2><p>\x80</p><h2>B</h2><p>b</p></main>',
      'latin1',
    );
    const out = compileAlone(
      foldDecisions([
        {
          seq: 1,
          decision: {
            kind: 'touch',
            touch: {
              kind: 'sections',
              scope: own,
              order: [
                { name: 'B', nth: 0 },
                { name: 'Aé', nth: 0 },
              ],
            },
          },
        },
      ]),
      page,
      latin,
    ).bytes;
    expect(Buffer.from(out).toString('latin1')).toBe(
      '<meta charset=windows-1252><main><h2>B</h2><p>b</p><h2>A\xe9</h2><p>\x80</p></main>',
    );
    expect(parse(Buffer.from(out).toString('latin1'))).toBeDefined();
  });
});
