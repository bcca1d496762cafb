import { describe, expect, it } from 'vitest';
import { createPageRow } from '../../testing/pageRow.ts';
import { formatReadable } from '../../logic/readable.ts';
import { listChoices, sayTarget, type Offer } from './picking.ts';

const about = createPageRow('about', { address: '/about%20us.htm', title: 'About us · Moor', label: 'About us' });
const news = createPageRow('news', { address: '/news/', title: 'News · Moor', label: 'News', lists: 3 });
const group = createPageRow('group', { kind: 'group', address: '', title: 'About groups' });
const pages = [about, news, group];
const ALL: readonly Offer[] = ['home', 'newest', 'file', 'address', 'url', 'person', 'none'];
const keys = (typed: string, offers = ALL, files: readonly string[] = []) =>
  listChoices(typed, pages, files, offers).map(({ key }) => key);

describe('what a picker offers', () => {
  it('is home, the newest of each list, pages and nowhere before anything is typed', () => {
    expect(keys('')).toEqual(['home', 'newest news', 'about', 'news', 'none']);
  });

  it('finds an address as it is written and as people say it, the exact one first', () => {
    expect(keys('/about%20us.htm')[0]).toBe('about');
    expect(keys('/about us.htm')[0]).toBe('about');
    expect(keys('about us.htm')).toContain('about');
    expect(formatReadable('/about%20us.htm')).toBe('/about us.htm');
    // Not an address in UTF-8 (RFC 3986, section 2.5): shown as it is.
    expect(formatReadable('/caf%E9')).toBe('/caf%E9');
  });

  it('is never a group, which has no address', () => {
    expect(keys('about groups')).not.toContain('group');
  });

  it('knows the newest of a list by the name of the list', () => {
    expect(keys('newest of ne')).toEqual(['newest news']);
    const [choice] = listChoices('newest', pages, [], ['newest']);
    expect(choice?.target).toEqual({ kind: 'page', page: 'news', newest: true });
    expect(choice?.title).toBe('Newest of News');
  });

  it('names a file by its last part and says where it is', () => {
    expect(listChoices('prices', pages, ['/documents/prices%202026.pdf'], ['file'])).toEqual([
      {
        key: 'file /documents/prices%202026.pdf',
        title: 'prices 2026.pdf',
        detail: 'file /documents/prices 2026.pdf',
        target: { kind: 'address', address: '/documents/prices%202026.pdf' },
      },
    ]);
  });

  it.each([
    ['a@moor.example', 'mailto:a@moor.example'],
    ['mailto:a@moor.example', 'mailto:a@moor.example'],
    ['+44 1970 600 100', 'tel:+441970600100'],
    ['https://else.example/x', 'https://else.example/x'],
    ['else.example', 'https://else.example'],
  ])('takes %s for %s', (typed, url) => {
    expect(listChoices(typed, pages, [], ALL).map(({ target }) => target)).toContainEqual({ kind: 'url', url });
  });

  it('does not take a file of the site for another site’s name, nor a short number for a phone', () => {
    expect(keys('guide.pdf')).not.toContain('url');
    expect(keys('2026')).not.toContain('phone');
  });

  it('offers what is written only where it is an address and no page of the draft', () => {
    expect(keys('/gone/')).toContain('written');
    expect(keys('/news/')).not.toContain('written');
    expect(keys('/')).toEqual(['home', ...keys('/').slice(1)]);
    expect(keys('/')).not.toContain('written');
  });

  it('offers nothing that was not asked for', () => {
    expect(keys('', [])).toEqual(['about', 'news']);
    expect(keys('a@moor.example', [])).toEqual([]);
  });
});

describe('the words for what is chosen', () => {
  it.each([
    [undefined, ''],
    [{ kind: 'home' }, 'Home page'],
    [{ kind: 'none' }, 'Nowhere'],
    [{ kind: 'page', page: 'about' }, '/about us.htm'],
    [{ kind: 'page', page: 'news', newest: true }, 'Newest of News'],
    [{ kind: 'page', page: 'left since' }, ''],
    [{ kind: 'address', address: '/a%20b' }, '/a b'],
    [{ kind: 'url', url: 'https://else.example/%20' }, 'https://else.example/%20'],
  ] as const)('%o', (target, words) => expect(sayTarget(target, pages)).toBe(words));
});
