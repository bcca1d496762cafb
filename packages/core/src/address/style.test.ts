/** Address styles and branches. Which file answers which address is common practice of web servers. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ADDRESS_STYLES, stripAddressEnding, writeInStyle, isFront, isPageFile, isUnder } from './index.ts';

describe('one page in every style', () => {
  it.each([
    ['/about/', '/about/', '/about', '/about.html'],
    ['/about', '/about/', '/about', '/about.html'],
    ['/about.html', '/about/', '/about', '/about.html'],
    ['/about.HTM', '/about/', '/about', '/about.html'],
    ['/a.html/', '/a/', '/a', '/a.html'],
    ['/a/b.c/', '/a/b.c/', '/a/b.c', '/a/b.c.html'],
    ['/a.html.b', '/a.html.b/', '/a.html.b', '/a.html.b.html'],
  ])('%s', (address, slash, bare, html) => {
    expect(writeInStyle(address, 'slash')).toBe(slash);
    expect(writeInStyle(address, 'bare')).toBe(bare);
    expect(writeInStyle(address, 'html')).toBe(html);
    expect(writeInStyle(address, 'imported')).toBe(address);
    expect(stripAddressEnding(address)).toBe(bare);
  });

  it.each(['/', '/404.html'])('%s stays what it is, since servers look for it there', (address) => {
    for (const style of ADDRESS_STYLES) expect(writeInStyle(address, style)).toBe(address);
    expect(stripAddressEnding(address)).toBe(address);
  });

  it('and from style to style it stays the same page (property)', () => {
    const segment = fc.stringMatching(/^[a-z][a-z0-9-]{0,6}$/);
    const address = fc.array(segment, { minLength: 1, maxLength: 3 }).map((segments) => `/${segments.join('/')}/`);
    const style = fc.constantFrom('slash', 'bare', 'html');
    fc.assert(
      fc.property(address, style, style, (of, one, other) => {
        expect(writeInStyle(writeInStyle(of, one), other)).toBe(writeInStyle(of, other));
        expect(stripAddressEnding(writeInStyle(of, one))).toBe(stripAddressEnding(of));
      }),
    );
  });
});

describe('a branch', () => {
  it.each([
    ['/news/', '/news/', true],
    ['/news.html', '/news/', true],
    ['/news/2016/', '/news', true],
    ['/news/2016/', '/news.html', true],
    ['/newsletter/', '/news/', false],
    ['/', '/news/', false],
    ['/news/', '/news/2016/', false],
    ['/old/news/', '/news/', false],
    ['/anything', '/', true],
    ['/', '/', true],
  ])('%s under %s: %s', (address, branch, expected) => expect(isUnder(address, branch)).toBe(expected));
});

describe('by its name', () => {
  it.each([
    ['index.html', true],
    ['a.htm', true],
    ['a.XHTML', true],
    ['a.html.bak', false],
    ['html', false],
    ['a.css', false],
  ])('%s is a page: %s', (path, expected) => expect(isPageFile(path)).toBe(expected));

  it.each([
    ['/', true],
    ['/index.html', true],
    ['/INDEX.HTM', true],
    ['/index.html.bak', false],
    ['/a/index.html', false],
    ['/a/', false],
    ['/index', false],
  ])('%s is the front page: %s', (path, expected) => expect(isFront(path)).toBe(expected));
});
