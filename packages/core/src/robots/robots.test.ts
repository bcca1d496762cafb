/** robots.txt against the examples of RFC 9309, published cases of two packages, and one of them as a second implementation. */
import fc from 'fast-check';
import robotsParser from 'robots-parser';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { isAllowed, parseRobots, findRobotsRule } from './index.ts';

interface PublishedCase {
  readonly origin: 'robots-parser' | 'robots-txt-guard';
  readonly name: string;
  readonly robots: string;
  readonly url: string;
  readonly agent: string;
  readonly allowed: readonly string[];
  readonly disallowed: readonly string[];
}

const PUBLISHED = JSON.parse(
  readFileSync(new URL('../../testdata/robots/cases.json', import.meta.url), 'utf8'),
) as PublishedCase[];
/** What is asked of a whole site, by its address alone. */
const addressIn = (site: string, url: string): string => {
  const { pathname, search } = url.startsWith('/') ? new URL(new URL(site).origin + url) : new URL(url);
  return pathname + search;
};

describe('RFC 9309', () => {
  // Section 5.1, "Simple Example".
  const simple = parseRobots(
    'User-Agent: *\nDisallow: *.gif$\nDisallow: /example/\nAllow: /publications/\n\nUser-Agent: foobot\nDisallow:/\nAllow:/example/page.html\nAllow:/example/allowed.gif\n\nUser-Agent: barbot\nUser-Agent: bazbot\nDisallow: /example/page.html\n\nUser-Agent: quxbot\n',
  );

  it.each([
    ['anybot', '/picture.gif', false],
    ['anybot', '/picture.gif?x', true],
    ['anybot', '/example/', false],
    ['anybot', '/publications/x', true],
    ['foobot', '/example/page.html', true],
    ['foobot', '/example/allowed.gif', true],
    ['foobot', '/publications/x', false],
    ['BarBot', '/example/page.html', false],
    ['bazbot', '/example/page.html', false],
    ['bazbot', '/example/', true],
    ['quxbot', '/example/', true],
  ])('simple example: %s and %s', (agent, address, allowed) => expect(isAllowed(simple, agent, address)).toBe(allowed));

  // Section 5.2, "Longest Match".
  it('the longest match decides', () => {
    const robots = parseRobots('User-Agent: foobot\nAllow: /example/page/\nDisallow: /example/page/disallowed.gif\n');
    expect(isAllowed(robots, 'foobot', '/example/page/disallowed.gif')).toBe(false);
    expect(isAllowed(robots, 'foobot', '/example/page/')).toBe(true);
  });

  // Section 2.2.2, the table of percent-encoding: rule, address to match, whether it matches.
  it.each([
    ['/foo/bar?baz=quz', '/foo/bar?baz=quz'],
    ['/foo/bar?baz=https://foo.bar', '/foo/bar?baz=https://foo.bar'],
    ['/foo/bar/\u30C4', '/foo/bar/%E3%83%84'],
    ['/foo/bar/%E3%83%84', '/foo/bar/%E3%83%84'],
    ['/foo/bar/%62%61%7A', '/foo/bar/baz'],
  ])('%s means %s', (pattern, address) =>
    expect(isAllowed(parseRobots(`User-agent: *\nDisallow: ${pattern}`), 'x', address)).toBe(false),
  );

  // Section 2.2.3: special characters taken literally.
  it('a star and a dollar can be meant literally', () => {
    const robots = parseRobots('User-agent: *\nDisallow: /path/file-with-a-%2A.html\nDisallow: /path/foo-%24\n');
    expect(isAllowed(robots, 'x', '/path/file-with-a-*.html')).toBe(false);
    expect(isAllowed(robots, 'x', '/path/file-with-a-b.html')).toBe(true);
    expect(isAllowed(robots, 'x', '/path/foo-$')).toBe(false);
    expect(isAllowed(robots, 'x', '/path/foo-')).toBe(true);
  });

  it('groups of one crawler count together, and other lines do not part them (sections 2.2.1, 2.2.4)', () => {
    const robots = parseRobots(
      'User-agent: a\nSitemap: https://site.example/map.xml\nUser-agent: b\nDisallow: /x\n\nUser-agent: A/2.0\nDisallow: /y\n',
    );
    expect(['/x', '/y', '/z'].map((address) => isAllowed(robots, 'a', address))).toEqual([false, false, true]);
    expect(['/x', '/y'].map((address) => isAllowed(robots, 'b', address))).toEqual([false, true]);
    expect(robots.sitemaps).toEqual(['https://site.example/map.xml']);
  });

  it('itself it never shuts (section 2.2.2)', () =>
    expect(isAllowed(parseRobots('User-agent: *\nDisallow: /'), 'x', '/robots.txt')).toBe(true));

  it('names the line that decided', () =>
    expect(findRobotsRule(parseRobots('# ours\nUser-agent: *\n\nDisallow: /a\n'), 'x', '/a/b')).toMatchObject({
      allow: false,
      line: 4,
    }));

  it('a row of stars is no way to keep it busy', () => {
    const robots = parseRobots(`User-agent: *\nDisallow: /${'*a'.repeat(20_000)}$\n`);
    expect(isAllowed(robots, 'x', `/${'a'.repeat(20_000)}b`)).toBe(true);
  });
});

