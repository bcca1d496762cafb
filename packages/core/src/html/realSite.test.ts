/**
 * Reading and editing every page of a real site nobody here wrote: the developers-reference of
 * Debian, installed by the test command. Checked against parse5's own tree, walked here by the plainest
 * recursion, without positions.
 */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse, type DefaultTreeAdapterMap } from 'parse5';
import { describe, expect, it } from 'vitest';
import { compileAlone } from '../release/testing.ts';
import { emptyDraft } from '../site/index.ts';
import { readPage } from './index.ts';

const FOLDER = '/usr/share/developers-reference';
const files = existsSync(FOLDER)
  ? readdirSync(FOLDER, { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile() && entry.name.endsWith('.html'))
      .map((entry) => join(entry.parentPath, entry.name))
  : [];

type Node = DefaultTreeAdapterMap['node'];

function walk(node: Node, visit: (element: DefaultTreeAdapterMap['element']) => void): void {
  if ('tagName' in node) visit(node);
  for (const child of 'childNodes' in node ? node.childNodes : []) walk(child, visit);
}

function plainText(node: Node): string {
  if (node.nodeName === '#text') return (node as DefaultTreeAdapterMap['textNode']).value;
  return ('childNodes' in node ? node.childNodes : []).map(plainText).join('');
}

describe('a real site', () => {
  it('is there, with pages', () => expect(files.length).toBeGreaterThan(10));

  it.each(files)('%s is read as parse5 has it', (file) => {
    const bytes = readFileSync(file);
    const titles: string[] = [];
    const headings: string[] = [];
    const links: string[] = [];
    walk(parse(bytes.toString('utf8')), (element) => {
      if (element.tagName === 'title') titles.push(plainText(element).replace(/\s+/g, ' ').trim());
      if (/^h[1-6]$/.test(element.tagName))
        headings.push(
          plainText(element)
            .replace(/[\t\n\f\r ]+/g, ' ')
            .trim(),
        );
      const href = element.attrs.find(({ name }) => name === 'href');
      if (element.tagName === 'a' && href) links.push(href.value.trim());
    });
    const reading = readPage(bytes);
    expect(reading.title).toBe(titles[0]);
    expect(reading.headings.map(({ text }) => text)).toEqual(headings.slice(0, 200));
    expect(reading.links.filter(({ element }) => element === 'a').map(({ href }) => href)).toEqual(links);
  });

  it.each(files)('%s keeps its bytes', (file) => {
    const bytes = readFileSync(file);
    const page = { id: 'p', sourcePath: file.slice(FOLDER.length + 1) };
    expect(compileAlone(emptyDraft, page, bytes).bytes).toBe(bytes);

    const titled = compileAlone({ ...emptyDraft, titles: new Map([['p', 'Set & done']]) }, page, bytes).bytes;
    const text = bytes.toString('latin1');
    const start = text.indexOf('<title>') + '<title>'.length;
    const end = text.indexOf('</title>');
    expect(Buffer.from(titled).toString('latin1')).toBe(`${text.slice(0, start)}Set &amp; done${text.slice(end)}`);
  });
});