describe('published cases', () => {
  it.each(PUBLISHED.map((each) => [`${each.origin}: ${each.name}`, each] as const))(
    '%s',
    (_name, { robots: text, url, agent, allowed, disallowed }) => {
      const robots = parseRobots(text);
      const token = agent === '*' ? 'anybot' : (agent.split('/')[0] ?? agent);
      for (const each of allowed) expect(isAllowed(robots, token, addressIn(url, each)), each).toBe(true);
      for (const each of disallowed) expect(isAllowed(robots, token, addressIn(url, each)), each).toBe(false);
    },
  );
});

describe('against robots-parser', () => {
  // Without %7E and its like, which that package leaves encoded, unlike the table of section 2.2.2.
  const piece = fc.constantFrom('a', 'b', 'ab', '/', '/a', '*', '.html', '?q=', 'é', '%c3%a9', '~', '$');
  const pattern = fc.array(piece, { maxLength: 5 }).map((pieces) => `/${pieces.join('')}`);
  const line = fc.oneof(
    fc
      .tuple(fc.constantFrom('Allow', 'Disallow', 'ALLOW', 'disallow'), pattern)
      .map(([key, value]) => `${key}: ${value}`),
    fc.constantFrom(
      'User-agent: *',
      'User-agent: one',
      'User-agent: Two',
      'User-agent: one/1.0',
      '# a remark',
      '',
      'Disallow:',
      'Allow: # nothing',
    ),
  );
  const address = fc
    .array(fc.constantFrom('a', 'b', 'ab', '/', '.html', '?q=', '%C3%A9', '~', 'c'), { maxLength: 6 })
    .map((pieces) => `/${pieces.join('')}`);

  it('says the same of generated files (property)', () => {
    fc.assert(
      fc.property(
        fc.array(line, { maxLength: 12 }),
        address,
        fc.constantFrom('one', 'two', 'three'),
        (lines, path, agent) => {
          // Other lines at the end: between two user-agent lines that package has them part a group, unlike section 2.2.4.
          const text = [...lines, 'Sitemap: /map.xml', 'Nonsense: yes'].join('\n');
          // A group without a rule lets its crawler everywhere (quxbot in section 5.1); that package does not see it.
          fc.pre(parseRobots(text).groups.every(({ rules }) => rules.length > 0));
          const theirs =
            robotsParser('http://site.example/robots.txt', text).isAllowed(`http://site.example${path}`, agent) ?? true;
          expect(isAllowed(parseRobots(text), agent, addressIn('http://site.example', path)), text).toBe(theirs);
        },
      ),
      { numRuns: 3000 },
    );
  });
});
